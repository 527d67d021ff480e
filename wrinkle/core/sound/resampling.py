"""Sound faster, slower or backwards, higher or lower with it: by a windowed sinc.

A sine that lies beyond what the new rate can hold is left out and does not come back as another one
(J. O. Smith, Digital Audio Resampling, "Windowed sinc interpolation"; the window is Kaiser's).
"""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.blocks import Blocks
from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.sound.polyphase import filtered
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_TAPS = 40
"""Samples on each side of the middle, at the true speed."""
_BETA = 10.0
"""Kaiser's, for 100 dB."""
_PHASES = 512
_ROLLED_OFF = 0.912
"""The middle of the slope as a share of the highest frequency: what lies above that is gone."""
_BLOCK = SAMPLE_RATE // 8
_MOST_PHASES = 1_000
"""Places between two samples that occur: for so many all weights are made once."""
_AT_ONCE = 1 << 20
"""Products: so that little memory is needed."""


class Resampled:
    """Another sound, run through at a steady speed. Thread-safe.

    Args:
        source: what is run through.
        origin: its time at sample 0, in seconds.
        speed: 1 is as it is; negative runs backwards. Not 0.
    """

    def __init__(self, source: SoundSource, origin: Fraction, speed: Fraction) -> None:
        origin *= SAMPLE_RATE
        while abs(speed) > 2:
            source, origin, speed = _Halved(source), origin / 2, speed / 2
        self._source = source
        self._origin = origin
        self._speed = speed
        self._blocks = Blocks(self._made, _BLOCK)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: the sound cannot be read.
        """
        if self._speed == 1 and self._origin.denominator == 1:
            return self._source.samples(int(self._origin) + start, count)
        return self._blocks.samples(start, count)

    def _made(self, number: int) -> Samples:
        # Exact, however far from the beginning.
        base = self._origin + number * _BLOCK * self._speed
        if self._speed.denominator <= _MOST_PHASES:
            return self._at_few_places(base)
        return self._at_any_place(base)

    def _at_few_places(self, base: Fraction) -> Samples:
        """By a polyphase filter: every so manieth sample lies between two as this does."""
        up, down = self._speed.denominator, abs(self._speed.numerator)
        backwards = self._speed < 0
        # Backwards, the source is turned round: its sample n is then -n.
        base = -base if backwards else base
        steps = base * up
        nearest = steps.numerator // steps.denominator
        weights = self._prototype
        middle = len(weights) // 2
        reach = middle // up
        # As many samples before as the filter reaches, and so that its steps fall on the first one.
        low = nearest // up - reach - 1
        while (nearest - low * up + middle) % down:
            low -= 1
        skipped = (nearest - low * up + middle) // down
        high = (nearest + _BLOCK * down) // up + reach + 2
        first, count = (1 - high, high - low) if backwards else (low, high - low)
        read = self._source.samples(first, count)
        if not read.any():
            return np.zeros((_BLOCK, 2), np.float32)
        read = read[::-1] if backwards else read
        return filtered(weights, read, up, down, range(skipped, skipped + _BLOCK))

    @cached_property
    def _prototype(self) -> NDArray[np.float32]:
        """The filter at as many places between two samples as occur, its middle at the sample."""
        up, speed = self._speed.denominator, float(abs(self._speed))
        base = -self._origin if self._speed < 0 else self._origin
        # What all places have in common beyond the steps.
        between = base * up % 1
        reach = round(_TAPS * max(1.0, speed))
        away = (np.arange(-reach * up, reach * up + 1) + float(between)) / up
        return _kernel(away, reach, speed).astype(np.float32)

    def _at_any_place(self, base: Fraction) -> Samples:
        """One by one, by weights between those of the nearest places."""
        whole = base.numerator // base.denominator
        steps = np.arange(_BLOCK, dtype=np.float64)
        places = steps * float(self._speed) + float(base - whole)
        return at_places(self._source, whole, places, self._table)

    @cached_property
    def _table(self) -> NDArray[np.float32]:
        return weights_between(float(abs(self._speed)))


def weights_between(speed: float = 1.0) -> NDArray[np.float32]:
    """``(P + 1, 2 * reach)``: the weights of the samples about each of P places between two."""
    reach = round(_TAPS * max(1.0, speed))
    places = np.linspace(0.0, 1.0, _PHASES + 1)[:, np.newaxis]
    return _kernel(np.arange(-reach + 1, reach + 1) - places, reach, speed).astype(np.float32)


def at_places(
    source: SoundSource, whole: int, places: NDArray[np.float64], table: NDArray[np.float32]
) -> Samples:
    """A sound between its samples.

    Args:
        source: what is heard.
        whole: the sample from which places are counted.
        places: ``(N,)``, in samples.
        table: of ``weights_between``.

    Returns:
        ``(N, 2)``.

    Raises:
        MediaError: the sound cannot be read.
    """
    below = np.floor(places).astype(np.int64)
    reach = table.shape[1] // 2
    low = int(below.min()) - reach + 1
    high = int(below.max()) + reach + 1
    sides = np.ascontiguousarray(source.samples(whole + low, high - low).T)
    # (2, N, 2 * reach): the samples about each place.
    around = np.lib.stride_tricks.sliding_window_view(sides, 2 * reach, axis=1)
    phase = (places - below) * _PHASES
    nearest = np.minimum(phase.astype(np.int64), _PHASES - 1)
    share = (phase - nearest).astype(np.float32)[:, np.newaxis]
    found: Samples = np.zeros((len(places), 2), np.float32)
    step = max(1, _AT_ONCE // (2 * reach))
    for begin in range(0, len(places), step):
        part = slice(begin, begin + step)
        weights = table[nearest[part]]
        weights += (table[nearest[part] + 1] - weights) * share[part]
        for side in range(2):
            windows = around[side, below[part] - reach + 1 - low]
            found[part, side] = np.einsum("nt,nt->n", windows, weights)
    return found


class Lowered:
    """Another sound without what a higher speed could not hold.

    Args:
        source: what is heard.
        speed: above 1.
    """

    def __init__(self, source: SoundSource, speed: float) -> None:
        self._source = source
        self._weights = _low_pass(speed)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on."""
        whole = len(self._weights) - 1
        read = self._source.samples(start - whole // 2, count + whole)
        return filtered(self._weights, read, 1, 1, range(whole, whole + count))


def _kernel(away: NDArray[np.float64], reach: int, speed: float) -> NDArray[np.float64]:
    """The weight of a sample that lies so many samples away."""
    window = np.i0(_BETA * np.sqrt(np.clip(1.0 - (away / reach) ** 2, 0.0, None))) / np.i0(_BETA)
    cutoff = _ROLLED_OFF / max(1.0, speed)
    return np.asarray(np.sinc(away * cutoff) * window * cutoff)


def _low_pass(speed: float) -> NDArray[np.float32]:
    """The filter that leaves what can be held at a speed above 1."""
    reach = round(_TAPS * speed)
    return _kernel(np.arange(-reach, reach + 1.0), reach, speed).astype(np.float32)


class _Halved:
    """Every other sample of a sound, of which only what they can hold is left."""

    def __init__(self, source: SoundSource) -> None:
        self._source = source
        self._weights = _low_pass(2.0)
        self._blocks = Blocks(self._made, _BLOCK)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on."""
        return self._blocks.samples(start, count)

    def _made(self, number: int) -> Samples:
        reach = len(self._weights) // 2
        read = self._source.samples(2 * number * _BLOCK - reach, 2 * _BLOCK + 2 * reach)
        return filtered(self._weights, read, 1, 2, range(reach, reach + _BLOCK))
