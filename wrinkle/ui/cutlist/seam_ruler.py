"""Frames about a cut, counted from it; pressing and dragging moves the playhead."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.theme import active, small_font

_HEIGHT = 24
_SIDE = 12


class SeamRuler(QWidget):
    """A ruler.

    Signals:
        scrubbed: the frame of the piece under the pointer.
    """

    scrubbed = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self._frames = range(0)
        self._zero = self._playhead = 0
        self.setFixedHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Frames about the cut")

    def show_range(self, frames: range, zero: int, playhead: int) -> None:
        """Shows frames of the piece.

        Args:
            frames: which ones.
            zero: the one that is counted as 0.
            playhead: the one that is looked at.
        """
        self._frames, self._zero, self._playhead = frames, zero, playhead
        self.update()

    def show_playhead(self, frame: int) -> None:
        """Looks at another frame."""
        self._playhead = frame
        self.update()

    @property
    def axis(self) -> FrameAxis:
        """Where the frames stand."""
        frames = self._frames
        return FrameAxis(frames.start, frames.stop, _SIDE, self.width() - 2 * _SIDE)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if not self._frames:
            return
        painter, theme, axis = QPainter(self), active(), self.axis
        painter.setFont(small_font(self.font()))
        if self._playhead in self._frames:
            cell = QRectF(axis.x(self._playhead), 0, max(axis.cell, 3.0), _HEIGHT)
            painter.fillRect(cell, theme.colour("selected"))
        step = axis.label_step
        for frame in self._frames:
            number = frame - self._zero
            x = axis.x(frame)
            if number % step == 0:
                painter.setPen(theme.colour("outgoing_text" if number < 0 else "incoming_text"))
                label = QRectF(x - 20, 0, 40 + axis.cell, 16)
                painter.drawText(label, Qt.AlignmentFlag.AlignCenter, frame_label(number))
            if axis.cell >= 4:
                painter.setPen(theme.colour("rule"))
                painter.drawLine(round(x), 18, round(x), _HEIGHT)
        if self._zero in self._frames:
            draw_seam(painter, axis.x(self._zero), 0, _HEIGHT)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._scrub(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self._scrub(event)

    def _scrub(self, event: QMouseEvent | None) -> None:
        if event is not None and self._frames:
            self.scrubbed.emit(self.axis.frame_under(event.position().x()))
