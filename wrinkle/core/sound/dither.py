"""Samples as whole numbers, dithered."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.synthesis.samples import Samples


def dithered(samples: Samples, bits: int, dice: np.random.Generator) -> NDArray[np.int32]:
    """Whole numbers of so many bits, with noise of two even dice between -1 and 1 steps together.

    Source: Lipshitz, Wannamaker and Vanderkooy, "Quantization and dither", 1992.

    Args:
        samples: ``(N, 2)`` within -1…1; what lies beyond is cut off.
        bits: of a number, its sign among them.
        dice: thrown on from one stretch to the next.
    """
    most = 1 << (bits - 1)
    noise = dice.random(samples.shape) - dice.random(samples.shape)
    whole = np.rint(samples.astype(np.float64) * most + noise)
    return np.clip(whole, -most, most - 1).astype(np.int32)
