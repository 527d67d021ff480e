"""How large text is, from 80 to 150 per cent, and what grows with it."""

from __future__ import annotations

from enum import Enum

from PyQt6.QtWidgets import QApplication, QWidget

LEAST, AS_DRAWN, MOST = 80, 100, 150
_PROPERTY = "wrinkleTextSize"
_KEPT = "wrinkleKept"


class Extent(Enum):
    """What of a widget is fixed, by the method that fixes it."""

    WIDTH = "setFixedWidth"
    HEIGHT = "setFixedHeight"
    LEAST_WIDTH = "setMinimumWidth"
    MOST_WIDTH = "setMaximumWidth"


def text_size() -> int:
    """In per cent of what the window is drawn for."""
    app = QApplication.instance()
    found = app.property(_PROPERTY) if app is not None else None
    return int(found) if found else AS_DRAWN


def choose(app: QApplication, per_cent: int) -> None:
    """Text has another size from now on; the theme is applied after it."""
    app.setProperty(_PROPERTY, min(max(per_cent, LEAST), MOST))


def scaled(points: float) -> int:
    """How many points hold now what so many hold at 100 %."""
    return round(points * text_size() / AS_DRAWN)


def keep(widget: QWidget, extent: Extent, points: int) -> None:
    """Fixes a widget's width or height, which follows the size of text from now on."""
    kept = dict(widget.property(_KEPT) or {})
    kept[extent.value] = points
    widget.setProperty(_KEPT, kept)
    getattr(widget, extent.value)(scaled(points))


def follow(app: QApplication) -> None:
    """Fixes anew whatever follows the size of text."""
    for widget in app.allWidgets():
        for name, points in (widget.property(_KEPT) or {}).items():
            getattr(widget, name)(scaled(points))
