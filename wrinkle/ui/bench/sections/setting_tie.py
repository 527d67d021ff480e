"""A setting's field on the Bench: previews, steps, and the value at the playhead."""

from __future__ import annotations

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.setting_field import SettingField


class SettingTie:
    """Ties a field to one setting of one layer of the document on the desk."""

    def __init__(self, desk: Designing, ref: SettingRef, field: SettingField) -> None:
        self._desk = desk
        self._ref = ref
        self._field = field
        self._label = ref.spec(desk.document.state).label.lower()
        field.changing.connect(self._preview)
        field.committed.connect(self._commit)
        field.formulaTyped.connect(self._set_formula)
        field.abandoned.connect(desk.document.abandon)
        field.faulted.connect(desk.messages.faulted)
        field.told.connect(desk.messages.told)
        self.refresh()

    def refresh(self) -> None:
        """Shows the value at the playhead."""
        wrinkle = self._desk.document.state
        if any(owner.id == self._ref.layer for owner in wrinkle.owners):
            self._field.show_setting(self._ref.of(wrinkle), self._desk.looking.time)

    def _preview(self, value: Value) -> None:
        time = self._desk.looking.time
        self._desk.document.preview(lambda w: lane_edits.set_value(w, self._ref, time, value))

    def _commit(self, value: Value) -> None:
        time = self._desk.looking.time
        self._desk.document.edit(
            self._label, lambda w: lane_edits.set_value(w, self._ref, time, value)
        )
        self.refresh()

    def _set_formula(self, text: str) -> None:
        desk = self._desk
        try:
            lane_edits.set_formula(desk.document.state, self._ref, text or None)
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            self._field.show_fault(f"= {text}", str(fault))
            return
        label = f"formula of {self._label}"
        desk.document.edit(label, lambda w: lane_edits.set_formula(w, self._ref, text or None))
        self.refresh()
