"""A part of a place with a ground of its own, as the style sheet has it."""

from __future__ import annotations

from typing import TypeVar

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

_Widget = TypeVar("_Widget", bound=QWidget)


def as_panel(widget: _Widget) -> _Widget:
    """The widget, which is a panel from now on."""
    widget.setObjectName("panel")
    # A plain widget does not paint the ground of its style by itself.
    widget.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    return widget
