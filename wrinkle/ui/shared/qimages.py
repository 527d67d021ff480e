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


def brightness_shares(picture: QImage, steps: int = 48) -> NDArray[np.float64]:
    """How often each brightness occurs in a picture, the commonest being 1."""
    small = picture.scaled(64, 64).convertToFormat(QImage.Format.Format_Grayscale8)
    bits = small.constBits()
    if bits is None:
        return np.zeros(steps)
    grey = np.frombuffer(bits.asstring(small.sizeInBytes()), np.uint8)
    counts, _ = np.histogram(grey, bins=steps, range=(0, 256))
    return np.sqrt(counts / max(int(counts.max()), 1))
