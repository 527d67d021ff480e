"""The sRGB curve over whole pictures, and 8-bit levels; see ``transfer``."""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture import srgb_powers as srgb
from wrinkle.core.picture.channels import LEAST_ALPHA
from wrinkle.core.picture.passes.compiling import (
    Array,
    compiled,
    f32,
    held,
    inlined,
    seen,
    spread_alpha,
)  # fmt: skip


@inlined
def _polynomial(u: Array, coefficients: Array) -> Array:
    found = coefficients[len(coefficients) - 1]
    for power in range(len(coefficients) - 2, -1, -1):
        found = found * u + coefficients[power]
    return found


@inlined
def _encoded(value: Array) -> Array:
    size = abs(value)
    far = size > f32(1.0)
    u = np.sqrt(np.sqrt(size * f32(0.0625) if far else size))
    curved = _polynomial(u, srgb.ENCODING) * (srgb.ENCODED_FAR if far else f32(1.0))
    curved = curved - srgb.ENCODED_LESS
    found = curved if size > srgb.ENCODED_KNEE else size * srgb.ENCODED_SLOPE
    return -found if value < f32(0.0) else found


@inlined
def _decoded(value: Array) -> Array:
    size = abs(value)
    y = size * srgb.DECODED_SCALE + srgb.DECODED_MORE
    far = y > f32(1.0)
    u = np.sqrt(np.sqrt(y * f32(0.0625) if far else y))
    curved = _polynomial(u, srgb.DECODING) * (srgb.DECODED_FAR if far else f32(1.0))
    curved = y * y * curved
    found = curved if size > srgb.DECODED_KNEE else size * srgb.DECODED_SLOPE
    return -found if value < f32(0.0) else found


@inlined
def _too_far(value: Array) -> Array:
    # What is no number is too far as well.
    return not (abs(value) <= srgb.FARTHEST)


@compiled
def _curve_line(line: Array, encode: bool, alpha: Array, into: Array) -> Array:
    """A line of straight values through the curve, times their alpha; true where one is too far.

    The lines lie apart in memory: of one that is read and written the compiler takes no eight
    values at once.
    """
    far = False
    for x in range(line.shape[0]):
        far = far | _too_far(line[x])
        into[x] = (_encoded(line[x]) if encode else _decoded(line[x])) * alpha[x]
    return far


@compiled
def _bare(alpha: Array) -> Array:
    found = False
    for x in range(alpha.shape[0]):
        found = found | (alpha[x] != f32(1.0))
    return found


@compiled
def _straighten(line: Array, alpha: Array, into: Array) -> Array:
    """A line without its alpha; gives whether some of it is too little to have a colour."""
    dusty = False
    for x in range(line.shape[0]):
        dusty = dusty | ((alpha[x] <= LEAST_ALPHA) & (alpha[x] != f32(0.0)))
        into[x] = line[x] / alpha[x] if alpha[x] > LEAST_ALPHA else f32(0.0)
    return dusty


@compiled
def recode_row(row: Array, encode: bool, room: Array, into: Array) -> Array:
    """A row ``(W, 4)`` of premultiplied pixels through the curve.

    Args:
        row: the pixels.
        encode: whether to encode; else it is decoded.
        room: ``(2, W, 4)`` or wider, to work in.
        into: ``(W, 4)``, apart from the row.

    Returns:
        Whether it is good; not where a colour is too far.
    """
    pixels, width = row.shape[0], row.shape[0] * 4
    spread_alpha(row, room[0])
    line, curved = row.reshape(width), into.reshape(width)
    alpha = room[0, :pixels].reshape(width)
    dusty = False
    if _bare(alpha):
        straight = room[1, :pixels].reshape(width)
        dusty = _straighten(line, alpha, straight)
        line = straight
    far = _curve_line(line, encode, alpha, curved)
    if dusty:
        for x in range(pixels):
            into[x, 3] = row[x, 3]
    return not far


@compiled
def recode(pixels: Array, encode: bool, into: Array) -> bool:
    """The sRGB curve, or its inverse, on the colours of premultiplied pixels ``(H, W, 4)``.

    Returns:
        Whether all is written; not where a colour is beyond ±16.
    """
    near, room = True, np.empty((2, pixels.shape[1], 4), np.float32)
    for y in range(pixels.shape[0]):
        first, end = seen(pixels[y])
        into[y, :first], into[y, end:] = f32(0.0), f32(0.0)
        near = near and recode_row(pixels[y, first:end], encode, room, into[y, first:end])
    return near


@compiled
def to_levels(pixels: Array, into: Array) -> None:
    """The levels 0…255 of values ``(H, W, 4)`` held within 0…1, rounded half up, as uint8."""
    width = pixels.shape[1] * 4
    for y in range(pixels.shape[0]):
        line, levels = pixels[y].reshape(width), into[y].reshape(width)
        for x in range(width):
            levels[x] = np.uint8(np.int32(held(line[x]) * f32(255.0) + f32(0.5)))


@compiled
def from_levels(levels: Array, table: Array, into: Array) -> None:
    """Opaque pixels ``(H, W, 4)`` of RGB levels ``(H, W, 3)`` uint8, each by a table of 256."""
    for y in range(levels.shape[0]):
        for x in range(levels.shape[1]):
            for channel in range(3):
                into[y, x, channel] = table[levels[y, x, channel]]
            into[y, x, 3] = f32(1.0)
