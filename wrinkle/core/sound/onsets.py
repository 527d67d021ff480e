"""When something begins to sound: how strongly at each moment, and to the sample.

Onset strength is the rise of a sound's bands on a scale of loudness, added up (S. Dixon, "Onset
detection revisited", DAFx 2006, "spectral flux").
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

HOP = SAMPLE_RATE // 200
"""Samples from one moment to the next: 5 ms."""
_WINDOW = 1024
_BANDS = 36
_LOWEST, _HIGHEST = 40.0, 16_000.0
_FLOOR = 1e-4
"""What is added to an amplitude before its logarithm is taken: noise is not loud."""
_STRETCH = 2_000
"""Moments that are looked at together."""
_MEAN = 100
"""Moments, half a second: what is always there is taken away."""
_FINE = SAMPLE_RATE // 1_000
"""Samples over which energy is told when an onset is looked for to the sample."""
_NEAR = SAMPLE_RATE // 30


def strengths(
    sound: SoundSource,
    count: int,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> NDArray[np.float64]:
    """How strongly something begins at moments ``HOP`` samples apart ``(N,)``, none below 0.

    Args:
        sound: what is listened to.
        count: its samples, from 0 on.
        progress: told how many moments of how many are done; may raise to stop.

    Raises:
        MediaError: the sound cannot be read.
    """
    moments = max(count // HOP, 0)
    bands, window = _bands(), np.hanning(_WINDOW)
    rises: list[NDArray[np.float64]] = []
    last: NDArray[np.float64] | None = None
    for first in range(0, moments, _STRETCH):
        some = min(_STRETCH, moments - first)
        read = sound.samples(first * HOP - _WINDOW // 2, (some - 1) * HOP + _WINDOW)
        mono = read.mean(axis=1, dtype=np.float64)
        frames = np.lib.stride_tricks.sliding_window_view(mono, _WINDOW)[::HOP]
        spectrum = np.abs(np.fft.rfft(frames * window, axis=1)) / (_WINDOW / 4)
        loud = np.log(spectrum @ bands + _FLOOR)
        before = loud[:1] if last is None else last
        rises.append(np.maximum(np.diff(loud, axis=0, prepend=before), 0.0).mean(axis=1))
        last = loud[-1:]
        progress(first + some, moments)
    found = np.concatenate(rises) if rises else np.zeros(0)
    if not len(found):
        return found
    usual = np.convolve(found, np.ones(_MEAN) / _MEAN, "same")[: len(found)]
    strong: NDArray[np.float64] = np.maximum(found - usual, 0.0)
    return strong


def _bands() -> NDArray[np.float64]:
    """``(bins, bands)``: which band each line of a spectrum belongs to, evenly in octaves."""
    lines = np.fft.rfftfreq(_WINDOW, 1.0 / SAMPLE_RATE)
    edges = np.geomspace(_LOWEST, _HIGHEST, _BANDS + 1)
    inside = (lines[:, np.newaxis] >= edges[:-1]) & (lines[:, np.newaxis] < edges[1:])
    found = inside.astype(np.float64)
    # Low bands are narrower than a line: each line counts once, and bands without one not at all.
    found = found[:, found.any(axis=0)]
    return np.asarray(found / found.sum(axis=0))


def exact(samples: Samples) -> int:
    """The sample with which the strongest rise among some begins.

    Args:
        samples: ``(N, 2)``, about where something begins.
    """
    power = (samples.astype(np.float64) ** 2).sum(axis=1)
    if len(power) < 3 * _FINE or not power.any():
        return 0
    sums = np.concatenate([[0.0], np.cumsum(power)])
    energy = np.sqrt(np.maximum(sums[_FINE:] - sums[:-_FINE], 0.0) / _FINE)
    # What comes in the next thousandth of a second against what was in the last one.
    rise = energy[_FINE:] - energy[:-_FINE]
    place = int(np.argmax(rise)) + _FINE
    # It begins where its wave leaves what was there before.
    before = float(np.sqrt(power[max(place - 2 * _FINE, 0) : max(place - _FINE, 1)].max()))
    around = np.sqrt(power[max(place - _FINE, 0) : place + _FINE])
    loud = np.flatnonzero(around > before + 0.2 * (float(around.max()) - before))
    return max(place - _FINE, 0) + int(loud[0]) if len(loud) else place


def strongest(sound: SoundSource, count: int) -> int:
    """The sample with which the strongest onset begins; 0 of silence.

    Args:
        sound: what is listened to.
        count: its samples, from 0 on.

    Raises:
        MediaError: the sound cannot be read.
    """
    found = strengths(sound, count)
    if not found.any():
        return 0
    # The ear takes the loudest of what begins strongly.
    near = int(np.argmax(found * _energies(sound, len(found)))) * HOP
    first = max(near - _NEAR, 0)
    return first + exact(sound.samples(first, 2 * _NEAR))


def _energies(sound: SoundSource, moments: int) -> NDArray[np.float64]:
    """How loud it is in the fiftieth of a second after each moment, as an amplitude."""
    found = np.zeros(moments)
    for first in range(0, moments, _STRETCH):
        some = min(_STRETCH, moments - first)
        read = sound.samples(first * HOP, (some + 4) * HOP).astype(np.float64)
        steps = (read**2).sum(axis=1).reshape(-1, HOP).mean(axis=1)
        sums = np.concatenate([[0.0], np.cumsum(steps)])
        found[first : first + some] = np.sqrt((sums[4:] - sums[:-4])[:some] / 4.0)
    return found
