"""The jitter of a setting: how often, how rough, and which of the many movements."""

from __future__ import annotations

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QGridLayout, QWidget

from wrinkle.core.design.document.setting import Jitter
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value, parts
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.value_field import FieldFormat, ValueField
from wrinkle.ui.theme import make_small


class JitterRow(QWidget):
    """Shows everything of a jitter but its amount, which is a setting with a row of its own.

    Signals:
        changing: a jitter while a number is dragged.
        committed: a jitter that was typed or let go.
        abandoned: the drag was given up.
        faulted: one sentence on what was typed.
    """

    changing = pyqtSignal(object)
    committed = pyqtSignal(object)
    abandoned = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(self, label: str, jitter: Jitter) -> None:
        super().__init__()
        self._jitter = jitter
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
            words = PlainLabel(name)
            make_small(words)
            made = ValueField(style)
            made.setAccessibleName(f"{name} of the jitter of {label}")
            made.setToolTip(tip(about))
            made.changing.connect(lambda value, key=field: self._tell(self.changing, key, value))
            made.committed.connect(lambda value, key=field: self._tell(self.committed, key, value))
            made.abandoned.connect(self.abandoned)
            made.faulted.connect(self.faulted)
            self.fields[field] = made
            layout.addWidget(words, 0, column)
            layout.addWidget(made, 1, column)
        self.stepped = QCheckBox("Stepped: jumps instead of gliding")
        self.stepped.clicked.connect(lambda on: self._change(self.committed, stepped=on))
        layout.addWidget(self.stepped, 2, 0, 1, 3)
        self.show_jitter(jitter)

    def show_jitter(self, jitter: Jitter) -> None:
        """Shows a jitter."""
        self._jitter = jitter
        self.fields["rate"].set_value(jitter.rate)
        self.fields["roughness"].set_value(jitter.roughness)
        self.fields["seed"].set_value(float(jitter.seed))
        self.stepped.setChecked(jitter.stepped)

    def _tell(self, signal: object, key: str, value: Value) -> None:
        number = parts(value)[0]
        self._change(signal, **{key: round(number) if key == "seed" else number})

    def _change(self, signal: object, **fields: float | bool) -> None:
        try:
            changed = replace(self._jitter, **fields)
        except InputError as fault:
            self.faulted.emit(str(fault))
            self.show_jitter(self._jitter)
            return
        (self.changing if signal is self.changing else self.committed).emit(changed)
