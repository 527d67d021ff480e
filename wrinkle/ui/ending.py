"""The program is asked to end from outside: by a signal of the system."""

from __future__ import annotations

import signal
import socket

from PyQt6.QtCore import QObject, QSocketNotifier, pyqtSignal

SIGNALS = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)


class Ending(QObject):
    """Brings signals to the window's thread, where Python would see them only by chance.

    Signals:
        asked: the program is to end.
    """

    asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._read, self._write = socket.socketpair()
        self._read.setblocking(False)
        self._write.setblocking(False)
        signal.set_wakeup_fd(self._write.fileno(), warn_on_full_buffer=False)
        for number in SIGNALS:
            signal.signal(number, lambda number, frame: None)
        kind = QSocketNotifier.Type.Read
        self._watch = QSocketNotifier(self._read.fileno(), kind, self)  # type: ignore[call-overload]
        self._watch.activated.connect(self._came)

    def _came(self) -> None:
        if self._read.recv(64):
            self.asked.emit()
