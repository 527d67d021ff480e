"""Where files are asked for, how many versions are kept, and what was opened last."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel

_KINDS = {
    "wrinkle": "Wrinkles", "piece": "Pieces", "clip": "Clips", "video": "Videos, written",
    "music": "Music", "picture": "Pictures", "lut": "LUTs", "look": "Looks",
}  # fmt: skip
"""Kinds of files that are asked for, and what they are called."""


class FilesPage(QWidget):
    """A row for each kind of file."""

    def __init__(self, preferences: Preferences, desk: Desk) -> None:
        super().__init__()
        self._preferences, self._desk = preferences, desk
        self.folders: dict[str, ElidedLabel] = {}
        self.buttons: dict[str, QPushButton] = {}
        form = PlainForm()
        for kind, name in _KINDS.items():
            self.folders[kind] = ElidedLabel()
            button = self.buttons[kind] = QPushButton()
            button.setText("Choose…")
            button.setAccessibleName(f"Folder of {name.lower()}")
            button.clicked.connect(partial(self._choose, kind))
            row = QHBoxLayout()
            row.addWidget(self.folders[kind], 1)
            row.addWidget(button)
            form.add(name, row)
        self.versions = QSpinBox()
        self.versions.setAccessibleName("Kept versions of a file")
        self.versions.setRange(*preferences.VERSIONS_RANGE)
        self.versions.setValue(preferences.versions)
        self.versions.valueChanged.connect(self._keep)
        form.add("Kept versions", self.versions)
        self.forget = QPushButton("Forget the recent files")
        self.forget.clicked.connect(lambda: preferences.forget_recent())
        words = PlainLabel(
            "A folder is where files of a kind are asked for next; using another one changes it. "
            "Of each file the versions that were saved last are kept: File ▸ Earlier versions."
        )
        words.setObjectName("quiet")
        words.setWordWrap(True)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(self.forget)
        column.addWidget(words)
        column.addStretch(1)
        self._show()

    def _show(self) -> None:
        for kind, label in self.folders.items():
            label.setText(self._desk.asking.folder_of(kind))

    def _choose(self, kind: str) -> None:
        title = f"Folder of {_KINDS[kind].lower()}"
        if self._desk.asking.folder(self, title, kind) is not None:
            self._show()

    def _keep(self, count: int) -> None:
        self._preferences.versions = count
