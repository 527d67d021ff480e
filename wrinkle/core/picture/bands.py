"""Work on a picture in bands of rows, which stay in the processor's cache from step to step."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]

BAND_PIXELS: Final = 32_768
"""In a band; a few copies of it fit into the cache of one core. As measured."""


def in_bands(work: Callable[..., Floats], *pictures: Floats) -> Floats:
    """The result of ``work`` on pictures, where each pixel depends on its own place alone.

    Args:
        work: takes a band ``(rows, …)`` of each picture and gives one of the first's shape.
        pictures: of the same height and width, or tables of the same length.
    """
    first = pictures[0]
    width = first.shape[1] if first.ndim > 1 else 1
    rows = max(1, BAND_PIXELS // max(width, 1))
    if len(first) <= rows:
        return work(*pictures)
    result = np.empty(first.shape, np.float32)
    for top in range(0, len(first), rows):
        result[top : top + rows] = work(*(picture[top : top + rows] for picture in pictures))
    return result
