"""How sound is played on this machine: a choice of the person's, and no part of any document."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal


class SoundSettings(QObject):
    """Device, level, mute, and whether slow is heard.

    Signals:
        changed: one of them is another.
    """

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._device, self._level = "", 100.0
        self._muted = self._slow = False

    @property
    def device(self) -> str:
        """The name of the device; empty for the usual one."""
        return self._device

    @property
    def level(self) -> float:
        """How loud it is played, in per cent, 0…100."""
        return self._level

    @property
    def muted(self) -> bool:
        """Whether nothing is heard."""
        return self._muted

    @property
    def slow(self) -> bool:
        """Whether what plays slower than true is heard too, at the same pitch."""
        return self._slow

    @property
    def factor(self) -> float:
        """What the device multiplies samples with, 0…1."""
        return 0.0 if self._muted else (self._level / 100.0) ** 2

    def choose(
        self,
        device: str | None = None,
        level: float | None = None,
        muted: bool | None = None,
        slow: bool | None = None,
    ) -> None:
        """Changes what is given; a level is held within 0 and 100."""
        before = self._device, self._level, self._muted, self._slow
        self._device = self._device if device is None else device
        self._level = self._level if level is None else min(max(level, 0.0), 100.0)
        self._muted = self._muted if muted is None else muted
        self._slow = self._slow if slow is None else slow
        if before != (self._device, self._level, self._muted, self._slow):
            self.changed.emit()
