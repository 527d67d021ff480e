"""Curves: each channel and all together through a smooth curve of points.

A curve is an outline whose points have no handles, x and y in 0…1: so it is a lane like any path.
Between the points it is a monotone cubic (Fritsch and Carlson 1980), which never overshoots them.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache, partial

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Values
from wrinkle.core.effects.recolouring import of_colours
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.setting_spec import CurveSpec
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.channels import luma, threefold
from wrinkle.core.picture.grading import Levels, Operation, Other
from wrinkle.core.picture.image import Light
from wrinkle.core.picture.lut import Lut
from wrinkle.core.picture.paths import Outline, knots, polygon

STRAIGHT = polygon(((0.0, 0.0), (1.0, 1.0)))
"""The curve that changes nothing."""
_PLACES = np.linspace(0.0, 1.0, 1024)
_KEPT = 32
# Nearer points would have a slope beyond any number.
_ONE_PLACE = 1e-6
# A product of slopes below this is a turn or a level piece.
_LEVEL = 1e-30


def curve_values(outline: Outline, places: NDArray[np.float64]) -> NDArray[np.float64]:
    """The curve through an outline's points at some places ``(N,)``; level beyond its ends.

    Args:
        outline: points in any order; of two at one place the later one counts.
        places: one-dimensional.
    """
    points: list[tuple[float, float]] = []
    for knot in sorted(knots(outline), key=lambda knot: knot.x):
        if points and knot.x - points[-1][0] < _ONE_PLACE:
            points.pop()
        points.append((knot.x, knot.y))
    x, y = np.array(points).T
    if len(x) == 1:
        return np.full_like(places, y[0])
    width = np.diff(x)
    slope = np.diff(y) / width
    tangent = np.empty(len(x))
    tangent[0], tangent[-1] = slope[0], slope[-1]
    for i in range(1, len(x) - 1):
        before, after = slope[i - 1], slope[i]
        if before * after <= _LEVEL:
            tangent[i] = 0.0
        else:
            # The weighted harmonic mean keeps the curve monotone.
            a, b = 2 * width[i] + width[i - 1], width[i] + 2 * width[i - 1]
            tangent[i] = (a + b) / (a / before + b / after)
    held = np.clip(places, x[0], x[-1])
    at = np.clip(np.searchsorted(x, held, side="right") - 1, 0, len(width) - 1)
    t = (held - x[at]) / width[at]
    u = 1.0 - t
    rise = width[at] * (u * u * t * tangent[at] - u * t * t * tangent[at + 1])
    found: NDArray[np.float64] = (
        y[at] * (1 + 2 * t) * u * u + y[at + 1] * (3 - 2 * t) * t * t + rise
    )
    return found


def curves(values: Values, table: Lut | None) -> Sequence[Operation]:
    """Red, green and blue each through their own curve, then all through the common one.

    The luma curve changes brightness and leaves hue and saturation as they are.
    """
    common, bright = parts(values["all"]), parts(values["luma"])
    own = [_levels(parts(values[key]), common) for key in ("red", "green", "blue")]
    levels = Levels(np.stack(own))
    if bright == STRAIGHT:
        return (levels,)
    brightness = Levels(np.stack([_levels(bright, STRAIGHT)] * 3))
    return levels, Other(partial(_brightened, brightness), 10.0)


def _brightened(brightness: Levels, colours: Field) -> Field:
    before = threefold(np.clip(luma(colours), 0.0, 1.0))
    wanted = brightness(before.copy())
    return np.asarray(colours * (wanted / np.maximum(before, np.float32(1e-4))), np.float32)


@lru_cache(maxsize=_KEPT)
def _levels(own: Outline, common: Outline) -> Field:
    """The values of all steps after a channel's own curve and the common one."""
    held = np.clip(curve_values(own, _PLACES), 0.0, 1.0)
    return np.interp(held, _PLACES, curve_values(common, _PLACES)).astype(np.float32)


def _curve(key: str, label: str) -> CurveSpec:
    about = "Double-click for a point, right-click to take one out."
    return CurveSpec(key, label, about, STRAIGHT, step=0.01)


EFFECTS = (
    Effect(
        "curves",
        "Curves",
        "Brightness and each channel through a drawn curve.",
        Family.COLOUR,
        Light.ENCODED,
        (
            _curve("all", "All"),
            _curve("red", "Red"),
            _curve("green", "Green"),
            _curve("blue", "Blue"),
            _curve("luma", "Luma"),
        ),
        of_colours(curves),
        tool=curves,
        starts_with={"all": polygon(((0.0, 0.0), (0.25, 0.18), (0.75, 0.84), (1.0, 1.0)))},
        words="grade contrast channel levels",
    ),
)
