"""Scrolls what is in it; the keys go to what is in it, and not to itself."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QScrollArea, QWidget


class Scrolled(QScrollArea):
    """As wide as it is given; what has the focus is scrolled into sight.

    Args:
        inside: what is scrolled; it can be given later.
    """

    def __init__(self, inside: QWidget | None = None) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        if inside is not None:
            self.setWidget(inside)
