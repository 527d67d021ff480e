"""What teaches: first steps, the manual, keys, the finder, what the program is."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PyQt6.QtWidgets import QApplication, QWhatsThis, QWidget

from wrinkle.library.manual_pages import Named
from wrinkle.ui.actions.action import Action
from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.dialogs.about import show_about
from wrinkle.ui.dialogs.finder import CommandFinder, Owners
from wrinkle.ui.dialogs.key_sheet import KeySheet
from wrinkle.ui.frame.shown_places import ShownPlaces
from wrinkle.ui.help.manual_window import ManualWindow
from wrinkle.ui.help.what_is_this import explain
from wrinkle.ui.shared.manual_page import page_on


class Helped(Protocol):
    """What these actions need of the window."""

    @property
    def menus(self) -> Menus:
        """All that can be done."""

    @property
    def places(self) -> ShownPlaces:
        """One of them is shown."""

    @property
    def owners(self) -> Owners:
        """How what belongs elsewhere is reached."""

    def take_first_steps(self) -> None:
        """The guide begins, or goes on."""


def help_actions(window: Helped, over: QWidget) -> list[Action]:
    """All of them."""

    def manual(page: Callable[[], str]) -> Callable[[], None]:
        def show() -> None:
            key = page()
            # One that is open already turns its page.
            shown = over.findChild(ManualWindow)
            if shown is None:
                shown = ManualWindow(lambda name: named(window.menus, name), over)
            shown.show_page(key)
            shown.show()
            shown.raise_()
            shown.activateWindow()

        return show

    def what_is_this() -> None:
        """Of what has the focus at once; of anything else at the next press."""
        if not explain(QApplication.focusWidget()):
            QWhatsThis.enterWhatsThisMode()

    def find() -> None:
        CommandFinder(window.menus, window.owners, over).open()

    def keys() -> None:
        KeySheet(window.menus, window.places.shown.held_keys(), over).open()

    return [
        Action("help.first-steps", "First steps…", window.take_first_steps, "Help", 0,
               says="Eight steps on this window, from two clips to a wrinkle on a cut."),
        Action("help.manual", "Manual", manual(lambda: page_on(QApplication.focusWidget())),
               "Help", 0, ("F1",), says="Opens the page on what has the focus."),
        Action("help.this", "What's this?", what_is_this, "Help", 0,
               ("Shift+F1",),
               says="Says of the setting that has the focus, or is pressed next, what it is and "
                    "how far it goes."),
        Action("help.find", "Find a command…", find,
               "Help", 10, ("/",), icon="lens",
               says="Lists all that can be done, by its words, and does it."),
        Action("help.keys", "Keys", keys, "Help", 10, ("?",),
               says="Lists the keys that are live here."),
        Action("help.about", "About Wrinkle", lambda: show_about(over), "Help", 90,
               says="Version and licence."),
    ]  # fmt: skip


def named(menus: Menus, name: str) -> Named:
    """What an action is called now, and its keys."""
    entry = menus.entry(name)
    return Named(entry.action.label.removesuffix("…"), entry.keys)
