"""Laying one picture over another."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Image, Light, Pixels


def covered(pixels: Pixels, share: NDArray[np.float32]) -> Pixels:
    """Premultiplied pixels ``(H, W, 4)`` of which a share ``(H, W)`` is left."""
    left: Pixels = cv2.multiply(pixels, cv2.merge([share] * 4))
    return left


def source_over(above: Image, below: Image, opacity: float) -> Image:
    """``above`` over ``below``: above + below · (1 − alpha), premultiplied, in encoded colour.

    Args:
        above: the picture in front.
        below: the picture behind, of the same size.
        opacity: of ``above``, 0…1.

    Returns:
        One of the two where the other does not show, in the state it has; else an encoded image.

    Source: Porter and Duff 1984, the operator "over"; W3C Compositing and Blending Level 1,
    section 9.1.4, source-over.
    """
    if opacity <= 0.0:
        return below
    if opacity >= 1.0 and above.opaque:
        return above
    front = above.in_light(Light.ENCODED).pixels
    back = below.in_light(Light.ENCODED).pixels
    if opacity < 1.0:
        front = front * np.float32(opacity)
    mixed = front + back * (np.float32(1.0) - front[..., 3:])
    return Image(mixed, Light.ENCODED, below.opaque)
