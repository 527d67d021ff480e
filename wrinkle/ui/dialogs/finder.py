"""Finds whatever can be done in the window by its words, says its key, and does it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QDialog,
    QHeaderView,
    QLineEdit,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.searching import holds_words
from wrinkle.ui.actions.action import HeldKey
from wrinkle.ui.actions.menus import MenuEntry, Menus
from wrinkle.ui.shared.plain_text import PlainLabel

_MOVES = (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown)
_ID = Qt.ItemDataRole.UserRole


@dataclass(frozen=True)
class Owners:
    """How what belongs elsewhere is reached.

    Attributes:
        name: what the place of an owner is called; empty where it is shown already.
        show: shows it.
        place: what it is called wherever one is; empty for what can be done everywhere.
        together: whether what belongs to two owners can be live at once.
        held: the keys that are held in any place.
    """

    name: Callable[[object], str]
    show: Callable[[object], None]
    place: Callable[[object], str]
    together: Callable[[object, object], bool]
    held: Callable[[], list[HeldKey]]


class CommandFinder(QDialog):
    """A field and a list that it narrows; Return does what is chosen.

    Attributes:
        field: for the words.
        list: what matches them.
        about: what the chosen one does, and why it cannot be done now.
    """

    def __init__(self, menus: Menus, owners: Owners, parent: QWidget) -> None:
        super().__init__(parent)
        self._menus = menus
        self._owners = owners
        self.setWindowTitle("Find a command")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(620, 460)
        self.field = QLineEdit()
        self.field.setPlaceholderText("What do you want to do?")
        self.field.setAccessibleName("What you want to do")
        self.field.setClearButtonEnabled(True)
        self.field.textChanged.connect(self._narrow)
        self.field.installEventFilter(self)
        self.list = QTreeWidget()
        self.list.setHeaderLabels(["Command", "Key", "Where"])
        self.list.setRootIsDecorated(False)
        self.list.setUniformRowHeights(True)
        self.list.setAccessibleName("Commands")
        self.list.itemActivated.connect(lambda item: self._do())
        self.list.currentItemChanged.connect(lambda now, before: self._show_about())
        header = self.list.header()
        if header is not None:
            header.setStretchLastSection(False)
            header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.about = PlainLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        self.about.setMinimumHeight(2 * self.fontMetrics().lineSpacing() + 4)
        column = QVBoxLayout(self)
        column.addWidget(self.field)
        column.addWidget(self.list, 1)
        column.addWidget(self.about)
        self._narrow("")
        self.field.setFocus()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """While words are typed, arrows choose and Return does."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            if event.key() in _MOVES:
                self.list.keyPressEvent(event)
                return True
            if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._do()
                return True
        return super().eventFilter(watched, event)

    def _narrow(self, words: str) -> None:
        self.list.clear()
        here: list[MenuEntry] = []
        elsewhere: list[MenuEntry] = []
        for entry in self._menus.entries:
            action = entry.action
            text = " ".join((action.words, action.says, action.under, action.menu))
            if action.id != "help.find" and holds_words(text, words):
                (elsewhere if self._owners.name(entry.owner) else here).append(entry)
        # What is called so comes before what is only described so, what is here before the rest.
        for group in (here, elsewhere):
            group.sort(key=lambda entry: not holds_words(entry.action.words, words))
            for entry in group:
                self.list.addTopLevelItem(self._row(entry))
        self.list.setCurrentItem(self.list.topLevelItem(0))
        self._show_about()

    def _row(self, entry: MenuEntry) -> QTreeWidgetItem:
        action = entry.action
        name = f"{action.under}: {action.words}" if action.under else action.words
        where = self._owners.name(entry.owner) or f"{action.menu} menu"
        row = QTreeWidgetItem([name.rstrip("…"), ", ".join(entry.keys[:1]), where])
        row.setData(0, _ID, action.id)
        row.setToolTip(0, "")
        if self._menus.why_not(action.id):
            for column in range(3):
                row.setForeground(column, self.palette().placeholderText())
        return row

    def _chosen(self) -> MenuEntry | None:
        item = self.list.currentItem()
        name = item.data(0, _ID) if item is not None else None
        return next((x for x in self._menus.entries if x.action.id == name), None)

    def _show_about(self) -> None:
        entry = self._chosen()
        if entry is None:
            self.about.setText("Nothing is called so. Try a single word, such as pin or clip.")
            return
        place = self._owners.name(entry.owner)
        why_not = "" if place else self._menus.why_not(entry.action.id)
        words = (entry.action.says, f"Not now: {why_not}" if why_not else "",
                 f"Return goes to {place} and does it." if place else "")  # fmt: skip
        self.about.setText(" ".join(filter(None, words)))

    def _do(self) -> None:
        entry = self._chosen()
        if entry is None:
            return
        if self._owners.name(entry.owner):
            self._owners.show(entry.owner)
        if entry.action.why_not():
            self._show_about()
            return
        self.accept()
        self._menus.do(entry.action.id)
