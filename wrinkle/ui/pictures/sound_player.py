"""Sound that goes with what plays: mixed in the background, played from memory in a loop."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QIODevice, QLoggingCategory, QObject, QTimer

from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.workers import Workers

Sixteen = NDArray[np.int16]
Make = Callable[[int, int], Samples]
"""Gives so many samples from one on."""
_LONGEST = 600 * SAMPLE_RATE
"""Samples that are mixed at most: of longer pieces the beginning is heard."""
_STRETCH = 5 * SAMPLE_RATE
_SOON_MS = 250
_BYTES = 4
"""Of a sample on both sides."""
_NONE: Sixteen = np.zeros((0, 2), np.int16)


class LoopedSound(QIODevice):
    """Samples over and over, from one on.

    Args:
        samples: ``(N, 2)``, 16 bit.
        start: where it begins.
    """

    def __init__(self, samples: Sixteen, start: int) -> None:
        super().__init__()
        self._content = samples.tobytes()
        self._place = start * _BYTES % max(len(self._content), 1)

    def readData(self, most: int) -> bytes:
        """The next bytes, at most so many."""
        most -= most % _BYTES
        found = b""
        while self._content and len(found) < most:
            part = self._content[self._place : self._place + most - len(found)]
            self._place = (self._place + len(part)) % len(self._content)
            found += part
        return found

    def bytesAvailable(self) -> int:
        """It never ends."""
        return 1 << 20

    def isSequential(self) -> bool:
        """It is a stream."""
        return True


class SoundPlayer(QObject):
    """Plays sound where there is a device for it; without one all stays silent."""

    def __init__(self, workers: Workers, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._line = WorkLine(workers.jobs, Urgency.AROUND, "The sound cannot be mixed", self._fail)
        self._wanted: tuple[Make, int, int] | None = None
        self._job: Job | None = None
        self._mixed, self._first = _NONE, 0
        self._sink: object = None
        self._device: LoopedSound | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON_MS)
        self._soon.timeout.connect(self._mix)

    @property
    def mixed(self) -> Sixteen:
        """What is heard, as far as it is mixed: ``(N, 2)``, 16 bit."""
        return self._mixed

    def set_sound(self, make: Make | None, first: int = 0, end: int = 0) -> None:
        """What is heard from now on, once it is mixed.

        Args:
            make: gives the samples; None for silence.
            first, end: the first sample and the one after the last.
        """
        self._wanted = (make, first, min(end, first + _LONGEST)) if make is not None else None
        self._soon.start()

    def play(self, frames: range, start: int, rate: FrameRate) -> None:
        """Plays the sound of frames over and over.

        Args:
            frames: which ones.
            start: the one with which it begins.
            rate: how many a second.
        """
        self.stop()
        first, end, place = (
            round(rate.seconds(x) * SAMPLE_RATE) - self._first
            for x in (frames.start, frames.stop, start)
        )
        part = np.zeros((max(end - first, 0), 2), np.int16)
        low, high = max(first, 0), min(end, len(self._mixed))
        if low < high:
            part[low - first : high - first] = self._mixed[low:high]
        if not part.any():
            return
        # Whatever the desktop's sound lacks is of no use to whoever reads the terminal.
        QLoggingCategory.setFilterRules("qt.multimedia*=false")
        from PyQt6.QtMultimedia import QAudioFormat, QAudioSink, QMediaDevices

        output = QMediaDevices.defaultAudioOutput()
        if output.isNull():
            return
        kind = QAudioFormat()
        kind.setSampleRate(SAMPLE_RATE)
        kind.setChannelCount(2)
        kind.setSampleFormat(QAudioFormat.SampleFormat.Int16)
        sink = QAudioSink(output, kind, self)
        self._device = LoopedSound(part, place - first)
        self._device.open(QIODevice.OpenModeFlag.ReadOnly)
        sink.start(self._device)
        self._sink = sink

    def stop(self) -> None:
        """Silence."""
        sink, self._sink = self._sink, None
        if sink is not None:
            sink.stop()  # type: ignore[attr-defined]
            sink.deleteLater()  # type: ignore[attr-defined]
        self._device = None

    def close(self) -> None:
        """Nothing more is mixed."""
        self.stop()
        self._soon.stop()
        self._line.close()

    def _mix(self) -> None:
        if self._job is not None:
            self._job.cancel()
        if self._wanted is None:
            self._mixed = _NONE
            return
        make, first, end = self._wanted
        self._job = self._line.put(
            lambda job: _mixed(make, first, end, job), lambda mixed: self._take(mixed, first)
        )

    def _take(self, mixed: Sixteen, first: int) -> None:
        self._mixed, self._first = mixed, first

    def _fail(self, sentence: str) -> None:
        # What cannot be read is told where its pictures are; the rest is heard.
        self._mixed = _NONE


def _mixed(make: Make, first: int, end: int, job: Job) -> Sixteen:
    found = np.zeros((max(end - first, 0), 2), np.int16)
    for start in range(first, end, _STRETCH):
        job.check()
        part = make(start, min(_STRETCH, end - start))
        found[start - first : start - first + len(part)] = np.rint(part * 32767.0)
    return found
