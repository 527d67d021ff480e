"""CIE Lab of encoded sRGB colours, and back.

Source: CIE 15, the CIE 1976 L*a*b* colour space; IEC 61966-2-1 for the primaries and white D65.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.bands import Floats, in_bands
from wrinkle.core.picture.compiled import passes
from wrinkle.core.picture.lut import in_table
from wrinkle.core.picture.transfer import DECODING, ENCODING

_f = np.float32
_CREASE = 6.0 / 29.0
_STEPS = 4096
"""Straight between them the curves are within 2e-5 of themselves."""

_PUBLISHED = np.array(
    [(0.4124, 0.3576, 0.1805), (0.2126, 0.7152, 0.0722), (0.0193, 0.1192, 0.9505)], np.float64
)
# Relative to white, so that each grey has no colour at all.
_RELATIVE = _PUBLISHED / _PUBLISHED.sum(axis=1, keepdims=True)
_TO_XYZ, _FROM_XYZ = _RELATIVE.astype(np.float32), np.linalg.inv(_RELATIVE).astype(np.float32)


def _root(share: NDArray[Any]) -> NDArray[Any]:
    near = share / (3.0 * _CREASE**2) + 4.0 / 29.0
    return np.where(share > _CREASE**3, np.cbrt(share), near)


def _tabled(curve: Callable[[NDArray[Any]], NDArray[Any]]) -> Floats:
    """A curve of 0…1 in even steps, its last entry twice; small enough for the nearest cache."""
    places = np.append(np.linspace(0.0, 1.0, _STEPS + 1), 1.0)
    return curve(places).astype(np.float32)


_DECODE, _ENCODE, _ROOTS = (_tabled(x) for x in (DECODING.exact, ENCODING.exact, _root))


def lab(colours: Floats) -> Floats:
    """Lightness 0…100, a and b, ``(H, W, 3)`` float32, of encoded colours, held within 0…1."""
    compiled = passes()
    if compiled is None:
        return in_bands(_lab, colours)
    found = np.empty(colours.shape, np.float32)
    colours = np.ascontiguousarray(colours)
    compiled.to_lab(colours, _DECODE, _TO_XYZ, _ROOTS, found)
    return found


def shifted(pixels: Floats, scales: NDArray[np.floating], shifts: NDArray[np.floating]) -> Floats:
    """Encoded pixels with their Lab scaled and shifted by tones; their alpha stays.

    Args:
        pixels: ``(H, W, 4)`` float32, premultiplied.
        scales: ``(3, 3)``: of lightness, a and b, each for the dark, middle and bright tones.
        shifts: ``(3, 3)``, added after that.
    """
    pixels, scales, shifts = (np.ascontiguousarray(x, np.float32) for x in (pixels, scales, shifts))
    compiled = passes()
    if compiled is None:
        return in_bands(lambda band: _shifted(band, scales, shifts), pixels)
    found = np.empty(pixels.shape, np.float32)
    compiled.shift_lab(pixels, _DECODE, _TO_XYZ, _ROOTS, scales, shifts, _FROM_XYZ, _ENCODE, found)
    return found


def tones(lightness: Floats) -> Floats:
    """How much a lightness 0…100 belongs to the dark, middle and bright tones, ``(…, 3)``.

    With l of 0…1 by the shares (1 - l)², what is left, and l².
    """
    share = lightness * _f(0.01)
    dark, bright = (_f(1.0) - share) * (_f(1.0) - share), share * share
    return np.stack((dark, _f(1.0) - dark - bright, bright), axis=-1)


# Below, step for step what the compiled passes do.


def _lab(colours: Floats) -> Floats:
    linear = in_table(colours, _DECODE)
    fx, fy, fz = (in_table(plane, _ROOTS) for plane in _mixed(_TO_XYZ, linear))
    return np.stack(
        (fy * _f(116.0) - _f(16.0), (fx - fy) * _f(500.0), (fy - fz) * _f(200.0)), axis=-1
    )


def _shifted(pixels: Floats, scales: Floats, shifts: Floats) -> Floats:
    alpha = pixels[..., 3:]
    whole: Floats = np.where(alpha > _f(0.0), alpha, _f(1.0))
    found = _lab(pixels[..., :3] / whole)
    parts = tones(found[..., 0])
    light, a, b = (
        found[..., channel] * factor + shift
        for channel, (factor, shift) in enumerate(
            zip(_mixed(scales, parts), _mixed(shifts, parts), strict=True)
        )
    )
    fy = (light + _f(16.0)) * _f(1.0 / 116.0)
    fx, fz = fy + a * _f(1.0 / 500.0), fy - b * _f(1.0 / 200.0)
    shares = np.stack([_cubed(plane) for plane in (fx, fy, fz)], axis=-1)
    colours = in_table(np.stack(_mixed(_FROM_XYZ, shares), axis=-1), _ENCODE)
    return np.concatenate((colours * alpha, alpha), axis=-1)


def _cubed(plane: Floats) -> Floats:
    near = (plane - _f(4.0 / 29.0)) * _f(3.0 * _CREASE**2)
    return np.where(plane > _f(_CREASE), plane * plane * plane, near)


def _mixed(matrix: Floats, colours: Floats) -> list[Floats]:
    first, second, third = (colours[..., channel] for channel in range(3))
    return [row[0] * first + row[1] * second + row[2] * third for row in matrix]
