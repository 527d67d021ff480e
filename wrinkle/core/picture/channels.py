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


def luma(pixels: NDArray[np.float32]) -> NDArray[np.float32]:
    """The luma ``(H, W)`` of colours ``(H, W, 3)`` or pixels ``(H, W, 4)``."""
    # OpenCV takes eight at once of three channels into three or one, and of four into four; any
    # other numbers take it five times as long, here and in ``mixed``.
    colours = pixels if pixels.shape[2] == 3 else cv2.cvtColor(pixels, cv2.COLOR_RGBA2RGB)
    weighted = cv2.transform(colours, LUMA[None, :])
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
    made, given = rows.shape
    shifts = np.zeros(made) if shift is None else np.asarray(shift)
    if given <= 2:
        first = channels if channels.ndim == 2 else cv2.extractChannel(channels, 0)
        second = first if given == 1 else cv2.extractChannel(channels, 1)
        weights = rows if given == 2 else np.column_stack((rows, np.zeros(made)))
        planes = [
            cv2.addWeighted(first, float(a), second, float(b), float(more))
            for (a, b), more in zip(weights, shifts, strict=True)
        ]
        return np.asarray(cv2.merge(planes), np.float32).reshape(*first.shape, made)
    if made != given:
        # As four into four.
        matrix = np.zeros((4, 5), np.float32)
        matrix[:made, :given], matrix[:made, 4] = rows, shifts
        whole = channels if given == 4 else cv2.cvtColor(channels, cv2.COLOR_RGB2RGBA)
        four = cv2.transform(whole, matrix)
        return np.asarray(four if made == 4 else four[..., :made], np.float32)
    matrix = np.hstack([rows, shifts[:, None]]).astype(np.float32)
    found: NDArray[np.float32] = cv2.transform(channels, matrix)
    return found
