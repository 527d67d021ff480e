"""A field for yes or no or for one of several names."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QSizePolicy, QWidget

from wrinkle.core.motion.values import Value

_YES_OR_NO = {True: "yes", False: "no"}


class ChoiceField(QComboBox):
    """Shows a choice; says what a person chose.

    Signals:
        committed: the chosen value.
    """

    committed = pyqtSignal(object)

    def __init__(self, choices: tuple[str, ...], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        if choices:
            for choice in choices:
                self.addItem(choice, choice)
        else:
            for value, word in _YES_OR_NO.items():
                self.addItem(word, value)
        self.activated.connect(lambda index: self.committed.emit(self.itemData(index)))

    @property
    def value(self) -> Value:
        """The value that is shown."""
        found: Value = self.currentData()
        return found

    def set_value(self, value: Value) -> None:
        """Shows a value."""
        self.setCurrentIndex(self.findData(value))

    def text_of(self, value: Value) -> str:
        """A value as it is written."""
        return _YES_OR_NO[value] if isinstance(value, bool) else str(value)
