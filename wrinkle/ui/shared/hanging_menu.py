"""Menus that hang on a button."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import QMenu, QPushButton, QToolButton


def hang_menu(button: QToolButton | QPushButton, menu: QMenu) -> None:
    """Opens a menu at a press of a button, which is at rest again when the menu is closed."""
    if isinstance(button, QToolButton):
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    button.setMenu(menu)

    def rest() -> None:
        # The pointer left it while the menu had the mouse, and Qt tells nobody.
        if not button.rect().contains(button.mapFromGlobal(QCursor.pos())):
            button.setAttribute(Qt.WidgetAttribute.WA_UnderMouse, False)
            button.setDown(False)
            button.update()

    menu.aboutToHide.connect(rest)
