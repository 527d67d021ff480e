"""Space presses the button that has the focus, although it is a key of the place as well."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QWidget


class SpacePresses(QObject):
    """Watches the widget with the focus alone: all events of all widgets are many."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._watch)

    def _watch(self, old: QWidget | None, now: QWidget | None) -> None:
        if old is not None:
            old.removeEventFilter(self)
        if isinstance(now, QAbstractButton | QComboBox):
            now.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The button takes the key before the place does."""
        if (
            event is not None
            and event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Space
        ):
            event.accept()
            return True
        return super().eventFilter(watched, event)
