"""The cuts of a finished video."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.jobs import Job
from wrinkle.core.measure.cuts import Scores, cut_scores
from wrinkle.media.clip import Clip

_SIDE = 64


def scores_of(clip: Clip, job: Job) -> Scores:
    """How much each frame of a clip looks like the first one after a cut.

    Raises:
        MediaError: a frame cannot be read.
        Cancelled: nobody wants to know any more.
    """
    size = clip.size.within(_SIDE)
    count = clip.facts.frame_count

    def small() -> Iterator[NDArray[np.uint8]]:
        for number in range(count):
            job.check()
            yield clip.bytes8(number, size)[..., :3]
            job.report(number + 1, count)

    return cut_scores(small())
