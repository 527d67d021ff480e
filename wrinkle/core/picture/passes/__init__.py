"""Whole passes over a picture in one loop, compiled by Numba; ``compiled`` loads them.

Each does what its twin in NumPy does, in the same order of the same float32 steps, so that both
give the same bytes.
"""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture.passes.compiling import f32
from wrinkle.core.picture.passes.curve import from_levels, recode, to_levels
from wrinkle.core.picture.passes.laying import (
    add_covered,
    atop,
    brighten,
    cover,
    dress,
    encode_over,
    hold,
    lay_over,
    mix,
    over,
    product,
    tint,
    undress,
)
from wrinkle.core.picture.passes.tables import (
    balance,
    shift_lab,
    through_levels,
    through_solid,
    to_lab,
)

__all__ = (
    "add_covered",
    "atop",
    "balance",
    "brighten",
    "compile_all",
    "cover",
    "dress",
    "encode_over",
    "from_levels",
    "hold",
    "lay_over",
    "mix",
    "over",
    "product",
    "recode",
    "shift_lab",
    "through_levels",
    "through_solid",
    "tint",
    "to_lab",
    "to_levels",
    "undress",
)


def compile_all() -> None:
    """Compiles every pass for the arrays it is used with, or takes it from the cache."""
    one = np.zeros((1, 1, 4), np.float32)
    table = np.zeros(2, np.float32)
    flat = np.zeros((1, 1), np.float32)
    recode(one, True, one.copy())
    levels = np.zeros((1, 1, 4), np.uint8)
    to_levels(one, levels)
    from_levels(levels[..., :3].copy(), np.zeros(256, np.float32), one.copy())
    lay_over(one, f32(1.0), one.copy())
    over(one, f32(1.0), one, one.copy())
    encode_over(one, f32(1.0), one, one.copy())
    atop(one, one, one, one.copy())
    product(one, f32(1.0), one, True, f32(0.0), one.copy())
    mix(one, f32(1.0), one, flat, one.copy())
    cover(one, flat, one.copy())
    brighten(one, f32(1.0), f32(1.0), one.copy())
    add_covered(one, one, flat)
    hold(one, f32(0.0), one.copy())
    colours, matrix = np.zeros((1, 1, 3), np.float32), np.eye(3, dtype=np.float32)
    tint(table[[0, 0, 0, 0]], flat, one.copy())
    undress(one, colours.copy())
    dress(colours, one, one.copy())
    through_solid(colours, np.zeros((2, 2, 2, 3), np.float32), colours.copy())
    through_levels(colours, np.zeros((3, 2), np.float32))
    balance(colours, matrix[0], matrix[0], f32(1.0), f32(1.0))
    to_lab(colours, table, matrix, table, colours.copy())
    shift_lab(one, table, matrix, table, matrix, matrix, matrix, table, one.copy())
