"""A device for sound that is none: it takes samples as fast as they would be heard."""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np

from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_HELD = SAMPLE_RATE // 20


class NullDevice:
    """Takes samples in real time, by a clock of its own; whoever looks lets it take.

    Args:
        clock: seconds that only ever grow.
        there: whether it begins at all.
    """

    def __init__(self, clock: Callable[[], float] = time.perf_counter, there: bool = True) -> None:
        self.there = there
        self.level = 1.0
        self.taken: list[Samples] = []
        self.lost: Callable[[], None] = lambda: None
        self._clock = clock
        self._take: Callable[[int], Samples] | None = None
        self._since, self._count = 0.0, 0

    @property
    def waiting(self) -> int:
        """Samples that it has taken and not played yet."""
        if self._take is None:
            return 0
        played = round((self._clock() - self._since) * SAMPLE_RATE)
        wanted = played + _HELD - self._count
        if wanted > 0:
            self.taken.append(self._take(wanted))
            self._count += wanted
        return self._count - played

    def start(self, take: Callable[[int], Samples], lost: Callable[[], None]) -> bool:
        self.stop()
        if self.there:
            self._take, self.lost = take, lost
            self._since, self._count = self._clock(), 0
            self.taken.clear()
        return self.there

    def stop(self) -> None:
        self._take = None

    def set_level(self, factor: float) -> None:
        self.level = factor

    def follow(self, changed: Callable[[], None]) -> None:
        self.changed = changed

    @property
    def heard(self) -> Samples:
        """All that it took since it was started."""
        return np.concatenate(self.taken) if self.taken else np.zeros((0, 2), np.float32)
