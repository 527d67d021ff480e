"""How fast the pictures of a wrinkle move, and to which side, for sounds that follow them."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.track import Side, Track
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.synthesis.made_sounds import Speeds

AS_MUCH = {"position": 1.0, "scale": 100.0, "rotation": 180.0, "tilt": 180.0, "skew": 90.0}
"""What of each setting is as fast to the eye as a whole frame's way: a judgement of ours."""


class Movement(NamedTuple):
    """How something moves, at moments that lie evenly.

    Attributes:
        speeds: ``(N,)``, the fastest moment at 1.
        sides: ``(N,)``, how much of it goes to the right, −1…1.
    """

    speeds: Speeds
    sides: Speeds


def movement(
    wrinkle: Wrinkle,
    layers: Sequence[Layer],
    start: Fraction,
    length: Fraction,
    count: int,
) -> Movement:
    """How layers move, from their lanes alone.

    Where nothing is placed it counts as something that is fastest at the cut.

    Args:
        wrinkle: a plain one.
        layers: of it, those that are followed.
        start, length: of the stretch, in seconds from the cut.
        count: how many moments, from its start to its end; at least 2.
    """
    times = np.linspace(float(start), float(start + length), count)
    speeds: NDArray[np.float64] = np.zeros(count)
    across: NDArray[np.float64] = np.zeros(count)
    for layer in layers:
        first, end = map(float, wrinkle.ends(layer))
        there = (times >= first) & (times <= end)
        for key in layer.lanes():
            setting = layer.setting(key)
            if key not in AS_MUCH or setting.track is None:
                continue
            slopes = _slopes(setting.track, setting.rest, times) / AS_MUCH[key]
            slopes[~there] = 0.0
            speeds += np.abs(slopes).max(axis=1)
            if key == "position":
                across += slopes[:, 0]
    return as_movement(speeds, across) or _plain(wrinkle, times)


def as_movement(speeds: NDArray[np.float64], across: NDArray[np.float64]) -> Movement | None:
    """Speeds in any unit as shares of the fastest one; None where nothing moves.

    Args:
        speeds: ``(N,)``, none below 0.
        across: ``(N,)``, the part of them that goes to the right, in the same unit.
    """
    most = float(speeds.max(initial=0.0))
    if most <= 1e-9:
        return None
    sides = np.clip(across / np.maximum(speeds, 1e-9), -1.0, 1.0)
    # Ears hear shares rather than differences: slow motion is heard too.
    shares = np.sqrt(speeds / most)
    return Movement(shares, sides * shares)


def _plain(wrinkle: Wrinkle, times: NDArray[np.float64]) -> Movement:
    reach = float(max(wrinkle.lead, wrinkle.tail))
    near: NDArray[np.float64] = np.clip(1.0 - np.abs(times) / reach, 0.0, 1.0) ** 2
    return Movement(near, np.zeros(len(times)))


def _slopes(track: Track, rest: Value, times: NDArray[np.float64]) -> NDArray[np.float64]:
    """How fast a lane changes at each time, for each of its numbers ``(N, P)``.

    A lane may jump at the cut, which is no motion: each side is looked at alone.
    """
    found = np.zeros((len(times), len(parts(rest))))
    for side, own in ((Side.OUTGOING, times < 0.0), (Side.INCOMING, times >= 0.0)):
        some = times[own]
        if len(some) < 2:
            continue
        values = np.array([parts(x) for x in track.drawn(some.tolist(), rest, side)], np.float64)
        found[own] = np.gradient(values, some, axis=0)
    return found
