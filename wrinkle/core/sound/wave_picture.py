"""The picture of a wave: how far it goes either way, moment by moment."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.synthesis.samples import SAMPLE_RATE

MOMENT = SAMPLE_RATE // 1_000
"""Samples of the finest moment: one thousandth of a second."""
_READ = 4_000
"""Moments that are read together."""
Peaks = NDArray[np.float32]
"""``(N, 2)``: the lowest and the highest value of each moment, of both sides together."""


def peaks(
    sound: SoundSource,
    span: range,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> Peaks:
    """The peaks of each moment of a stretch.

    Args:
        sound: what is drawn.
        span: its samples; what is left of the last moment counts as one.
        progress: told how many samples of how many are done; may raise to stop.

    Raises:
        MediaError: the sound cannot be read.
    """
    found: list[Peaks] = []
    for start in range(span.start, span.stop, _READ * MOMENT):
        count = min(_READ * MOMENT, span.stop - start)
        moments = -(-count // MOMENT)
        read = sound.samples(start, moments * MOMENT).reshape(moments, -1)
        found.append(np.stack([read.min(axis=1), read.max(axis=1)], axis=1))
        progress(start + count - span.start, len(span))
    return np.concatenate(found) if found else np.zeros((0, 2), np.float32)


def coarser(fine: Peaks, times: int) -> Peaks:
    """The peaks of so many moments at a time."""
    if times <= 1 or not len(fine):
        return fine
    whole = -(-len(fine) // times)
    padded = np.concatenate([fine, np.repeat(fine[-1:], whole * times - len(fine), axis=0)])
    grouped = padded.reshape(whole, times, 2)
    return np.stack([grouped[..., 0].min(axis=1), grouped[..., 1].max(axis=1)], axis=1)
