"""Which page of the manual is on a part of the window."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

_PROPERTY = "manualPage"


def about(widget: QWidget, page: str) -> None:
    """Says which page of the manual is on a widget and all that is in it."""
    widget.setProperty(_PROPERTY, page)


def page_on(widget: QWidget | None) -> str:
    """The key of the page on a widget, or on what it lies in; empty for none."""
    while widget is not None:
        found = widget.property(_PROPERTY)
        if found:
            return str(found)
        widget = widget.parentWidget()
    return ""
