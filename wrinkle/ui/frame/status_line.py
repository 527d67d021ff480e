"""The line at the foot of the window: what is looked at, what happened, what went wrong."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QApplication, QPushButton, QStatusBar

from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel

_QUIET, _FAULT = "quiet", "fault"


class StatusLine(QStatusBar):
    """Words at the left, facts at the right.

    Signals:
        copied: the details of an error are on the clipboard.
    """

    copied = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._what = ElidedLabel(mode=Qt.TextElideMode.ElideRight)
        self._facts = PlainLabel()
        self._details = QPushButton("Copy the details")
        self._details.clicked.connect(self._copy_details)
        self._details.hide()
        self._known = ""
        self.setSizeGripEnabled(False)
        self.addWidget(self._what, 1)
        self.addPermanentWidget(self._details)
        self.addPermanentWidget(self._facts)

    @property
    def said(self) -> str:
        """What it says at the left."""
        return self._what.text()

    def show_words(self, words: str, facts: str) -> None:
        """Says where one is."""
        if self._what.objectName() == _FAULT:
            self.tell(words)
        else:
            self._what.setText(words)
        self._facts.setText(facts)

    def tell(self, text: str) -> None:
        """Says that something was done."""
        self._say(text, _QUIET)

    def tell_fault(self, text: str) -> None:
        """Says that something was not possible."""
        self._say(text, _FAULT)

    def offer_details(self, details: str) -> None:
        """Offers to copy all that is known of an error, beside what is said of it."""
        self._known = details
        self._details.show()

    def _copy_details(self) -> None:
        clipboard = QApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self._known)
        self._details.hide()
        self.copied.emit()

    def _say(self, text: str, kind: str) -> None:
        self._what.setObjectName(kind)
        self._what.setText(text)
        style = self._what.style()
        if style is not None:
            style.unpolish(self._what)
            style.polish(self._what)
