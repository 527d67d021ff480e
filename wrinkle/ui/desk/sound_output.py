"""Where sound goes: a device of the desktop that takes samples when it needs them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

import numpy as np
from PyQt6.QtCore import QIODevice, QLoggingCategory, QObject

from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_BYTES = 4
"""Of a sample on both sides, 16 bit."""
_HELD = SAMPLE_RATE // 10
"""Samples that the device may hold."""
Take = Callable[[int], Samples]
"""Gives so many samples."""


class SoundOutput(Protocol):
    """What plays.

    ``waiting`` is how many samples it has taken and not played yet.
    """

    @property
    def waiting(self) -> int:
        """Samples that it has taken and not played yet."""

    def start(self, take: Take, lost: Callable[[], None]) -> bool:
        """Plays what it takes from now on; gives whether there is anything that plays.

        Args:
            take: gives samples.
            lost: is called where the device goes away.
        """

    def stop(self) -> None:
        """Silence at once."""

    def set_level(self, factor: float) -> None:
        """How loud, 0…1."""

    def follow(self, changed: Callable[[], None]) -> None:
        """Whom to tell that a device came or went."""


class DeviceOutput(QObject):
    """A device of the desktop.

    Args:
        wanted: gives the name of the one that was chosen; empty for the usual one.
    """

    def __init__(self, wanted: Callable[[], str], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._wanted = wanted
        self._sink: object = None
        self._stream: _Stream | None = None
        self._level = 1.0
        self._devices: object = None
        self._changed: Callable[[], None] = lambda: None

    @property
    def waiting(self) -> int:
        """Samples that it has taken and not played yet."""
        sink = self._sink
        if sink is None:
            return 0
        held = sink.bufferSize() - sink.bytesFree()  # type: ignore[attr-defined]
        return max(int(held) // _BYTES, 0)

    def start(self, take: Take, lost: Callable[[], None]) -> bool:
        """Plays what it takes from now on; gives whether there is a device."""
        self.stop()
        # Whatever the desktop's sound lacks is of no use to whoever reads the terminal.
        QLoggingCategory.setFilterRules("qt.multimedia*=false")
        from PyQt6.QtMultimedia import QAudio, QAudioFormat, QAudioSink, QMediaDevices

        if self._devices is None:
            devices = self._devices = QMediaDevices(self)
            devices.audioOutputsChanged.connect(lambda: self._changed())
        name = self._wanted()
        there = QMediaDevices.audioOutputs()
        chosen = next((x for x in there if x.description() == name), None)
        output = chosen if chosen is not None else QMediaDevices.defaultAudioOutput()
        if output.isNull():
            return False
        kind = QAudioFormat()
        kind.setSampleRate(SAMPLE_RATE)
        kind.setChannelCount(2)
        kind.setSampleFormat(QAudioFormat.SampleFormat.Int16)
        sink = QAudioSink(output, kind, self)
        sink.setBufferSize(_HELD * _BYTES)
        sink.setVolume(self._level)

        def changed(state: QAudio.State) -> None:
            if state is QAudio.State.StoppedState and sink.error() is not QAudio.Error.NoError:
                lost()

        sink.stateChanged.connect(changed)
        self._stream = _Stream(take)
        self._stream.open(QIODevice.OpenModeFlag.ReadOnly)
        sink.start(self._stream)
        self._sink = sink
        return True

    def stop(self) -> None:
        """Silence at once."""
        sink, self._sink = self._sink, None
        if sink is not None:
            sink.stateChanged.disconnect()  # type: ignore[attr-defined]
            sink.stop()  # type: ignore[attr-defined]
            sink.deleteLater()  # type: ignore[attr-defined]
        self._stream = None

    def set_level(self, factor: float) -> None:
        """How loud, 0…1."""
        self._level = factor
        if self._sink is not None:
            self._sink.setVolume(factor)  # type: ignore[attr-defined]

    def follow(self, changed: Callable[[], None]) -> None:
        """Whom to tell that a device came or went; from the first time that it plays."""
        self._changed = changed


def device_names() -> list[str]:
    """The devices that there are for sound."""
    QLoggingCategory.setFilterRules("qt.multimedia*=false")
    from PyQt6.QtMultimedia import QMediaDevices

    return [device.description() for device in QMediaDevices.audioOutputs()]


class _Stream(QIODevice):
    """Samples as the bytes that a device reads."""

    def __init__(self, take: Take) -> None:
        super().__init__()
        self._take = take

    def readData(self, most: int) -> bytes:
        """The next bytes, at most so many."""
        samples = self._take(most // _BYTES)
        return bytes(np.rint(samples * 32767.0).astype("<i2").tobytes())

    def bytesAvailable(self) -> int:
        """It never ends."""
        return 1 << 20

    def isSequential(self) -> bool:
        """It is a stream."""
        return True
