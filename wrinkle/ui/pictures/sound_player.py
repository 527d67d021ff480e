"""Sound that goes with what plays, and the clock that pictures follow."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.playing import Looped, Pump
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples, sample_at
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.sound_output import SoundOutput
from wrinkle.ui.desk.sound_settings import SoundSettings

_SMOOTH = 0.015
"""Seconds by which the clock may run on between two looks at the device, which counts in steps."""
_LOOKS = 3
"""The device may take more between two questions; then both are asked again."""
Make = Callable[[], Mix | None]
"""Gives what is heard; None where nothing is."""
NO_DEVICE = "There is no device for sound; pictures play by the clock of the machine."
LOST = "The device for sound went away; pictures play on by the clock of the machine."


@dataclass(frozen=True)
class _Played:
    """What plays: frames over and over, from a time of the clock on.

    Attributes:
        offset: the place in the round where it began, in seconds as it is played.
    """

    frames: range
    rate: FrameRate
    pace: Fraction
    offset: Fraction
    since: float

    @property
    def round(self) -> Fraction:
        """How long one round lasts, in seconds as it is played."""
        return self.rate.seconds(len(self.frames)) / self.pace


class SoundPlayer(QObject):
    """Plays what is heard, as long as there is a device, and says what time it is in it.

    Args:
        output: where it goes.
        settings: how it is played.
        clock: seconds that only ever grow; they count where nothing is heard.

    Signals:
        told: one sentence on what cannot be heard.
    """

    told = pyqtSignal(str)

    def __init__(
        self,
        output: SoundOutput,
        settings: SoundSettings,
        parent: QObject | None = None,
        clock: Callable[[], float] = time.perf_counter,
    ) -> None:
        super().__init__(parent)
        self._output = output
        self._settings = settings
        self._clock = clock
        self._make: Make | None = None
        self._heard: Mix | None = None
        self._pump: Pump | None = None
        self._ending: list[Pump] = []
        self._played: _Played | None = None
        self._base, self._since = 0.0, clock()
        self._reported = self._reported_at = self._last = 0.0
        self._missed = False
        self._peak = 0.0
        self._device = settings.device
        settings.changed.connect(self._take_settings)
        output.follow(self._devices_changed)

    @property
    def heard(self) -> Mix | None:
        """What would be heard; None where there is nothing."""
        if self._make is not None:
            found, self._make = self._make(), None
            self._heard = found if found is not None and found.parts else None
        return self._heard

    @property
    def sounds(self) -> bool:
        """Whether a device plays, and its clock counts."""
        return self._pump is not None

    def peak(self) -> float:
        """The largest value of what the device took last, 0…1."""
        return self._peak if self._pump is not None else 0.0

    def set_heard(self, make: Make | None) -> None:
        """What is heard from now on; what plays goes on in it.

        Args:
            make: gives it, or None where nothing is; is asked once, when it is to be heard: a piece
                is edited far more often than played.
        """
        self._make, self._heard = make, None
        if self._played is None:
            return
        heard = self.heard
        if self._pump is not None and heard is not None:
            self._pump.change(self._loop(heard, self._played))
        else:
            self._go_on()

    def play(self, frames: range, start: int, rate: FrameRate, speed: float = 1.0) -> None:
        """Plays the sound of frames over and over.

        Args:
            frames: which ones.
            start: the one with which it begins.
            rate: how many a second.
            speed: 1 is the true rate.
        """
        self._silence()
        pace = Fraction(speed).limit_denominator(100)
        offset = rate.seconds(start - frames.start) / pace
        self._played = _Played(frames, rate, pace, offset, self.seconds())
        self._begin()

    def stop(self) -> None:
        """Silence."""
        self._played = None
        self._silence()

    def seconds(self) -> float:
        """Seconds that only ever grow: those of the device while one plays."""
        now = self._clock()
        if self._pump is None:
            found = self._base + now - self._since
        else:
            played = self._played_by(self._pump) / SAMPLE_RATE
            if played != self._reported:
                self._reported, self._reported_at = played, now
            ahead = min(now - self._reported_at, _SMOOTH) if self._reported else 0.0
            found = self._base + self._reported + ahead
        self._last = max(self._last, found)
        return self._last

    def _played_by(self, pump: Pump) -> int:
        """Samples that were heard."""
        for _ in range(_LOOKS):
            before = pump.taken
            found = pump.played(self._output.waiting)
            if pump.taken == before:
                break
        return found

    def close(self) -> None:
        """Nothing plays any more, and no thread is left."""
        self.stop()
        for pump in self._ending:
            pump.close(wait=True)
        self._ending.clear()

    def _begin(self) -> None:
        """Lets a device play from where it is now, if there is something to hear."""
        played = self._played
        if played is None or not played.frames:
            return
        if not (played.pace == 1 or (self._settings.slow and played.pace < 1)):
            return
        heard = self.heard
        if heard is None:
            return
        passed = Fraction(self.seconds() - played.since).limit_denominator(SAMPLE_RATE)
        place = round((played.offset + passed) % played.round * SAMPLE_RATE)
        self._base, self._reported, self._reported_at = self.seconds(), 0.0, self._clock()
        self._pump = Pump(self._loop(heard, played), place)
        self._output.set_level(self._settings.factor)
        if self._output.start(self._take, self._lose):
            self._missed = False
            return
        self._silence()
        if not self._missed:
            # Once, and not at each press.
            self.told.emit(NO_DEVICE)
        self._missed = True

    def _go_on(self) -> None:
        """Plays from where it is now in what counts now."""
        self._silence()
        self._begin()

    def _loop(self, heard: Mix, played: _Played) -> Looped:
        ends = (played.frames.start, played.frames.stop)
        first, end = (sample_at(played.rate, x) for x in ends)
        return Looped(heard, range(first, max(end, first + 1)), played.pace)

    def _take(self, count: int) -> Samples:
        pump = self._pump
        if pump is None:
            return np.zeros((count, 2), np.float32)
        found = pump.take(count)
        self._peak = float(np.abs(found).max(initial=0.0))
        return found

    def _silence(self) -> None:
        pump = self._pump
        if pump is None:
            return
        # From here on the machine's own clock goes on where the device was.
        self._base, self._since = self.seconds(), self._clock()
        self._pump = None
        self._output.stop()
        pump.close()
        self._ending = [one for one in (*self._ending, pump) if one.works]

    def _lose(self) -> None:
        # Not in the midst of what the device is doing.
        QTimer.singleShot(0, self._lost)

    def _lost(self) -> None:
        if self._pump is not None:
            self._silence()
            self.told.emit(LOST)

    def _take_settings(self) -> None:
        self._output.set_level(self._settings.factor)
        device, self._device = self._device, self._settings.device
        slow = self._played is not None and self._played.pace != 1
        if device != self._device or (slow and self._settings.slow != self.sounds):
            self._go_on()

    def _devices_changed(self) -> None:
        """A device came or went: what was missed is heard again."""
        if self._played is not None and self._pump is None:
            self._missed = True
            self._begin()
