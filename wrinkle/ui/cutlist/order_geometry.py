"""Where the rows of the running order stand; all clips are equally high, and all cuts."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF

CLIP_HEIGHT, CUT_HEIGHT, GAP = 70.0, 50.0, 4.0
_TOP, _FOOT = 4.0, 64.0
_SIDE = 8.0
CUT_INSET = 52.0
"""How far cuts stand in from clips."""
_PAIR = CLIP_HEIGHT + CUT_HEIGHT + 2 * GAP


@dataclass(frozen=True)
class OrderGeometry:
    """The rows of so many clips in a width; the number of a cut is that of the clip after it."""

    count: int
    width: float

    @property
    def height(self) -> float:
        """Of all rows, and the room under them."""
        return _TOP + self.count * _PAIR + _FOOT

    def clip(self, number: int) -> QRectF:
        """Where a clip stands."""
        return QRectF(_SIDE, _TOP + number * _PAIR, self.width - 2 * _SIDE, CLIP_HEIGHT)

    def cut(self, number: int) -> QRectF:
        """Where the cut into a clip stands."""
        top = _TOP + number * _PAIR - CUT_HEIGHT - GAP
        return QRectF(_SIDE + CUT_INSET, top, self.width - 2 * _SIDE - CUT_INSET, CUT_HEIGHT)

    def seen(self, top: float, bottom: float) -> range:
        """The numbers of the clips that lie between two heights, with the cuts into them."""
        first = max(0, int((top - _TOP) // _PAIR))
        last = min(self.count - 1, int((bottom - _TOP + CUT_HEIGHT) // _PAIR) + 1)
        return range(first, last + 1)

    def clip_at(self, x: float, y: float) -> int | None:
        """The clip under a point."""
        number = int((y - _TOP) // _PAIR)
        there = 0 <= number < self.count and self.clip(number).contains(x, y)
        return number if there else None

    def cut_at(self, y: float) -> int | None:
        """The cut at a height, across the whole width."""
        number = int((y - _TOP + CUT_HEIGHT + GAP) // _PAIR)
        if not 1 <= number < self.count:
            return None
        area = self.cut(number)
        return number if area.top() <= y <= area.bottom() else None

    def place_at(self, y: float) -> int:
        """Before which clip something lands that is dropped at a height; their number for last."""
        number = int((y - _TOP - CLIP_HEIGHT / 2 + _PAIR) // _PAIR)
        return min(max(number, 0), self.count)

    def edge(self, place: int) -> float:
        """The height of the line that shows where something lands."""
        return max(2.0, _TOP + place * _PAIR - CUT_HEIGHT / 2 - GAP) if place else 2.0
