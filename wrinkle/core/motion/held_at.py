"""What keeps its length, and where it is held, when a wrinkle becomes longer or shorter."""

from __future__ import annotations

from enum import Enum


class HeldAt(Enum):
    """The instant whose distance stays the same."""

    CUT = "cut"
    FIRST = "first frame"
    LAST = "last frame"
