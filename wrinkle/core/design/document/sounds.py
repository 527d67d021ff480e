"""The sounds of a wrinkle: which one, when its hit falls, how long, how loud."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from wrinkle.core.design.document import limits
from wrinkle.core.errors import InputError
from wrinkle.core.synthesis.made_sounds import made_sound

QUIETEST, LOUDEST = -60.0, 12.0
"""Decibels."""
LOWEST, HIGHEST = 0.25, 4.0
"""Times the pitch as it is made: two octaves either way."""
SHORTEST = Fraction(1, 100)
"""Seconds."""


class WrinkleSound(
    msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True, kw_only=True
):
    """One sound of a wrinkle.

    Attributes:
        id: unique and stable.
        made: the key of a made sound.
        hit: when its hit falls, in seconds from the cut.
        length: in seconds.
        level: in decibels; 0 is as loud as can be without a break.
        pitch: times as it is made.
        seed: what is random in it.

    Raises:
        InputError: a value is out of its range.
    """

    id: str
    made: str
    hit: Fraction
    length: Fraction
    level: float = -9.0
    pitch: float = 1.0
    seed: int = 1

    def __post_init__(self) -> None:
        made_sound(self.made)
        if not SHORTEST <= self.length <= limits.LONGEST_HALF:
            raise InputError(
                f"The length of {self.made} must be within {float(SHORTEST):g} and "
                f"{limits.LONGEST_HALF} seconds, not {float(self.length):g}."
            )
        if abs(self.hit) > limits.LONGEST_HALF:
            raise InputError(
                f"The hit of {self.made} must lie within {limits.LONGEST_HALF} seconds of "
                f"the cut, not {float(self.hit):g}."
            )
        for value, low, high, what in (
            (self.level, QUIETEST, LOUDEST, "level"),
            (self.pitch, LOWEST, HIGHEST, "pitch"),
            (self.seed, 0, 2**31, "seed"),
        ):
            if not low <= value <= high:
                raise InputError(
                    f"The {what} of {self.made} must be within {low:g} and {high:g}, not {value:g}."
                )
