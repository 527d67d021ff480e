"""Actions as Qt's: menus, keys, and what buttons stand for; live only where they belong."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QMainWindow, QMenu, QToolButton

from wrinkle.ui import icons, theme
from wrinkle.ui.actions.action import Action
from wrinkle.ui.shared.plain_text import tip

_IN_BRACES = re.compile(r"\{([a-z.\-]+)\}")
ORDER = ("File", "Edit", "Layer", "Cut", "Check", "View", "Help")


@dataclass(frozen=True)
class MenuEntry:
    """An action with what it belongs to.

    Attributes:
        action: what can be done.
        owner: a place or a document; None where it can be done anywhere.
        made: Qt's own.
        rank: those of a lower rank come first within a section.
    """

    action: Action
    owner: object
    made: QAction
    rank: int

    @property
    def order(self) -> tuple[int, int, int]:
        """Where it comes among all."""
        return ORDER.index(self.action.menu), self.action.section, self.rank

    @property
    def keys(self) -> tuple[str, ...]:
        """The keys that do it now, as Qt names them."""
        return tuple(x.toString() for x in self.made.shortcuts())

    @property
    def key_behind(self) -> str:
        """Its first key as it stands behind a name; empty if it has none."""
        return f" ({self.keys[0]})" if self.keys else ""


class Menus(QObject):
    """Fills the menu bar of a window.

    Args:
        window: whose menu bar it is.
        add_rest: adds what is not added yet, when somebody asks for all of it.

    Signals:
        refused: why something that was asked for by a key cannot be done now.

    Attributes:
        actions: Qt's actions by id.
    """

    refused = pyqtSignal(str)

    def __init__(self, window: QMainWindow, add_rest: Callable[[], None]) -> None:
        super().__init__(window)
        self._window = window
        self._add_rest = add_rest
        self.actions: dict[str, QAction] = {}
        self._entries: dict[str, MenuEntry] = {}
        self.menus: dict[str, QMenu] = {}
        self._filled_late: set[QMenu] = set()
        self._lines: dict[QMenu, dict[int, QAction]] = {}
        self._keys: Mapping[str, Sequence[str]] = {}
        self._live: tuple[object, ...] = ()

    def add(self, actions: Iterable[tuple[object, Action]], rank: int) -> None:
        """Puts actions into the menus, among those that are there.

        Args:
            actions: each with what it belongs to, such as a place, or None if it is always live.
            rank: those of a lower rank come first within a section.

        Raises:
            ValueError: an id occurs twice.
        """
        owned = sorted(actions, key=lambda one: (ORDER.index(one[1].menu), one[1].section))
        for owner, action in owned:
            self._add(owner, action, rank)
        self.show_for(*self._live)

    def bind(self, name: str, button: QAbstractButton, drawn: bool = False) -> None:
        """A button stands for an action: it says what that does, and does it, or says why not.

        A tool button is called as the action is now, and shows whether it is on; the owner of
        another button gives it its words.

        Args:
            name: the id of the action.
            button: what stands for it.
            drawn: whether it shows its drawing, and says the rest in its tooltip.
        """
        action = self.actions[name]
        if isinstance(button, QToolButton):
            button.setDefaultAction(action)
            styles = Qt.ToolButtonStyle
            button.setToolButtonStyle(
                styles.ToolButtonIconOnly if drawn else styles.ToolButtonTextOnly
            )
            if drawn:
                button.setAccessibleName(action.text())
            return
        button.setToolTip(action.toolTip())
        button.setCheckable(action.isCheckable())
        button.clicked.connect(lambda: self.do(name))

        def show() -> None:
            button.setChecked(action.isChecked())

        # What is refused is not shown as done either.
        button.clicked.connect(show)
        action.changed.connect(show)

    def fill(self, menu: QMenu, names: Iterable[str]) -> None:
        """Puts some actions into the menu of a button; what cannot be done there says why."""
        entries = [self._entries[name] for name in names]
        for before, entry in zip((None, *entries), entries, strict=False):
            if before is not None and before.action.section != entry.action.section:
                menu.addSeparator()
            menu.addAction(entry.made)
        menu.setToolTipsVisible(True)
        self._keep_fresh(menu, lambda: entries)

    def submenu(self, after: str, label: str, fill: Callable[[QMenu], None]) -> None:
        """A menu within a menu that is filled each time it is shown.

        Args:
            after: the id of the action under which it stands.
            label: what it is called.
            fill: fills it.
        """
        action = self.actions[after]
        menu = next(x for x in self.menus.values() if action in x.actions())
        entries = menu.actions()
        made = QMenu(label, menu)
        menu.insertMenu(entries[entries.index(action) + 1], made)
        self.menus[label] = made
        made.aboutToShow.connect(lambda: fill(made))
        self._filled_late.add(made)

    @property
    def entries(self) -> Iterator[MenuEntry]:
        """All that can be done, in the order of the menus."""
        self._add_rest()
        return iter(sorted(self._entries.values(), key=lambda entry: entry.order))

    def show_for(self, *owners: object) -> None:
        """Only what belongs to one of these, or to none, can be seen and done."""
        self._live = owners
        for entry in self._entries.values():
            entry.made.setVisible(entry.owner is None or entry.owner in owners)
        # A menu within a menu was made after it, and is looked at before it.
        for menu in reversed(self.menus.values()):
            entries = [x for x in menu.actions() if not x.isSeparator()]
            shown_by = menu.menuAction()
            if shown_by is not None:
                shown = menu in self._filled_late or any(x.isVisible() for x in entries)
                shown_by.setVisible(shown)

    def refresh(self, *names: str) -> None:
        """Shows some anew, or all: what they are called, whether they are on and can be done."""
        for name in names or tuple(self._entries):
            entry = self.entry(name)
            why_not = self.why_not(name)
            self._show(entry)
            entry.made.setToolTip(tip(why_not or _about(entry)))
            entry.made.setStatusTip(why_not or entry.action.says)
            entry.made.setEnabled(not why_not)

    def themed(self) -> None:
        """The drawings are in the ink of the theme."""
        for entry in self._entries.values():
            self._themed(entry)

    def _themed(self, entry: MenuEntry) -> None:
        if entry.action.icon:
            entry.made.setIcon(icons.icon(entry.action.icon, theme.active().ink))

    def entry(self, name: str) -> MenuEntry:
        """What has an id.

        Raises:
            KeyError: nothing has it.
        """
        if name not in self._entries:
            self._add_rest()
        return self._entries[name]

    def why_not(self, name: str) -> str:
        """Why something cannot be done now; what it names in braces is said with its key."""
        return self.expanded(self.entry(name).action.why_not())

    def expanded(self, text: str) -> str:
        """A text with the ids of actions in braces replaced by their names and keys of now."""
        return _IN_BRACES.sub(lambda found: _named(self.entry(found[1])), text)

    def set_keys(self, keys: Mapping[str, Sequence[str]]) -> None:
        """Other keys do some things from now on; what is not named has its own.

        Args:
            keys: by the ids of the actions; those that nothing has are passed over.
        """
        self._keys = keys
        for entry in self._entries.values():
            wanted = self._keys_of(entry.action)
            if wanted != entry.keys:
                entry.made.setShortcuts([QKeySequence(key) for key in wanted])
                entry.made.setToolTip(tip(_about(entry)))

    def _keys_of(self, action: Action) -> tuple[str, ...]:
        return tuple(self._keys.get(action.id, action.keys))

    def do(self, name: str) -> bool:
        """Does something as its key would; gives whether it could be done."""
        entry = self.entry(name)
        action, why_not = entry.action, self.why_not(name)
        if why_not:
            self.refused.emit(why_not)
            # Qt has switched it already.
            self._show(entry)
            return False
        action.act()
        if action.checked is not None:
            self.refresh(name)
        return True

    def take_keys(self) -> None:
        """The keys go to the menu bar."""
        bar = self._window.menuBar()
        shown = [x for x in bar.actions() if x.isVisible()] if bar is not None else []
        if bar is not None and shown:
            bar.setFocus(Qt.FocusReason.MenuBarFocusReason)
            bar.setActiveAction(shown[0])

    def _menu(self, name: str) -> QMenu:
        bar = self._window.menuBar()
        if name not in self.menus and bar is not None:
            made = QMenu(name, bar)
            later = (self.menus[x] for x in ORDER[ORDER.index(name) + 1 :] if x in self.menus)
            following = next(later, None)
            bar.insertMenu(following.menuAction() if following is not None else None, made)
            self.menus[name] = made
            made.setToolTipsVisible(True)
            entries = self._entries.values()
            self._keep_fresh(made, lambda: [x for x in entries if x.action.menu == name])
        return self.menus[name]

    def _keep_fresh(self, menu: QMenu, entries: Callable[[], list[MenuEntry]]) -> None:
        """A menu shows what can be done now whenever it opens."""
        menu.aboutToShow.connect(lambda: self.refresh(*(x.action.id for x in entries())))
        menu.aboutToHide.connect(lambda: _let_keys_answer(entries()))

    def _show(self, entry: MenuEntry) -> None:
        action, made = entry.action, entry.made
        made.setText(action.words)
        made.setIconText(action.brief)
        if action.checked is not None:
            made.setChecked(action.checked())

    def _within(self, menu: QMenu, action: Action, following: QAction | None) -> QMenu:
        """The menu within a menu; made before what follows."""
        key = f"{action.menu}/{action.under}"
        if key not in self.menus:
            made = self.menus[key] = QMenu(action.under, menu)
            menu.insertMenu(following, made)
        return self.menus[key]

    def _section(self, menu: QMenu, section: int) -> QAction | None:
        """Begins a section with a line, where it is new; gives the line of the one after it."""
        lines = self._lines.setdefault(menu, {})
        # A line at the end of a menu is not seen, nor are two without anything between.
        after = min((x for x in lines if x > section), default=None)
        following = lines[after] if after is not None else None
        if section not in lines:
            lines[section] = QAction(menu)
            lines[section].setSeparator(True)
            menu.insertAction(following, lines[section])
        return following

    def _add(self, owner: object, action: Action, rank: int) -> None:
        if action.id in self.actions:
            raise ValueError(f"the action {action.id} is declared twice")
        made = QAction(action.label, self._window)
        made.setObjectName(action.id)
        made.setShortcuts([QKeySequence(key) for key in self._keys_of(action)])
        made.setCheckable(action.checked is not None)
        made.triggered.connect(lambda checked=False: self.do(action.id))
        entry = MenuEntry(action, owner, made, rank)
        menu = self._menu(action.menu)
        following = self._section(menu, action.section)
        if action.under:
            self._within(menu, action, following).addAction(made)
        else:
            later = [x for x in self._entries.values()
                     if x.action.menu == action.menu and x.action.section == action.section
                     and not x.action.under and x.rank > rank]  # fmt: skip
            if later:
                following = min(later, key=lambda x: x.rank).made
            menu.insertAction(following, made)
        self.actions[action.id] = made
        self._entries[action.id] = entry
        self._themed(entry)
        made.setToolTip(tip(_about(entry)))
        self._show(entry)
        for signal in action.follows:
            signal.connect(lambda *_: self._show(entry))


def _let_keys_answer(entries: Iterable[MenuEntry]) -> None:
    """A key of something that cannot be done says why, which a disabled action would not."""
    for entry in entries:
        if entry.action.named is None:
            entry.made.setEnabled(True)


def _about(entry: MenuEntry) -> str:
    """The tooltip: what it is called, what it does, and its key."""
    action = entry.action
    says = f": {action.says}" if action.says else ""
    return f"{action.words}{says}{entry.key_behind}"


def _named(entry: MenuEntry) -> str:
    return f"“{entry.action.words}”{entry.key_behind}"
