"""Pixels as Qt's images."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage


def qimage(pixels: NDArray[np.uint8], layout: QImage.Format) -> QImage:
    """An image that owns its memory, from 8-bit ``(H, W, channels)`` in the order of ``layout``."""
    height, width, channels = pixels.shape
    # copy() because an image made from bytes does not keep them alive.
    return QImage(pixels.tobytes(), width, height, width * channels, layout).copy()
