"""Where the window stands, and the handles within it: as it was left."""

from __future__ import annotations

from PyQt6.QtWidgets import QMainWindow

from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.preferences import Preferences


def stand_as_left(window: QMainWindow, preferences: Preferences) -> None:
    """However it was left, it does not hide its foot below the screen."""
    if preferences.geometry is not None:
        window.restoreGeometry(preferences.geometry)
    screen = window.screen()
    if screen is not None:
        room = screen.availableGeometry().size()
        window.resize(window.size().boundedTo(room).expandedTo(window.minimumSize()))


def keep_standing(window: QMainWindow, places: ShownPlaces, preferences: Preferences) -> None:
    """Keeps it for the next time."""
    preferences.geometry = window.saveGeometry()
    preferences.keep_handles({name: handle.saveState() for name, handle in places.handles()})
