"""The sound of a file, by the number of its samples."""

from __future__ import annotations

from pathlib import Path
from threading import Lock

import av
import numpy as np
from av.audio.resampler import AudioResampler

from wrinkle.core.errors import MediaError, told_as
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.media.container import opened_any

_LEFT_AND_RIGHT = 2


class Sound:
    """Sound as samples of one rate, two channels, whatever the file has. Thread-safe.

    The file is open only while samples are read.
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        self._lock = Lock()

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on; there is silence where the file has none.

        Args:
            start: counted from the file's time 0; may be below 0.
            count: how many.

        Raises:
            MediaError: the sound cannot be read.
        """
        found = np.zeros((count, _LEFT_AND_RIGHT), np.float32)
        with told_as(self._unreadable, anew=True), self._lock, opened_any(self._path) as container:
            self._fill(container, found, start)
        return found

    def _unreadable(self) -> MediaError:
        return MediaError(
            f"The sound of {self._path.name} cannot be read; use a whole copy of the file."
        )

    def _fill(self, container: av.container.InputContainer, found: Samples, start: int) -> None:
        stream = container.streams.audio[0]
        base = stream.time_base
        if base is None:
            raise ValueError("the sound has no time")
        # Where times are rounded (Matroska's to thousandths), samples are counted from the start.
        if base * stream.rate <= 1:
            container.seek(max(0, int(start / SAMPLE_RATE / base)), stream=stream)
        resampler = AudioResampler("flt", "stereo", SAMPLE_RATE)
        place: int | None = None
        for frame in container.decode(stream):
            if place is None:
                place = round((frame.pts or 0) * base * SAMPLE_RATE) - start
            for part in resampler.resample(frame):
                block = _stereo(part)
                _put(found, place, block)
                place += len(block)
            if place >= len(found):
                return
        if place is not None:
            for part in resampler.resample(None):
                _put(found, place, _stereo(part))


def _stereo(frame: av.AudioFrame) -> Samples:
    return np.asarray(frame.to_ndarray(), np.float32).reshape(-1, _LEFT_AND_RIGHT)


def _put(found: Samples, place: int, block: Samples) -> None:
    """Lays a block over the samples, as far as it lies within them."""
    first, end = max(place, 0), min(place + len(block), len(found))
    if first < end:
        found[first:end] = block[first - place : end - place]
