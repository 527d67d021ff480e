"""The main colours of the clips that are tried, worked out beside."""

from __future__ import annotations

from contextlib import suppress

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, QTimer

from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.measure.main_colours import main_colours
from wrinkle.ui.desk.tried_clips import TriedClip, TriedClips
from wrinkle.ui.desk.workers import Workers

COUNT = 5
_SAMPLED = 160
"""The longer side of a picture whose colours are counted."""
_REST_MS = 250


class ClipColours(QObject):
    """The five colours that say most about both clips at their cut; few clips, fewer colours."""

    def __init__(self, workers: Workers, tried: TriedClips) -> None:
        super().__init__()
        self._tried = tried
        self._line = WorkLine(
            workers.jobs, Urgency.TILES, "The colours of the clips cannot be found", lambda _: None
        )
        self.found: NDArray[np.uint8] = np.zeros((0, 3), np.uint8)
        """Encoded 8-bit RGB ``(N, 3)``, the commonest first."""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(_REST_MS)
        self._timer.timeout.connect(self._look)
        tried.changed.connect(self._timer.start)

    def close(self) -> None:
        """Nothing more is looked for."""
        self._timer.stop()
        self._line.close()

    def _look(self) -> None:
        self._line.drop()
        clips = [self._tried.clips[x] for x in GIVEN if x in self._tried.clips]
        self._line.put(lambda job: _colours_of(clips, job), self._take)

    def _take(self, found: NDArray[np.uint8]) -> None:
        self.found = found


def _colours_of(clips: list[TriedClip], job: Job) -> NDArray[np.uint8]:
    pictures = []
    for clip in clips:
        source = clip.source
        with suppress(InputError):
            picture = source.image(source.index_at(clip.cut), source.size.within(_SAMPLED))
            pictures.append(picture.to_bytes8()[..., :3].copy())
        job.check()
    return main_colours(pictures, COUNT)
