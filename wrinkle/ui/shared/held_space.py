"""Whether Space is held: then the picture under the pointer is moved, and nothing on it."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QWidget


class HeldSpace(QObject):
    """Watches the widget with the focus alone, as that is where keys go.

    Args:
        window: whose pictures ask for it.
    """

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._down = False
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.focusChanged.connect(self._watch)

    @property
    def down(self) -> bool:
        """Whether it is held now."""
        return self._down

    def _watch(self, old: QWidget | None, now: QWidget | None) -> None:
        if old is not None:
            old.removeEventFilter(self)
        if now is not None:
            now.installEventFilter(self)
        self._down = False

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Only looks on: the key does what it does."""
        if isinstance(event, QKeyEvent) and event.key() == Qt.Key.Key_Space:
            if event.type() in (QEvent.Type.ShortcutOverride, QEvent.Type.KeyPress):
                self._down = True
            elif event.type() == QEvent.Type.KeyRelease and not event.isAutoRepeat():
                self._down = False
        return super().eventFilter(watched, event)
