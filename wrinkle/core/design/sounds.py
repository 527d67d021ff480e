"""The sounds of a wrinkle: which one, when its hit falls, how long, how loud."""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

import msgspec

from wrinkle.core.design import limits
from wrinkle.core.errors import InputError

QUIETEST, LOUDEST = -60.0, 12.0
"""Decibels."""
LOWEST, HIGHEST = 0.25, 4.0
"""Times the pitch as it is made: two octaves either way."""
SHORTEST = Fraction(1, 100)
"""Seconds."""


class Made(Enum):
    """A made sound; the value is its word."""

    AIR = "air"
    RISE = "rise"
    HIT = "hit"
    DROP = "drop"
    CRACKLE = "crackle"
    FLUTTER = "flutter"
    TICK = "tick"


class WrinkleSound(
    msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True, kw_only=True
):
    """One sound of a wrinkle.

    Attributes:
        id: unique and stable.
        made: which one.
        hit: when its hit falls, in seconds from the cut.
        length: in seconds.
        level: in decibels; 0 is as loud as can be without a break.
        pitch: times as it is made.
        seed: what is random in it.

    Raises:
        InputError: a value is out of its range.
    """

    id: str
    made: Made
    hit: Fraction
    length: Fraction
    level: float = -9.0
    pitch: float = 1.0
    seed: int = 1

    def __post_init__(self) -> None:
        if not SHORTEST <= self.length <= limits.LONGEST_HALF:
            raise InputError(
                f"The length of {self.made.value} must be within {float(SHORTEST):g} and "
                f"{limits.LONGEST_HALF} seconds, not {float(self.length):g}."
            )
        if abs(self.hit) > limits.LONGEST_HALF:
            raise InputError(
                f"The hit of {self.made.value} must lie within {limits.LONGEST_HALF} seconds of "
                f"the cut, not {float(self.hit):g}."
            )
        for value, low, high, what in (
            (self.level, QUIETEST, LOUDEST, "level"),
            (self.pitch, LOWEST, HIGHEST, "pitch"),
            (self.seed, 0, 2**31, "seed"),
        ):
            if not low <= value <= high:
                raise InputError(
                    f"The {what} of {self.made.value} must be within {low:g} and {high:g}, not "
                    f"{value:g}."
                )
