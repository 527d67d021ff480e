"""A copy of a layer with one setting shifted by a constant."""

from __future__ import annotations

from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.design.document.setting_specs import SETTINGS
from wrinkle.core.design.edits.layer_copies import duplicate
from wrinkle.core.design.edits.layer_edits import added
from wrinkle.core.motion.values import Value
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.setting_field import field_format
from wrinkle.ui.shared.value_field import ValueField

_FIRST = "scale"
_FIRST_SHIFT = 4.0


class CopyDialog(QDialog):
    """Asks what the copy differs in."""

    def __init__(self, desk: Designing, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._desk = desk
        self._layer = desk.document.state.layer(desk.looking.layer)
        self.setWindowTitle(f"Duplicate {self._layer.name}")
        self.setting = QComboBox()
        self.setting.setAccessibleName("Setting that differs")
        self.setting.addItem("nothing", None)
        for key, spec in SETTINGS.items():
            if not spec.numeric:
                continue
            self.setting.addItem(spec.label, key)
        self.shift: ValueField | None = None
        self._form = QFormLayout()
        self._form.addRow("The copy differs in", self.setting)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        about = PlainLabel("The shift is added at rest and at every pin.")
        about.setObjectName("quiet")
        layout = QVBoxLayout(self)
        layout.addLayout(self._form)
        layout.addWidget(about)
        layout.addWidget(buttons)
        self.setting.currentIndexChanged.connect(self._make_field)
        self.setting.setCurrentIndex(self.setting.findData(_FIRST))

    def _make_field(self) -> None:
        if self.shift is not None:
            self._form.removeRow(self.shift)
            self.shift = None
        key = self.setting.currentData()
        if key is None:
            return
        spec = SETTINGS[key]
        self.shift = ValueField(field_format(spec))
        self.shift.setAccessibleName("Shift")
        pair = isinstance(spec.neutral, tuple)
        first = _FIRST_SHIFT * spec.step
        self.shift.set_value((first, first) if pair else first)
        self.shift.changing.connect(self.shift.set_value)
        self.shift.committed.connect(self.shift.set_value)
        self.shift.faulted.connect(self._desk.messages.faulted)
        self._form.addRow("by", self.shift)

    def accept(self) -> None:
        """Makes the copy and selects it."""
        key = self.setting.currentData()
        by: Value = self.shift.value if self.shift is not None else 0.0
        layer = self._layer.id
        old = self._desk.document.state
        if self._desk.document.edit("layer duplicated", lambda w: duplicate(w, layer, key, by)):
            self._desk.looking.select_layer(added(old, self._desk.document.state)[0].id)
            super().accept()
