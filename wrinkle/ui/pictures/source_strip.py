"""A clip as a strip of small pictures, on which the cut slides."""

from __future__ import annotations

from fractions import Fraction
from typing import Protocol

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.motion.track import Side
from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import FrameSource
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.shared.key_hand import STEPS_WITH_SHIFT
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.theme import active

_HEIGHT = 46
_MARGIN = 6


class CutSource(Protocol):
    """A clip and where it is cut."""

    @property
    def source(self) -> FrameSource:
        """Its pictures."""

    @property
    def cut(self) -> Fraction:
        """Its own time, in seconds, that falls on the cut."""


class SourceStrip(QWidget):
    """Shows where in a clip the cut and the window lie.

    Signals:
        sliding: the clip's time under the marker while it is dragged.
        slid: the time where it was let go, or where a key moved it.
        abandoned: the drag was given up with Escape.
    """

    sliding = pyqtSignal(object)
    slid = pyqtSignal(object)
    abandoned = pyqtSignal()

    def __init__(self, side: Side, pictures: ClipPictures, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._side = side
        self._pictures = pictures
        self._clip: CutSource | None = None
        self._window = (Fraction(0), Fraction(0))
        self._frame = Fraction(1, 30)
        self._grip: float | None = None
        self._before: Fraction | None = None
        self.setFixedHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SplitHCursor)
        self.setAccessibleName(f"Cut of the {side.value} clip")
        self.setToolTip("Drag to slide the cut within the clip; arrows move it by frames")
        pictures.ready.connect(self.update)

    def show_clip(
        self, clip: CutSource | None, window: tuple[Fraction, Fraction], frame: Fraction
    ) -> None:
        """Shows a clip with the window's lead and tail around its cut; ``frame`` is one step."""
        if (clip, window, frame) != (self._clip, self._window, self._frame):
            self._clip, self._window, self._frame = clip, window, frame
            self.setEnabled(clip is not None)
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(200, _HEIGHT)

    def x_of(self, seconds: Fraction) -> float:
        """Where a time of the clip stands."""
        duration = self._clip.source.duration if self._clip else Fraction(1)
        return _MARGIN + (self.width() - 2 * _MARGIN) * float(seconds / duration)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        clip = self._clip
        if clip is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        strip = QRectF(_MARGIN, 5, self.width() - 2 * _MARGIN, _HEIGHT - 10)
        self._paint_pictures(painter, strip)
        cut = self.x_of(clip.cut)
        colour = "outgoing" if self._side is Side.OUTGOING else "incoming"
        theme = active()
        lead, tail = self._window
        start = self.x_of(max(Fraction(0), clip.cut - lead))
        end = self.x_of(min(clip.source.duration, clip.cut + tail))
        # What is used in the window is clear, the rest of the clip steps back.
        veil = theme.colour("ground", 0.62)
        used = (start, cut) if self._side is Side.OUTGOING else (cut, end)
        top, height = strip.top(), strip.height()
        painter.fillRect(QRectF(strip.left(), top, used[0] - strip.left(), height), veil)
        painter.fillRect(QRectF(used[1], top, strip.right() - used[1], height), veil)
        band = QRectF(used[0], strip.bottom() - 3, used[1] - used[0], 3)
        painter.fillRect(band, theme.colour(colour))
        draw_seam(painter, cut, 0, _HEIGHT)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("seam"))
        painter.drawPolygon(QPolygonF([QPointF(cut - 5, 0), QPointF(cut + 5, 0), QPointF(cut, 7)]))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(theme.colour("seam"))
            painter.drawRect(strip)

    def _paint_pictures(self, painter: QPainter, strip: QRectF) -> None:
        clip = self._clip
        if clip is None:
            return
        ratio = clip.source.size.width / clip.source.size.height
        width = max(12.0, min(strip.height() * ratio, 90.0))
        count = max(1, round(strip.width() / width))
        cell = strip.width() / count
        scale = self.devicePixelRatioF()
        size = Size(max(1, round(cell * scale)), max(1, round(cell * scale / ratio)))
        for number in range(count):
            seconds = clip.source.duration * Fraction(2 * number + 1, 2 * count)
            picture = self._pictures.get(clip.source, clip.source.index_at(seconds), size)
            area = QRectF(strip.left() + number * cell, strip.top(), cell, strip.height())
            if picture is None:
                painter.fillRect(area, active().colour("rule"))
                continue
            shown = picture.width() * strip.height() / cell
            top = max(0.0, (picture.height() - shown) / 2)
            painter.drawImage(
                area, picture, QRectF(0, top, picture.width(), min(shown, picture.height()))
            )

    def _time_at(self, x: float) -> Fraction:
        clip = self._clip
        if clip is None:
            return Fraction(0)
        share = Fraction((x - _MARGIN) / max(1, self.width() - 2 * _MARGIN)).limit_denominator(
            10**6
        )
        seconds = min(max(share, Fraction(0)), Fraction(1)) * clip.source.duration
        return round(seconds / self._frame) * self._frame

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._clip is None or event.button() != Qt.MouseButton.LeftButton:
            return
        x = event.position().x()
        marker = self.x_of(self._clip.cut)
        self._before = self._clip.cut
        self._grip = x - marker if abs(x - marker) < 9 else 0.0
        if self._grip == 0.0:
            self.sliding.emit(self._time_at(x))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._grip is not None:
            self.sliding.emit(self._time_at(event.position().x() - self._grip))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._grip is not None and self._clip is not None:
            self._grip = None
            self.slid.emit(self._clip.cut)

    def event(self, event: QEvent | None) -> bool:
        # The arrows step frames everywhere else; here they move the cut.
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right)
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None or self._clip is None:
            return
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if steps is not None:
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                steps *= STEPS_WITH_SHIFT
            self.slid.emit(self._clip.cut + steps * self._frame)
        elif event.key() == Qt.Key.Key_Escape and self._grip is not None:
            self._grip = None
            self.abandoned.emit()
        else:
            super().keyPressEvent(event)
