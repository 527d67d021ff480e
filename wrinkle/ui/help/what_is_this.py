"""Says what something in the window is: by its own card, or by the sentence of its tooltip."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QWhatsThis, QWidget


def explain(widget: QWidget | None, spot: QPoint | None = None) -> bool:
    """Says what a widget is, or what it lies in; gives whether anything is known of it.

    Args:
        widget: which one.
        spot: where it was pressed, on the screen; by default below it.
    """
    for one in _outward(widget):
        own = getattr(one, "explain", None)
        if callable(own):
            own()
            return True
    for one in _outward(widget):
        words = one.whatsThis() or one.toolTip()
        if words:
            QWhatsThis.showText(spot or one.mapToGlobal(one.rect().bottomLeft()), words, one)
            return True
    return False


def _outward(widget: QWidget | None) -> Iterator[QWidget]:
    """A widget, and what it lies in."""
    while widget is not None:
        yield widget
        widget = widget.parentWidget()
