"""With Ctrl and the wheel, where nothing else takes it, text becomes smaller or larger."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.preferences import Preferences

_STEP = 10


class TextWheel(QObject):
    """Watches what of the wheel reaches the window itself.

    Signals:
        turned: text has another size, in per cent; it is not applied yet.
    """

    turned = pyqtSignal(int)

    def __init__(self, window: QWidget, preferences: Preferences) -> None:
        super().__init__(window)
        self._preferences = preferences
        window.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Takes the wheel while Ctrl is held."""
        if not isinstance(event, QWheelEvent) or event.type() != QEvent.Type.Wheel:
            return super().eventFilter(watched, event)
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return super().eventFilter(watched, event)
        preferences, before = self._preferences, self._preferences.text
        preferences.text = before + (_STEP if event.angleDelta().y() > 0 else -_STEP)
        if preferences.text != before:
            self.turned.emit(preferences.text)
        event.accept()
        return True
