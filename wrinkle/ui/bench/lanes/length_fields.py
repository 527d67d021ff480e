"""The window's lead and tail in frames, and the shutter, beside the strip."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtWidgets import QFormLayout, QWidget

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField


class LengthFields(QWidget):
    """Edits how many frames the window has on either side of the cut, and the motion blur."""

    def __init__(self, desk: Designing) -> None:
        super().__init__()
        self._desk = desk
        style = FieldFormat(decimals=2, suffix=" fr", step=1.0)
        self.lead, self.tail = ValueField(style), ValueField(style)
        self.shutter = ValueField(FieldFormat(decimals=1, suffix="°", step=10.0))
        layout = QFormLayout(self)
        layout.setContentsMargins(12, 4, 8, 4)
        layout.setVerticalSpacing(4)
        for name, field, about in (
            ("Lead", self.lead, "Frames before the cut in which something changes"),
            ("Tail", self.tail, "Frames after the cut in which something changes"),
            ("Shutter", self.shutter, "Of the motion blur: 360° is open for the whole frame"),
        ):
            field.setAccessibleName(name)
            field.setToolTip(tip(about))
            label = PlainLabel(name)
            label.setStyleSheet("font-weight: 600;")
            layout.addRow(label, field)
            field.faulted.connect(desk.messages.faulted)
            field.abandoned.connect(desk.document.abandon)
        self.lead.changing.connect(lambda value: self._set(value, None, preview=True))
        self.lead.committed.connect(lambda value: self._set(value, None))
        self.tail.changing.connect(lambda value: self._set(None, value, preview=True))
        self.tail.committed.connect(lambda value: self._set(None, value))
        self.shutter.changing.connect(lambda value: self._set_shutter(value, preview=True))
        self.shutter.committed.connect(self._set_shutter)
        desk.document.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Shows the state of the desk."""
        wrinkle = self._desk.document.state
        rate = wrinkle.frame_rate
        self.lead.set_value(float(wrinkle.lead * rate.per_second))
        self.tail.set_value(float(wrinkle.tail * rate.per_second))
        self.shutter.set_value(wrinkle.shutter_angle)

    def _set_shutter(self, angle: Value, preview: bool = False) -> None:
        degrees = parts(angle)[0]

        self._do("shutter", lambda before: wrinkle_edits.set_shutter(before, degrees), preview)

    def _set(self, lead: Value | None, tail: Value | None, preview: bool = False) -> None:
        wrinkle = self._desk.document.state
        rate = wrinkle.frame_rate

        def seconds(value: Value | None, old: Fraction) -> Fraction:
            return rate.seconds(round(value)) if isinstance(value, float) else old

        new_lead, new_tail = seconds(lead, wrinkle.lead), seconds(tail, wrinkle.tail)

        def change(before: Wrinkle) -> Wrinkle:
            return wrinkle_edits.set_length(before, new_lead, new_tail)

        self._do("length", change, preview)

    def _do(self, label: str, change: Callable[[Wrinkle], Wrinkle], preview: bool) -> None:
        if preview:
            self._desk.document.preview(change)
        else:
            self._desk.document.edit(label, change)
        self.refresh()
