"""Work on a picture in bands of rows, which stay in the processor's cache from step to step."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]

_PIXELS: Final = 32_768
"""In a band; a few copies of it fit into the cache of one core. As measured."""


def in_bands(work: Callable[..., Floats], *pictures: Floats) -> Floats:
    """The result of ``work`` on pictures, where each pixel depends on its own place alone.

    Args:
        work: takes a band ``(rows, …)`` of each picture and gives one of as many rows.
        pictures: of the same height and width, or tables of the same length.
    """
    first = pictures[0]
    parts = bands(first)
    if len(parts) <= 1:
        return work(*pictures)
    done = work(*(picture[parts[0]] for picture in pictures))
    result = np.empty((len(first), *done.shape[1:]), np.float32)
    result[parts[0]] = done
    for rows in parts[1:]:
        result[rows] = work(*(picture[rows] for picture in pictures))
    return result


def bands(picture: Floats) -> list[slice]:
    """The rows of each band of a picture ``(H, W, …)``, or of a table."""
    width = picture.shape[1] if picture.ndim > 1 else 1
    rows = max(1, _PIXELS // max(width, 1))
    return [slice(top, top + rows) for top in range(0, len(picture), rows)]
