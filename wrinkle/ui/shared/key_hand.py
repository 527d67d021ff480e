"""Keys in place of a hand: Space picks up, arrows carry, Space puts down, Escape lets go."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QFocusEvent, QKeyEvent
from PyQt6.QtWidgets import QWidget

STEPS_WITH_SHIFT = 5
"""How many steps an arrow makes with Shift, in all that arrows move."""
_ACROSS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
_UP = {Qt.Key.Key_Down: -1, Qt.Key.Key_Up: 1}
_NEXT = {Qt.Key.Key_PageUp: -1, Qt.Key.Key_PageDown: 1}
_TAKES = (Qt.Key.Key_Space,)
_PUTS = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter)
_BY_KEYS = (
    Qt.FocusReason.TabFocusReason,
    Qt.FocusReason.BacktabFocusReason,
    Qt.FocusReason.ShortcutFocusReason,
)


class Carried(Protocol):
    """What a drawn thing lets be done to it without a mouse."""

    def choose(self, by: int) -> str:
        """The next grip (1) or the one before (-1); gives what it is, empty where there is none."""

    def take(self) -> str:
        """Takes hold of the chosen grip; gives what it is, empty where there is none."""

    def carry(self, across: int, up: int) -> str:
        """Shows it so many steps from where it was taken; gives where that is."""

    def put(self) -> None:
        """What is shown is one step."""

    def let_go(self) -> None:
        """All is as it was when it was taken."""


class KeyHand(QObject):
    """Lets keys do on one widget what a drag does.

    Space is a key of most places as well: it picks up only where the focus came by a key.

    Args:
        widget: on which it is drawn.
        carried: what can be carried there.
        tell: says what happens, in a sentence.
    """

    def __init__(self, widget: QWidget, carried: Carried, tell: Callable[[str], object]) -> None:
        super().__init__(widget)
        self._widget = widget
        self._carried = carried
        self._tell = tell
        self._by_key = False
        self._way: tuple[int, int] | None = None
        widget.installEventFilter(self)

    @property
    def carries(self) -> bool:
        """Whether something is picked up."""
        return self._way is not None

    @property
    def in_use(self) -> bool:
        """Whether the focus came by a key, or something is carried."""
        return self._by_key or self.carries

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Takes the keys that it means something by, before they are keys of the place."""
        if isinstance(event, QFocusEvent):
            self._by_key = event.gotFocus() and event.reason() in _BY_KEYS
            if event.lostFocus() and self.carries and _leaves(event):
                self._put()
            self._widget.update()
        elif isinstance(event, QKeyEvent) and self._means(event):
            event.accept()
            if event.type() == QEvent.Type.KeyPress:
                self._do(event)
            return True
        return False

    def _means(self, event: QKeyEvent) -> bool:
        if event.type() not in (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress):
            return False
        plain = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier
        key = event.key()
        if event.modifiers() & ~plain:
            return False
        if self.carries:
            return key in (*_ACROSS, *_UP, *_PUTS, Qt.Key.Key_Escape)
        return self._by_key and key in (*_TAKES, *_NEXT)

    def _do(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if self._way is None:
            if key in _NEXT:
                self._say(self._carried.choose(_NEXT[key]), "Space picks it up")
                return
            taken = self._carried.take()
            self._way = (0, 0) if taken else None
            self._say(taken, "arrows move it, Space puts it down, Escape lets go")
        elif key == Qt.Key.Key_Escape:
            self._way = None
            self._carried.let_go()
            self._tell("It is where it was.")
        elif key in _PUTS:
            self._put()
        else:
            times = STEPS_WITH_SHIFT if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            across, up = self._way
            wanted = across + times * _ACROSS.get(key, 0), up + times * _UP.get(key, 0)
            self._way = wanted
            self._tell(self._carried.carry(*wanted))

    def _put(self) -> None:
        self._way = None
        self._carried.put()

    def _say(self, what: str, next_keys: str) -> None:
        self._tell(f"{what} · {next_keys}" if what else "There is nothing here to pick up.")


def _leaves(event: QFocusEvent) -> bool:
    """A menu that opens, or another window in front, takes nothing out of the hand."""
    return event.reason() not in (
        Qt.FocusReason.PopupFocusReason,
        Qt.FocusReason.ActiveWindowFocusReason,
        Qt.FocusReason.MenuBarFocusReason,
    )
