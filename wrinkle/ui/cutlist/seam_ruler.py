"""Frames about a cut, counted from it; pressing and dragging moves the playhead."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen

from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.text_size import Extent, keep, scaled
from wrinkle.ui.theme import active, small_font

_HEIGHT = 24
_SIDE = 12


class SeamRuler(FrameCanvas):
    """A ruler."""

    def __init__(self) -> None:
        super().__init__("Frames about the cut", scrubs=True)
        self._zero = 0
        self._beats: frozenset[int] = frozenset()
        self.set_frames(range(0))
        self.set_inset(_SIDE, _SIDE)
        keep(self, Extent.HEIGHT, _HEIGHT)

    def show_beats(self, frames: Sequence[int]) -> None:
        """Shows beats of the music on frames of the piece."""
        self._beats = frozenset(frames)
        self.update()

    def show_range(self, frames: range, zero: int, playhead: int) -> None:
        """Shows frames of the piece.

        Args:
            frames: which ones.
            zero: the one that is counted as 0.
            playhead: the one that is looked at.
        """
        self._zero = zero
        self.set_frames(frames)
        self.show_playhead(playhead)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self.frames:
            return
        painter, theme, axis = QPainter(self), active(), self.axis
        painter.setFont(small_font(self.font()))
        if self.playhead in self.frames:
            cell = QRectF(axis.x(self.playhead), 0, max(axis.cell, 3.0), self.height())
            painter.fillRect(cell, theme.colour("selected"))
        step = axis.label_step
        for frame in self.frames:
            number = frame - self._zero
            x = axis.x(frame)
            if number % step == 0:
                painter.setPen(theme.colour("outgoing_text" if number < 0 else "incoming_text"))
                label = QRectF(x - 40, 0, 80 + axis.cell, scaled(16))
                painter.drawText(label, Qt.AlignmentFlag.AlignCenter, frame_label(number))
            if axis.cell >= 4:
                painter.setPen(theme.colour("rule"))
                painter.drawLine(round(x), scaled(18), round(x), self.height())
            if frame in self._beats:
                painter.setPen(QPen(theme.colour("ink"), 2.0))
                painter.drawLine(round(x), scaled(15), round(x), self.height())
        self.paint_seam(painter, self._zero)
