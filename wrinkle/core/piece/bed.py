"""Music under a piece."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.piece.media import Media

QUIETEST, LOUDEST = -60.0, 12.0
"""Decibels."""
MOST_WAY = 40.0
"""Decibels by which it can give way."""
LONGEST_FADE = Fraction(60)
"""Seconds."""
PACES = (Fraction(1, 2), Fraction(1), Fraction(2))
"""Times as many beats as were found."""


@dataclass(frozen=True)
class Bed:
    """A file that is heard under all of a piece.

    Attributes:
        media: the file.
        at: when it begins, in seconds of the piece.
        start: the time of the file with which it begins, in seconds.
        level: in decibels.
        rise, fall: how long it rises and falls at its ends, in seconds.
        gives_way: by how much it goes quieter while clips or wrinkles are heard, in decibels.
        pace: times as many beats as were found; one of ``PACES``.
        other: where there are half as many, the others of them count.
        moved: by how much the beats are later than they were found, in seconds.

    Raises:
        InputError: a value is out of its range.
    """

    media: Media
    at: Fraction = Fraction(0)
    start: Fraction = Fraction(0)
    level: float = -6.0
    rise: Fraction = Fraction(0)
    fall: Fraction = Fraction(1)
    gives_way: float = 9.0
    pace: Fraction = Fraction(1)
    other: bool = False
    moved: Fraction = Fraction(0)

    def __post_init__(self) -> None:
        name = self.media.name
        if not 0 <= self.start < self.media.duration:
            raise InputError(
                f"{name} lasts {float(self.media.duration):.3g} seconds; it cannot begin at "
                f"{float(self.start):.3g}."
            )
        if self.at < 0:
            raise InputError(f"{name} cannot begin before the piece.")
        if not QUIETEST <= self.level <= LOUDEST:
            raise InputError(
                f"The level of {name} must be within {QUIETEST:g} and {LOUDEST:g} dB, not "
                f"{self.level:g}."
            )
        if not (0 <= self.rise <= LONGEST_FADE and 0 <= self.fall <= LONGEST_FADE):
            raise InputError(
                f"{name} can rise and fall within 0 and {LONGEST_FADE} seconds at its ends."
            )
        if not 0.0 <= self.gives_way <= MOST_WAY:
            raise InputError(f"{name} can give way by 0 to {MOST_WAY:g} dB.")
        if self.pace not in PACES:
            raise InputError("There can be half as many beats as were found, as many, or twice.")
