"""The field that fits a dial: shows its value, and tells what is done to it."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from wrinkle.core.design.document.dial_forms import (
    ColourForm,
    NumberForm,
    OptionsForm,
    TextForm,
)
from wrinkle.core.design.document.dials import Dial, DialValue
from wrinkle.core.errors import InputError
from wrinkle.ui.shared.choice_field import ChoiceField
from wrinkle.ui.shared.colour_field import ColourField
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of


def number_format(form: NumberForm) -> FieldFormat:
    """How a number of a dial is written."""
    return FieldFormat(suffix=form.suffix, decimals=form.decimals, step=form.step)


class DialField(QWidget):
    """A field with the value of a dial.

    Args:
        dial: whose value it shows.

    Signals:
        changing: a value while it is dragged.
        committed: a value that was typed, chosen or let go.
        faulted: one sentence on what was typed.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    faulted = pyqtSignal(str)

    def __init__(self, dial: Dial) -> None:
        super().__init__()
        self.dial = dial
        self._value: DialValue = dial.default
        self.field = self._made()
        self.field.setAccessibleName(dial.name)
        self.field.setToolTip(tip(dial.about or dial.name))
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.field)
        self.set_value(dial.default)

    @property
    def value(self) -> DialValue:
        """The value that is shown."""
        return self._value

    def set_value(self, value: DialValue) -> None:
        """Shows a value of the dial."""
        self._value = value
        field = self.field
        if isinstance(field, QLineEdit) and not isinstance(field, ValueField):
            if field.text() != str(value):
                field.setText(str(value))
        elif isinstance(value, Fraction):
            field.set_value(float(value))
        else:
            field.set_value(value)

    def _made(self) -> ValueField | ChoiceField | ColourField | QLineEdit:
        match self.dial.form:
            case OptionsForm(names=names):
                choice = ChoiceField(names)
                choice.committed.connect(self._take)
                return choice
            case ColourForm():
                colour = ColourField()
                colour.committed.connect(self._take)
                return colour
            case TextForm():
                line = QLineEdit()
                line.editingFinished.connect(lambda: self._take(line.text()))
                return line
            case NumberForm() as form:
                return self._number_field(form)

    def _number_field(self, form: NumberForm) -> ValueField:
        field = ValueField(number_format(form))
        field.changing.connect(partial(self._drag, form))
        field.committed.connect(lambda value: self._take(number_of(value)))
        field.abandoned.connect(lambda: self._tell(self._value))
        field.faulted.connect(self.faulted)
        field.formulaTyped.connect(
            lambda text: self.faulted.emit(f"{self.dial.name} takes a number, not a formula.")
        )
        return field

    def _drag(self, form: NumberForm, value: object) -> None:
        """Dragging stops at the ends of the range."""
        number = min(max(number_of(value), form.low), form.high)
        if not form.decimals:
            number = float(round(number))
        try:
            found = self.dial.checked(number)
        except InputError:
            return
        self.changing.emit(found)

    def _take(self, value: DialValue) -> None:
        try:
            found = self.dial.checked(value)
        except InputError as fault:
            self.faulted.emit(str(fault))
            self.set_value(self._value)
            return
        if found != self._value:
            self._tell(found)

    def _tell(self, value: DialValue) -> None:
        self.set_value(value)
        self.committed.emit(value)
