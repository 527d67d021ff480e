"""Noise at any coordinates: where a straight lattice is bent, turned or rolled up."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Size
from wrinkle.core.picture.noise import Noise, noise_field

Field = NDArray[np.float32]
_CELLS, _FINE = 40, 16
"""Of the drawn noise: cells on a side, and pixels of a cell."""


def noise_at(x: Field, y: Field, seed: int, octaves: float = 1.0) -> Field:
    """Gradient noise, about -1…1, read from a drawn one.

    Args:
        x, y: ``(H, W)``, in cells of the first octave; beyond 20 from 0 it comes back mirrored.
        seed: another one gives another noise.
        octaves: how many; each is half as large and half as strong as the one before.
    """
    drawn = _drawn(seed, octaves)
    half = np.float32(_CELLS * _FINE / 2.0 - 0.5)
    found: Field = cv2.remap(
        drawn,
        np.ascontiguousarray(x * np.float32(_FINE) + half, np.float32),
        np.ascontiguousarray(y * np.float32(_FINE) + half, np.float32),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REFLECT_101,
    )
    return found


@lru_cache(maxsize=32)
def _drawn(seed: int, octaves: float) -> Field:
    side = _CELLS * _FINE
    noise = Noise((_FINE, _FINE), octaves, seed=seed)
    return noise_field(noise, Size(side, side)) * np.float32(1.5)
