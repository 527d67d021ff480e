"""The sheet of the keys that are live in the place that is shown."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

from wrinkle.ui.actions.action import HeldKey
from wrinkle.ui.actions.menus import Menus


def show_keys(menus: Menus, held: Sequence[HeldKey], over: QWidget) -> None:
    """Shows what each key does, in a box of its own."""
    rows = [
        _row(entry.action.label, f"<b>{entry.made.shortcut().toString()}</b>")
        for entry in menus.entries
        if entry.made.isVisible() and entry.action.keys
    ]
    rows += [_row(key.label, f"<b>{key.key}</b> (held)") for key in held]
    box = QMessageBox(over)
    box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    box.setTextFormat(Qt.TextFormat.RichText)
    box.setWindowTitle("Keys")
    box.setText(f"<table>{''.join(rows)}</table>")
    box.open()


def _row(name: str, key: str) -> str:
    return f"<tr><td>{escape(name)}</td><td style='padding-left:24px'>{key}</td></tr>"
