"""Light on a relief, from the slope of its height."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]

_LIGHT = -0.6, -0.8
"""From where it comes, right and down."""


def facing(
    height: Field, short: float, depth: float, ways: tuple[float, float] = (1.0, 1.0)
) -> Field:
    """How much the slope of a height faces light from the upper left; alike in every size.

    Args:
        height: ``(H, W)``.
        short: the short side of the frame, in pixels.
        depth: how deep the relief is.
        ways: 1 where light comes from the left, and from above, else -1.
    """
    scale = short / 540.0 * depth / 8.0
    across, down = (scale * light * way for light, way in zip(_LIGHT, ways, strict=True))
    slope = cv2.Sobel(height, cv2.CV_32F, 1, 0, ksize=3, scale=across)
    slope += cv2.Sobel(height, cv2.CV_32F, 0, 1, ksize=3, scale=down)
    found: Field = slope
    return found
