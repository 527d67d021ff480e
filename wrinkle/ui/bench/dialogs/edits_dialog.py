"""A dialog whose fields are edits of the wrinkle: each change is a step at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.scrolled import Scrolled


class EditsDialog(QDialog):
    """What is refused is said at the foot, and the fields show what is.

    Attributes:
        desk: whose wrinkle it is.
        body, column: what can be scrolled, and where its parts are laid out.
        message: what was refused last.
        shown: what the fields were made for; None makes them anew.
    """

    def __init__(self, desk: Designing, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.desk = desk
        self.shown: Any = None
        self.message = PlainLabel("")
        self.message.setObjectName("fault")
        self.message.setWordWrap(True)
        self.body = QWidget()
        self.column = QVBoxLayout(self.body)
        self.column.setContentsMargins(0, 0, 0, 0)
        view = Scrolled()
        view.setWidget(self.body)
        close = QPushButton("Close")
        # Return ends a field, and not the dialog.
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        foot = QHBoxLayout()
        foot.addWidget(self.message, 1)
        foot.addWidget(close)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(16, 16, 16, 16)
        layout.addWidget(view, 1)
        layout.addLayout(foot)

    def refresh(self) -> None:
        """Shows the wrinkle as it is now."""
        raise NotImplementedError

    def edit(self, label: str, change: Callable[[Wrinkle], Wrinkle]) -> None:
        """One step, if anything changes by it."""
        document = self.desk.document
        try:
            same = change(document.state) == document.state
        except InputError as fault:
            self.fault(str(fault))
            self.shown = None
            self.refresh()
            return
        self.message.setText("")
        if not same:
            document.edit(label, change)

    def fault(self, sentence: str) -> None:
        """Says what was refused."""
        self.message.setText(sentence)

    def silence(self, part: QWidget) -> None:
        """The fields of a part say nothing any more: losing the focus would take them again."""
        for old in part.findChildren(QWidget):
            old.blockSignals(True)
