"""One lane: the curve of a setting along the frames, with pins and the handles of an ease.

It paints and drags; what a drag means is said by signals.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import keyframes, lane_edits
from wrinkle.core.design.edits.lane_edits import on_own_half
from wrinkle.core.motion.seam import SeamFault
from wrinkle.core.motion.setting_spec import PairSpec, SettingSpec
from wrinkle.core.motion.track import CUT, IncomingHalf, Side
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.bench.lanes.lane_geometry import (
    Handle,
    LaneGeometry,
    Pin,
    far,
    nearest,
    twin_of,
    value_range,
)
from wrinkle.ui.bench.lanes.lane_hand import LaneHand
from wrinkle.ui.bench.lanes.lane_moves import EaseChange, PinMove, PinsEdit
from wrinkle.ui.bench.lanes.lane_rows import LanePin, frame_of, lane_columns, pins_of
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.colour_field import shown_colour
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.frame_table import FrameModel
from wrinkle.ui.shared.key_hand import KeyHand
from wrinkle.ui.theme import active, small_font

LEAST_HEIGHT, MOST_HEIGHT = 50, 110
_HEAD = 4.5
_DRAG_START = 3
_COLOUR_PARTS = 3
_CONFIDENCE = 18.0
_UNSURE = 0.6


@dataclass(frozen=True)
class _Curve:
    """A curve as it is painted: its line and the area down to the setting's rest.

    Attributes:
        band, line: in the lane.
        role: the colour's role in the theme.
        first: whether it is that of a setting's first number.
    """

    band: QPainterPath
    line: QPainterPath
    role: str
    first: bool

    @classmethod
    def through(cls, points: list[QPointF], base: float, role: str, first: bool) -> _Curve:
        """The curve through points, its area down or up to a base."""
        band, line = QPainterPath(QPointF(points[0].x(), base)), QPainterPath(points[0])
        for point in points:
            band.lineTo(point)
            line.lineTo(point)
        band.lineTo(points[-1].x(), base)
        return cls(band, line, role, first)


@dataclass(frozen=True)
class _Drawing:
    """What a lane shows of its wrinkle; worked out once, not at each paint.

    Attributes:
        wrinkle: of which it was worked out.
        geometry: where all is.
        curves: of all numbers on both sides.
        pins: their heads.
        fault: what breaks the motion at the cut, in a word or two; empty where nothing does.
    """

    wrinkle: Wrinkle
    geometry: LaneGeometry
    curves: list[_Curve]
    pins: list[Pin]
    fault: str


class LaneCanvas(FrameCanvas):
    """Draws and edits the curve of one setting.

    Signals:
        pinPicked: a pin was pressed (PinChoice), or None for the empty ground.
        pinToggled: a pin was pressed with Ctrl (PinChoice).
        banding: a rubber band is pulled (QRectF, which may reach over other lanes).
        banded: and let go.
        changing: a drag goes on (PinMove or EaseChange).
        dropped: the drag ended; its text names the step.
        abandoned: the drag was given up with Escape.
        pinWanted: a double click on a frame without a pin.
        pinsUnwanted: Delete was pressed.
        pinFound: a key chose a pin (PinChoice), which stands on this frame.
        told: what a key did, in a sentence.
    """

    pinPicked = pyqtSignal(object)
    pinToggled = pyqtSignal(object)
    banding = pyqtSignal(object)
    banded = pyqtSignal(object)
    changing = pyqtSignal(object)
    dropped = pyqtSignal(str)
    abandoned = pyqtSignal()
    pinWanted = pyqtSignal(int)
    pinsUnwanted = pyqtSignal()
    pinFound = pyqtSignal(object, int)
    told = pyqtSignal(str)

    def __init__(self, ref: SettingRef, spec: SettingSpec, parent: QWidget | None = None) -> None:
        columns = lane_columns(spec, lambda: self._wrinkle, self._type)
        model = FrameModel(
            spec.label, columns, lambda pin: frame_of(pin, self._wrinkle), self._listed
        )
        super().__init__(f"Lane of {spec.label}", model, parent=parent)
        self._ref = ref
        self._spec = spec
        self._wrinkle: Wrinkle | None = None
        self._pin: PinChoice | None = None
        self._pins: frozenset[PinChoice] = frozenset()
        self.band: QRectF | None = None
        self._with_speed = False
        self._held_range: tuple[float, float] | None = None
        self._placed: tuple[Wrinkle | None, object, LaneGeometry | None] | None = None
        self._drawn: _Drawing | None = None
        self._pictured: tuple[list[_Curve], object, QPixmap] | None = None
        self._drag: Pin | Handle | None = None
        self._moved = False
        self._press = QPointF()
        self.setFixedHeight(LEAST_HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        hand = LaneHand(
            self, ref, spec, self.pinFound.emit, self.changing.emit, self.dropped.emit,
            self.abandoned.emit,
        )  # fmt: skip
        KeyHand(self, hand, self.told.emit)

    def show_lane(self, desk: Designing) -> None:
        """Shows the setting as it is in the desk, on demand with its speed."""
        looking = desk.looking
        shown = (desk.document.state, looking.pin, looking.pins, looking.speed_shown)
        if shown != (self._wrinkle, self._pin, self._pins, self._with_speed):
            self._wrinkle, self._pin, self._pins, self._with_speed = shown
            self.set_frames(desk.document.state.frames)
            self.update()
            if self.model is not None:
                self.model.refresh()
        self.show_playhead(looking.playhead)

    def _listed(self) -> list[LanePin]:
        """The pins as the table lists them."""
        wrinkle = self._wrinkle
        there = wrinkle is not None and self._ref.exists(wrinkle)
        return pins_of(self._ref, wrinkle) if wrinkle is not None and there else []

    def _type(self, change: PinMove | PinsEdit) -> bool:
        """What was typed into the table is a drag that ends at once."""
        self.changing.emit(change)
        self.dropped.emit(f"pin of {self._spec.label.lower()}")
        return True

    @property
    def pin(self) -> PinChoice | None:
        """The selected pin, of this lane or another."""
        return self._pin

    def hold_range(self, held: bool) -> None:
        """The numbers at its head and foot stand still while something is carried."""
        geometry = self.geometry_now
        self._held_range = (geometry.low, geometry.high) if held and geometry is not None else None
        self.update()

    @property
    def geometry_now(self) -> LaneGeometry | None:
        """What is where; None while there is no such lane. Numbers stand still during a drag."""
        wrinkle, place = self._wrinkle, (self.axis, self.height(), self._held_range)
        if self._placed is None or self._placed[0] is not wrinkle or self._placed[1] != place:
            self._placed = wrinkle, place, self._geometry(wrinkle) if wrinkle is not None else None
        return self._placed[2]

    def _geometry(self, wrinkle: Wrinkle) -> LaneGeometry | None:
        if not self._ref.exists(wrinkle):
            return None
        setting = self._ref.of(wrinkle)
        if setting.track is None:
            return None
        low, high = self._held_range or value_range(setting, self._spec)
        rate = wrinkle.frame_rate.per_second
        return LaneGeometry(
            self._ref, self._spec, setting, rate, self.axis, self.height(), low, high
        )

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, axis = active(), self.axis
        here = QRectF(axis.x(self.playhead), 0, axis.cell, self.height())
        painter.fillRect(here, theme.colour("selected", 0.55))
        painter.setPen(theme.colour("rule"))
        painter.drawLine(QLineF(0, self.height() - 0.5, self.width(), self.height() - 0.5))
        geometry, wrinkle = self.geometry_now, self._wrinkle
        if geometry is None or wrinkle is None:
            return
        drawing = self._drawing(geometry, wrinkle)
        painter.drawPixmap(0, 0, self._curves_picture(drawing))
        if len(parts(geometry.setting.rest)) == _COLOUR_PARTS:
            self._paint_colours(painter, geometry)
        if self._with_speed and self._spec.numeric:
            self._paint_speed(painter, geometry)
        self._paint_confidence(painter)
        self.paint_seam(painter)
        if drawing.fault:
            painter.setFont(small_font(self.font(), bold=True))
            painter.setPen(theme.colour("seam"))
            painter.drawText(QPointF(axis.x(0) + 8, 13), drawing.fault)
        self._paint_follower(painter, geometry)
        self._paint_pins(painter, geometry, drawing.pins)
        self._paint_handles(painter, geometry)
        if self.band is not None:
            painter.setPen(QPen(theme.colour("ink"), 1.0, Qt.PenStyle.DashLine))
            painter.setBrush(theme.colour("selected", 0.4))
            painter.drawRect(self.band)

    def _drawing(self, geometry: LaneGeometry, wrinkle: Wrinkle) -> _Drawing:
        kept = self._drawn
        if kept is None or kept.wrinkle is not wrinkle or kept.geometry != geometry:
            same = kept is not None and kept.geometry == geometry
            curves = kept.curves if kept is not None and same else self._curves(geometry)
            fault = _words(lane_edits.fault_at_cut(wrinkle, self._ref))
            kept = self._drawn = _Drawing(wrinkle, geometry, curves, geometry.pins(), fault)
        return kept

    def _curves_picture(self, drawing: _Drawing) -> QPixmap:
        """The curves on clear ground: the playhead moves over them far oftener than they change."""
        look = (active().name, self.size(), self.devicePixelRatioF())
        kept = self._pictured
        # Paths that differ by a hair are equal to Qt.
        if kept is not None and kept[0] is drawing.curves and kept[1] == look:
            return kept[2]
        picture = QPixmap(self.size() * look[2])
        picture.setDevicePixelRatio(look[2])
        picture.fill(Qt.GlobalColor.transparent)
        painter, theme = QPainter(picture), active()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for curve in drawing.curves:
            painter.fillPath(curve.band, theme.colour(curve.role, 0.20 if curve.first else 0.10))
            pen = QPen(theme.colour(curve.role), 1.6)
            if not curve.first:
                pen.setDashPattern([3, 2.5])
            painter.strokePath(curve.line, pen)
        painter.end()
        self._pictured = drawing.curves, look, picture
        return picture

    def _curves(self, geometry: LaneGeometry) -> list[_Curve]:
        """The curves of all numbers on both sides."""
        curves = []
        for part, rest in enumerate(geometry.numbers(geometry.setting.rest)):
            base = min(max(geometry.y(rest), 0.0), float(self.height()))
            for side, role in ((Side.OUTGOING, "outgoing"), (Side.INCOMING, "incoming")):
                curves.append(_Curve.through(geometry.curve(part, side), base, role, part == 0))
        return curves

    def _paint_colours(self, painter: QPainter, geometry: LaneGeometry) -> None:
        """The colour of each frame across the middle of the lane."""
        axis = geometry.axis
        for frame in range(axis.first, axis.end):
            colour = shown_colour(geometry.setting.at(Fraction(frame) / geometry.rate))
            cell = QRectF(axis.x(frame), 22, axis.cell + 0.5, self.height() - 44)
            painter.fillRect(cell, colour)

    def _paint_confidence(self, painter: QPainter) -> None:
        """How sure a followed path is, as a column for each frame; unsure ones in thread red."""
        address = self._ref.address
        if self._wrinkle is None or not address.mask or address.name != "path":
            return
        mask = self._wrinkle.layer(self._ref.layer).mask(address.mask)
        axis, theme = self.axis, active()
        for time, sure in mask.confidence:
            frame = self._wrinkle.frame_rate.nearest_frame(time)
            height = sure * _CONFIDENCE
            role = "seam" if sure < _UNSURE else "ink"
            column = QRectF(axis.x(frame) + 2, self.height() - 3 - height, axis.cell - 4, height)
            painter.fillRect(column, theme.colour(role, 0.55))

    def _paint_speed(self, painter: QPainter, geometry: LaneGeometry) -> None:
        painter.setPen(QPen(active().colour("ink", 0.75), 1.2, Qt.PenStyle.DotLine))
        for part in range(len(parts(geometry.setting.rest))):
            for points in geometry.speed_curves(part):
                for start, end in pairwise(points):
                    painter.drawLine(start, end)

    def _paint_follower(self, painter: QPainter, geometry: LaneGeometry) -> None:
        """Says which half follows the other one."""
        track = geometry.setting.track
        if track is None or track.incoming is IncomingHalf.OWN:
            return
        painter.setFont(small_font(self.font()))
        painter.setPen(active().colour("incoming_text"))
        room = QRectF(self.rect()).adjusted(0, 2, -16, 0)
        words = f"follows the half before the cut ({track.incoming.value})"
        after_cut = int(room.right() - max(self.axis.x(0), 0.0)) - 12
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, after_cut)
        painter.drawText(room, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop, words)

    def _paint_pins(self, painter: QPainter, geometry: LaneGeometry, shown: list[Pin]) -> None:
        theme = active()
        twins = {twin_of(x) for x in self._pins}
        for pin in shown:
            role = "outgoing" if pin.choice.side is Side.OUTGOING else "incoming"
            painter.setPen(QPen(theme.colour(role), 1.4))
            painter.drawLine(QLineF(pin.spot.x(), pin.spot.y(), pin.spot.x(), self.height() - 3))
            chosen = pin.choice in self._pins
            painter.setPen(QPen(theme.colour("ink" if chosen else "panel"), 2.0 if chosen else 1.2))
            painter.setBrush(theme.colour(role))
            if geometry.follows(pin):
                # A pin that only follows is a ring; the one whose original is chosen moves along.
                moves = not chosen and pin.choice in twins
                painter.setPen(QPen(theme.colour("ink" if chosen or moves else role), 1.8))
                painter.setBrush(theme.colour("panel"))
            painter.drawEllipse(pin.spot, _HEAD, _HEAD)

    def _paint_handles(self, painter: QPainter, geometry: LaneGeometry) -> None:
        theme = active()
        for handle in geometry.handles(self._pin):
            painter.setPen(QPen(theme.colour("ink", 0.7), 1.0))
            painter.drawLine(QLineF(handle.anchor, handle.spot))
            painter.setBrush(theme.colour("panel"))
            painter.setPen(QPen(theme.colour("ink"), 1.3))
            painter.drawEllipse(handle.spot, 3.4, 3.4)

    # Dragging

    def show_band(self, band: QRectF | None) -> None:
        """Draws a rubber band, as far as it lies in this lane."""
        self.band = band
        self.update()

    def caught(self, band: QRectF) -> frozenset[PinChoice]:
        """The pins within a rubber band."""
        geometry = self.geometry_now
        there = geometry.pins() if geometry is not None else ()
        return frozenset(pin.choice for pin in there if band.contains(pin.spot))

    def _pulled(self, spot: QPointF) -> QRectF:
        return QRectF(self._press, spot).normalized()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        geometry = self.geometry_now
        if event is None or event.button() != Qt.MouseButton.LeftButton or geometry is None:
            return
        self._press = event.position()
        self._moved = False
        self._held_range = (geometry.low, geometry.high)
        handle = nearest(geometry.handles(self._pin), self._press)
        pin = nearest(geometry.pins(), self._press)
        if handle is not None and pin is not None:
            handle = handle if far(handle, self._press) < far(pin, self._press) else None
        self._drag = handle or pin
        toggles = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        # One of several selected pins is pressed to drag them all: they stay selected.
        of_several = pin is not None and pin.choice in self._pins and len(self._pins) > 1
        if handle is None and pin is not None and toggles:
            self._drag = None
            self.pinToggled.emit(pin.choice)
        elif handle is None and not of_several:
            choice = pin.choice if pin is not None else geometry.pin_before(self._press)
            self.pinPicked.emit(choice)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        spot = event.position()
        if self._drag is None and event.buttons() & Qt.MouseButton.LeftButton:
            self.banding.emit(self._pulled(spot))
        if self._drag is None:
            return
        if not self._moved and (spot - self._press).manhattanLength() < _DRAG_START:
            return
        self._moved = True
        geometry = self.geometry_now
        if geometry is None:
            return
        if isinstance(self._drag, Pin):
            scales = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            if scales:
                self.changing.emit(self._scaled_time(geometry, self._drag, spot))
            elif len(self._pins) > 1:
                self.changing.emit(self._shifted(geometry, self._drag, spot))
            else:
                self.changing.emit(self._pin_move(geometry, self._drag, spot))
        elif self._pin is not None:
            ease = geometry.ease_with(self._pin, self._drag.number, spot)
            if ease is not None:
                self.changing.emit(EaseChange(self._ref, self._pin.index, ease))

    def _chosen(self) -> dict[SettingRef, frozenset[int]]:
        """The selected pins of all lanes; with one alone all of this lane."""
        geometry = self.geometry_now
        if len(self._pins) <= 1 and geometry is not None and geometry.setting.track is not None:
            return {self._ref: frozenset(range(len(geometry.setting.track.keys)))}
        refs = {pin.ref for pin in self._pins}
        return {ref: frozenset(x.index for x in self._pins if x.ref == ref) for ref in refs}

    def _shifted(self, geometry: LaneGeometry, pin: Pin, spot: QPointF) -> PinsEdit:
        """All selected pins moved in time by whole frames; a mirrored pin moves its original."""
        way = spot.x() - self._press.x()
        frames = round(way / geometry.axis.cell)
        mirrored = geometry.own_time(pin) != pin.time
        by = Fraction(-frames if mirrored else frames) / geometry.rate
        chosen = self._chosen()
        return PinsEdit(lambda wrinkle: keyframes.shift(wrinkle, chosen, by))

    def _scaled_time(self, geometry: LaneGeometry, pin: Pin, spot: QPointF) -> PinsEdit:
        """Time scaled about the seam so that the dragged pin stays under the pointer."""
        place = geometry.axis.frame(pin.spot.x() + spot.x() - self._press.x())
        old = float(pin.time * geometry.rate)
        ratio = place / old if abs(old) >= 1 else 1.0
        factor = Fraction(max(ratio, 0.01)).limit_denominator(10**4)
        chosen = self._chosen()
        return PinsEdit(lambda wrinkle: keyframes.scale_time(wrinkle, chosen, factor))

    def _pin_move(self, geometry: LaneGeometry, pin: Pin, spot: QPointF) -> PinMove:
        """Whole frames across, whole steps up; a pin stays on its side of the cut."""
        way = spot - self._press
        frame = round(geometry.axis.frame(pin.spot.x() + way.x()))
        time = Fraction(frame) / geometry.rate
        time = min(time, CUT) if pin.choice.side is Side.OUTGOING else max(time, CUT)
        value = pin.value
        if abs(way.y()) >= _DRAG_START:
            step = self._spec.step
            number = round(geometry.number_at(pin.spot.y() + way.y()) / step) * step
            if self._spec.numeric:
                value = self._with_number(pin, min(max(number, self._spec.low), self._spec.high))
            else:
                value = geometry.value_at(number, pin.value)
        time, value = on_own_half(geometry.setting, pin.choice.side, time, value)
        return PinMove(self._ref, pin.choice.index, time, value)

    def _with_number(self, pin: Pin, number: float) -> Value:
        """The pin's value with the dragged number; linked equal numbers stay equal."""
        if not isinstance(pin.value, tuple):
            return number
        first, second = parts(pin.value)
        if isinstance(self._spec, PairSpec) and self._spec.linked and first == second:
            return (number, number)
        return (number, second) if pin.part == 0 else (first, number)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        drag, self._drag, self._held_range = self._drag, None, None
        if event is not None and self.band is not None:
            self.banded.emit(self._pulled(event.position()))
        if drag is not None and self._moved:
            what = "pin" if isinstance(drag, Pin) else "ease"
            self.dropped.emit(f"{what} of {self._spec.label.lower()}")
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        geometry = self.geometry_now
        if event is None or geometry is None:
            return
        if nearest(geometry.pins(), event.position()) is None:
            self.pinWanted.emit(self.axis.frame_under(event.position().x()))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_Escape and self._drag is not None:
            self._drag, self._held_range = None, None
            self.abandoned.emit()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self._pins:
            self.pinsUnwanted.emit()
        else:
            super().keyPressEvent(event)


def _words(fault: SeamFault | None) -> str:
    if fault is None:
        return ""
    named = (("jump", fault.jump), ("kink", fault.speeds))
    return " and ".join(word for word, there in named if there)
