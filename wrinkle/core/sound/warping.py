"""Sound run through at a speed that changes, as the pictures beside it are."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.blocks import Blocks
from wrinkle.core.sound.heard import CLICKLESS, Ramp, SoundSource
from wrinkle.core.sound.resampling import Lowered, at_places, weights_between
from wrinkle.core.sound.stretching import Stretched
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

Places = Callable[[NDArray[np.float64]], NDArray[np.float64]]
"""Where in a sound something is heard: for samples ``(N,)`` those of the sound, broken ones too."""
_BLOCK = SAMPLE_RATE // 8
_A_DOUBLING = 4
"""Filters to a doubling of the speed: each takes away what the next one could not hold."""
_SLOWEST, _FASTEST = 1.0 / 16.0, 16.0
"""Times: slower or faster it fades, for nothing of it could be made out."""


class Warped:
    """Another sound, elsewhere along itself within a stretch and as it is outside. Thread-safe.

    Args:
        source: what is run through.
        zero: the sample from which the others are counted.
        span: the samples in which it runs at another speed.
        places: where in the source each sample is heard; about as good outside the span.
        pitch_kept: whether it stays as high as it was.
    """

    def __init__(
        self, source: SoundSource, zero: int, span: range, places: Places, pitch_kept: bool = False
    ) -> None:
        self._source = source
        self._zero = zero
        self._span = span
        self._places = places
        self._kept = pitch_kept
        self._blocks = Blocks(self._made, _BLOCK)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: the sound cannot be read.
        """
        found = self._source.samples(start, count)
        start -= self._zero
        low, high = max(start, self._span.start), min(start + count, self._span.stop)
        if low >= high:
            return found
        run = self._kept_run if self._kept else self._blocks
        other = run.samples(low - self._span.start, high - low)
        # Where it would leap at an end, it glides.
        first, last = self._span.start, self._span.stop
        share = Ramp(range(first, first + CLICKLESS)).gains(low, high - low)
        share *= Ramp(range(last - CLICKLESS, last)).gains(low, high - low, falling=True)
        found = found.copy()
        inside = found[low - start : high - start]
        inside += (other - inside) * share[:, np.newaxis]
        return found

    @cached_property
    def _kept_run(self) -> Stretched:
        def heard_at(sample: int) -> int:
            place = self._places(np.array([float(self._span.start + sample)]))[0]
            return self._zero + round(float(place))

        return Stretched(self._source, heard_at)

    def _made(self, number: int) -> Samples:
        begin = self._span.start + number * _BLOCK
        ends = self._places(np.arange(begin, begin + _BLOCK + 1, dtype=np.float64))
        places, speeds = ends[:-1], np.abs(np.diff(ends))
        # Between two filters that both hold what the speed asks for, so that none sets in at once.
        doublings = np.log2(np.clip(speeds, 1.0, _FASTEST)) * _A_DOUBLING
        below = np.ceil(doublings).astype(np.int64)
        share = (1.0 - (below - doublings))[:, np.newaxis].astype(np.float32)
        share[below == 0] = 0.0
        found: Samples = np.zeros((_BLOCK, 2), np.float32)
        whole = int(np.floor(places.min()))
        for level in range(int(below.min()), int(below.max()) + 2):
            weight = np.where(below == level, 1.0 - share.T, 0.0)
            weight = np.where(below + 1 == level, share.T, weight)[0]
            used = np.flatnonzero(weight)
            if not len(used):
                continue
            source = self._source
            if level:
                source = Lowered(source, 2.0 ** (level / _A_DOUBLING))
            part = at_places(source, self._zero + whole, places[used] - whole, _table())
            found[used] += part * weight[used, np.newaxis].astype(np.float32)
        return found * _made_out(speeds)[:, np.newaxis]


def _made_out(speeds: NDArray[np.float64]) -> NDArray[np.float32]:
    """The factors of samples at speeds of which nothing, less or all can be made out."""
    still = np.clip(speeds / _SLOWEST - 1.0, 0.0, 1.0)
    fast = np.clip((_FASTEST - speeds) / (_FASTEST / 4.0), 0.0, 1.0)
    found: NDArray[np.float32] = (still * fast).astype(np.float32)
    return found


@lru_cache(maxsize=1)
def _table() -> NDArray[np.float32]:
    return weights_between()
