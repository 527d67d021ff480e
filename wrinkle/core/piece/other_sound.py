"""A stretch of sound that another program laid under a piece: heard, shown, and left as it is."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.piece.media import Media


@dataclass(frozen=True)
class OtherSound:
    """It stays at its time of the piece, whatever becomes of the clips.

    Attributes:
        media: its file.
        at: when it begins, in seconds of the piece.
        start: what of its file is heard then, in seconds.
        length: how long it is heard.
    """

    media: Media
    at: Fraction
    start: Fraction
    length: Fraction
