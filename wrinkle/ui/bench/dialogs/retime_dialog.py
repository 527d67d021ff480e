"""The frame, rate, length and shutter of a wrinkle; what changes is shown before it is applied."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.design.edits.retiming import Retiming, pin_frames, retime
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.value_field import FieldFormat, ValueField

_SIZES = ("1080×1920", "1920×1080", "1080×1080", "1080×1350")
_RATES = ("24", "25", "29.97", "30", "50", "60")


class RetimeDialog(QDialog):
    """Edits all of it in one undo step."""

    def __init__(self, desk: Designing, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk = desk
        self._before = desk.document.state
        self.setWindowTitle("Frame, rate, length and shutter")
        wrinkle = desk.document.state
        per_second = wrinkle.frame_rate.per_second
        self.size_box = self._box("Size", _SIZES, Size(*wrinkle.reference_size).label)
        self.rate_box = self._box("Frames a second", _RATES, wrinkle.frame_rate.label)
        self.lead = self._field("Lead", FieldFormat(suffix=" fr"), wrinkle.lead * per_second)
        self.tail = self._field("Tail", FieldFormat(suffix=" fr"), wrinkle.tail * per_second)
        self.factor = self._field("Whole length", FieldFormat(suffix=" %"), 100.0)
        self.stretch = QCheckBox("Stretch the pins with the length")
        self.stretch.toggled.connect(self.refresh)
        self.shutter = self._field(
            "Shutter angle", FieldFormat(suffix="°", step=10.0), wrinkle.shutter_angle
        )
        self.phase = self._field(
            "Shutter phase", FieldFormat(suffix="°", step=10.0), wrinkle.shutter_phase
        )
        self.phase.setToolTip("By how much the open shutter is later than the frame; 0 is centred")
        self.message = PlainLabel()
        self.message.setWordWrap(True)
        self.message.setMinimumWidth(380)
        self.buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        form = QFormLayout()
        for widget in (self.size_box, self.rate_box, self.lead, self.tail, self.factor):
            form.addRow(widget.accessibleName(), widget)
        form.addRow("", self.stretch)
        for widget in (self.shutter, self.phase):
            form.addRow(widget.accessibleName(), widget)
        layout = QVBoxLayout(self)
        layout.addLayout(form)
        layout.addWidget(self.message)
        layout.addWidget(self.buttons)
        self.refresh()

    def wanted(self) -> Wrinkle:
        """The wrinkle as the fields say.

        Raises:
            InputError: a value is not possible, or pins would be left outside.
        """
        before = self._before
        text = self.rate_box.currentText()
        same = text == before.frame_rate.label
        rate = before.frame_rate if same else FrameRate.parse(text)
        factor = _exact(self.factor.value) / 100
        # Lengths are typed in frames of the rate that the wrinkle has now.
        old = before.frame_rate.per_second
        lead = _exact(self.lead.value) / old * factor
        tail = _exact(self.tail.value) / old * factor
        changed = retime(before, Retiming(rate, lead, tail, self.stretch.isChecked()))
        changed = wrinkle_edits.set_frame(changed, Size.parse(self.size_box.currentText()), rate)
        return wrinkle_edits.set_shutter(
            changed, parts(self.shutter.value)[0], parts(self.phase.value)[0]
        )

    def refresh(self) -> None:
        """Says what would change."""
        ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        try:
            changed = self.wanted()
        except InputError as fault:
            self.message.setText(str(fault))
            if ok is not None:
                ok.setEnabled(False)
            return
        if ok is not None:
            ok.setEnabled(True)
        before, after = self._before, changed
        lines = [
            f"{len(before.frames)} frames at {before.frame_rate.label} become "
            f"{len(after.frames)} at {after.frame_rate.label}."
        ]
        for (name, old), (_, new) in zip(pin_frames(before), pin_frames(after), strict=True):
            if old != new:
                lines.append(f"{name}: pins on {_row(old)} go to {_row(new)}.")
        self.message.setText("\n".join(lines))

    def accept(self) -> None:
        """Applies what was shown."""
        try:
            changed = self.wanted()
        except InputError as fault:
            self.message.setText(str(fault))
            return
        self._desk.document.edit("frame, rate and length", lambda w: changed)
        super().accept()

    def _field(self, name: str, style: FieldFormat, value: float | Fraction) -> ValueField:
        field = ValueField(style)
        field.setAccessibleName(name)
        field.set_value(float(value))

        def take(number: Value) -> None:
            field.set_value(number)
            self.refresh()

        field.changing.connect(take)
        field.committed.connect(take)
        field.faulted.connect(lambda text: self.message.setText(text))
        return field

    def _box(self, name: str, choices: tuple[str, ...], now: str) -> QComboBox:
        box = QComboBox()
        box.setEditable(True)
        box.setAccessibleName(name)
        box.addItems(choices)
        box.setCurrentText(now)
        box.currentTextChanged.connect(self.refresh)
        return box


def _exact(value: Value) -> Fraction:
    return Fraction(parts(value)[0]).limit_denominator(10**6)


def _row(frames: list[Fraction]) -> str:
    return ", ".join(f"{float(frame):.4g}" for frame in frames)
