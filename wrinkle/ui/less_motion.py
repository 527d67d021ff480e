"""Whether anything moves by itself: where the person or the desktop wants less, nothing does."""

from __future__ import annotations

from PyQt6.QtWidgets import QApplication, QStyle, QWidget

_PROPERTY = "wrinkleLessMotion"


def choose(app: QApplication, less: bool) -> None:
    """Less moves from now on, or again as the desktop wants it."""
    app.setProperty(_PROPERTY, less)


def chosen() -> bool:
    """Whether the person wants less."""
    app = QApplication.instance()
    return bool(app.property(_PROPERTY)) if app is not None else False


def moves(widget: QWidget) -> bool:
    """Whether a picture of it may move without being asked to."""
    style = widget.style()
    hint = QStyle.StyleHint.SH_Widget_Animation_Duration
    wanted = style.styleHint(hint, None, widget) > 0 if style is not None else True
    return wanted and not chosen()
