"""Turning down what is too much: before it comes, for a while after it, and never at a step.

The curve that a limiter follows, and music that gives way.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def eased(
    needed: NDArray[np.float64], ahead: int, stays: int, release: float
) -> NDArray[np.float64]:
    """A curve ``(N,)`` over what is needed, from 0 on, that begins before it and lets go slowly.

    Args:
        needed: at each moment, none below 0.
        ahead: moments before it by which it is all there.
        stays: moments for which it stays all there after it.
        release: by how much it lets go from one moment to the next.
    """
    padded = np.pad(needed, (stays, ahead))
    reach = np.lib.stride_tricks.sliding_window_view(padded, stays + ahead + 1).max(axis=1)
    # It lets go at a steady pace, and is never below what is needed.
    falls = np.arange(len(reach)) * release
    found: NDArray[np.float64] = np.maximum(np.maximum.accumulate(reach + falls) - falls, 0.0)
    return found


def smoothed(curve: NDArray[np.float64], reach: int) -> NDArray[np.float64]:
    """A curve ``(N,)`` without corners, each value by those up to so many moments away."""
    window = np.hanning(2 * reach + 3)[1:-1]
    found: NDArray[np.float64] = np.convolve(curve, window / window.sum(), "same")
    return found
