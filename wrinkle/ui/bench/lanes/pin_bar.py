"""The selected pin in numbers: its frame, its value, and the ease that leads on from it."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QInputDialog,
    QLineEdit,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from wrinkle import library
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.design.edits.lane_edits import on_own_half, shown_key, shown_keys
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease
from wrinkle.core.motion.feels import FEELS, ease_text, feel_of, parse_ease
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.track import CUT, IncomingHalf
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.bench.lanes.lane_moves import PinMove
from wrinkle.ui.bench.lanes.pin_actions import remove_pins
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.ease_preview import EasePreview, ease_icon
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.picture_view import frame_label
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.setting_field import Field, field_for
from wrinkle.ui.shared.value_field import FieldFormat, ValueField
from wrinkle.ui.text_size import Extent, keep

_OWN_CURVE = "own curve"
_MARGIN, _SPACING = 12, 8


class PinBar(QWidget):
    """Edits the selected pin; says how to select one while there is none."""

    def __init__(self, desk: Designing) -> None:
        super().__init__()
        self._desk = desk
        self._hint = ElidedLabel(
            "Press a pin or a curve to see its numbers. K sets a pin here.",
            Qt.TextElideMode.ElideRight,
        )
        self._hint.setObjectName("quiet")
        self._name = PlainLabel()
        self.frame = ValueField(FieldFormat(decimals=0, suffix=" fr"))
        keep(self.frame, Extent.WIDTH, 64)
        self.frame.setAccessibleName("Frame of the pin")
        self.frame.setToolTip("Frames from the cut")
        self._value_place = QHBoxLayout()
        self._value_place.setContentsMargins(0, 0, 0, 0)
        self.value: Field | None = None
        self.feel = QComboBox()
        self.feel.setAccessibleName("Feel of the ease")
        self.feel.setIconSize(QSize(22, 16))
        self.preview = EasePreview()
        self.keep_button = QToolButton()
        self.keep_button.setText("Keep…")
        self.keep_button.setToolTip("Save this ease as a feel of your own")
        self.keep_button.clicked.connect(self._keep_feel)
        self._own: dict[str, Ease] = {}
        self.typed = QLineEdit()
        self.typed.setMinimumWidth(60)
        self.typed.setAccessibleName("Ease as text")
        self.typed.setToolTip(
            "A feel, a CSS ease, cubic-bezier(x1, y1, x2, y2), steps(n), power(3, out), "
            "spring(damping, swings), break(pause), or a table of values pasted from a sheet"
        )
        self._remove = QToolButton()
        self._remove.setText("Remove pin")
        self._ease_label = PlainLabel("leads on with")
        self._ease_label.setObjectName("quiet")
        layout = QHBoxLayout(self)
        layout.setContentsMargins(_MARGIN, 4, _MARGIN, 4)
        layout.setSpacing(_SPACING)
        layout.addWidget(self._hint, 1)
        layout.addWidget(self._name)
        layout.addWidget(self.frame)
        layout.addLayout(self._value_place)
        layout.addWidget(self._ease_label)
        layout.addWidget(self.feel)
        layout.addWidget(self.typed, 1)
        layout.addWidget(self.preview)
        layout.addWidget(self.keep_button)
        layout.addWidget(self._remove)
        layout.addStretch(0)
        self.frame.committed.connect(self._move)
        self.frame.faulted.connect(desk.messages.faulted)
        self.feel.activated.connect(self._choose_feel)
        self.typed.returnPressed.connect(self._type_ease)
        self._remove.clicked.connect(self._remove_pin)
        self._of_a_pin: tuple[QWidget, ...] = (
            self._name,
            self.frame,
            self._ease_label,
            self.feel,
            self.typed,
            self.preview,
            self.keep_button,
            self._remove,
        )
        self._first_to_go = (self._ease_label, self.preview, self.typed)
        self._spec: SettingSpec | None = None
        self._fill_feels()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        desk.looking.selectionChanged.connect(self.refresh)
        desk.document.changed.connect(self.refresh)
        self.refresh()
        self._fit()

    def sizeHint(self) -> QSize:
        # As high without a pin as with one: the lanes above do not jump.
        high = max(x.sizeHint().height() for x in (self.feel, self.typed)) + 8
        return QSize(super().sizeHint().width(), high)

    def minimumSizeHint(self) -> QSize:
        # Whatever does not fit is left out: the bar pushes nothing aside.
        return QSize(0, self.sizeHint().height())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """In a narrow window what can be spared goes first."""
        there = self._desk.looking.pin is not None
        shown = [x for x in (*self._of_a_pin, self.value) if x is not None]
        wanted = {x: max(x.minimumWidth(), x.minimumSizeHint().width()) + _SPACING for x in shown}
        wanted[self._name] = self._name.sizeHint().width() + _SPACING
        over = sum(wanted.values()) + 2 * _MARGIN - self.width()
        for widget in self._first_to_go:
            widget.setVisible(there and over <= 0)
            over -= wanted[widget] if over > 0 else 0

    def refresh(self) -> None:
        """Shows the selected pin."""
        pin = self._desk.looking.pin
        for widget in self._of_a_pin:
            if widget not in self._first_to_go:
                widget.setVisible(pin is not None)
        self._hint.setVisible(pin is None)
        self._show_spec(pin.ref.spec(self._desk.document.state) if pin else None)
        if pin is None:
            return
        wrinkle = self._desk.document.state
        setting = pin.ref.of(wrinkle)
        shown = next(
            (x for x in shown_keys(setting) if x[0] == pin.index and x[1] is pin.side), None
        )
        if setting.track is None or shown is None:
            return
        self.frame.set_value(float(shown[2] * wrinkle.frame_rate.per_second))
        self._show_name(pin, shown[2], setting.track.incoming)
        if self.value is not None:
            self.value.set_value(shown[3])
        leads_on = pin.index + 1 < len(setting.track.keys)
        for widget in (self._ease_label, self.feel, self.typed, self.keep_button):
            widget.setEnabled(leads_on)
        ease = setting.track.keys[pin.index].ease
        self.preview.show_ease(ease if leads_on else None)
        self.feel.setCurrentText(feel_of(ease, self._own) or _OWN_CURVE)
        if not self.typed.hasFocus() or not self.typed.isModified():
            self.typed.setText(ease_text(ease) if leads_on else "last pin")
            self.typed.setCursorPosition(0)

    def _show_name(self, pin: PinChoice, time: Fraction, half: IncomingHalf) -> None:
        """Which pin it is, and which other one moves with it."""
        wrinkle = self._desk.document.state
        name = f"{pin.ref.spec(wrinkle).label} pin"
        twin = half is not IncomingHalf.OWN and time != CUT
        if twin:
            name += f", twin at {frame_label(wrinkle.frame_rate.nearest_frame(-time))}"
        if name != self._name.text():
            self._name.setText(name)
            self._name.setToolTip(
                tip(f"The incoming half is “{half.value}”: its pin moves with this one")
                if twin
                else ""
            )
            self._fit()

    def _show_spec(self, spec: SettingSpec | None) -> None:
        """The name, the field's format and with them the room follow the selected pin's setting."""
        if spec == self._spec:
            return
        self._spec = spec
        if self.value is not None:
            self._value_place.removeWidget(self.value)
            self.value.hide()
            self.value.deleteLater()
            self.value = None
        if spec is not None:
            self.value = field_for(spec)
            # One number is short: what it leaves goes to the ease as text.
            single = spec.numeric and len(parts(spec.neutral)) == 1
            keep(self.value, Extent.WIDTH, 72 if single else 112)
            self.value.setAccessibleName("Value of the pin")
            self.value.committed.connect(self._set_value)
            if isinstance(self.value, ValueField):
                self.value.changing.connect(self._preview_value)
                self.value.abandoned.connect(self._desk.document.abandon)
                self.value.faulted.connect(self._desk.messages.faulted)
            self._value_place.addWidget(self.value)
        self._fit()

    def _placed(self, frame: float | None, value: Value | None) -> PinMove | None:
        """Where the selected pin goes with another frame or another value."""
        pin = self._desk.looking.pin
        if pin is None:
            return None
        wrinkle = self._desk.document.state
        setting = pin.ref.of(wrinkle)
        time, shown = shown_key(setting, pin.index, pin.side)
        if frame is not None:
            time = wrinkle.frame_rate.seconds(round(frame))
        time, value = on_own_half(setting, pin.side, time, shown if value is None else value)
        return PinMove(pin.ref, pin.index, time, value)

    def _move(self, frame: Value) -> None:
        move = self._placed(parts(frame)[0], None)
        if move is not None:
            self._desk.document.edit("pin moved", move.apply)

    def _set_value(self, value: Value) -> None:
        move = self._placed(None, value)
        if move is not None:
            self._desk.document.edit("value of a pin", move.apply)

    def _preview_value(self, value: Value) -> None:
        move = self._placed(None, value)
        if move is not None:
            self._desk.document.preview(move.apply)

    def _choose_feel(self) -> None:
        name = self.feel.currentText()
        if name != _OWN_CURVE:
            self._set_ease(name)
        self.refresh()

    def _type_ease(self) -> None:
        self.typed.setModified(False)
        self._set_ease(self.typed.text())

    def _set_ease(self, text: str) -> None:
        pin = self._desk.looking.pin
        if pin is None:
            return
        try:
            ease = parse_ease(text, self._own)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        self._desk.document.edit("ease", lambda w: lane_edits.set_ease(w, pin.ref, pin.index, ease))

    def _fill_feels(self) -> None:
        """The shipped feels and one's own, each with its curve."""
        try:
            self._own = library.own_feels()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
        self.feel.clear()
        for name, ease in {**FEELS, **self._own}.items():
            self.feel.addItem(ease_icon(ease), name)
        self.feel.addItem(_OWN_CURVE)

    def _keep_feel(self) -> None:
        name, taken = QInputDialog.getText(self, "Keep this ease", "Name of the feel")
        pin = self._desk.looking.pin
        track = pin.ref.of(self._desk.document.state).track if pin is not None else None
        if not taken or pin is None or track is None:
            return
        try:
            library.keep_feel(name, track.keys[pin.index].ease)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        self._fill_feels()
        self.refresh()

    def _remove_pin(self) -> None:
        remove_pins(self._desk)
