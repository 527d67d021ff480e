"""How fast the pictures of a wrinkle move, for sounds that follow them."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import parts

_AS_MUCH = {"position": 1.0, "scale": 100.0, "rotation": 180.0, "tilt": 180.0, "skew": 90.0}
"""What of each setting is as fast to the eye as a whole frame's way: a judgement of ours."""


def motion_speeds(
    wrinkle: Wrinkle, start: Fraction, length: Fraction, count: int
) -> NDArray[np.float64]:
    """The speed ``(count,)`` of all that is placed, from lanes alone, the fastest moment at 1.

    A wrinkle in which nothing is placed counts as one that is fastest at its cut.

    Args:
        wrinkle: a plain one.
        start, length: of the stretch, in seconds from the cut.
        count: how many values, evenly over it.
    """
    times = [start + length * Fraction(n, count) for n in range(count + 1)]
    found: NDArray[np.float64] = np.zeros(count)
    for layer in wrinkle.layers:
        for key in layer.lanes():
            if key in _AS_MUCH:
                found += _speeds(wrinkle, layer, key, times) / _AS_MUCH[key]
    most = float(found.max(initial=0.0))
    if most <= 0.0:
        seconds = np.array([float(x) for x in times[:-1]])
        reach = float(max(wrinkle.lead, wrinkle.tail))
        near: NDArray[np.float64] = np.clip(1.0 - np.abs(seconds) / reach, 0.0, 1.0) ** 2
        return near
    # Ears hear shares rather than differences: slow motion is heard too.
    shares: NDArray[np.float64] = np.sqrt(found / most)
    return shares


def _speeds(wrinkle: Wrinkle, layer: Layer, key: str, times: list[Fraction]) -> NDArray[np.float64]:
    """How much a setting changes between neighbouring times."""
    setting = layer.setting(key)
    first, end = wrinkle.ends(layer)
    steps = np.zeros(len(times) - 1)
    for number, (before, after) in enumerate(pairwise(times)):
        if not first <= before <= after <= end:
            continue
        if before < CUT <= after:
            # A lane may jump there, which is no motion: it goes on as it came.
            steps[number] = steps[number - 1] if number else 0.0
            continue
        side = Side.OUTGOING if after < CUT else Side.INCOMING
        values = [parts(setting.at(time, side)) for time in (before, after)]
        steps[number] = float(np.abs(np.subtract(values[1], values[0])).max())
    return steps
