"""The last saved versions of the open file, to be taken back."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.library.versions import MOST, Version
from wrinkle.ui.safekeeping.kept_row import KeptRow, day_and_time
from wrinkle.ui.shared.plain_text import PlainLabel


class VersionsDialog(QDialog):
    """Lists versions, the newest first.

    Signals:
        wanted: one is to be taken back (Version).
        comparisonWanted: one is to be seen beside what is open (Version).
    """

    wanted = pyqtSignal(object)
    comparisonWanted = pyqtSignal(object)

    def __init__(
        self,
        name: str,
        found: Sequence[Version],
        compares: bool = True,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Earlier versions")
        self.setMinimumWidth(520)
        if found:
            words = (
                f"The last {MOST} saved versions of {name} are kept. Taking one back is a step "
                "like any other: undo leads back."
            )
        else:
            words = "There is no earlier version yet; one is kept whenever a file is saved."
        said = PlainLabel(words)
        said.setWordWrap(True)
        layout = QVBoxLayout(self)
        layout.addWidget(said)
        self._compares = compares
        self.rows = [self._row(number, version) for number, version in enumerate(found)]
        for row in self.rows:
            layout.addWidget(row)
        layout.addStretch(1)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(close)
        layout.addLayout(foot)

    def _row(self, number: int, version: Version) -> KeptRow:
        details = "saved last" if number == 0 else ""
        row = KeptRow(version.picture, day_and_time(version.when), details)
        if self._compares:
            compare = row.add_button("Compare…")
            compare.clicked.connect(lambda: self.comparisonWanted.emit(version))
        row.add_button("Take back").clicked.connect(lambda: self._take(version))
        return row

    def _take(self, version: Version) -> None:
        self.accept()
        self.wanted.emit(version)
