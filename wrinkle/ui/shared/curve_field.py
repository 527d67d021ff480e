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
from wrinkle.ui.shared.key_hand import KeyHand
from wrinkle.ui.shared.long_press import LongPress
from wrinkle.ui.theme import active

_HEIGHT = 112
_REACH = 12.0
_RIM = 5.0
_STEPS = 64


class CurveField(QWidget):
    """Shows a curve; says what a person makes of it.

    Signals:
        changing: the curve during a drag.
        committed: the curve after a drag, or with a point more or less.
        abandoned: what keys carried was let go.
        told: what a key did, in a sentence.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    abandoned = pyqtSignal()
    told = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._value: Value = STRAIGHT
        self._held: int | None = None
        self.histogram: NDArray[np.float64] | None = None
        self._chosen = 0
        self._before: Value = STRAIGHT
        self.setFixedHeight(_HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("Curve")
        self._hand = KeyHand(self, self, self.told.emit)
        LongPress(self, self._remove_at)
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
            chosen = index == self._chosen and self._hand.in_use
            painter.drawEllipse(self.spot(knot.x, knot.y), *(6.0 if chosen else 4.0,) * 2)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        index = self._at(event.position())
        if event.button() == Qt.MouseButton.LeftButton:
            self._held = index
        elif event.button() == Qt.MouseButton.RightButton:
            self._remove_at(event.position())

    def _remove_at(self, spot: QPointF) -> None:
        """Takes the point there out; two are left."""
        index = self._at(spot)
        left = [knot for place, knot in enumerate(self._points) if place != index]
        if index is not None and len(left) >= 2:
            self._held = None
            self._take(left, done=True)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._held is None:
            return
        self._move(self._held, *self._own(event.position()))

    def _move(self, index: int, x: float, y: float) -> None:
        """A point stays between its neighbours, so that the curve keeps its order."""
        points = self._points
        low = points[index - 1].x + 0.01 if index else 0.0
        high = points[index + 1].x - 0.01 if index + 1 < len(points) else 1.0
        points[index] = Knot(round(min(max(x, low), high), 4), round(min(max(y, 0.0), 1.0), 4))
        self._take(points, done=False)

    # By keys

    def choose(self, by: int) -> str:
        """The next point, or the one before."""
        self._chosen = min(max(self._chosen + by, 0), len(self._points) - 1)
        self.update()
        return self._words()

    def take(self) -> str:
        """Takes hold of it."""
        self._chosen = min(self._chosen, len(self._points) - 1)
        self._before = self._value
        return self._words()

    def carry(self, across: int, up: int) -> str:
        """By hundredths."""
        knot = knots(parts(self._before))[self._chosen]
        self._move(self._chosen, knot.x + across / 100, knot.y + up / 100)
        return self._words()

    def put(self) -> None:
        """What is shown is one step."""
        self.committed.emit(self._value)

    def let_go(self) -> None:
        """The curve is as it was."""
        self._value = self._before
        self.update()
        self.abandoned.emit()

    def _words(self) -> str:
        knot = self._points[self._chosen]
        return f"Point {self._chosen + 1} of the curve: {knot.x:.0%} becomes {knot.y:.0%}"

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
