"""A place has the whole screen, and the window comes back as it was."""

from __future__ import annotations

from PyQt6.QtWidgets import QMainWindow

from wrinkle.ui.frame.head import WindowHead

_ANY_HEIGHT = 16_777_215


class WholeScreen:
    """Shows nothing but the place.

    Args:
        window: has the screen then.
        head: stands over the places, and is hidden then.
    """

    def __init__(self, window: QMainWindow, head: WindowHead) -> None:
        self._window, self._head = window, head
        self._was_maximized = False

    def show(self, whole: bool) -> None:
        """The place has the whole screen, or the window around it is back."""
        window = self._window
        menus, foot = window.menuBar(), window.statusBar()
        if menus is not None:
            # A bar that is hidden lets no keys through.
            menus.setMaximumHeight(0 if whole else _ANY_HEIGHT)
        if foot is not None:
            foot.setVisible(not whole)
        self._head.leave_alone(whole)
        if whole:
            self._was_maximized = window.isMaximized()
            window.showFullScreen()
        elif self._was_maximized:
            window.showMaximized()
        else:
            window.showNormal()
