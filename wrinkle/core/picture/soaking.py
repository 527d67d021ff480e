"""How ink soaks through paper: when the wet front comes to each place, and what the paper is like.

The front runs along fibres and in fingers about each drop; dark rims and tide lines are those of
Curtis et al., "Computer-Generated Watercolor" (1997), and of ring stains (Deegan et al. 1997).
All stands still: a frame only moves one level.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.arrival import arrival, even_levels
from wrinkle.core.picture.bent_noise import noise_at
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.ramps import narrow, soft_step

Field = NDArray[np.float32]

_GRID = 200
"""Cells of the short side in which the front runs."""
_FIBRES = (0.3, 1.7, 2.6)
"""Radians: the three ways in which fibres lie."""
_TRIES = 12
"""Places of which the one that is farthest from all other drops is taken."""


@dataclass(frozen=True)
class Soaking:
    """All that the fields depend on.

    Attributes:
        size: of the picture.
        middle: of the frame in it, in pixels.
        frame: width and height of the frame, in pixels.
        drops: how many.
        fingers: how much the front runs along fibres, about 0…1.6.
        seed: another one gives other drops and another paper.
    """

    size: Size
    middle: tuple[float, float]
    frame: tuple[float, float]
    drops: int
    fingers: float
    seed: int


@dataclass(frozen=True)
class Soaked:
    """The fields, float32 ``(H, W)``.

    Attributes:
        comes: when the front comes to a place.
        soft: how soft its edge is there: crisp here, feathered there.
        pigment: how much more or less of the ink stays, about -1…1.
        paper: fine tooth, about -1…1.
        coming: levels below which equally growing shares of the frame lie.
    """

    comes: Field
    soft: Field
    pigment: Field
    paper: Field
    coming: Field


@lru_cache(maxsize=2)
def soaked(work: Soaking) -> Soaked:
    """The fields of ink on paper."""
    short = max(min(work.frame), 2.0)
    number = work.seed * 64

    def noise(across: float, octaves: float, which: int) -> Field:
        """About -1…1, with so many cells on the short side."""
        cell = short / across
        one = Noise((cell, cell), octaves, seed=number + which)
        return noise_field(one, work.size, work.middle) * np.float32(1.5)

    times = _front(work, short, number)
    levels = even_levels(times)
    # Read through a fine warp: it hides the grid, and makes feathers as fine as hairs.
    right, down = noise(13.0, 3.0, 1), noise(13.0, 3.0, 2)
    fray = np.clip(0.5 + down, 0.0, 1.5)
    hair_right, hair_down = noise(38.0, 2.0, 3), noise(38.0, 2.0, 4)
    scale = np.float32(_GRID / short)
    left, top = work.middle[0] - work.frame[0] / 2.0, work.middle[1] - work.frame[1] / 2.0
    x = np.arange(work.size.width, dtype=np.float32)[None, :] + np.float32(0.5 - left)
    y = np.arange(work.size.height, dtype=np.float32)[:, None] + np.float32(0.5 - top)
    x = x * scale - 0.5 + (0.016 * right + 0.006 * hair_right * fray) * _GRID
    y = y * scale - 0.5 + (0.016 * down + 0.006 * hair_down * fray) * _GRID
    comes = cv2.remap(times, narrow(x), narrow(y), cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    rough, fine = noise(60.0, 3.0, 6), noise(190.0, 2.0, 7)
    paper = narrow(0.6 * rough + 0.4 * fine)
    return Soaked(
        narrow(comes + 0.0035 * rough),
        narrow(0.006 + 0.05 * soft_step(-0.25, 0.75, noise(5.0, 2.0, 8))),
        narrow(0.6 * noise(3.0, 4.0, 9) + 0.4 * paper),
        paper,
        levels,
    )


def _front(work: Soaking, short: float, number: int) -> Field:
    """When the front comes to each cell of the grid over the frame."""
    width, height = (max(round(side / short * _GRID), 4) for side in work.frame)
    x = (np.arange(width, dtype=np.float32)[None, :] + 0.5 - width / 2.0) / _GRID
    y = (np.arange(height, dtype=np.float32)[:, None] + 0.5 - height / 2.0) / _GRID
    x, y = np.broadcast_to(x, (height, width)), np.broadcast_to(y, (height, width))
    bent_x = x + 0.07 * noise_at(narrow(x * 3.0), narrow(y * 3.0), number + 11, 3.0)
    bent_y = y + 0.07 * noise_at(narrow(x * 3.0), narrow(y * 3.0), number + 12, 3.0)
    fibre = np.zeros((height, width), np.float32)
    for which, turn in enumerate(_FIBRES):
        along = bent_x * math.cos(turn) + bent_y * math.sin(turn)
        across = bent_y * math.cos(turn) - bent_x * math.sin(turn)
        lines = noise_at(narrow(along * 5.0), narrow(across * 34.0), number + 20 + which, 2.0)
        fibre = np.maximum(fibre, 1.0 - 1.6 * np.abs(lines))
    open_ = 0.9 * noise_at(narrow(bent_x * 4.5), narrow(bent_y * 4.5), number + 14, 4.0)
    open_ = open_ + work.fingers * 1.5 * (fibre - 0.62)
    dice = np.random.default_rng(work.seed)
    half = width / 2.0 / _GRID, height / 2.0 / _GRID
    starts = []
    for index, (at_x, at_y) in enumerate(_drops(work.drops, half, dice)):
        far_x, far_y = bent_x - at_x, bent_y - at_y
        far = np.hypot(far_x, far_y)
        way_x, way_y = far_x / np.maximum(far, 1e-4), far_y / np.maximum(far, 1e-4)
        finger = noise_at(narrow(way_x * 4.5 + index), narrow(way_y * 4.5), number + 40 + index)
        thin = noise_at(narrow(way_x * 12.0), narrow(way_y * 12.0 + far * 2.0), number + 50 + index)
        about = soft_step(0.02, 0.2, far) * (1.0 - soft_step(0.3, 0.55, far))
        open_ = open_ + work.fingers * 1.05 * (finger + 0.7 * thin) * about
        row = int(np.clip((at_y + half[1]) * _GRID, 0, height - 1))
        column = int(np.clip((at_x + half[0]) * _GRID, 0, width - 1))
        starts.append((row, column, index * dice.uniform(0.05, 0.09) * _GRID))
    times = arrival(np.exp(-1.25 * open_.astype(np.float64)), starts) / np.float32(_GRID)
    found: Field = cv2.GaussianBlur(times, (0, 0), 1.5)
    return found


def _drops(
    count: int, half: tuple[float, float], dice: np.random.Generator
) -> list[tuple[float, float]]:
    """Places that keep apart; the first one is near the middle."""
    places: list[tuple[float, float]] = []
    for index in range(max(count, 1)):
        tried = [
            (dice.uniform(-1.0, 1.0) * half[0] * 0.84, dice.uniform(-1.0, 1.0) * half[1] * 0.84)
            for _ in range(_TRIES)
        ]

        def room(spot: tuple[float, float], first: bool = index == 0) -> float:
            if first:
                return -math.hypot(*spot)
            return min(math.hypot(spot[0] - a, spot[1] - b) for a, b in places)

        places.append(max(tried, key=room))
    return places
