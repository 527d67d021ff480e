"""One lane: the curve of a setting along the frames, with pins and the handles of an ease.

Painting and dragging know one setting and the axis; what a drag means is said by signals.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import TypeVar

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.design import edits
from wrinkle.core.design.document import Setting, Wrinkle
from wrinkle.core.design.edits import SettingRef, on_own_half, shown_keys
from wrinkle.core.design.settings import SETTINGS
from wrinkle.core.motion.easing import Bezier, Linear
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.session import PinChoice
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.theme import active

LANE_HEIGHT = 76
_PAD = 12
_REACH = 9.0
_HEAD = 4.5


@dataclass(frozen=True)
class PinMove:
    """Where a drag puts a keyframe."""

    ref: SettingRef
    index: int
    time: Fraction
    value: Value

    def apply(self, wrinkle: Wrinkle) -> Wrinkle:
        """The edit that the drag stands for."""
        return edits.move_key(wrinkle, self.ref, self.index, self.time, self.value)


@dataclass(frozen=True)
class EaseChange:
    """The ease that a drag of a handle makes."""

    ref: SettingRef
    index: int
    ease: Bezier

    def apply(self, wrinkle: Wrinkle) -> Wrinkle:
        """The edit that the drag stands for."""
        return edits.set_ease(wrinkle, self.ref, self.index, self.ease)


@dataclass(frozen=True)
class _Pin:
    choice: PinChoice
    part: int
    spot: QPointF
    time: Fraction
    value: Value


@dataclass(frozen=True)
class _Handle:
    number: int
    anchor: QPointF
    spot: QPointF


Thing = TypeVar("Thing", _Pin, _Handle)


class LaneCanvas(QWidget):
    """Draws and edits the curve of one setting.

    Signals:
        pinPicked: a pin was pressed (PinChoice), or None for the empty ground.
        pinMoving, easeMoving: a drag goes on (PinMove, EaseChange).
        dropped: the drag ended; its text names the step.
        abandoned: the drag was given up with Escape.
        pinWanted: a double click on a frame without a pin.
        pinUnwanted: Delete was pressed (PinChoice).
    """

    pinPicked = pyqtSignal(object)
    pinMoving = pyqtSignal(object)
    easeMoving = pyqtSignal(object)
    dropped = pyqtSignal(str)
    abandoned = pyqtSignal()
    pinWanted = pyqtSignal(int)
    pinUnwanted = pyqtSignal(object)

    def __init__(self, ref: SettingRef, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._ref = ref
        self._spec = SETTINGS[ref.key]
        self._wrinkle: Wrinkle | None = None
        self._pin: PinChoice | None = None
        self._playhead = 0
        self._inset = (0.0, 0.0)
        self._range: tuple[float, float] | None = None
        self._drag: _Pin | _Handle | None = None
        self._moved = False
        self._press = QPointF()
        self.setFixedHeight(LANE_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.setAccessibleName(f"Lane of {self._spec.label}")

    def set_inset(self, left: float, right: float) -> None:
        """How far the axis stays from the widget's sides."""
        self._inset = (left, right)

    def show_lane(self, wrinkle: Wrinkle, pin: PinChoice | None, playhead: int) -> None:
        """Shows the setting as it is in a wrinkle."""
        self._wrinkle, self._pin, self._playhead = wrinkle, pin, playhead
        self.update()

    @property
    def axis(self) -> FrameAxis:
        """Where the frames stand."""
        left, right = self._inset
        frames = self._wrinkle.frames if self._wrinkle else range(-1, 1)
        return FrameAxis(frames.start, frames.stop, left, max(10.0, self.width() - left - right))

    def pin_spots(self) -> list[tuple[PinChoice, QPointF]]:
        """The selectable pins and where their heads are."""
        return [(pin.choice, pin.spot) for pin in self._pins()]

    def handle_spots(self) -> list[QPointF]:
        """Where the handles of the selected pin's ease are."""
        return [handle.spot for handle in self._handles()]

    # What is where

    def _setting(self) -> Setting | None:
        if self._wrinkle is None or all(x.id != self._ref.layer for x in self._wrinkle.layers):
            return None
        return self._ref.of(self._wrinkle)

    def _rate(self) -> Fraction:
        return self._wrinkle.frame_rate.per_second if self._wrinkle else Fraction(30)

    def _x(self, time: Fraction) -> float:
        return self.axis.x(float(time * self._rate()))

    def _y(self, number: float) -> float:
        low, high = self._value_range()
        return self.height() - _PAD - (number - low) / (high - low) * (self.height() - 2 * _PAD)

    def _number_at(self, y: float) -> float:
        low, high = self._value_range()
        return low + (self.height() - _PAD - y) / (self.height() - 2 * _PAD) * (high - low)

    def _value_range(self) -> tuple[float, float]:
        """The numbers at the foot and the head of the lane; it stands still during a drag."""
        if self._range is not None:
            return self._range
        setting = self._setting()
        if setting is None or setting.track is None or self._wrinkle is None:
            return 0.0, 1.0
        numbers = list(parts(setting.rest))
        for _, _, _, value in shown_keys(setting):
            numbers += parts(value)
        low, high = min(numbers), max(numbers)
        least = self._spec.step * 10
        if high - low < least:
            middle = (low + high) / 2
            return middle - least / 2, middle + least / 2
        return low, high

    def _pins(self) -> list[_Pin]:
        setting = self._setting()
        if setting is None:
            return []
        pins = []
        for index, side, time, value in shown_keys(setting):
            numbers = parts(value)
            if self._spec.linked and len(set(numbers)) == 1:
                numbers = numbers[:1]
            for part, number in enumerate(numbers):
                spot = QPointF(self._x(time), self._y(number))
                pins.append(_Pin(PinChoice(self._ref, index, side), part, spot, time, value))
        return pins

    def _handles(self) -> list[_Handle]:
        """The two handles of the ease that leads on from the selected pin."""
        setting = self._setting()
        pin = self._pin
        if setting is None or setting.track is None or pin is None or pin.ref != self._ref:
            return []
        keys, index = setting.track.keys, pin.index
        if index + 1 >= len(keys):
            return []
        start, end = keys[index], keys[index + 1]
        if isinstance(start.ease, Linear):
            curve = Bezier(1 / 3, 1 / 3, 2 / 3, 2 / 3)
        elif isinstance(start.ease, Bezier):
            curve = start.ease
        else:
            return []
        x0, x1 = self._x(start.time), self._x(end.time)
        y0, y1 = self._y(parts(start.value)[0]), self._y(parts(end.value)[0])
        return [
            _Handle(
                number,
                QPointF(x0, y0) if number == 0 else QPointF(x1, y1),
                QPointF(x0 + (x1 - x0) * across, y0 + (y1 - y0) * up),
            )
            for number, across, up in ((0, curve.x1, curve.y1), (1, curve.x2, curve.y2))
        ]

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, axis = active(), self.axis
        here = QRectF(axis.x(self._playhead), 0, axis.cell, self.height())
        painter.fillRect(here, theme.colour("selected", 0.55))
        painter.setPen(theme.colour("rule"))
        painter.drawLine(QLineF(0, self.height() - 0.5, self.width(), self.height() - 0.5))
        setting = self._setting()
        if setting is None or setting.track is None:
            return
        for part, rest in enumerate(parts(setting.rest)):
            self._paint_curve(painter, setting, part, rest)
        draw_seam(painter, axis.x(0), 0, self.height())
        self._paint_pins(painter)
        self._paint_handles(painter)

    def _paint_curve(self, painter: QPainter, setting: Setting, part: int, rest: float) -> None:
        theme = active()
        base = min(max(self._y(rest), 0.0), float(self.height()))
        for side, role in ((Side.OUTGOING, "outgoing"), (Side.INCOMING, "incoming")):
            points = self._curve(setting, part, side)
            band = QPainterPath(QPointF(points[0].x(), base))
            line = QPainterPath(points[0])
            for point in points:
                band.lineTo(point)
                line.lineTo(point)
            band.lineTo(points[-1].x(), base)
            painter.fillPath(band, theme.colour(role, 0.20 if part == 0 else 0.10))
            pen = QPen(theme.colour(role), 1.6)
            if part:
                pen.setDashPattern([3, 2.5])
            painter.strokePath(line, pen)

    def _curve(self, setting: Setting, part: int, side: Side) -> list[QPointF]:
        """The curve of one side; a frame has a few points, so that holds look like steps."""
        axis, rate = self.axis, self._rate()
        start, end = (axis.first, 0) if side is Side.OUTGOING else (0, axis.end)
        fine = max(2, int(axis.cell / 2))
        points = []
        for step in range((end - start) * fine + 1):
            time = (start + Fraction(step, fine)) / rate
            value = parts(setting.at(time, side))[part]
            points.append(QPointF(self._x(time), self._y(value)))
        return points

    def _paint_pins(self, painter: QPainter) -> None:
        theme = active()
        for pin in self._pins():
            role = "outgoing" if pin.choice.side is Side.OUTGOING else "incoming"
            chosen = self._pin is not None and pin.choice == self._pin
            painter.setPen(QPen(theme.colour(role), 1.4))
            painter.drawLine(QLineF(pin.spot.x(), pin.spot.y(), pin.spot.x(), self.height() - 3))
            painter.setPen(QPen(theme.colour("panel"), 1.2))
            painter.setBrush(theme.colour(role))
            if chosen:
                painter.setPen(QPen(theme.colour("ink"), 2.0))
            painter.drawEllipse(pin.spot, _HEAD, _HEAD)

    def _paint_handles(self, painter: QPainter) -> None:
        theme = active()
        for handle in self._handles():
            painter.setPen(QPen(theme.colour("ink", 0.7), 1.0))
            painter.drawLine(QLineF(handle.anchor, handle.spot))
            painter.setBrush(theme.colour("panel"))
            painter.setPen(QPen(theme.colour("ink"), 1.3))
            painter.drawEllipse(handle.spot, 3.4, 3.4)

    # Dragging

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._press = event.position()
        self._moved = False
        self._range = self._value_range()
        handle = _nearest(self._handles(), self._press)
        pin = _nearest(self._pins(), self._press)
        if handle is not None and pin is not None:
            handle = handle if _far(handle, self._press) < _far(pin, self._press) else None
        if pin is not None and handle is None:
            self._drag = pin
            self.pinPicked.emit(pin.choice)
        elif handle is not None:
            self._drag = handle
        else:
            self._drag = None
            self.pinPicked.emit(self._segment_start(self._press))

    def _segment_start(self, spot: QPointF) -> PinChoice | None:
        """The pin before a spot on the curve: pressing the curve shows its ease."""
        setting = self._setting()
        if setting is None or setting.track is None:
            return None
        time = Fraction(self.axis.frame(spot.x())).limit_denominator(1000) / self._rate()
        side = Side.of(time)
        if all(abs(self._y(n) - spot.y()) > _REACH for n in parts(setting.at(time))):
            return None
        own, _ = on_own_half(setting, side, time, setting.rest)
        before = [i for i, key in enumerate(setting.track.keys) if key.time <= own]
        return PinChoice(self._ref, before[-1] if before else 0, side)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._drag is None:
            return
        spot = event.position()
        if not self._moved and (spot - self._press).manhattanLength() < 3:
            return
        self._moved = True
        if isinstance(self._drag, _Handle):
            self._drag_handle(spot)
        else:
            self._drag_pin(self._drag, spot)

    def _drag_pin(self, pin: _Pin, spot: QPointF) -> None:
        setting = self._setting()
        if setting is None:
            return
        rate = self._rate()
        frame = Fraction(round(self.axis.frame(pin.spot.x() + spot.x() - self._press.x())))
        time = frame / rate
        number = self._number_at(pin.spot.y() + spot.y() - self._press.y())
        number = round(number / self._spec.step) * self._spec.step
        number = min(max(number, self._spec.low), self._spec.high)
        if abs(spot.y() - self._press.y()) < 3:
            number = parts(pin.value)[pin.part]
        value: Value = number
        if isinstance(pin.value, tuple):
            both = self._spec.linked and pin.value[0] == pin.value[1]
            first, second = pin.value
            value = (number, number) if both else (first, number)
            if not both and pin.part == 0:
                value = (number, second)
        if pin.choice.side is Side.OUTGOING:
            time = min(time, CUT)
        else:
            time = max(time, CUT)
        time, value = on_own_half(setting, pin.choice.side, time, value)
        self.pinMoving.emit(PinMove(self._ref, pin.choice.index, time, value))

    def _drag_handle(self, spot: QPointF) -> None:
        setting = self._setting()
        if setting is None or setting.track is None or self._pin is None:
            return
        if not isinstance(self._drag, _Handle):
            return
        index = self._pin.index
        start, end = setting.track.keys[index], setting.track.keys[index + 1]
        ease = start.ease if isinstance(start.ease, Bezier) else Bezier(1 / 3, 1 / 3, 2 / 3, 2 / 3)
        x0, x1 = self._x(start.time), self._x(end.time)
        y0, y1 = self._y(parts(start.value)[0]), self._y(parts(end.value)[0])
        across = round(min(max((spot.x() - x0) / (x1 - x0), 0.0), 1.0), 3)
        up = round((spot.y() - y0) / (y1 - y0), 3) if abs(y1 - y0) > 1e-6 else None
        if self._drag.number == 0:
            ease = Bezier(across, ease.y1 if up is None else up, ease.x2, ease.y2)
        else:
            ease = Bezier(ease.x1, ease.y1, across, ease.y2 if up is None else up)
        self.easeMoving.emit(EaseChange(self._ref, index, ease))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        drag, self._drag, self._range = self._drag, None, None
        if drag is not None and self._moved:
            what = "ease" if isinstance(drag, _Handle) else "pin"
            self.dropped.emit(f"{what} of {self._spec.label.lower()}")
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and _nearest(self._pins(), event.position()) is None:
            self.pinWanted.emit(self.axis.frame_under(event.position().x()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_Escape and self._drag is not None:
            self._drag, self._range = None, None
            self.abandoned.emit()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self._pin is not None:
            self.pinUnwanted.emit(self._pin)
        else:
            super().keyPressEvent(event)


def _far(thing: _Pin | _Handle, spot: QPointF) -> float:
    return QLineF(thing.spot, spot).length()


def _nearest(things: list[Thing], spot: QPointF) -> Thing | None:
    """The pin or handle within reach of a spot, the closest one first."""
    near = [thing for thing in things if _far(thing, spot) <= _REACH]
    return min(near, key=lambda thing: _far(thing, spot), default=None)
