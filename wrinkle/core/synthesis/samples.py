"""What all sound within Wrinkle is made of."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.time.rate import FrameRate

SAMPLE_RATE = 48_000
"""Samples a second."""
Samples = NDArray[np.float32]
"""``(N, 2)``: left and right, within ±1 where nothing is too loud."""
Mono = NDArray[np.float32]
"""``(N,)``."""


def sample_at(rate: FrameRate, frame: int) -> int:
    """The sample with which a frame begins: N frames have as many as fall into them, rounded."""
    return round(rate.seconds(frame) * SAMPLE_RATE)
