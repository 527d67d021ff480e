"""What is drawn along frames: the axis, the seam, the playhead, scrubbing by hand and by keys."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.frame_table import FrameModel
from wrinkle.ui.shared.key_hand import STEPS_WITH_SHIFT
from wrinkle.ui.shared.seam import draw_seam

_NARROWEST = 10.0


class FrameCanvas(QWidget):
    """The base of all that stands on the frame axis; it draws nothing by itself.

    Args:
        name: what it is called, for screen readers.
        model: what it draws as rows, for the table beside it; None for none.
        scrubs: pressing and dragging on it, and the arrow keys, move the playhead.

    Signals:
        scrubbed: the frame that is to be looked at.
    """

    scrubbed = pyqtSignal(int)

    around = 0
    """Points beside the playhead's column that are painted anew with it."""

    def __init__(
        self,
        name: str,
        model: FrameModel | None = None,
        scrubs: bool = False,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.model = model
        self._frames = range(-1, 1)
        self._playhead = 0
        self._inset = (0.0, 0.0)
        self._scrubs = scrubs
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(name)
        if scrubs:
            self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def set_inset(self, left: float, right: float) -> None:
        """How far the axis stays from the widget's sides, as it does in its neighbours."""
        self._inset = (left, right)

    @property
    def frames(self) -> range:
        """The frames along it."""
        return self._frames

    def set_frames(self, frames: range) -> bool:
        """Other frames along it; gives whether they are others."""
        changed = frames != self._frames
        self._frames = frames
        if changed:
            self.update()
        return changed

    @property
    def axis(self) -> FrameAxis:
        """Where the frames stand."""
        left, right = self._inset
        frames = self._frames
        width = max(_NARROWEST, self.width() - left - right)
        return FrameAxis(frames.start, frames.stop, left, width)

    @property
    def playhead(self) -> int:
        """The frame that is looked at."""
        return self._playhead

    def show_playhead(self, frame: int) -> None:
        """Shows the playhead on another frame; only the two columns are painted anew."""
        if frame == self._playhead:
            return
        for number in (self._playhead, frame):
            self.update(self.column(number, self.around).toAlignedRect())
        self._playhead = frame

    def column(self, frame: int, around: float = 0.0) -> QRectF:
        """The place of a frame over the whole height."""
        axis = self.axis
        return QRectF(axis.x(frame) - around, 0, axis.cell + 2 * around, self.height())

    def paint_seam(self, painter: QPainter, zero: int = 0) -> None:
        """Draws the cut before a frame, if it lies within."""
        if self._frames.start <= zero <= self._frames.stop:
            draw_seam(painter, self.axis.x(zero), 0, self.height())

    # By hand and by keys

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._scrub(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._scrub(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """With the focus: arrows by one frame, with Shift by five, Home and End to the ends."""
        if event is None or not self._scrubs or not self._frames:
            super().keyPressEvent(event)
            return
        step = STEPS_WITH_SHIFT if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        goals = {
            Qt.Key.Key_Left: self._playhead - step,
            Qt.Key.Key_Right: self._playhead + step,
            Qt.Key.Key_Home: self._frames.start,
            Qt.Key.Key_End: self._frames.stop - 1,
        }
        goal = goals.get(Qt.Key(event.key()))
        if goal is None:
            super().keyPressEvent(event)
        else:
            self.scrubbed.emit(min(max(goal, self._frames.start), self._frames.stop - 1))

    def _scrub(self, event: QMouseEvent) -> None:
        if self._scrubs and self._frames:
            self.scrubbed.emit(self.axis.frame_under(event.position().x()))
