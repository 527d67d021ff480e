"""The files that the clips of a piece are taken from."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size

STILL_LASTS = Fraction(3600)
"""Seconds for which a picture can be seen."""


@dataclass(frozen=True)
class Media:
    """A file that a clip is taken from, as it was found.

    Attributes:
        path: where it was last seen; empty where nothing is meant to be seen.
        name: what it is called without its folder; files that were moved are found by it.
        duration: in seconds; of a picture that stands still, far more than anybody wants.
        size: of its pictures as they are seen, in pixels; None where nobody has looked yet.
        still: it is one picture, which can be seen for as long as one likes.
    """

    path: str
    name: str
    duration: Fraction
    size: Size | None = None
    still: bool = False

    def __post_init__(self) -> None:
        if self.duration <= 0:
            raise InputError(f"{self.name} is empty; use another file.")
