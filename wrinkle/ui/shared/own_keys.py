"""A widget's own keys come before those of the place: Space presses, arrows choose."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QApplication,
    QComboBox,
    QTextEdit,
    QWidget,
)

_UP_AND_DOWN = (
    Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown, Qt.Key.Key_Home,
    Qt.Key.Key_End,
)  # fmt: skip
_ARROWS = (*_UP_AND_DOWN, Qt.Key.Key_Left, Qt.Key.Key_Right)
_KEYS: tuple[tuple[type[QWidget], tuple[Qt.Key, ...]], ...] = (
    (QAbstractButton, (Qt.Key.Key_Space,)),
    (QComboBox, (Qt.Key.Key_Space, *_UP_AND_DOWN)),
    (QAbstractSlider, _ARROWS),
    (QAbstractItemView, _ARROWS),
    (QTextEdit, _ARROWS),
)
"""What kinds of widgets mean by which keys; with Shift they mean the same."""
_MODIFIERS = Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier


class OwnKeys(QObject):
    """Watches the widget with the focus alone: all events of all widgets are many."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._watch)

    def _watch(self, old: QWidget | None, now: QWidget | None) -> None:
        if old is not None:
            old.removeEventFilter(self)
        if now is not None and _own(now):
            now.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The widget takes the key before the place does."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and isinstance(watched, QWidget)
            and not event.modifiers() & ~_MODIFIERS
            and event.key() in _own(watched)
        ):
            event.accept()
            return True
        return super().eventFilter(watched, event)


def _own(widget: QWidget) -> tuple[Qt.Key, ...]:
    return next((keys for kind, keys in _KEYS if isinstance(widget, kind)), ())
