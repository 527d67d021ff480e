"""Ties a field to a setting: shows its value at the playhead, and edits it."""

from __future__ import annotations

from wrinkle.core.design import edits
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.settings import SettingSpec, spec_of
from wrinkle.core.motion.values import Value
from wrinkle.ui.session import Session
from wrinkle.ui.shared.value_field import FieldFormat, ValueField


def field_format(spec: SettingSpec) -> FieldFormat:
    """How a setting's value is written."""
    return FieldFormat(
        factor=spec.unit.shown_factor,
        suffix=spec.unit.suffix,
        decimals=2,
        step=spec.step,
        linked=spec.linked,
    )


class SettingField(ValueField):
    """A field for one setting of one layer."""

    def __init__(self, session: Session, ref: SettingRef) -> None:
        spec = spec_of(ref.key)
        super().__init__(field_format(spec))
        self._session = session
        self._ref = ref
        self.setAccessibleName(spec.label)
        self.setToolTip(
            f"{spec.about} Drag sideways, or type a number, arithmetic, "
            "or = and a formula of t, frame, p and fps."
        )
        self.changing.connect(self._preview)
        self.committed.connect(self._commit)
        self.formulaTyped.connect(self._set_formula)
        self.abandoned.connect(session.abandon)
        self.faulted.connect(session.faulted)
        self.refresh()

    def refresh(self) -> None:
        """Shows the value at the playhead."""
        wrinkle = self._session.wrinkle
        if any(layer.id == self._ref.layer for layer in wrinkle.layers):
            setting = self._ref.of(wrinkle)
            self.set_formula(setting.formula)
            self.set_value(setting.at(self._session.time))

    def _preview(self, value: Value) -> None:
        time = self._session.time
        self._session.preview(lambda w: edits.set_value(w, self._ref, time, value))

    def _set_formula(self, text: str) -> None:
        label = f"formula of {spec_of(self._ref.key).label.lower()}"
        self._session.edit(label, lambda w: edits.set_formula(w, self._ref, text or None))
        self.refresh()

    def _commit(self, value: Value) -> None:
        time = self._session.time
        label = spec_of(self._ref.key).label.lower()
        self._session.edit(label, lambda w: edits.set_value(w, self._ref, time, value))
        self.refresh()
