"""Soft steps of fields, in the numbers that pictures are made of."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]


def soft_step(low: float, high: float, value: NDArray[np.floating[Any]]) -> Field:
    """0 up to ``low``, 1 from ``high`` on, and t²(3 - 2t) between them."""
    t = np.clip((value - low) / (high - low), 0.0, 1.0)
    return narrow(t * t * (3.0 - 2.0 * t))


def narrow(field: NDArray[np.floating[Any]]) -> Field:
    """A field as contiguous float32, which OpenCV wants."""
    return np.ascontiguousarray(field, np.float32)
