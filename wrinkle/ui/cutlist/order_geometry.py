"""Where the rows of the running order stand; all clips are equally high, and all cuts."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF

from wrinkle.ui.text_size import scaled

_CLIP, _CUT, GAP = 70, 50, 4.0
_TOP, _FOOT = 4.0, 64.0
_SIDE = 8.0
CUT_INSET = 52.0
"""How far cuts stand in from clips."""


def clip_height() -> float:
    """Of a clip's row, which holds three lines of text."""
    return float(scaled(_CLIP))


def _cut_height() -> float:
    return float(scaled(_CUT))


@dataclass(frozen=True)
class OrderGeometry:
    """The rows of so many clips in a width; the number of a cut is that of the clip after it.

    Attributes:
        count: of the clips.
        width: of all.
        under: by how much clips are higher than usual, for what is unfolded under each.
    """

    count: int
    width: float
    under: float = 0.0

    @property
    def _pair(self) -> float:
        return clip_height() + self.under + _cut_height() + 2 * GAP

    @property
    def height(self) -> float:
        """Of all rows, and the room under them."""
        return _TOP + self.count * self._pair + _FOOT

    def clip(self, number: int) -> QRectF:
        """Where a clip stands."""
        high = clip_height() + self.under
        return QRectF(_SIDE, _TOP + number * self._pair, self.width - 2 * _SIDE, high)

    def cut(self, number: int) -> QRectF:
        """Where the cut into a clip stands."""
        top = _TOP + number * self._pair - _cut_height() - GAP
        return QRectF(_SIDE + CUT_INSET, top, self.width - 2 * _SIDE - CUT_INSET, _cut_height())

    def seen(self, top: float, bottom: float) -> range:
        """The numbers of the clips that lie between two heights, with the cuts into them."""
        first = max(0, int((top - _TOP) // self._pair))
        last = min(self.count - 1, int((bottom - _TOP + _cut_height()) // self._pair) + 1)
        return range(first, last + 1)

    def clip_at(self, x: float, y: float) -> int | None:
        """The clip under a point."""
        number = int((y - _TOP) // self._pair)
        there = 0 <= number < self.count and self.clip(number).contains(x, y)
        return number if there else None

    def cut_at(self, y: float) -> int | None:
        """The cut at a height, across the whole width."""
        number = int((y - _TOP + _cut_height() + GAP) // self._pair)
        if not 1 <= number < self.count:
            return None
        area = self.cut(number)
        return number if area.top() <= y <= area.bottom() else None

    def place_at(self, y: float) -> int:
        """Before which clip something lands that is dropped at a height; their number for last."""
        number = int((y - _TOP - (clip_height() + self.under) / 2 + self._pair) // self._pair)
        return min(max(number, 0), self.count)

    def edge(self, place: int) -> float:
        """The height of the line that shows where something lands."""
        return max(2.0, _TOP + place * self._pair - _cut_height() / 2 - GAP) if place else 2.0
