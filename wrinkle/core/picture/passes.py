"""Whole passes over a picture in one loop, compiled by Numba; ``compiled`` loads them.

Each does what its twin in NumPy does, in the same order of the same float32 steps, so that both
give the same bytes. A table is that of a curve of ``transfer``.
"""

from __future__ import annotations

from typing import Any

import numba
import numpy as np

Array = Any
"""Numba's arrays carry no types that mypy knows."""

_compiled: Any = numba.njit(nogil=True, cache=True, error_model="numpy", boundscheck=False)
_inlined: Any = numba.njit(nogil=True, inline="always", error_model="numpy")

_f = np.float32


@_inlined
def _looked_up(value: Array, table: Array) -> Array:
    size = abs(value)
    spot, start = size * _f(65535.0), np.int32(0)
    # Only the place is chosen here: two look-ups in two branches take five times as long.
    if size > _f(1.0):
        spot, start = (size - _f(1.0)) * _f(4096.0), np.int32(65537)
    index = np.int32(spot)
    share = spot - _f(index)
    index += start
    found = table[index] + (table[index + 1] - table[index]) * share
    return -found if value < _f(0.0) else found


@_compiled
def recode(pixels: Array, table: Array, into: Array) -> bool:
    """A curve on the colours of premultiplied pixels, ``(H, W, 4)`` float32.

    Returns:
        Whether all is written; not where a colour is outside the tables.
    """
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            alpha = pixels[y, x, 3]
            into[y, x, 3] = alpha
            for channel in range(3):
                value = pixels[y, x, channel] / alpha if alpha > _f(0.0) else _f(0.0)
                if not abs(value) <= _f(16.0):
                    return False
                into[y, x, channel] = _looked_up(value, table) * alpha
    return True


@_compiled
def over(front: Array, opacity: Array, back: Array, into: Array) -> None:
    """front · opacity + back · (1 − its alpha), premultiplied, ``(H, W, 4)`` float32."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            left = _f(1.0) - front[y, x, 3] * opacity
            for channel in range(4):
                into[y, x, channel] = back[y, x, channel] * left + front[y, x, channel] * opacity


@_compiled
def recode_over(front: Array, table: Array, opacity: Array, back: Array, into: Array) -> bool:
    """``recode`` of the front and ``over`` at once; gives what ``recode`` does."""
    for y in range(front.shape[0]):
        for x in range(front.shape[1]):
            alpha = front[y, x, 3]
            left = _f(1.0) - alpha * opacity
            for channel in range(3):
                value = front[y, x, channel] / alpha if alpha > _f(0.0) else _f(0.0)
                if not abs(value) <= _f(16.0):
                    return False
                curved = _looked_up(value, table) * alpha
                into[y, x, channel] = back[y, x, channel] * left + curved * opacity
            into[y, x, 3] = back[y, x, 3] * left + alpha * opacity
    return True


@_compiled
def add_covered(total: Array, pixels: Array, share: Array) -> None:
    """Adds a share ``(H, W)`` of pixels to a total, ``(H, W, 4)``, in place."""
    for y in range(share.shape[0]):
        for x in range(share.shape[1]):
            for channel in range(4):
                total[y, x, channel] += pixels[y, x, channel] * share[y, x]


@_compiled
def hold(pixels: Array, least: Array, into: Array) -> None:
    """Values of ``least`` or less become 0, colours at most alpha, ``(H, W, 4)`` float32."""
    for y in range(pixels.shape[0]):
        for x in range(pixels.shape[1]):
            most = pixels[y, x, 3] if pixels[y, x, 3] > least else _f(0.0)
            for channel in range(4):
                value = pixels[y, x, channel] if pixels[y, x, channel] > least else _f(0.0)
                into[y, x, channel] = min(value, most)


def compile_all() -> None:
    """Compiles every pass for the arrays it is used with, or takes it from the cache."""
    one = np.zeros((1, 1, 4), np.float32)
    table = np.zeros(2, np.float32)
    recode(one, table, one.copy())
    over(one, _f(1.0), one, one.copy())
    recode_over(one, table, _f(1.0), one, one.copy())
    add_covered(one, one, np.zeros((1, 1), np.float32))
    hold(one, _f(0.0), one.copy())
