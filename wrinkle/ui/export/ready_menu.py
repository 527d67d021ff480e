"""The ready choices beside the fields: keeping one's own, and several at once."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QInputDialog,
    QMenu,
    QSizePolicy,
    QToolButton,
    QWidget,
    QWidgetAction,
)

from wrinkle.core.errors import InputError
from wrinkle.library.ready_choices import (
    READY,
    ReadyChoice,
    forget_choice,
    keep_choice,
    own_choices,
)
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.plain_text import tip


class ReadyMenu(QWidget):
    """One choice is taken, or several are written at once.

    Signals:
        taken: one was chosen for all fields (ReadyChoice).
        severalChanged: others are written at once.
        faulted: one sentence on what is not possible.
    """

    taken = pyqtSignal(object)
    severalChanged = pyqtSignal()
    faulted = pyqtSignal(str)

    def __init__(self, now: Callable[[], ReadyChoice]) -> None:
        super().__init__()
        self._now = now
        self._several: tuple[str, ...] = ()
        self._own: tuple[ReadyChoice, ...] = ()
        self.box, self.more = QComboBox(), QToolButton()
        self.box.setAccessibleName("Ready choices")
        self.box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.more.setText("…")
        self.more.setAccessibleName("Keep a choice, or write several at once")
        self.more.setToolTip(tip("Keep what is chosen, or write several at once"))
        self.menu = QMenu(self)
        hang_menu(self.more, self.menu)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.box, 1)
        layout.addWidget(self.more)
        self.menu.aboutToShow.connect(self.fill)
        self.box.activated.connect(lambda at: self.taken.emit(self.box.itemData(at)))
        self.refresh()

    @property
    def several(self) -> tuple[ReadyChoice, ...]:
        """Those that are written at once; none where the fields say how it is written."""
        return tuple(x for x in (*READY, *self._own) if x.name in self._several)

    def refresh(self) -> None:
        """Reads a person's own."""
        try:
            self._own = own_choices()
        except InputError as fault:
            self.faulted.emit(str(fault))
        chosen = self.box.currentText()
        self.box.clear()
        for choice in (*READY, *self._own):
            self.box.addItem(choice.name, choice)
        self.box.setCurrentIndex(-1 if self._several else max(self.box.findText(chosen), 0))

    def fill(self) -> None:
        """Makes the menu."""
        menu = self.menu
        menu.clear()
        menu.addAction("Keep what is chosen…", self.ask_keep)
        for choice in self._own:
            menu.addAction(f"Forget “{choice.name}”", lambda x=choice.name: self.forget(x))
        menu.addSeparator()
        heading = menu.addAction("Write several at once:")
        if heading is not None:
            heading.setEnabled(False)
        for choice in (*READY, *self._own):
            # A box of its own: a plain entry would close the menu after each of them.
            box, action = QCheckBox(choice.name), QWidgetAction(menu)
            action.setText(choice.name)
            box.setObjectName("entry")
            box.setChecked(choice.name in self._several)
            box.toggled.connect(lambda on, name=choice.name: self.choose(name, on))
            action.setDefaultWidget(box)
            menu.addAction(action)

    def choose(self, name: str, on: bool) -> None:
        """Writes one more at once, or no longer."""
        others = tuple(x for x in self._several if x != name)
        self._several = (*others, name) if on else others
        self.box.setPlaceholderText(f"{len(self._several)} at once")
        self.box.setEnabled(not self._several)
        self.box.setCurrentIndex(-1 if self._several else 0)
        self.severalChanged.emit()

    def ask_keep(self) -> None:
        """Asks for a name, and keeps what the fields say under it."""
        name, taken = QInputDialog.getText(self, "Keep a choice", "What it is for")
        if taken:
            self._do(lambda: keep_choice(replace(self._now(), name=name.strip())))
            self.box.setCurrentIndex(max(self.box.findText(name.strip()), 0))

    def forget(self, name: str) -> None:
        """Takes an own one away."""
        self._do(lambda: forget_choice(name))
        self.choose(name, False)

    def _do(self, act: Callable[[], None]) -> None:
        try:
            act()
        except InputError as fault:
            self.faulted.emit(str(fault))
        self.refresh()
