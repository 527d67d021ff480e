"""Soft steps of fields and of numbers, and fields in the numbers that pictures are made of."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]


def smoothstep(share: NDArray[np.floating[Any]]) -> Field:
    """t²(3 - 2t) of shares held within 0…1."""
    t = np.clip(share, 0.0, 1.0).astype(np.float32)
    curve: Field = t * t * (np.float32(3.0) - np.float32(2.0) * t)
    return curve


def soft_step(low: float, high: float, value: NDArray[np.floating[Any]]) -> Field:
    """0 up to ``low``, 1 from ``high`` on, and t²(3 - 2t) between them."""
    return narrow(smoothstep((value - low) / (high - low)))


def eased(low: float, high: float, value: float) -> float:
    """``soft_step`` of a single number."""
    t = min(max((value - low) / (high - low), 0.0), 1.0)
    return t * t * (3.0 - 2.0 * t)


def wandering(levels: NDArray[np.floating[Any]], at: NDArray[np.floating[Any]]) -> NDArray[Any]:
    """Levels at whole numbers, softly joined; after the last of them the first comes again.

    Args:
        levels: ``(N,)``.
        at: places of any shape, 1 from level to level.
    """
    index = np.floor(at).astype(np.int64)
    share = smoothstep((at - index).astype(np.float32))
    count = len(levels)
    found: NDArray[Any] = (
        levels[index % count] * (1.0 - share) + levels[(index + 1) % count] * share
    )
    return found


def least_jerk(share: float) -> float:
    """How far a motion of least jerk has come at a share of its time, 0…1.

    So a hand moves: Flash and Hogan, "The Coordination of Arm Movements" (1985).
    """
    t = min(max(share, 0.0), 1.0)
    return t**3 * (t * (6.0 * t - 15.0) + 10.0)


def narrow(field: NDArray[np.floating[Any]]) -> Field:
    """A field as contiguous float32, which OpenCV wants."""
    return np.ascontiguousarray(field, np.float32)
