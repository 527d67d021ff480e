"""A clip as a bar: what is used of its file, what is to spare, and what wrinkles take of it."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.ui.theme import Theme

HEIGHT = 16.0
_GRIP = 12.0
_LEAST_SPARE = 15


@dataclass(frozen=True)
class TrimBar:
    """In frames of the piece, in the direction in which the clip runs.

    Attributes:
        area: where it is painted.
        before, length, after: frames to spare, used, and to spare again, as far as they are drawn.
        spare: all that is to spare before and after; None where it has no end.
        lead, tail: frames at its end and its beginning that wrinkles change.
    """

    area: QRectF
    before: int
    length: int
    after: int
    spare: tuple[int, int] | None
    lead: int
    tail: int

    @classmethod
    def of(cls, piece: Piece, clip: PieceClip, area: QRectF, lead: int, tail: int) -> TrimBar:
        """The bar of a clip.

        Args:
            piece, clip: what is shown.
            area: where.
            lead: frames of the wrinkle at its end that lie in it.
            tail: those of the wrinkle at its beginning.
        """
        length = piece.frames_of(clip)
        if clip.stands:
            return cls(area, 0, length, 0, None, lead, tail)
        spare = clip.spare(piece.rate)
        drawn = max(length // 2, _LEAST_SPARE)
        before, after = (min(one, drawn) for one in spare)
        return cls(area, before, length, after, spare, lead, tail)

    def x(self, frame: float) -> float:
        """Where a frame stands, counted from the clip's first one."""
        whole = self.before + self.length + self.after
        return self.area.left() + (frame + self.before) / whole * self.area.width()

    @property
    def frame_width(self) -> float:
        """How wide a frame is."""
        return self.area.width() / (self.before + self.length + self.after)

    def end_at(self, x: float, y: float) -> str:
        """Which end is taken hold of at a point: ``first``, ``last``, or none."""
        if not self.area.adjusted(-_GRIP, -4, _GRIP, 4).contains(x, y):
            return ""
        first, last = abs(x - self.x(0)), abs(x - self.x(self.length))
        if min(first, last) > _GRIP:
            return ""
        return "first" if first < last else "last"

    def paint(self, painter: QPainter, theme: Theme) -> None:
        """Paints it."""
        area = self.area
        painter.setPen(theme.colour("rule"))
        painter.setBrush(theme.colour("field"))
        painter.drawRoundedRect(area, 3, 3)
        painter.setPen(Qt.PenStyle.NoPen)
        left, right = self.x(0), self.x(self.length)
        used = QRectF(left, area.top() + 1, right - left, area.height() - 2)
        painter.fillRect(used, theme.colour("selected"))
        for start, frames, colour in (
            (0, min(self.tail, self.length), "incoming"),
            (self.length - min(self.lead, self.length), min(self.lead, self.length), "outgoing"),
        ):
            at, width = self.x(start), frames * self.frame_width
            painter.fillRect(
                QRectF(at, used.top(), width, used.height()), theme.colour(colour, 0.62)
            )
        grip: QColor = theme.colour("ink")
        for at in (left, right):
            painter.fillRect(QRectF(at - 1, area.top() - 2, 2, area.height() + 4), grip)
