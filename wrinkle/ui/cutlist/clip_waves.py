"""The waves of the files of a piece, drawn in the background, each once."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.sound.clip_sound import sound_of
from wrinkle.core.sound.wave_picture import MOMENT, Peaks, coarser, peaks
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.ui.desk.piece_media import PieceMedia
from wrinkle.ui.desk.workers import Workers

A_SECOND = 100
"""Moments of a wave: an hour of it are three million bytes."""
_TIMES = SAMPLE_RATE // MOMENT // A_SECOND
_KEPT = 40
_NOTHING: Peaks = np.zeros((0, 2), np.float32)


class ClipWaves(QObject):
    """Waves by file and track.

    Signals:
        came: one is there that was asked for.
    """

    came = pyqtSignal()

    def __init__(self, media: PieceMedia, workers: Workers, failed: Callable[[str], None]) -> None:
        super().__init__()
        self._media = media
        self._line = WorkLine(workers.jobs, Urgency.ASKED, "A wave cannot be drawn", failed)
        self._kept: OrderedDict[tuple[str, int], Peaks] = OrderedDict()
        self._asked: set[tuple[str, int]] = set()

    def wave(self, path: str, track: int) -> Peaks | None:
        """The lowest and highest values of each hundredth of a second; None while it is drawn."""
        key = (path, track)
        found = self._kept.get(key)
        if found is not None:
            self._kept.move_to_end(key)
            return found
        if key not in self._asked:
            self._ask(key)
        return None

    def close(self) -> None:
        """Nothing more is drawn."""
        self._line.close()

    def _ask(self, key: tuple[str, int]) -> None:
        source = self._media.heard_at(key[0])
        sound, duration = sound_of(source, key[1]), getattr(source, "duration", None)
        if source is None:
            # It is being read; whoever shows it asks again.
            return
        self._asked.add(key)
        if sound is None or duration is None:
            self._take(key, _NOTHING)
            return
        span = range(round(duration * SAMPLE_RATE))

        def work(job: Job) -> Peaks:
            fine = peaks(sound, span, lambda done, total: job.check())
            return coarser(fine, _TIMES)

        self._line.put(work, lambda found: self._take(key, found))

    def _take(self, key: tuple[str, int], found: Peaks) -> None:
        self._asked.discard(key)
        self._kept[key] = found
        while len(self._kept) > _KEPT:
            self._kept.popitem(last=False)
        self.came.emit()
