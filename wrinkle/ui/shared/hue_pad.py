"""A disc of hues on which one pin says a hue and how much of it."""

from __future__ import annotations

import math

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.ui.theme import active

_SIDE = 84
_RIM = 7.0
_STITCHES = 36
_HEAD = 5.0
_NUDGE = 2.0

_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}
_CLEARING = (Qt.Key.Key_Delete, Qt.Key.Key_Backspace)


class HuePad(QWidget):
    """Shows a hue in degrees, clockwise from the right, and an amount; says what a person pulls.

    Double-click or Delete brings the amount to 0; the arrow keys move the pin.

    Signals:
        changing: hue and amount during a drag.
        committed: hue and amount after it.
        abandoned: the drag was given up with Escape.
    """

    changing = pyqtSignal(float, float)
    committed = pyqtSignal(float, float)
    abandoned = pyqtSignal()

    def __init__(self, full: float, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._full = full
        self._hue, self._amount = 0.0, 0.0
        self._held = False
        self.setMinimumSize(_SIDE, _SIDE)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    @property
    def value(self) -> tuple[float, float]:
        """The hue and the amount that are shown."""
        return self._hue, self._amount

    def set_value(self, hue: float, amount: float) -> None:
        """Shows a hue and an amount; while it is pulled the pin stays at the pointer."""
        if not self._held and (hue, amount) != self.value:
            self._hue, self._amount = hue, amount
            self.update()

    def spot(self, hue: float, amount: float) -> QPointF:
        """Where the pin stands for a hue and an amount."""
        reach = min(amount / self._full, 1.0) * self._radius
        turn = math.radians(hue)
        return self._middle + QPointF(math.cos(turn), math.sin(turn)) * reach

    def sizeHint(self) -> QSize:
        return QSize(_SIDE, _SIDE)

    @property
    def _middle(self) -> QPointF:
        return QRectF(self.rect()).center()

    @property
    def _radius(self) -> float:
        return min(self.width(), self.height()) / 2.0 - _RIM

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, middle, radius = active(), self._middle, self._radius
        painter.setPen(QPen(theme.colour("incoming" if self.hasFocus() else "rule"), 1.2))
        painter.setBrush(theme.colour("field"))
        painter.drawEllipse(middle, radius, radius)
        # The hues are stitches around the rim, like the edge of a pincushion.
        for stitch in range(_STITCHES):
            turn = 2.0 * math.pi * stitch / _STITCHES
            way = QPointF(math.cos(turn), math.sin(turn))
            pen = QPen(QColor.fromHsvF(stitch / _STITCHES, 0.72, 0.84), 3.2)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.drawLine(middle + way * (radius - 7.0), middle + way * (radius - 2.5))
        head = self.spot(self._hue, self._amount)
        painter.setPen(QPen(theme.colour("ink"), 1.4))
        painter.drawLine(middle, head)
        painter.drawEllipse(middle, 1.0, 1.0)
        painter.setBrush(QColor.fromHsvF(self._hue / 360.0 % 1.0, min(self._strength, 1.0), 0.92))
        painter.drawEllipse(head, _HEAD, _HEAD)

    @property
    def _strength(self) -> float:
        return self._amount / self._full

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = True
            self._pull(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._held:
            self._pull(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held:
            self._held = False
            self.committed.emit(*self.value)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self._rest()

    def event(self, event: QEvent | None) -> bool:
        """Its keys are its own while it has the focus, even where the window has a shortcut."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and Qt.Key(event.key()) in (*_ARROWS, *_CLEARING)
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape and self._held:
            self._held = False
            self.abandoned.emit()
        elif key in _CLEARING:
            self._rest()
        elif key in _ARROWS:
            across, down = _ARROWS[key]
            self._place(self.spot(*self.value) + QPointF(across, down) * _NUDGE)
            self.committed.emit(*self.value)
        else:
            super().keyPressEvent(event)

    def _rest(self) -> None:
        self._held = False
        self._amount = 0.0
        self.update()
        self.committed.emit(*self.value)

    def _pull(self, spot: QPointF) -> None:
        self._place(spot)
        self.changing.emit(*self.value)

    def _place(self, spot: QPointF) -> None:
        away = spot - self._middle
        reach = min(math.hypot(away.x(), away.y()) / max(self._radius, 1.0), 1.0)
        if reach > 0.0:
            self._hue = round(math.degrees(math.atan2(away.y(), away.x())) % 360.0, 1)
        self._amount = round(reach * self._full, 1)
        self.update()
