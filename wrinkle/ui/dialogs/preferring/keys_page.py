"""Which key does what: each can be another one; two that would be in each other's way are said."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QKeySequenceEdit,
    QLineEdit,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.searching import holds_words
from wrinkle.ui.actions.action import HeldKey
from wrinkle.ui.actions.menus import MenuEntry, Menus
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.shared.plain_text import PlainLabel

_ID = Qt.ItemDataRole.UserRole


class KeysPage(QWidget):
    """All that can be done, with its key.

    Args:
        preferences: what is chosen.
        menus: all that can be done.
        together: whether what belongs to two owners can be live at once.
        where: what the place of an owner is called; empty where it is live everywhere.
        held: the keys that are held in any place.
    """

    def __init__(
        self,
        preferences: Preferences,
        menus: Menus,
        together: Callable[[object, object], bool],
        where: Callable[[object], str],
        held: Sequence[HeldKey],
    ) -> None:
        super().__init__()
        self._preferences, self._menus = preferences, menus
        self._together, self._where, self._held = together, where, held
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a command or a key")
        self.search.setAccessibleName("Find a command or a key")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self.refresh)
        self.list = QTreeWidget()
        self.list.setHeaderLabels(["Command", "Where", "Key"])
        self.list.setRootIsDecorated(False)
        self.list.setUniformRowHeights(True)
        self.list.setAccessibleName("Commands and their keys")
        self.list.currentItemChanged.connect(lambda now, before: self._show_chosen())
        header = self.list.header()
        if header is not None:
            header.setStretchLastSection(False)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.pressed = QKeySequenceEdit()
        self.pressed.setMaximumSequenceLength(1)
        self.pressed.setAccessibleName("Press the new key")
        self.pressed.keySequenceChanged.connect(lambda keys: self._try())
        self.take = QPushButton("Take it")
        self.none = QPushButton("No key")
        self.own = QPushButton("Its own again")
        self.all_own = QPushButton("All as they were")
        self.take.clicked.connect(self._take)
        self.none.clicked.connect(lambda: self._set(()))
        self.own.clicked.connect(lambda: self._set(None))
        self.all_own.clicked.connect(self._all_own)
        self.words = PlainLabel()
        self.words.setWordWrap(True)
        self.words.setObjectName("quiet")
        self.words.setMinimumHeight(2 * self.fontMetrics().lineSpacing())
        row = QHBoxLayout()
        row.addWidget(PlainLabel("New key"))
        row.addWidget(self.pressed, 1)
        for button in (self.take, self.none, self.own):
            row.addWidget(button)
        column = QVBoxLayout(self)
        column.addWidget(self.search)
        column.addWidget(self.list, 1)
        column.addLayout(row)
        column.addWidget(self.words)
        column.addWidget(self.all_own, 0, Qt.AlignmentFlag.AlignRight)
        self.refresh()

    @property
    def chosen(self) -> MenuEntry | None:
        """What the list has its mark on."""
        item = self.list.currentItem()
        name = item.data(0, _ID) if item is not None else ""
        return next((x for x in self._menus.entries if x.action.id == name), None)

    def refresh(self) -> None:
        """Lists what the words find."""
        before, words = self.chosen, self.search.text()
        self.list.clear()
        for entry in self._menus.entries:
            action, keys = entry.action, ", ".join(entry.keys)
            if holds_words(f"{action.label} {action.under} {keys}", words):
                name = f"{action.under}: {action.label}" if action.under else action.label
                row = QTreeWidgetItem([name, self._where(entry.owner) or "everywhere", keys])
                row.setData(0, _ID, action.id)
                self.list.addTopLevelItem(row)
                if before is not None and before.action.id == action.id:
                    self.list.setCurrentItem(row)
        if self.list.currentItem() is None:
            self.list.setCurrentItem(self.list.topLevelItem(0))
        self._show_chosen()

    def rivals(self, entry: MenuEntry, key: str) -> list[MenuEntry]:
        """What has a key already where the chosen one would be live."""
        return [
            other
            for other in self._menus.entries
            if other.action.id != entry.action.id
            and key in other.keys
            and self._together(entry.owner, other.owner)
        ]

    def _show_chosen(self) -> None:
        entry = self.chosen
        for widget in (self.pressed, self.none, self.own):
            widget.setEnabled(entry is not None)
        self.pressed.clear()
        self.take.setEnabled(False)
        self.words.setText(entry.action.says if entry is not None else "Nothing is called so.")

    def _try(self) -> None:
        entry, key = self.chosen, self._key
        if entry is None or not key:
            self.take.setEnabled(False)
            return
        held = [x.label for x in self._held if x.key == key]
        rivals = self.rivals(entry, key)
        self.take.setEnabled(not held and key not in entry.keys)
        if held:
            self.words.setText(f"{key} is held for “{held[0]}”, and cannot be another key.")
        elif rivals:
            names = " and ".join(f"“{x.action.label}”" for x in rivals)
            self.words.setText(f"{key} is the key of {names}, which would have it no longer.")
        else:
            self.words.setText(f"{key} is free.")

    @property
    def _key(self) -> str:
        return self.pressed.keySequence().toString(QKeySequence.SequenceFormat.PortableText)

    def _take(self) -> None:
        entry, key = self.chosen, self._key
        if entry is None or not key:
            return
        for rival in self.rivals(entry, key):
            left = tuple(x for x in rival.keys if x != key)
            self._preferences.set_keys(rival.action.id, left)
        self._set((key,))

    def _set(self, keys: tuple[str, ...] | None) -> None:
        entry = self.chosen
        if entry is None:
            return
        if keys is None:
            taken = [x for key in entry.action.keys for x in self.rivals(entry, key)]
            if taken:
                self.words.setText(
                    f"Its own key is that of “{taken[0].action.label}” now; give that another one."
                )
                return
        own = keys == entry.action.keys
        self._preferences.set_keys(entry.action.id, None if own else keys)
        self._menus.set_keys(self._preferences.keys)
        self.refresh()

    def _all_own(self) -> None:
        self._preferences.usual_keys()
        self._menus.set_keys(self._preferences.keys)
        self.refresh()
