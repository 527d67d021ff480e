"""Loudness by Rec. ITU-R BS.1770-4 and EBU R 128: momentary, short-term, integrated, its range.

Also the true peak, of the wave between the samples.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.heard import Heard
from wrinkle.core.sound.polyphase import filtered
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

SILENCE = -70.0
"""LUFS: what is quieter counts as silence (the absolute gate of BS.1770-4)."""
MOMENT = SAMPLE_RATE * 2 // 5
"""Samples: 400 ms."""
_SHELF = (
    (1.53512485958697, -2.69169618940638, 1.19839281085285),
    (1.0, -1.69065929318241, 0.73248077421585),
)
_HIGH_PASS = ((1.0, -2.0, 1.0), (1.0, -1.99004745483398, 0.99007225036621))
"""BS.1770-4, annex 1, tables 1 and 2, for 48 kHz."""
_RINGING = SAMPLE_RATE
"""Samples after which both filters are silent again."""
_OFFSET = -0.691
"""BS.1770-4, annex 1, equation 2."""
_STEP = SAMPLE_RATE // 10
"""Samples from one measured block to the next: 100 ms."""
_MOMENTARY, _SHORT = 4, 30
"""Steps of a block: 400 ms (BS.1770-4), and three seconds (EBU Tech 3341)."""
_GATE, _RANGE_GATE = -10.0, -20.0
"""LU below the mean of what is not silent: BS.1770-4, annex 1, and EBU Tech 3342."""
_LOW, _HIGH = 10.0, 95.0
"""Per cent of the loudness range (EBU Tech 3342)."""
_READ = 50 * _STEP
_TIMES = 4
"""Times as many samples for the true peak (BS.1770-4, annex 2)."""
_TAPS = 12
"""Samples on each side for one between them."""


@dataclass(frozen=True)
class Loudness:
    """How loud something is.

    Attributes:
        integrated: of all of it, gated, in LUFS; not below ``SILENCE``.
        range: between its soft and its loud parts, in LU.
        momentary, short: the loudest 400 ms and three seconds, in LUFS.
        peak: the true peak in dBTP; ``-inf`` of silence.
    """

    integrated: float
    range: float
    momentary: float
    short: float
    peak: float


def measured(
    heard: Heard, progress: Callable[[int, int], None] = lambda done, all_: None
) -> Loudness:
    """The loudness of all that is heard; it is read in stretches, however long it is.

    Args:
        heard: what is measured.
        progress: told how many samples of how many are done; may raise to stop.

    Raises:
        MediaError: a sound cannot be read.
    """
    powers: list[NDArray[np.float64]] = []
    peak = TruePeak()
    before: Samples = np.zeros((0, 2), np.float32)
    span = heard.span
    for start in range(span.start, span.stop, _READ):
        samples = heard.samples(start, min(_READ, span.stop - start))
        peak.add(samples)
        # What was before still rings.
        weighted = _weighted(np.concatenate([before, samples]))[len(before) :]
        before = samples[-_RINGING:]
        whole = len(weighted) // _STEP * _STEP
        powers.append((weighted[:whole] ** 2).sum(axis=1).reshape(-1, _STEP).mean(axis=1))
        progress(start + len(samples) - span.start, len(span))
    steps = np.concatenate(powers) if powers else np.zeros(0)
    momentary, short = _blocks(steps, _MOMENTARY), _blocks(steps, _SHORT)
    return Loudness(
        _gated(momentary),
        _loudness_range(short),
        max(_level(float(momentary.max(initial=0.0))), SILENCE),
        max(_level(float(short.max(initial=0.0))), SILENCE),
        peak.decibels,
    )


class TruePeak:
    """The largest value of a wave, between its samples too; they come in stretches."""

    def __init__(self) -> None:
        self._last: Samples = np.zeros((2 * _TAPS, 2), np.float32)
        self._most = 0.0

    def add(self, samples: Samples) -> None:
        """More samples ``(N, 2)``."""
        if not samples.any() and not self._last.any():
            return
        joined = np.concatenate([self._last, samples])
        self._most = max(self._most, float(np.abs(between(joined)).max(initial=0.0)))
        self._last = joined[-2 * _TAPS :]

    @property
    def decibels(self) -> float:
        """In dBTP; ``-inf`` of silence."""
        # What comes after the last sample is silence.
        tail = np.concatenate([self._last, np.zeros_like(self._last)])
        most = max(self._most, float(np.abs(between(tail)).max(initial=0.0)))
        return 20.0 * math.log10(most) if most > 0.0 else -math.inf


def between(samples: Samples) -> NDArray[np.float32]:
    """Four times as many samples ``(4 N, 2)``: a wave as it is between them, silent outside."""
    away = np.arange(-_TAPS * _TIMES, _TAPS * _TIMES + 1) / _TIMES
    weights = (np.sinc(away) * np.kaiser(len(away), 8.0)).astype(np.float32)
    skipped = _TAPS * _TIMES
    return filtered(weights, samples, _TIMES, 1, range(skipped, skipped + _TIMES * len(samples)))


def momentary(samples: Samples, middles: NDArray[np.int64]) -> NDArray[np.float64]:
    """The loudness of 400 ms about some moments ``(N,)``, in LUFS, not below ``SILENCE``.

    Args:
        samples: stereo at 48 kHz.
        middles: the samples about which it is wanted; outside there is silence.
    """
    if not len(samples):
        return np.full(len(middles), SILENCE)
    weighted = _weighted(samples)
    sums = np.concatenate([[0.0], np.cumsum((weighted**2).sum(axis=1))])
    found = []
    for middle in middles:
        low = min(max(int(middle) - MOMENT // 2, 0), len(samples))
        high = min(max(int(middle) + MOMENT // 2, 0), len(samples))
        found.append(_level(float(sums[high] - sums[low]) / MOMENT))
    levels: NDArray[np.float64] = np.maximum(np.array(found), SILENCE)
    return levels


def _level(power: float) -> float:
    return _OFFSET + 10.0 * math.log10(power) if power > 0.0 else SILENCE


def _blocks(steps: NDArray[np.float64], count: int) -> NDArray[np.float64]:
    """The mean power of so many steps, from each one on."""
    if len(steps) < count:
        return np.zeros(0)
    sums = np.concatenate([[0.0], np.cumsum(steps)])
    found: NDArray[np.float64] = np.maximum(sums[count:] - sums[:-count], 0.0) / count
    return found


def _power(level: float) -> float:
    return float(10.0 ** ((level - _OFFSET) / 10.0))


def _gated(blocks: NDArray[np.float64]) -> float:
    """The loudness of those blocks that count (BS.1770-4, annex 1, equations 3 to 7)."""
    loud = blocks[blocks > _power(SILENCE)]
    if not len(loud):
        return SILENCE
    loud = loud[loud > float(loud.mean()) * 10.0 ** (_GATE / 10.0)]
    return max(_level(float(loud.mean())), SILENCE)


def _loudness_range(blocks: NDArray[np.float64]) -> float:
    """EBU Tech 3342, from short-term loudness ten times a second."""
    loud = blocks[blocks > _power(SILENCE)]
    loud = loud[loud > float(loud.mean()) * 10.0 ** (_RANGE_GATE / 10.0)] if len(loud) else loud
    if not len(loud):
        return 0.0
    low, high = np.percentile(10.0 * np.log10(loud), (_LOW, _HIGH))
    return float(high - low)


def _weighted(samples: Samples) -> NDArray[np.float64]:
    """The samples after both filters, by their response: what rings on has died away by then."""
    count = len(samples) + _RINGING
    spectrum = np.fft.rfft(samples, count, axis=0) * _response(count)
    found: NDArray[np.float64] = np.fft.irfft(spectrum, count, axis=0)[: len(samples)]
    return found


@lru_cache(maxsize=2)
def _response(count: int) -> NDArray[np.complex128]:
    """``(count // 2 + 1, 1)``: what both filters make of each frequency."""
    turns = np.exp(-2j * np.pi * np.fft.rfftfreq(count))
    found = np.ones_like(turns)
    for above, below in (_SHELF, _HIGH_PASS):
        found *= np.polyval(above[::-1], turns) / np.polyval(below[::-1], turns)
    column: NDArray[np.complex128] = found[:, np.newaxis]
    return column
