"""The sRGB transfer function, exact in floating point and by table for 8-bit pictures.

Source: IEC 61966-2-1, the encoding and decoding of the colour component values.
"""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.bands import Floats, in_bands

_f = np.float32
Curve = Callable[[Floats], Floats]


def encode(linear: Floats) -> Floats:
    """Encoded values of linear ones, float32 of the same shape; negative values keep their sign."""
    return in_bands(_encoded, linear)


def _encoded(linear: Floats) -> Floats:
    magnitude = np.abs(linear)
    curved = cv2.pow(magnitude, 1.0 / 2.4).reshape(linear.shape) * _f(1.055) - _f(0.055)
    straight = magnitude * _f(12.92)
    return np.copysign(np.where(magnitude <= _f(0.0031308), straight, curved), linear)


def decode(encoded: Floats) -> Floats:
    """Linear values of encoded ones, float32 of the same shape; negative values keep their sign."""
    return in_bands(_decoded, encoded)


def _decoded(encoded: Floats) -> Floats:
    magnitude = np.abs(encoded)
    curved = cv2.pow((magnitude + _f(0.055)) / _f(1.055), 2.4).reshape(encoded.shape)
    straight = magnitude / _f(12.92)
    return np.copysign(np.where(magnitude <= _f(0.04045), straight, curved), encoded)


def decode_8bit(encoded: NDArray[np.uint8]) -> Floats:
    """Linear float32 RGBA ``(H, W, 4)`` of 8-bit RGB or RGBA; nothing is premultiplied."""
    height, width, channels = encoded.shape
    linear = np.empty((height, width, 4), np.float32)
    linear[..., :3] = cv2.LUT(np.ascontiguousarray(encoded[..., :3]), _TO_LINEAR)
    if channels == 4:
        linear[..., 3] = encoded[..., 3] * np.float32(1.0 / 255.0)
    else:
        linear[..., 3] = 1.0
    return linear


def encode_to_8bit(linear: Floats) -> NDArray[np.uint8]:
    """8-bit encoded RGBA of opaque linear RGBA ``(H, W, 4)``, clipped to 0…1; alpha becomes 255.

    The values pass a 16-bit index; the result is at most one level from the rounded exact one.
    """
    index = cv2.addWeighted(linear, 65535.0, linear, 0.0, 0.0, dtype=cv2.CV_16U)
    result: NDArray[np.uint8] = cv2.LUT(index, _TO_8BIT)
    result[..., 3] = 255
    return result


_TO_LINEAR = decode(np.arange(256, dtype=np.float32) / np.float32(255.0)).reshape(1, -1)
_TO_8BIT = (
    np.rint(encode(np.arange(65536, dtype=np.float32) / np.float32(65535.0)) * 255.0)
    .astype(np.uint8)
    .reshape(1, -1)
)
