"""The menus of the window: from actions with ids to Qt's, live only in the place they belong to."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMainWindow, QMenu

from wrinkle.ui.place import Action

ORDER = ("File", "Edit", "Layer", "Cut", "Check", "View", "Help")


class Menus:
    """Fills the menu bar of a window.

    Attributes:
        actions: Qt's actions by id.
    """

    def __init__(self, window: QMainWindow) -> None:
        self._window = window
        self.actions: dict[str, QAction] = {}
        self._owners: dict[str, object] = {}
        self._menus: dict[str, QMenu] = {}
        self._filled_late: set[QMenu] = set()

    def build(self, actions: Iterable[tuple[object, Action]]) -> None:
        """Makes all menus.

        Args:
            actions: each with what it belongs to, such as a place, or None if it is always live.

        Raises:
            ValueError: an id occurs twice.
        """
        owned = sorted(actions, key=lambda one: (ORDER.index(one[1].menu), one[1].section))
        sections: dict[str, int] = {}
        for owner, action in owned:
            menu = self._menu(action.menu)
            if sections.setdefault(action.menu, action.section) != action.section:
                menu.addSeparator()
                sections[action.menu] = action.section
            self._add(self._within(menu, action), owner, action)

    def submenu(self, after: str, label: str, fill: Callable[[QMenu], None]) -> None:
        """A menu within a menu that is filled each time it is shown.

        Args:
            after: the id of the action under which it stands.
            label: what it is called.
            fill: fills it.
        """
        action = self.actions[after]
        menu = next(x for x in self._menus.values() if action in x.actions())
        entries = menu.actions()
        made = QMenu(label, menu)
        menu.insertMenu(entries[entries.index(action) + 1], made)
        self._menus[label] = made
        made.aboutToShow.connect(lambda: fill(made))
        self._filled_late.add(made)

    def show_for(self, *owners: object) -> None:
        """Only what belongs to one of these, or to none, can be seen and done."""
        for name, owner in self._owners.items():
            self.actions[name].setVisible(owner is None or owner in owners)
        # A menu within a menu was made after it, and is looked at before it.
        for menu in reversed(self._menus.values()):
            entries = [x for x in menu.actions() if not x.isSeparator()]
            entry = menu.menuAction()
            if entry is not None:
                shown = menu in self._filled_late or any(x.isVisible() for x in entries)
                entry.setVisible(shown)

    def _menu(self, name: str) -> QMenu:
        bar = self._window.menuBar()
        if name not in self._menus and bar is not None:
            made = bar.addMenu(name)
            if made is not None:
                self._menus[name] = made
        return self._menus[name]

    def _within(self, menu: QMenu, action: Action) -> QMenu:
        if not action.under:
            return menu
        key = f"{action.menu}/{action.under}"
        if key not in self._menus:
            made = menu.addMenu(action.under)
            if made is not None:
                self._menus[key] = made
        return self._menus[key]

    def _add(self, menu: QMenu, owner: object, action: Action) -> None:
        if action.id in self.actions:
            raise ValueError(f"the action {action.id} is declared twice")
        made = QAction(action.label, self._window)
        made.setShortcuts([QKeySequence(key) for key in action.keys])
        made.triggered.connect(lambda checked=False: action.act())
        menu.addAction(made)
        self.actions[action.id] = made
        self._owners[action.id] = owner
