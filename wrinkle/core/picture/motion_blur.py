"""Motion blur: at which instants of the open shutter the picture is looked at."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from fractions import Fraction
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

_PATH_POINTS = 9
_SMALLEST_PATH = 0.05


class Quality(Enum):
    """How much work a frame is worth."""

    PREVIEW = "preview"
    FINAL = "final"


@dataclass(frozen=True)
class _Sampling:
    """How many samples a way takes.

    Attributes:
        spacing: pixels between samples.
        least: so many at least, where the way is not short.
        most: so many at most.
        short: pixels between the samples of a way that is short; at least two.
        together: so many are taken together where they can be; see ``even_steps``.
    """

    spacing: float
    least: int
    most: int
    short: float | None = None
    together: int = 1

    def count(self, path: float) -> int:
        """The samples of a way of so many pixels."""
        least = self.least
        if self.short is not None:
            least = min(least, max(2, math.ceil(path / self.short)))
        count = min(self.most, max(least, math.ceil(path / self.spacing)))
        whole = self.together if count >= 2 * self.together else self.together // 2
        return math.ceil(count / whole) * whole if count >= self.together > 1 else count


# Spacing in pixels between samples: 6 px leaves 1-2 of 255 levels RMS, 3 px 0.3-0.7 (measured
# against 512 samples on turns, slides and zooms). What goes so far that it would take more than 32
# is so soft that the rest adds 0.2 RMS, a level in the thousandth pixel (turns, pushes). With
# 24, outlines that turn are seen to step.
_SAMPLING = {
    Quality.PREVIEW: _Sampling(spacing=6.0, least=4, most=32, short=1.5, together=8),
    Quality.FINAL: _Sampling(spacing=3.0, least=4, most=96),
}


@dataclass(frozen=True)
class Shutter:
    """The interval of time over which a frame gathers light, centred on the frame.

    Attributes:
        angle: 0…720 degrees; 360 is the whole frame interval, 0 an instant.
        frame_seconds: the length of one frame.
        phase: by how much the middle of the interval is later than the frame, in degrees.
    """

    angle: float
    frame_seconds: Fraction
    phase: float = 0.0

    def instants(self, time: Fraction, count: int) -> list[Fraction]:
        """The middles of ``count`` equal parts of the open shutter around ``time``."""
        return list(_instants(self, time, count))


@lru_cache(maxsize=256)
def _instants(shutter: Shutter, time: Fraction, count: int) -> tuple[Fraction, ...]:
    # Kept for a while: all layers of a frame that move as far ask for the same ones.
    length = Fraction(shutter.angle) / 360 * shutter.frame_seconds
    middle = time + Fraction(shutter.phase) / 360 * shutter.frame_seconds
    return tuple(
        middle + length * (Fraction(2 * i + 1, 2 * count) - Fraction(1, 2)) for i in range(count)
    )


def blur_instants(
    points_at: Callable[[Fraction], NDArray[np.float64]],
    time: Fraction,
    shutter: Shutter,
    quality: Quality,
) -> list[Fraction]:
    """The instants whose average shows the movement during the shutter.

    As many as the longest way of a point needs; ``time`` alone where nothing moves.

    Args:
        points_at: where some points are, ``(N, 2)`` in pixels, at a time in seconds from the cut.
        time: of the frame.
        shutter: when light is gathered.
        quality: decides the spacing of the samples.
    """
    if shutter.angle <= 0.0:
        return [time]
    probes = np.stack([points_at(instant) for instant in shutter.instants(time, _PATH_POINTS)])
    steps = np.hypot(*np.moveaxis(np.diff(probes, axis=0), 2, 0))
    # The probes are the middles of equal parts: their way lacks half a part at each end.
    path = float(steps.sum(axis=0).max(initial=0.0)) * _PATH_POINTS / (_PATH_POINTS - 1)
    # What lies nowhere that a number could say is seen nowhere, and does not move.
    if path < _SMALLEST_PATH or not math.isfinite(path):
        return [time]
    return shutter.instants(time, _SAMPLING[quality].count(path))
