"""Curves: each channel and all together through a smooth curve of points.

A curve is an outline whose points have no handles, x and y in 0…1: so it is a lane like any path.
Between the points it is a monotone cubic (Fritsch and Carlson 1980), which never overshoots them.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.colour import of_colours
from wrinkle.core.effects.effect import Effect, Family, Values
from wrinkle.core.effects.reveal import LUMA
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Light
from wrinkle.core.picture.paths import Outline, knots, polygon

STRAIGHT = polygon(((0.0, 0.0), (1.0, 1.0)))
"""The curve that changes nothing."""
_ENTRIES = 1024


def curve_values(outline: Outline, places: NDArray[np.float64]) -> NDArray[np.float64]:
    """The curve through an outline's points at some places; level beyond its ends.

    Args:
        outline: points in any order; of two at one place the later one counts.
        places: one-dimensional.
    """
    by_place = {knot.x: knot.y for knot in knots(outline)}
    x = np.array(sorted(by_place))
    y = np.array([by_place[place] for place in x])
    if len(x) == 1:
        return np.full_like(places, y[0])
    width = np.diff(x)
    slope = np.diff(y) / width
    tangent = np.empty(len(x))
    tangent[0], tangent[-1] = slope[0], slope[-1]
    for i in range(1, len(x) - 1):
        before, after = slope[i - 1], slope[i]
        if before * after <= 0.0:
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


def curves(colours: Field, values: Values) -> Field:
    """Red, green and blue each through their own curve, then all through the common one.

    The luma curve changes brightness and leaves hue and saturation as they are.
    """
    places = np.linspace(0.0, 1.0, _ENTRIES)
    common = curve_values(parts(values["all"]), places)
    result = np.empty_like(colours)
    for channel, name in enumerate(("red", "green", "blue")):
        own = np.clip(curve_values(parts(values[name]), places), 0.0, 1.0)
        both = np.interp(own, places, common)
        result[..., channel] = _through(both, colours[..., channel])
    luma = parts(values["luma"])
    if luma != STRAIGHT:
        before = np.clip(result @ LUMA, 0.0, 1.0)
        after = _through(curve_values(luma, places), before)
        result *= (after / np.maximum(before, 1e-4))[..., None].astype(np.float32)
    return np.clip(result, 0.0, None)


def _through(table: NDArray[np.float64], levels: Field) -> Field:
    """Levels through a table over 0…1, linearly between its entries and held at its ends.

    The table is read as a picture of one row, which is many times faster than a search.
    """
    row = table.astype(np.float32)[None, :]
    x = np.ascontiguousarray(levels, np.float32) * np.float32(len(table) - 1)
    # NaN and the very large have no place in a map of coordinates.
    x = np.clip(np.nan_to_num(x), 0.0, len(table) - 1).astype(np.float32)
    border = cv2.BORDER_REPLICATE
    read: Field = cv2.remap(row, x, np.zeros_like(x), cv2.INTER_LINEAR, borderMode=border)
    return read


def _curve(key: str, label: str) -> SettingSpec:
    return SettingSpec(key, label, "Double-click for a point, right-click to take one out.",
                       Unit.NONE, STRAIGHT, 0.0, 1.0, 0.01, outline=True, curve=True)  # fmt: skip


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
        starts_with={"all": polygon(((0.0, 0.0), (0.25, 0.18), (0.75, 0.84), (1.0, 1.0)))},
        words="grade contrast channel levels",
    ),
)
