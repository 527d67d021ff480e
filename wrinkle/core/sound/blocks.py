"""Sound that is made in blocks of one size, wherever a stretch begins: so it is always the same.

What is made from its neighbourhood, by a filter or by looking for likeness, comes out a little
different in other stretches. In blocks that stand where they stand it does not.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock

import numpy as np

from wrinkle.core.synthesis.samples import Samples


def joined(block: Callable[[int], Samples], size: int, start: int, count: int) -> Samples:
    """So many samples ``(count, 2)`` from one on, out of blocks of a size by their numbers."""
    found: Samples = np.zeros((count, 2), np.float32)
    for number in range(start // size, -(-(start + count) // size)):
        first = number * size
        low, high = max(start, first), min(start + count, first + size)
        found[low - start : high - start] = block(number)[low - first : high - first]
    return found


class Blocks:
    """Samples from blocks that are made when they are asked for. Safe to use from several threads.

    Args:
        make: gives block ``n``: ``(size, 2)``, from sample ``n * size`` on. Raises what it raises.
        size: samples of a block.
        kept: how many of the last ones are kept.
    """

    def __init__(self, make: Callable[[int], Samples], size: int, kept: int = 4) -> None:
        self._make = make
        self._size = size
        self._most = kept
        self._kept: OrderedDict[int, Samples] = OrderedDict()
        self._lock = Lock()

    def samples(self, start: int, count: int) -> Samples:
        """So many samples ``(count, 2)`` from one on."""
        return joined(self._block, self._size, start, count)

    def _block(self, number: int) -> Samples:
        with self._lock:
            found = self._kept.get(number)
            if found is not None:
                self._kept.move_to_end(number)
                return found
        made = self._make(number)
        with self._lock:
            self._kept[number] = made
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return made
