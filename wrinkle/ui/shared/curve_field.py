"""A field for a curve: points that are dragged in a small square over the picture's histogram."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.effects.families.curves import STRAIGHT, curve_values
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.paths import Knot, knots, outline_of
from wrinkle.ui.theme import active

_HEIGHT = 112
_REACH = 9.0
_RIM = 5.0
_STEPS = 64


class CurveField(QWidget):
    """Shows a curve; says what a person makes of it.

    Signals:
        changing: the curve during a drag.
        committed: the curve after a drag, or with a point more or less.
        abandoned: never sent; fields that are dragged have it.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    abandoned = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._value: Value = STRAIGHT
        self._held: int | None = None
        self.histogram: NDArray[np.float64] | None = None
        self.setFixedHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    @property
    def value(self) -> Value:
        """The curve that is shown."""
        return self._value

    def set_value(self, value: Value) -> None:
        """Shows a curve."""
        if value != self._value:
            self._value = value
            self.update()

    def set_histogram(self, shares: NDArray[np.float64] | None) -> None:
        """What lies behind the curve: the share of each brightness ``(N,)``, the largest 1."""
        self.histogram = shares
        self.update()

    def text_of(self, value: Value) -> str:
        """A curve as it is written."""
        return f"{len(knots(parts(value)))} points"

    def sizeHint(self) -> QSize:
        return QSize(160, _HEIGHT)

    def spot(self, x: float, y: float) -> QPointF:
        """Where a point of the curve stands."""
        area = self._area
        return QPointF(area.left() + x * area.width(), area.bottom() - y * area.height())

    @property
    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(_RIM, _RIM, -_RIM, -_RIM)

    @property
    def _points(self) -> list[Knot]:
        return sorted(knots(parts(self._value)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, area = active(), self._area
        painter.fillRect(self.rect(), theme.colour("field"))
        if self.histogram is not None:
            wide = area.width() / len(self.histogram)
            for place, share in enumerate(self.histogram):
                high = float(share) * area.height()
                column = QRectF(area.left() + place * wide, area.bottom() - high, wide + 0.5, high)
                painter.fillRect(column, theme.colour("rule"))
        painter.setPen(QPen(theme.colour("rule"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(self.spot(0.0, 0.0), self.spot(1.0, 1.0))
        places = np.linspace(0.0, 1.0, _STEPS)
        values = np.clip(curve_values(parts(self._value), places), 0.0, 1.0)
        path = QPainterPath(self.spot(0.0, float(values[0])))
        for x, y in zip(places[1:], values[1:], strict=True):
            path.lineTo(self.spot(float(x), float(y)))
        painter.setPen(QPen(theme.colour("ink"), 1.6))
        painter.drawPath(path)
        painter.setPen(Qt.PenStyle.NoPen)
        for index, knot in enumerate(self._points):
            painter.setBrush(theme.colour("seam" if index == self._held else "incoming"))
            painter.drawEllipse(self.spot(knot.x, knot.y), 4.0, 4.0)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        index = self._at(event.position())
        if event.button() == Qt.MouseButton.LeftButton:
            self._held = index
        elif event.button() == Qt.MouseButton.RightButton and index is not None:
            left = [knot for place, knot in enumerate(self._points) if place != index]
            if len(left) >= 2:
                self._take(left, done=True)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._held is None:
            return
        points = self._points
        x, y = self._own(event.position())
        # A point stays between its neighbours, so that the curve keeps its order.
        low = points[self._held - 1].x + 0.01 if self._held else 0.0
        high = points[self._held + 1].x - 0.01 if self._held + 1 < len(points) else 1.0
        points[self._held] = Knot(round(min(max(x, low), high), 4), round(y, 4))
        self._take(points, done=False)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held is not None:
            self._held = None
            self.committed.emit(self._value)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._at(event.position()) is None:
            self._held = None
            self._take([*self._points, Knot(*self._own(event.position()))], done=True)

    def _at(self, spot: QPointF) -> int | None:
        for index, knot in enumerate(self._points):
            if (self.spot(knot.x, knot.y) - spot).manhattanLength() <= _REACH:
                return index
        return None

    def _own(self, spot: QPointF) -> tuple[float, float]:
        area = self._area
        x = (spot.x() - area.left()) / area.width()
        y = (area.bottom() - spot.y()) / area.height()
        return round(min(max(x, 0.0), 1.0), 4), round(min(max(y, 0.0), 1.0), 4)

    def _take(self, points: list[Knot], done: bool) -> None:
        self._value = outline_of(sorted(points))
        self.update()
        (self.committed if done else self.changing).emit(self._value)
