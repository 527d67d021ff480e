"""How rust takes a plate: when it comes to a place, when it falls through, what it looks like.

Fronts that run through an uneven medium, after Dorsey and Hanrahan, "Modeling and Rendering of
Metallic Patinas" (1996); flakes are the cells of ``cells``. All stands still: a frame only moves
two levels.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.arrival import arrival, even_levels
from wrinkle.core.picture.cells import scattered
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.ramps import narrow, soft_step
from wrinkle.core.picture.relief import facing

Field = NDArray[np.float32]

_GRID = 160
"""Cells of the short side in which the front runs."""
_RIM_POINTS = 13
"""Points of the frame's rim, for one short side of it, from which rust creeps in."""


@dataclass(frozen=True)
class Corrosion:
    """All that the fields depend on.

    Attributes:
        size: of the picture.
        middle: of the frame in it, in pixels.
        frame: width and height of the frame, in pixels.
        spots: from how many points within the frame it spreads.
        rim: how soon it creeps in from the frame's rim, 0…1; not at all at 0.
        plates: flakes on the short side.
        seed: another one gives another pattern.
    """

    size: Size
    middle: tuple[float, float]
    frame: tuple[float, float]
    spots: int
    rim: float
    plates: float
    seed: int


@dataclass(frozen=True)
class Corroded:
    """The fields of a corrosion, float32 ``(H, W)`` unless said otherwise.

    Attributes:
        comes: when rust comes to a place.
        goes: when the place falls through, most of it flake by flake.
        tone: of the rust, 0…255, uint8: pits and cracks are dark.
        shade: by how much its height faces the light: a factor about 1.
        fine: fine noise, about -1…1.
        coming, going: levels of the two below which equally growing shares of the frame lie.
    """

    comes: Field
    goes: Field
    tone: NDArray[np.uint8]
    shade: Field
    fine: Field
    coming: Field
    going: Field


@lru_cache(maxsize=2)
def corroded(work: Corrosion) -> Corroded:
    """The fields of a corrosion."""
    short = max(min(work.frame), 2.0)

    def noise(across: float, octaves: float, which: int) -> Field:
        """About -1…1, with so many cells on the short side."""
        cell = short / across
        one = Noise((cell, cell), octaves, seed=work.seed * 32 + which + 1)
        return noise_field(one, work.size, work.middle) * np.float32(1.5)

    wide, middle, fine = noise(3.2, 3.0, 7), noise(15.0, 3.0, 8), noise(70.0, 3.0, 9)
    pits = scattered(work.size, short / 24.0, work.seed * 4 + 1, work.middle)
    reach = np.clip((pits.chance - 0.42 + 0.35 * noise(5.0, 1.0, 11)) * 0.95, 0.0, 0.55)
    pit = (pits.near + 0.05 * fine - reach * 0.35) / (reach * 0.65 + 0.02)
    pit = np.where(reach < 0.04, 0.0, 1.0 - np.clip(pit, 0.0, 1.0))
    small = scattered(work.size, short / 82.0, work.seed * 4 + 2, work.middle)
    speck = (1.0 - np.clip((small.near - 0.08) / 0.28, 0.0, 1.0)) * soft_step(-0.1, 0.5, middle)
    flakes = scattered(work.size, short / max(work.plates, 1.0), work.seed * 4 + 3, work.middle)
    # Flakes have no straight edges.
    away = [narrow((0.035 * noise(9.0, 2.0, which) + 0.008 * fine) * short) for which in (12, 13)]
    flakes = flakes.bent(*away)
    # Cracks fade in patches.
    crack = soft_step(0.005, 0.055, flakes.edge + 0.03 * middle + 0.02 * fine)
    crack = 1.0 - (1.0 - crack) * soft_step(-0.15, 0.75, middle + 0.6 * wide)
    tone = 0.42 + 0.36 * wide + 0.24 * middle + 0.15 * fine - 0.32 * pit - 0.2 * speck
    tone = np.clip(tone + 0.16 * (flakes.chance - 0.5), 0.0, 1.0) * (0.45 + 0.55 * crack)
    height = 0.9 * middle + 0.42 * fine - 1.3 * pit - 0.5 * speck + 0.9 * crack
    height = narrow(height + 0.5 * flakes.chance)
    shade = np.clip(1.0 + 1.7 * facing(height, short, 1.25), 0.25, 2.2)

    front = _front(work, short)
    comes = front - 0.11 * pit * soft_step(-0.2, 0.5, wide + middle) - 0.035 * speck
    comes = narrow(comes + 0.05 * middle + 0.02 * fine)
    smooth = cv2.GaussianBlur(front, (0, 0), 0.02 * short)
    columns = np.clip(flakes.x, 0, work.size.width - 1).astype(np.int32)
    rows = np.clip(flakes.y, 0, work.size.height - 1).astype(np.int32)
    whole = smooth[rows, columns] + 0.1 * (flakes.chance - 0.5)
    goes = 0.34 * front + 0.66 * whole + 0.034 * middle + 0.014 * fine
    goes = narrow(goes - 0.045 * pit + 0.05 * flakes.near)
    # A step from flake to flake would be drawn with stairs.
    goes = cv2.GaussianBlur(goes, (0, 0), max(0.6, 0.0009 * short))
    low, high = goes.min(), np.quantile(goes[::4, ::4], 0.999)
    goes = (goes - low) / max(high - low, 1e-6)
    return Corroded(
        comes,
        narrow(goes),
        (tone * 255.0 + 0.5).astype(np.uint8),
        narrow(shade),
        narrow(fine),
        even_levels(comes[::2, ::2]),
        even_levels(goes[::2, ::2]),
    )


def _front(work: Corrosion, short: float) -> Field:
    """When the front comes to each place of the picture, about 0…1."""
    width, height = (max(round(side / short * _GRID), 2) for side in work.frame)
    grid = Size(width, height)
    dice = np.random.default_rng(work.seed)
    medium = 1.1 * 1.5 * noise_field(Noise((_GRID / 5.0,) * 2, 4.0, seed=work.seed * 32 + 1), grid)
    medium += (
        0.8 * 1.5 * noise_field(Noise((_GRID / 17.0,) * 2, 3.0, seed=work.seed * 32 + 4), grid)
    )
    starts = []
    for _ in range(round(_RIM_POINTS * (width + height) / _GRID)):
        place, late = dice.uniform(0.0, 2.0 * (width + height)), dice.uniform()
        if work.rim > 0.0:
            time = (late**0.5 * 0.3 + (1.0 - work.rim) * 0.3) * _GRID
            starts.append((*_on_rim(place, width, height), time))
    for _ in range(work.spots):
        row, column = dice.uniform(0.12, 0.88) * height, dice.uniform(0.12, 0.88) * width
        starts.append((int(row), int(column), dice.uniform(0.0, 0.25) * _GRID))
    times = arrival(np.exp(-medium.astype(np.float64)), starts or [(height // 2, width // 2, 0.0)])
    times = cv2.GaussianBlur(times / np.float32(_GRID), (0, 0), 1.0)
    times /= np.float32(max(np.quantile(times, 0.995), 1e-6))
    scale = short / _GRID
    left, top = work.middle[0] - work.frame[0] / 2.0, work.middle[1] - work.frame[1] / 2.0
    to_picture = np.array([[scale, 0.0, left + (scale - 1.0) / 2.0],
                           [0.0, scale, top + (scale - 1.0) / 2.0]])  # fmt: skip
    found: Field = cv2.warpAffine(
        times, to_picture, tuple(work.size), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
    )
    return found


def _on_rim(place: float, width: int, height: int) -> tuple[int, int]:
    """Row and column of a place along the rim, clockwise from the upper left."""
    for length, spot in (
        (width, lambda far: (0, far)),
        (height, lambda far: (far, width - 1)),
        (width, lambda far: (height - 1, far)),
        (height, lambda far: (far, 0)),
    ):
        if place < length:
            return spot(min(int(place), length - 1))
        place -= length
    return 0, 0
