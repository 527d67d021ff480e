"""An ease as a small curve with a dot that moves as it does; and as an icon in a list."""

from __future__ import annotations

from PyQt6.QtCore import QElapsedTimer, QPointF, QRectF, QSize, Qt, QTimer
from PyQt6.QtGui import QIcon, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.motion.easing import Ease
from wrinkle.ui.less_motion import moves
from wrinkle.ui.theme import active

_CYCLE_MS = 1600
_REST_MS = 400
_POINTS = 40


def curve_path(ease: Ease, area: QRectF) -> QPainterPath:
    """The curve from the lower left to the upper right of ``area``; overshoot leaves it."""
    path = QPainterPath(_spot(ease, 0.0, area))
    for step in range(1, _POINTS + 1):
        path.lineTo(_spot(ease, step / _POINTS, area))
    return path


def ease_icon(ease: Ease) -> QIcon:
    """The curve as an icon."""
    pixmap = QPixmap(QSize(44, 32))
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    # Rust is seen on the lists of both themes, whichever is chosen later.
    painter.setPen(QPen(active().colour("outgoing"), 2.4))
    painter.drawPath(curve_path(ease, QRectF(4, 8, 36, 16)))
    painter.end()
    pixmap.setDevicePixelRatio(2.0)
    return QIcon(pixmap)


class EasePreview(QWidget):
    """The curve at the left, the moving dot on its track at the right."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._ease: Ease | None = None
        self._clock = QElapsedTimer()
        self._timer = QTimer(self)
        self._timer.setInterval(33)
        self._timer.timeout.connect(self.update)
        self.setFixedSize(112, 28)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("How the ease moves")

    def show_ease(self, ease: Ease | None, moving: bool = True) -> None:
        """Shows an ease, or nothing."""
        if ease != self._ease:
            self._ease = ease
            self._clock.start()
        if ease is not None and moving and self.isVisible() and moves(self):
            self._timer.start()
        else:
            self._timer.stop()
        self.update()

    def hideEvent(self, event: object) -> None:
        self._timer.stop()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._ease is None:
            return
        theme = active()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(theme.colour("outgoing"), 1.6))
        painter.drawPath(curve_path(self._ease, QRectF(3, 7, 30, 14)))
        left, right, middle = 52.0, self.width() - 12.0, self.height() / 2
        painter.setPen(QPen(theme.colour("rule"), 1.4))
        painter.drawLine(QPointF(left, middle), QPointF(right, middle))
        passed = self._clock.elapsed() % (_CYCLE_MS + _REST_MS) if self._clock.isValid() else 0
        way = self._ease.at(min(1.0, passed / _CYCLE_MS))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("outgoing"))
        painter.drawEllipse(QPointF(left + (right - left) * way, middle), 4.5, 4.5)


def _spot(ease: Ease, share: float, area: QRectF) -> QPointF:
    way = ease.at(share)
    return QPointF(area.left() + area.width() * share, area.bottom() - area.height() * way)
