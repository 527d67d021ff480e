"""A field that says what an outline is; its points are dragged on the picture."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.paths import KNOT
from wrinkle.ui.shared.plain_text import PlainLabel


class OutlineField(PlainLabel):
    """Shows how many points an outline has.

    Signals:
        committed: never sent; every field has it.
    """

    committed = pyqtSignal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent=parent)
        self._value: Value = ()
        self.setObjectName("quiet")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    @property
    def value(self) -> Value:
        """The outline that is shown."""
        return self._value

    def set_value(self, value: Value) -> None:
        """Shows an outline."""
        self._value = value
        self.setText(self.text_of(value))

    def text_of(self, value: Value) -> str:
        """An outline as it is written."""
        return f"{len(parts(value)) // KNOT} points"
