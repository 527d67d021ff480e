"""Sound faster or slower at the same pitch: grains of it, each where it goes on best.

Waveform similarity overlap-add (W. Verhelst and M. Roelands, "An overlap-add technique based on
waveform similarity (WSOLA)", ICASSP 1993). A chain of grains begins anew every few seconds: so any
moment can be had without all that is before it, and is always the same.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.blocks import Blocks
from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

SLOWEST, FASTEST = Fraction(1, 4), Fraction(4)
"""Beyond these nothing sounds like itself."""
_HOP = SAMPLE_RATE // 50
"""Samples from one grain to the next, and half of a grain: 20 ms."""
_REACH = SAMPLE_RATE // 80
"""Samples within which the best place for a grain is looked for, either way: 12.5 ms, so that there
is a whole wave of 40 Hz to choose from."""
_NEARER = 0.02
"""What being moved by the whole reach costs, as a share of the best likeness."""
_CHAIN = 200
"""Grains: four seconds."""
_EACH = 10
"""Grains that are put together at once."""


class Stretched:
    """Another sound, heard elsewhere along it at the same pitch. Thread-safe.

    Args:
        source: what is stretched; that it is run through backwards is its own affair.
        heard_at: gives the sample of the source that is heard at a sample.
    """

    def __init__(self, source: SoundSource, heard_at: Callable[[int], int]) -> None:
        self._source = source
        self._heard_at = heard_at
        hann = np.hanning(2 * _HOP + 1)[:-1]
        self._window = hann[:, np.newaxis].astype(np.float32)
        self._chains = Blocks(self._chain, _CHAIN, kept=8)
        self._blocks = Blocks(self._made, _EACH * _HOP)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: the sound cannot be read.
        """
        return self._blocks.samples(start, count)

    def _usual(self, grain: int) -> int:
        """The first sample of the source in a grain, as the speed alone has it."""
        # A grain is heard about the moment at which it is half over.
        return self._heard_at(grain * _HOP) - _HOP

    def _made(self, number: int) -> Samples:
        first = number * _EACH
        # A grain reaches over the one before and the one after.
        grains = range(first, first + _EACH + 1)
        moved = self._chains.samples(first, _EACH + 1)[:, 0].astype(np.int64)
        starts = [self._usual(grain) + int(by) for grain, by in zip(grains, moved, strict=True)]
        low, high = min(starts), max(starts) + 2 * _HOP
        read = self._source.samples(low, high - low)
        found: Samples = np.zeros(((_EACH + 2) * _HOP, 2), np.float32)
        for place, start in enumerate(starts):
            part = read[start - low : start - low + 2 * _HOP] * self._window
            found[place * _HOP : (place + 2) * _HOP] += part
        return found[_HOP : (_EACH + 1) * _HOP]

    def _chain(self, number: int) -> Samples:
        """By how much each grain of a chain is moved, in the first column."""
        found: Samples = np.zeros((_CHAIN, 2), np.float32)
        first = number * _CHAIN
        usually = [self._usual(first + place) for place in range(_CHAIN + 1)]
        low = min(usually) - 2 * _REACH
        high = max(usually) + 4 * _HOP + 2 * _REACH
        mono: NDArray[np.float32] = self._source.samples(low, high - low).sum(axis=1)
        if not mono.any():
            return found
        before = usually[0]
        for place in range(1, _CHAIN):
            usual = usually[place]
            wanted = mono[before + _HOP - low :][: 2 * _HOP]
            around = mono[usual - _REACH - low :][: 2 * _HOP + 2 * _REACH]
            by = _likest(wanted, around) - _REACH
            found[place, 0] = by
            before = usual + by
        return found


def stretched(source: SoundSource, origin: int, speed: Fraction) -> Stretched:
    """A sound at a steady speed and the same pitch.

    Args:
        source: what is stretched.
        origin: its sample that is heard at sample 0.
        speed: within ``SLOWEST`` and ``FASTEST``.
    """
    return Stretched(source, lambda sample: origin + round(sample * speed))


def _likest(wanted: NDArray[np.float32], around: NDArray[np.float32]) -> int:
    """Where in something longer what is wanted is found best."""
    count = len(wanted)
    # By the spectrum; what wraps round lies behind the places that are asked for.
    size = len(around)
    spectrum = np.fft.rfft(around, size) * np.conj(np.fft.rfft(wanted, size))
    alike = np.fft.irfft(spectrum, size)[: size - count + 1]
    sums = np.concatenate([[0.0], np.cumsum(around.astype(np.float64) ** 2)])
    loud = sums[count:] - sums[:-count]
    score = alike / np.sqrt(np.maximum(loud, 1e-3 * float(loud.max(initial=0.0)) + 1e-9))
    # Of places that are as good, as in silence, the one that is moved least.
    away = np.abs(np.arange(len(score)) - len(score) // 2) / len(score)
    return int(np.argmax(score - away * (_NEARER * float(np.abs(score).max(initial=0.0)) + 1e-9)))
