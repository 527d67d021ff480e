"""Says what something in the window is: by its own card, or by the sentence of its tooltip."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QEvent, QObject, QPoint
from PyQt6.QtGui import QHelpEvent
from PyQt6.QtWidgets import QApplication, QWhatsThis, QWidget


class AskedWhat(QObject):
    """Answers where the pointer asked about something that says nothing by itself.

    Args:
        window: asked about whatever lies in it.
    """

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """What was pressed is explained; the pointer points again."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.WhatsThis:
            QWhatsThis.leaveWhatsThisMode()
            return explain(QApplication.widgetAt(event.globalPos()), event.globalPos())
        return super().eventFilter(watched, event)


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
