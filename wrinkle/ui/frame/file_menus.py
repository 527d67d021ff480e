"""The menus of files: those that were opened last, and the wrinkles that ship."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QMenu

from wrinkle import library
from wrinkle.core.errors import InputError
from wrinkle.files.archive import read
from wrinkle.files.presence import is_there
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.place import WrinkleWanted
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.router import Router
from wrinkle.ui.shared.plain_text import tip


def fill_recent(router: Router, preferences: Preferences, menu: QMenu) -> None:
    """The files that were opened or saved last; those that are gone are passed over."""
    menu.clear()
    there = [path for path in preferences.recent if is_there(path)]
    names = [path.name for path in there]
    for path in there:
        # Two of one name are told apart by their folders.
        twice = names.count(path.name) > 1
        action = menu.addAction(f"{path.name} ({path.parent.name})" if twice else path.name)
        if action is not None:
            action.setToolTip(tip(str(path)))
            action.triggered.connect(partial(_open_recent, router, path))
    if not there:
        action = menu.addAction("No file was opened yet")
        if action is not None:
            action.setEnabled(False)


def _open_recent(router: Router, path: Path, checked: bool = False) -> None:
    router.open(path)


def fill_shipped(router: Router, desk: Desk, menu: QMenu) -> None:
    """The shipped wrinkles, read when they are wanted; a broken one is told and passed over."""

    def open_it(path: Path, checked: bool = False) -> None:
        router.pass_on(WrinkleWanted(path, as_copy=True))

    menu.clear()
    for path in library.shipped().values():
        try:
            name = read(path).wrinkle.name
        except InputError as fault:
            desk.messages.faulted.emit(str(fault))
            continue
        action = menu.addAction(name)
        if action is not None:
            action.triggered.connect(partial(open_it, path))
