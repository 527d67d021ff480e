"""Playing in a loop at the true rate, from a clock and not from counting ticks.

Where sound is heard its device is that clock: pictures follow what is heard.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable

from PyQt6.QtCore import QObject, Qt, QTimer, pyqtSignal

from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.pictures.sound_player import SoundPlayer

_OFTEN = 4
"""Milliseconds."""


class Player(QObject):
    """Says which frame is due.

    Args:
        clock: seconds that only ever grow.
        sound: what is heard with it, if anything is; then its seconds count.

    Signals:
        frameDue: the frame to show now.
        playingChanged: whether it plays.
        speedChanged: it plays faster or slower from now on.
    """

    frameDue = pyqtSignal(int)
    playingChanged = pyqtSignal(bool)
    speedChanged = pyqtSignal()

    def __init__(
        self,
        parent: QObject | None = None,
        clock: Callable[[], float] = time.perf_counter,
        sound: SoundPlayer | None = None,
    ) -> None:
        super().__init__(parent)
        self._sound = sound
        self._clock = sound.seconds if sound is not None else clock
        self._since = self._clock()
        self._frames = range(1)
        self._rate = FrameRate.of(30)
        self._speed = 1.0
        self._offset = 0.0
        self._last: int | None = None
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_OFTEN)
        self._timer.timeout.connect(self._tick)

    @property
    def playing(self) -> bool:
        """Whether it plays."""
        return self._timer.isActive()

    @property
    def speed(self) -> float:
        """1 is the true rate."""
        return self._speed

    def set_frames(self, frames: range, rate: FrameRate) -> None:
        """What is looped over, and how fast."""
        changed = (frames, rate) != (self._frames, self._rate)
        self._frames, self._rate = frames, rate
        if changed and self.playing:
            self._play_sound(self._frame)

    def set_speed(self, speed: float) -> None:
        """Changes the speed without a jump."""
        if self.playing:
            self._offset, self._since = self.position, self._clock()
        self._speed = speed
        if self.playing:
            self._play_sound(self._frame)
        self.speedChanged.emit()

    def play(self, start: int) -> None:
        """Plays from a frame on."""
        self._offset = float(start - self._frames.start)
        self._last = None
        self._play_sound(start)
        self._since = self._clock()
        self._timer.start()
        self.playingChanged.emit(True)

    def stop(self) -> None:
        """Stops where it is."""
        if self.playing:
            self._timer.stop()
            if self._sound is not None:
                self._sound.stop()
            self.playingChanged.emit(False)

    @property
    def position(self) -> float:
        """Where it is, in frames since the first one, however often it went round."""
        seconds = self._clock() - self._since
        return self._offset + seconds * float(self._rate.per_second) * self._speed

    def _play_sound(self, start: int) -> None:
        if self._sound is not None:
            self._sound.play(self._frames, start, self._rate, self._speed)

    @property
    def _frame(self) -> int:
        return self._frames.start + int(self.position) % max(1, len(self._frames))

    def _tick(self) -> None:
        position = self.position
        frame = self._frame
        if frame != self._last:
            self._last = frame
            self.frameDue.emit(frame)
        # The next look is when the next frame is due, and not some milliseconds later.
        ahead = (1.0 - position % 1.0) / (float(self._rate.per_second) * self._speed)
        self._timer.setInterval(min(_OFTEN, max(1, math.ceil(ahead * 1e3))))
