"""The field that fits a setting: shows a value, and tells what is done to it."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.motion.setting_spec import (
    ChoiceSpec,
    ColourSpec,
    CurveSpec,
    OutlineSpec,
    PairSpec,
    SettingSpec,
    SwitchSpec,
)
from wrinkle.core.motion.values import Value
from wrinkle.ui.shared.choice_field import ChoiceField
from wrinkle.ui.shared.colour_field import ColourField
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.outline_field import OutlineField
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField

Field = ValueField | ChoiceField | ColourField | OutlineField | CurveField
_COLOUR_PARTS = 3


def field_for(spec: SettingSpec) -> Field:
    """A field for the values of a setting."""
    match spec:
        case CurveSpec():
            return CurveField()
        case OutlineSpec():
            return OutlineField()
        case ChoiceSpec(choices=choices):
            return ChoiceField(choices)
        case SwitchSpec():
            return ChoiceField(())
        case ColourSpec():
            return ColourField()
    return ValueField(field_format(spec))


def field_format(spec: SettingSpec) -> FieldFormat:
    """How a number or a pair is written."""
    return FieldFormat(
        factor=spec.unit.shown_factor,
        suffix=spec.unit.suffix,
        decimals=2,
        step=spec.step,
        linked=isinstance(spec, PairSpec) and spec.linked,
    )


class SettingField(QObject):
    """A field with the value of a setting at a time.

    Attributes:
        field: the widget.

    Signals:
        changing: a value while it is dragged.
        committed: a value that was typed or let go.
        formulaTyped: a formula instead, empty to end it.
        abandoned: the drag was given up.
        faulted: one sentence on what was typed.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    formulaTyped = pyqtSignal(str)
    abandoned = pyqtSignal()
    faulted = pyqtSignal(str)
    told = pyqtSignal(str)

    def __init__(self, spec: SettingSpec, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._shown: Setting | None = None
        self._time = Fraction(0)
        self.field = field_for(spec)
        self.field.setAccessibleName(spec.label)
        self.field.setToolTip(tip(spec.about))
        self.field.committed.connect(self._commit)
        if isinstance(self.field, CurveField):
            self.field.changing.connect(self.changing)
            self.field.abandoned.connect(self.abandoned)
            self.field.told.connect(self.told)
        if isinstance(self.field, ValueField):
            self.field.describe(
                f"{spec.about} Drag sideways, or type a number, arithmetic, or = and a formula of "
                "t, frame, p and fps."
            )
            self.field.changing.connect(self.changing)
            self.field.formulaTyped.connect(self.formulaTyped)
            self.field.abandoned.connect(self.abandoned)
            self.field.faulted.connect(self.faulted)

    @property
    def text(self) -> str:
        """The value as it is written."""
        return self.field.text_of(self.field.value)

    def show_setting(self, setting: Setting, time: Fraction) -> None:
        """Shows a setting at a time."""
        self._shown, self._time = setting, time
        if isinstance(self.field, ValueField):
            self.field.set_formula(setting.formula)
        self.field.set_value(setting.at(time))

    def show_fault(self, typed: str, sentence: str) -> None:
        """Shows that what was typed cannot be taken."""
        if isinstance(self.field, ValueField):
            self.field.show_fault(typed, sentence)

    def _commit(self, value: Value) -> None:
        if self._shown is not None:
            self.committed.emit(value)
