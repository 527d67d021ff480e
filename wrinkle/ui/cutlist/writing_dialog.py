"""The piece is being written: how far it is, and the way to end it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from wrinkle.core.jobs import Job
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.shared.plain_text import PlainLabel

Write = Callable[[Path, Job], str]
"""Writes a file and gives what was written, in words."""


class WritingDialog(QDialog):
    """Writes in the background; whoever closes it ends that.

    Args:
        path: what is written.
        write: writes it.
        workers, messages: who works, and where the end is told.
    """

    def __init__(
        self, path: Path, write: Write, workers: Workers, messages: Messages, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._path = path
        self._messages = messages
        self._over = False
        self.setWindowTitle(f"Writing {path.name}")
        self.setMinimumWidth(420)
        self.told = PlainLabel("Beginning…")
        self.bar = QProgressBar()
        self.cancel = QPushButton("Cancel")
        self.cancel.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(self.cancel)
        column = QVBoxLayout(self)
        column.addWidget(self.told)
        column.addWidget(self.bar)
        column.addLayout(foot)
        self._job = workers.jobs.start(
            lambda job: write(path, job),
            self._written,
            self._failed,
            f"{path.name} cannot be written",
            self._progressed,
        )

    def _progressed(self, done: int, total: int, left: float) -> None:
        if not self._over:
            self.bar.setMaximum(total)
            self.bar.setValue(done)
            self.told.setText(f"{done} of {total} frames, {left:.0f} s left")

    def _written(self, words: str) -> None:
        self._messages.told.emit(f"{self._path.name} is written: {words}.")
        if not self._over:
            self.accept()

    def _failed(self, sentence: str) -> None:
        self._messages.faulted.emit(sentence)
        if not self._over:
            self.reject()

    def done(self, result: int) -> None:
        """What is not written yet is not any more."""
        self._over = True
        self._job.cancel()
        super().done(result)
