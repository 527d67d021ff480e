"""What a place says while it has nothing to show: what to do next, and a button that does it."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.ui.shared.plain_text import PlainLabel, tip


class EmptyState(QWidget):
    """A sentence or two, with buttons below.

    Args:
        words: what is missing, and what comes of doing something about it.
    """

    def __init__(self, words: str = "") -> None:
        super().__init__()
        self.words = PlainLabel(words)
        self.words.setWordWrap(True)
        self.buttons: list[QPushButton] = []
        self._row = QHBoxLayout()
        self._row.setSpacing(8)
        self._row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(12)
        column.addWidget(self.words)
        column.addLayout(self._row)

    def add(self, label: str, says: str = "") -> QPushButton:
        """One more button; the first one is what is usually done."""
        button = QPushButton(label)
        if not self.buttons:
            button.setObjectName("main")
        if says:
            button.setToolTip(tip(says))
        self._row.insertWidget(len(self.buttons), button)
        self.buttons.append(button)
        return button
