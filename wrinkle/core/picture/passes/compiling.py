"""How a pass is compiled, and what several of them begin with."""

from __future__ import annotations

from typing import Any

import numba
import numpy as np

Array = Any
"""Numba's arrays carry no types that mypy knows."""

compiled: Any = numba.njit(nogil=True, cache=True, error_model="numpy", boundscheck=False)
"""Of whole passes, and of loops that lie in memory one after the other: eight values at once."""
inlined: Any = numba.njit(nogil=True, inline="always", error_model="numpy")

f32 = np.float32
_CHUNK = 16
"""Pixels that are looked at together."""


@compiled
def seen(row: Array) -> Array:
    """Where what is seen of a row ``(W, 4)`` begins, and ends: many layers cover a part.

    Both to within a few pixels, in which there is nothing.
    """
    first, end = 0, row.shape[0]
    line = row.reshape(end * 4)
    while first < end and _empty(line[4 * first : 4 * min(first + _CHUNK, end)]):
        first = min(first + _CHUNK, end)
    while end > first and _empty(line[4 * max(end - _CHUNK, first) : 4 * end]):
        end = max(end - _CHUNK, first)
    return first, end


@compiled
def _empty(line: Array) -> Array:
    # Without leaving early, so that the processor takes eight values at once.
    something = False
    for x in range(line.shape[0]):
        something = something | (line[x] != f32(0.0))
    return not something


@compiled
def spread_alpha(row: Array, into: Array) -> None:
    """The alpha of each pixel of a row ``(W, 4)`` beside each of its values."""
    for x in range(row.shape[0]):
        alpha = row[x, 3]
        into[x, 0], into[x, 1], into[x, 2], into[x, 3] = alpha, alpha, alpha, alpha


@inlined
def held(value: Array) -> Array:
    """A value held within 0…1."""
    kept = value if value > f32(0.0) else f32(0.0)
    return kept if kept < f32(1.0) else f32(1.0)
