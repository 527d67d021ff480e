"""How much memory kept pictures may take, and what the program takes now."""

from __future__ import annotations

from PyQt6.QtWidgets import QSpinBox, QVBoxLayout, QWidget

from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.memory import taken
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel

_STEP = 128


class MemoryPage(QWidget):
    """Less is taken where the program as a whole would take more than that."""

    def __init__(self, preferences: Preferences, desk: Desk) -> None:
        super().__init__()
        self._preferences, self._desk = preferences, desk
        self.most = QSpinBox()
        self.most.setAccessibleName("Memory for pictures")
        self.most.setRange(*preferences.MEMORY_RANGE)
        self.most.setSingleStep(_STEP)
        self.most.setSuffix(" MiB")
        self.most.setKeyboardTracking(False)
        self.most.setValue(desk.workers.allowed >> 20)
        self.most.valueChanged.connect(self._choose)
        held = desk.workers.store.used
        words = PlainLabel(
            f"The program takes {taken() >> 20} MiB now; {held >> 20} MiB of it are pictures that "
            "are kept. Rendered and decoded pictures may take at most so much, less where the "
            "program as a whole would take more than that."
        )
        words.setObjectName("quiet")
        words.setWordWrap(True)
        form = PlainForm()
        form.add("Memory for pictures", self.most)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(words)
        column.addStretch(1)

    def _choose(self, mebibytes: int) -> None:
        self._preferences.memory = mebibytes << 20
        self._desk.workers.allow(mebibytes << 20)
