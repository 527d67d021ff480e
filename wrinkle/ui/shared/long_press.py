"""A finger or a pen has no second button: where it rests for a moment, that is what it presses."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QPointF, QTimer
from PyQt6.QtGui import QInputDevice, QMouseEvent
from PyQt6.QtWidgets import QApplication, QWidget

_RESTS_MS = 550
_WITHOUT_BUTTONS = (QInputDevice.DeviceType.TouchScreen, QInputDevice.DeviceType.Stylus)


class LongPress(QObject):
    """Watches one widget.

    Args:
        widget: on which the second button means something.
        act: does that, at a spot of the widget.
    """

    def __init__(self, widget: QWidget, act: Callable[[QPointF], object]) -> None:
        super().__init__(widget)
        self._act = act
        self._spot = QPointF()
        self._rests = QTimer(self)
        self._rests.setSingleShot(True)
        self._rests.setInterval(_RESTS_MS)
        self._rests.timeout.connect(lambda: self._act(self._spot))
        widget.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Only looks on."""
        if isinstance(event, QMouseEvent):
            if event.type() == QEvent.Type.MouseButtonPress and _no_buttons(event):
                self._spot = event.position()
                self._rests.start()
            elif event.type() == QEvent.Type.MouseButtonRelease or self._moved(event):
                self._rests.stop()
        return False

    def _moved(self, event: QMouseEvent) -> bool:
        far = (event.position() - self._spot).manhattanLength()
        return far >= QApplication.startDragDistance()


def _no_buttons(event: QMouseEvent) -> bool:
    device = event.device()
    return device is not None and device.type() in _WITHOUT_BUTTONS
