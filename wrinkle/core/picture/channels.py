"""The channels of a picture mixed with each other.

OpenCV mixes them many times faster than NumPy broadcasts over so short an axis.
"""

from __future__ import annotations

from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

LUMA: Final = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""The weights of red, green and blue. Rec. ITU-R BT.709, section 3."""
LEAST_ALPHA: Final = np.float32(1e-6)
"""Of what covers less the colour is dust of rounding, as far beyond white as it happens to be."""
_RGB, _RGBA = LUMA[None, :], np.append(LUMA, np.float32(0.0))[None, :]


def luma(pixels: NDArray[np.float32]) -> NDArray[np.float32]:
    """The luma ``(H, W)`` of colours ``(H, W, 3)`` or pixels ``(H, W, 4)``."""
    weighted = cv2.transform(pixels, _RGB if pixels.shape[2] == 3 else _RGBA)
    found: NDArray[np.float32] = weighted.reshape(pixels.shape[:2])
    return found


def largest(pixels: NDArray[np.float32]) -> NDArray[np.float32]:
    """The largest of red, green and blue ``(H, W)`` of pixels ``(H, W, 4)``."""
    red, green, blue = (cv2.extractChannel(pixels, channel) for channel in range(3))
    found: NDArray[np.float32] = cv2.max(cv2.max(red, green, red), blue, red)
    return found


def threefold(plane: NDArray[np.float32]) -> NDArray[np.float32]:
    """A plane ``(H, W)`` for each of three channels, ``(H, W, 3)``."""
    found: NDArray[np.float32] = cv2.merge((plane, plane, plane))
    return found


def mixed(
    channels: NDArray[np.float32],
    rows: NDArray[np.floating],
    shift: NDArray[np.floating] | None = None,
) -> NDArray[np.float32]:
    """Each pixel's channels mixed by a matrix, and shifted.

    Args:
        channels: ``(H, W, N)``, or ``(H, W)`` for one.
        rows: ``(M, N)``; a row for each channel of the result.
        shift: ``(M,)``, added to them.

    Returns:
        ``(H, W, M)``.
    """
    matrix = rows if shift is None else np.hstack([rows, np.asarray(shift)[:, None]])
    found: NDArray[np.float32] = cv2.transform(channels, matrix.astype(np.float32))
    return found
