"""The jitter of a setting: how far, how often, how rough, and which of the many movements."""

from __future__ import annotations

from msgspec.structs import replace
from PyQt6.QtWidgets import QCheckBox, QGridLayout, QLabel, QWidget

from wrinkle.core.design import lane_edits
from wrinkle.core.design.setting import Jitter
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.session import Session
from wrinkle.ui.shared.value_field import FieldFormat, ValueField
from wrinkle.ui.theme import small_font


class JitterRow(QWidget):
    """Edits everything of a jitter but its amount, which is a setting with a row of its own."""

    def __init__(self, session: Session, ref: SettingRef) -> None:
        super().__init__()
        self._session = session
        self._ref = ref
        label = ref.spec(session.wrinkle).label
        layout = QGridLayout(self)
        layout.setContentsMargins(12, 0, 0, 4)
        layout.setHorizontalSpacing(6)
        self.fields: dict[str, ValueField] = {}
        for column, (name, field, style, about) in enumerate(
            (
                ("Rate", "rate", FieldFormat(suffix=" /s", decimals=1), "New values in a second"),
                ("Rough", "roughness", FieldFormat(100.0, " %", 0, 0.01), "Finer movement on top"),
                ("Seed", "seed", FieldFormat(decimals=0), "Another one moves differently"),
            )
        ):
            words = QLabel(name)
            words.setFont(small_font(self.font()))
            made = ValueField(style)
            made.setAccessibleName(f"{name} of the jitter of {label}")
            made.setToolTip(about)
            made.changing.connect(lambda value, key=field: self._set(key, value, preview=True))
            made.committed.connect(lambda value, key=field: self._set(key, value))
            made.abandoned.connect(session.abandon)
            made.faulted.connect(session.faulted)
            self.fields[field] = made
            layout.addWidget(words, 0, column)
            layout.addWidget(made, 1, column)
        self.stepped = QCheckBox("Stepped: jumps instead of gliding")
        self.stepped.clicked.connect(self._set_stepped)
        layout.addWidget(self.stepped, 2, 0, 1, 3)

    def refresh(self) -> None:
        """Shows the session's state."""
        jitter = self._ref.of(self._session.wrinkle).jitter
        if jitter is not None:
            self.fields["rate"].set_value(jitter.rate)
            self.fields["roughness"].set_value(jitter.roughness)
            self.fields["seed"].set_value(float(jitter.seed))
            self.stepped.setChecked(jitter.stepped)

    def _set(self, key: str, value: Value, preview: bool = False) -> None:
        number = parts(value)[0]
        changed = self._changed(**{key: round(number) if key == "seed" else number})
        if changed is None:
            return
        if preview:
            self._session.preview(lambda w: lane_edits.set_jitter(w, self._ref, changed))
        else:
            self._session.edit("jitter", lambda w: lane_edits.set_jitter(w, self._ref, changed))
        self.refresh()

    def _set_stepped(self, on: bool) -> None:
        changed = self._changed(stepped=on)
        self._session.edit("jitter", lambda w: lane_edits.set_jitter(w, self._ref, changed))

    def _changed(self, **fields: float | bool) -> Jitter | None:
        jitter = self._ref.of(self._session.wrinkle).jitter
        if jitter is None:
            return None
        try:
            return replace(jitter, **fields)
        except InputError as fault:
            self._session.faulted.emit(str(fault))
            return None
