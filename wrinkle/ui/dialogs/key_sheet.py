"""The sheet of the keys that are live in the place that is shown, in columns, found by words."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape
from itertools import groupby

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QLineEdit, QTextBrowser, QVBoxLayout, QWidget

from wrinkle.core.searching import holds_words
from wrinkle.ui.actions.action import HeldKey
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.text_size import scaled

_COLUMNS = 3
_WIDTH, _HEIGHT, _TEXT = 1000, 676, 12
_HELD = "While it is held"
Row = tuple[str, str, str]
"""A group, what is done, and by which keys."""


class KeySheet(QDialog):
    """Three columns, a heading for each menu.

    Attributes:
        field: for words.
        sheet: the keys.
    """

    def __init__(self, menus: Menus, held: Sequence[HeldKey], over: QWidget) -> None:
        super().__init__(over)
        self.setWindowTitle("Keys")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self._rows: list[Row] = [
            (entry.action.menu, entry.action.label.removesuffix("…"), ", ".join(entry.keys))
            for entry in menus.entries
            if entry.made.isVisible() and entry.keys
        ]
        self._rows += [(_HELD, one.label, one.key) for one in held]
        self.field = QLineEdit()
        self.field.setPlaceholderText("Find a key, or what it does")
        self.field.setAccessibleName("Find a key, or what it does")
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(self._show)
        self.sheet = QTextBrowser()
        self.sheet.setAccessibleName("Keys")
        self.sheet.setOpenLinks(False)
        font = self.sheet.font()
        font.setPixelSize(scaled(_TEXT))
        document = self.sheet.document()
        if document is not None:
            document.setDefaultFont(font)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.sheet, 1)
        column.addWidget(buttons)
        room = over.size() - QSize(24, 24)
        self.resize(QSize(_WIDTH, _HEIGHT).boundedTo(room))
        self._show("")
        self.field.setFocus()

    def _show(self, words: str) -> None:
        found = [x for x in self._rows if holds_words(" ".join(x), words)]
        if not found:
            self.sheet.setPlainText("No key is called so. All commands are in Help ▸ Find.")
            return
        self.sheet.setHtml(_sheet(found))


def _sheet(rows: list[Row]) -> str:
    """Groups one under the other, in columns of about the same height."""
    groups = [list(group) for _, group in groupby(rows, key=lambda row: row[0])]
    high = sum(len(group) + 2 for group in groups) / _COLUMNS
    columns: list[str] = [""]
    filled = 0.0
    for group in groups:
        for number, row in enumerate(group):
            if filled >= high and len(columns) < _COLUMNS:
                columns.append("")
                filled = 0.0
            if number == 0 or not columns[-1]:
                columns[-1] += f"<tr><td colspan='2'><b>{escape(row[0])}</b></td></tr>"
                filled += 2
            columns[-1] += _row(row[1], row[2])
            filled += 1
    width = 100 // _COLUMNS
    cells = "".join(
        f"<td width='{width}%'><table cellspacing='1' cellpadding='0'>{one}</table></td>"
        for one in columns
    )
    return f"<table width='100%'><tr>{cells}</tr></table>"


def _row(name: str, keys: str) -> str:
    return (
        f"<tr><td>{escape(name)}</td>"
        f"<td style='padding-left: {scaled(12)}px'><b>{escape(keys)}</b></td></tr>"
    )
