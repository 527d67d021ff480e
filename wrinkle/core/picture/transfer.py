"""The sRGB transfer function: exact, nearly so in one pass, and by table for 8-bit pictures.

Source: IEC 61966-2-1, the encoding and decoding of the colour component values.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture import srgb_powers as srgb
from wrinkle.core.picture.bands import Floats, bands, in_bands
from wrinkle.core.picture.channels import LEAST_ALPHA
from wrinkle.core.picture.compiled import passes

_f = np.float32
_Numbers = NDArray[Any]
"""Of single or double precision, as the result is."""


@dataclass(frozen=True, eq=False)
class Curve:
    """One direction of the transfer function.

    Attributes:
        exact: of any values.
        near: of values within ±16, by roots and products alone; see ``srgb_powers``.
        encodes: whether it is the one from linear to encoded values.
    """

    exact: Callable[[_Numbers], _Numbers]
    near: Callable[[Floats], Floats]
    encodes: bool

    def of_premultiplied(self, pixels: Floats) -> Floats:
        """The curve on the colours of premultiplied pixels ``(H, W, 4)``; alpha stays.

        It is within 1e-6 of the exact one, relative to colours above 1. Where a colour is beyond
        ±16 all of them are exact. Where hardly anything is left of a pixel it has no colour.
        """
        compiled = passes()
        if compiled is not None:
            pixels = np.ascontiguousarray(pixels)
            result = np.empty_like(pixels)
            if compiled.recode(pixels, self.encodes, result):
                return result
        elif (done := self._as_compiled(pixels)) is not None:
            return done
        return in_bands(self._exactly, pixels)

    def _as_compiled(self, pixels: Floats) -> Floats | None:
        """What the compiled pass does, step for step; None where it gives up."""
        result = np.empty_like(pixels)
        for rows in bands(pixels):
            band, into = pixels[rows], result[rows]
            straight = _straight(band)[..., :3]
            size = np.abs(straight)
            if not size.max(initial=0.0) <= srgb.FARTHEST:
                return None
            curved = self.near(size)
            np.multiply(np.where(straight < 0.0, -curved, curved), band[..., 3:], out=into[..., :3])
            into[..., 3] = band[..., 3]
        return result

    def _exactly(self, pixels: Floats) -> Floats:
        result: Floats = self.exact(_straight(pixels)) * pixels[..., 3:]
        result[..., 3] = pixels[..., 3]
        return result


def _encoded_near(size: Floats) -> Floats:
    far = size > _f(1.0)
    curved = _of_root(size, far, srgb.ENCODING, srgb.ENCODED_FAR) - srgb.ENCODED_LESS
    found: Floats = np.where(size > srgb.ENCODED_KNEE, curved, size * srgb.ENCODED_SLOPE)
    return found


def _decoded_near(size: Floats) -> Floats:
    y = size * srgb.DECODED_SCALE + srgb.DECODED_MORE
    curved = y * y * _of_root(y, y > _f(1.0), srgb.DECODING, srgb.DECODED_FAR)
    found: Floats = np.where(size > srgb.DECODED_KNEE, curved, size * srgb.DECODED_SLOPE)
    return found


def _of_root(
    values: Floats, far: NDArray[np.bool_], coefficients: Sequence[np.float32], scale: np.float32
) -> Floats:
    u = np.sqrt(np.sqrt(np.where(far, values * (_f(1.0) / srgb.FARTHEST), values)))
    found = np.full_like(u, coefficients[-1])
    for coefficient in coefficients[-2::-1]:
        found *= u
        found += coefficient
    found *= np.where(far, scale, _f(1.0))
    return found


def _straight(pixels: Floats) -> Floats:
    alpha = pixels[..., 3:]
    with np.errstate(over="ignore"):
        result: Floats = np.divide(
            pixels, alpha, out=np.zeros_like(pixels), where=alpha > LEAST_ALPHA
        )
    return result


def encode(linear: Floats) -> Floats:
    """Encoded values of linear ones, float32 of the same shape; negative values keep their sign."""
    return in_bands(_encoded, linear)


def _encoded(linear: _Numbers) -> _Numbers:
    magnitude = np.abs(linear)
    curved = cv2.pow(magnitude, 1.0 / 2.4).reshape(linear.shape) * 1.055 - 0.055
    return np.copysign(np.where(magnitude <= 0.0031308, magnitude * 12.92, curved), linear)


def decode(encoded: Floats) -> Floats:
    """Linear values of encoded ones, float32 of the same shape; negative values keep their sign."""
    return in_bands(_decoded, encoded)


def _decoded(encoded: _Numbers) -> _Numbers:
    magnitude = np.abs(encoded)
    curved = cv2.pow((magnitude + 0.055) / 1.055, 2.4).reshape(encoded.shape)
    return np.copysign(np.where(magnitude <= 0.04045, magnitude / 12.92, curved), encoded)


def decode_8bit(encoded: NDArray[np.uint8]) -> Floats:
    """Linear float32 RGBA ``(H, W, 4)`` of 8-bit RGB or RGBA; nothing is premultiplied."""
    if encoded.shape[2] == 3:
        return from_levels(encoded, linear=True)
    linear: Floats = cv2.LUT(np.ascontiguousarray(encoded), _TO_LINEAR)
    return linear


def from_levels(levels: NDArray[np.uint8], linear: bool) -> Floats:
    """Opaque float32 RGBA ``(H, W, 4)`` of encoded levels ``(H, W, 3)``, linear or as they are."""
    compiled = passes()
    if compiled is None:
        opaque = cv2.cvtColor(levels, cv2.COLOR_RGB2RGBA)
        found: Floats = cv2.LUT(opaque, _TO_LINEAR if linear else _TO_ENCODED)
        return found
    result = np.empty((*levels.shape[:2], 4), np.float32)
    table = _LINEAR_LEVELS if linear else _ENCODED_LEVELS
    compiled.from_levels(np.ascontiguousarray(levels), table, result)
    return result


def to_levels(encoded: Floats) -> NDArray[np.uint8]:
    """8-bit levels of values ``(H, W, 4)``, held within 0…1 and rounded half up."""
    compiled = passes()
    if compiled is None:
        scaled = np.clip(encoded, 0.0, 1.0) * _f(255.0) + _f(0.5)
        return scaled.astype(np.uint8)
    result = np.empty(encoded.shape, np.uint8)
    compiled.to_levels(np.ascontiguousarray(encoded), result)
    return result


def encode_to_8bit(linear: Floats) -> NDArray[np.uint8]:
    """8-bit encoded RGBA of opaque linear RGBA ``(H, W, 4)``, clipped to 0…1; alpha becomes 255.

    The values pass a 16-bit index; the result is at most one level from the rounded exact one.
    """
    index = cv2.addWeighted(linear, 65535.0, linear, 0.0, 0.0, dtype=cv2.CV_16U)
    result: NDArray[np.uint8] = cv2.LUT(index, _TO_8BIT)
    result[..., 3] = 255
    return result


ENCODING = Curve(_encoded, _encoded_near, True)
DECODING = Curve(_decoded, _decoded_near, False)

_LEVELS = np.arange(256, dtype=np.float32)
_ENCODED_LEVELS = _LEVELS / _f(255.0)
_LINEAR_LEVELS = decode(_ENCODED_LEVELS)
_TO_ENCODED = np.stack([_ENCODED_LEVELS] * 4, axis=-1).reshape(1, 256, 4)
_TO_LINEAR = np.stack([_LINEAR_LEVELS] * 3 + [_LEVELS * _f(1.0 / 255.0)], axis=-1).reshape(
    1, 256, 4
)
_TO_8BIT = np.rint(_encoded(np.arange(65536) / 65535.0) * 255.0).astype(np.uint8).reshape(1, -1)
