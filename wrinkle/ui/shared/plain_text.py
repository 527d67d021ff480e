"""Text that is shown as it is: a name that looks like HTML is a name.

Qt takes any label and tooltip that looks like it for HTML, and opens the pictures that it names.
"""

from __future__ import annotations

from collections.abc import Mapping
from html import escape
from types import MappingProxyType

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFormLayout, QLabel, QLayout, QMessageBox, QWidget

Buttons = QMessageBox.StandardButton


class PlainLabel(QLabel):
    """A label; the only kind that there is in the window."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class PlainForm(QFormLayout):
    """A form whose rows are named by such labels."""

    def add(self, name: str, field: QWidget | QLayout, place: int = -1) -> None:
        """One more row, by default the last one."""
        label = PlainLabel(name)
        if isinstance(field, QWidget):
            label.setBuddy(field)
        self.insertRow(self.rowCount() if place < 0 else place, label, field)


def tip(text: str) -> str:
    """A tooltip that says just that."""
    return f"<qt>{escape(text)}</qt>" if "<" in text else text


def ask(
    parent: QWidget | None,
    title: str,
    question: str,
    buttons: Buttons,
    proposed: Buttons,
    words: Mapping[Buttons, str] = MappingProxyType({}),
) -> Buttons:
    """Asks a question in a box of its own and waits for the answer.

    Args:
        parent: over which the box stands.
        title, question: of the box.
        buttons: the answers that there are.
        proposed: the one that Return gives.
        words: on the buttons whose own words do not say what they do.
    """
    box = QMessageBox(parent)
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setIcon(QMessageBox.Icon.Question)
    box.setWindowTitle(title)
    box.setText(question)
    box.setStandardButtons(buttons)
    box.setDefaultButton(proposed)
    for answer, text in words.items():
        button = box.button(answer)
        if button is not None:
            button.setText(text)
    return Buttons(box.exec())
