"""The field that fits a setting, and its tie to the session: shows the value, and edits it."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from wrinkle.core.design import lane_edits
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.session import Session
from wrinkle.ui.shared.choice_field import ChoiceField
from wrinkle.ui.shared.colour_field import ColourField
from wrinkle.ui.shared.curve_field import CurveField
from wrinkle.ui.shared.outline_field import OutlineField
from wrinkle.ui.shared.value_field import FieldFormat, ValueField

Field = ValueField | ChoiceField | ColourField | OutlineField | CurveField
_COLOUR_PARTS = 3


def field_for(spec: SettingSpec) -> Field:
    """A field for the values of a setting."""
    if spec.curve:
        return CurveField()
    if spec.outline:
        return OutlineField()
    if spec.choices or isinstance(spec.neutral, bool):
        return ChoiceField(spec.choices)
    if len(parts(spec.neutral)) == _COLOUR_PARTS:
        return ColourField()
    return ValueField(field_format(spec))


def field_format(spec: SettingSpec) -> FieldFormat:
    """How a number or a pair is written."""
    return FieldFormat(
        factor=spec.unit.shown_factor,
        suffix=spec.unit.suffix,
        decimals=2,
        step=spec.step,
        linked=spec.linked,
    )


class SettingLink(QObject):
    """Ties a field to one setting of one layer.

    Attributes:
        field: the widget.
    """

    def __init__(self, session: Session, ref: SettingRef) -> None:
        super().__init__()
        self._spec = spec = ref.spec(session.wrinkle)
        self._session = session
        self._ref = ref
        self.field = field_for(spec)
        self.field.setAccessibleName(spec.label)
        self.field.setToolTip(spec.about)
        self.field.committed.connect(self._commit)
        if isinstance(self.field, CurveField):
            self.field.changing.connect(self._preview)
        if isinstance(self.field, ValueField):
            self.field.describe(
                f"{spec.about} Drag sideways, or type a number, arithmetic, or = and a formula of "
                "t, frame, p and fps."
            )
            self.field.changing.connect(self._preview)
            self.field.formulaTyped.connect(self._set_formula)
            self.field.abandoned.connect(session.abandon)
            self.field.faulted.connect(session.faulted)
        self.refresh()

    @property
    def shown(self) -> str:
        """The value at the playhead as it is written."""
        return self.field.text_of(self.field.value)

    def refresh(self) -> None:
        """Shows the value at the playhead."""
        wrinkle = self._session.wrinkle
        if any(layer.id == self._ref.layer for layer in wrinkle.layers):
            setting = self._ref.of(wrinkle)
            if isinstance(self.field, ValueField):
                self.field.set_formula(setting.formula)
            self.field.set_value(setting.at(self._session.time))

    def _preview(self, value: Value) -> None:
        time = self._session.time
        self._session.preview(lambda w: lane_edits.set_value(w, self._ref, time, value))

    def _set_formula(self, text: str) -> None:
        label = f"formula of {self._spec.label.lower()}"
        try:
            lane_edits.set_formula(self._session.wrinkle, self._ref, text or None)
        except InputError as fault:
            self._session.faulted.emit(str(fault))
            if isinstance(self.field, ValueField):
                self.field.show_fault(f"= {text}", str(fault))
            return
        self._session.edit(label, lambda w: lane_edits.set_formula(w, self._ref, text or None))
        self.refresh()

    def _commit(self, value: Value) -> None:
        time = self._session.time
        old = self._ref.of(self._session.wrinkle)
        if old.track is not None and len(parts(old.rest)) != len(parts(value)):
            self._session.faulted.emit(
                "The number of points stays as it is while the curve is a lane; press its thread "
                "button first."
            )
            self.refresh()
            return
        label = self._spec.label.lower()
        self._session.edit(label, lambda w: lane_edits.set_value(w, self._ref, time, value))
        self.refresh()
