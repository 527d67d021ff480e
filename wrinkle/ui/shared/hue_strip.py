"""All hues in a row, and the range of them that an effect acts on."""

from __future__ import annotations

from enum import Enum

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QLinearGradient, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.ui.theme import active

_HEIGHT = 26
_MARGIN = 4.0
_REACH = 12.0
_HUES = 24
ALL, _LEAST = 180.0, 1.0


class _Part(Enum):
    MIDDLE = "middle"
    RIM = "rim"


class HueStrip(QWidget):
    """Shows a range of hues: its middle, and how far it reaches to either side, in degrees.

    The rims are pulled to widen it; anywhere else the range is carried along.

    Signals:
        changing: middle and reach during a drag.
        committed: middle and reach after it.
    """

    changing = pyqtSignal(float, float)
    committed = pyqtSignal(float, float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._middle, self._range = 0.0, ALL
        self._held: _Part | None = None
        self.setFixedHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    @property
    def value(self) -> tuple[float, float]:
        """The middle and the reach that are shown."""
        return self._middle, self._range

    def set_value(self, middle: float, reach: float) -> None:
        """Shows a range."""
        if self._held is None and (middle, reach) != self.value:
            self._middle, self._range = middle, reach
            self.update()

    def place(self, hue: float) -> float:
        """Where a hue stands, across the strip."""
        area = self._area
        return area.left() + hue % 360.0 / 360.0 * area.width()

    def sizeHint(self) -> QSize:
        return QSize(160, _HEIGHT)

    @property
    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_MARGIN, _MARGIN, -_MARGIN, -_MARGIN)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, area = active(), self._area
        hues = QLinearGradient(area.topLeft(), area.topRight())
        for step in range(_HUES + 1):
            hues.setColorAt(step / _HUES, QColor.fromHsvF(step / _HUES % 1.0, 0.62, 0.86))
        painter.fillRect(area, hues)
        if self._range >= ALL:
            return
        veil = theme.colour("field", 0.8)
        left, right = self.place(self._middle - self._range), self.place(self._middle + self._range)
        outside = [(area.left(), left), (right, area.right())] if left <= right else [(right, left)]
        for start, end in outside:
            painter.fillRect(QRectF(start, area.top(), end - start, area.height()), veil)
        painter.setPen(QPen(theme.colour("ink"), 2.0))
        for rim in (left, right):
            painter.drawLine(QPointF(rim, 1.0), QPointF(rim, self.height() - 1.0))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        x = event.position().x()
        rims = (self.place(self._middle - self._range), self.place(self._middle + self._range))
        at_rim = self._range < ALL and min(abs(x - rim) for rim in rims) <= _REACH
        # Of all hues there is no rim to take hold of: the first pull makes a range.
        self._held = _Part.RIM if at_rim else _Part.MIDDLE
        if self._range >= ALL:
            self._range = 30.0
        self._pull(x)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._held is not None:
            self._pull(event.position().x())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held is not None:
            self._held = None
            self.committed.emit(*self.value)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self._held = None
        self._range = ALL
        self.update()
        self.committed.emit(*self.value)

    def _pull(self, x: float) -> None:
        area = self._area
        hue = min(max((x - area.left()) / area.width(), 0.0), 1.0) * 360.0
        if self._held is _Part.RIM:
            apart = abs((hue - self._middle + 180.0) % 360.0 - 180.0)
            self._range = round(min(max(apart, _LEAST), ALL - 1.0), 1)
        else:
            self._middle = round(hue, 1)
        self.update()
        self.changing.emit(*self.value)
