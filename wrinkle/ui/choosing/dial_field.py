"""The field that fits a dial: shows its value, and tells what is done to it."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from wrinkle.core.design.document.dials import (
    AmountDial,
    ChoiceDial,
    ColourDial,
    Dial,
    DialValue,
    SeedDial,
    SwitchDial,
    TimeDial,
    WordsDial,
)
from wrinkle.core.errors import InputError
from wrinkle.ui.shared.choice_field import ChoiceField
from wrinkle.ui.shared.colour_field import ColourField
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField, number_of

_FINEST_LENGTH = 10**6
_TIME_STEP = 1 / 30


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
        match self.dial:
            case ChoiceDial() | SwitchDial():
                choices = self.dial.options if isinstance(self.dial, ChoiceDial) else ()
                choice = ChoiceField(choices)
                choice.committed.connect(self._take)
                return choice
            case ColourDial():
                colour = ColourField()
                colour.committed.connect(self._take)
                return colour
            case WordsDial():
                line = QLineEdit()
                line.editingFinished.connect(lambda: self._take(line.text()))
                return line
        field = ValueField(self._format())
        field.changing.connect(self._drag)
        field.committed.connect(self._take)
        field.abandoned.connect(lambda: self._tell(self._value))
        field.faulted.connect(self.faulted)
        field.formulaTyped.connect(
            lambda text: self.faulted.emit(f"{self.dial.name} takes a number, not a formula.")
        )
        return field

    def _format(self) -> FieldFormat:
        match self.dial:
            case AmountDial():
                return FieldFormat(suffix=self.dial.unit.suffix, step=self.dial.step)
            case TimeDial():
                return FieldFormat(suffix=" s", decimals=3, step=_TIME_STEP)
        return FieldFormat(decimals=0)

    def _read(self, value: object) -> DialValue:
        """A value of the field as one of the dial.

        Raises:
            InputError: the dial cannot have it.
        """
        dial = self.dial
        if isinstance(dial, TimeDial):
            return dial.checked(Fraction(number_of(value)).limit_denominator(_FINEST_LENGTH))
        if isinstance(dial, AmountDial | SeedDial):
            return dial.checked(number_of(value))
        if isinstance(value, str | bool | tuple):
            return dial.checked(value)
        raise TypeError(type(value))

    def _drag(self, value: object) -> None:
        """Dragging stops at the ends of the range."""
        number, dial = number_of(value), self.dial
        if isinstance(dial, AmountDial | TimeDial):
            number = min(max(number, float(dial.low)), float(dial.high))
        elif isinstance(dial, SeedDial):
            number = float(max(round(number), 0))
        try:
            found = self._read(number)
        except InputError:
            return
        self.changing.emit(found)

    def _take(self, value: object) -> None:
        try:
            found = self._read(value)
        except InputError as fault:
            self.faulted.emit(str(fault))
            self.set_value(self._value)
            return
        if found != self._value:
            self._tell(found)

    def _tell(self, value: DialValue) -> None:
        self.set_value(value)
        self.committed.emit(value)
