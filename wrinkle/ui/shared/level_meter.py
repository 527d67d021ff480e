"""How loud it is that plays now, with its loudest moment held."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.theme import active

_EACH_MS = 33
_LOWEST = -48.0
"""dBFS at the left end."""
_FALLS = 1.2
"""Decibels that it falls by each time."""
_HELD = 45
"""Times for which the loudest is held: a second and a half."""
_RED = -0.1


class LevelMeter(QWidget):
    """A bar from -48 dBFS to 0.

    Args:
        level: gives the largest value of what was played last, 0…1 and above.
    """

    def __init__(self, level: Callable[[], float]) -> None:
        super().__init__()
        self._level = level
        self._shown = self._most = _LOWEST
        self._left = 0
        self.setFixedSize(56, 10)
        self.setAccessibleName("Level")
        self._timer = QTimer(self)
        self._timer.setInterval(_EACH_MS)
        self._timer.timeout.connect(self._look)

    @property
    def held(self) -> float:
        """The loudest that is shown, in dBFS."""
        return self._most

    def run(self, on: bool) -> None:
        """Whether something plays."""
        if on:
            self._timer.start()
        else:
            self._timer.stop()
            self._shown = self._most = _LOWEST
            self.update()

    def _look(self) -> None:
        level = self._level()
        now = 20.0 * math.log10(level) if level > 0.0 else _LOWEST
        self._shown = max(now, self._shown - _FALLS, _LOWEST)
        self._left -= 1
        if now >= self._most or self._left <= 0:
            self._most, self._left = max(now, _LOWEST), _HELD
        self.setToolTip(f"Loudest: {self._most:.1f} dBFS".replace("-", "−"))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), active()
        painter.fillRect(self.rect(), theme.colour("field"))
        share = min((self._shown - _LOWEST) / -_LOWEST, 1.0)
        painter.fillRect(
            QRectF(0, 2, self.width() * share, self.height() - 4), theme.colour("quiet")
        )
        if self._most > _LOWEST:
            x = min((self._most - _LOWEST) / -_LOWEST, 1.0) * (self.width() - 2)
            role = "seam" if self._most >= _RED else "ink"
            painter.fillRect(QRectF(x, 0, 2, self.height()), theme.colour(role))
