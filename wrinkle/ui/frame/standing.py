"""Where the window stands, and the handles within it: as it was left."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtWidgets import QMainWindow, QSplitter

from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.place import Place
from wrinkle.ui.preferences import Preferences


def stand_as_left(window: QMainWindow, preferences: Preferences) -> None:
    """However it was left, it does not hide its foot below the screen."""
    if preferences.geometry is not None:
        window.restoreGeometry(preferences.geometry)
    screen = window.screen()
    if screen is not None:
        room = screen.availableGeometry().size()
        window.resize(window.size().boundedTo(room).expandedTo(window.minimumSize()))


def handles_as_left(key: str, place: Place, preferences: Preferences) -> None:
    """The handles between the parts of a place."""
    for name, handle in _handles(key, place):
        state = preferences.handles(name)
        if state is not None:
            handle.restoreState(state)


def keep_standing(window: QMainWindow, places: ShownPlaces, preferences: Preferences) -> None:
    """Keeps it for the next time."""
    preferences.geometry = window.saveGeometry()
    preferences.keep_handles(
        {
            name: handle.saveState()
            for key, place in places.items()
            for name, handle in _handles(key, place)
        }
    )


def _handles(key: str, place: Place) -> Iterator[tuple[str, QSplitter]]:
    """The handles of a place by the names under which they are kept."""
    for name, handle in place.splitters().items():
        yield f"{key}.{name}", handle
