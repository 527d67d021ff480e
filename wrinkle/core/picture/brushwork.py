"""Strokes of a wide brush over a frame: where bristles leave paint, when, and how thick.

Each stroke has coordinates of its own, along and across, after Hertzmann, "Painterly Rendering with
Curved Brush Strokes of Multiple Sizes" (1998); its bristles are noise that is stretched along them,
after Strassmann, "Hairy Brushes" (1986). All fields stand still: a frame only moves levels through
them, so that nothing boils and time can be asked for in any order.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Size
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.ramps import least_jerk, narrow, soft_step

Field = NDArray[np.float32]

_ACROSS, _ALONG = 768, 384
"""Pixels of the texture of a stroke."""
_WIDE, _LONG = 1.5, 2.0
"""How far it reaches from the middle: across in half widths of the stroke, along in short sides."""
_LAG = 0.15
"""How far behind the brush its last hairs are, in lengths of a stroke."""
WAY: Final = 1.0 + 2.0 * _LAG
"""The way of the hand for one stroke, in lengths of it: all hairs are to leave it."""


_TIMES = np.linspace(0.0, 1.0, 257, dtype=np.float32)
_WAYS = np.array([least_jerk(float(t)) for t in _TIMES], np.float32)


@dataclass(frozen=True)
class Brushwork:
    """All that the fields of some strokes depend on; lengths are in pixels.

    Attributes:
        size: of the picture.
        middle: of the frame in it.
        frame: width and height of the frame.
        count: of strokes; together they cover the frame.
        angle: in which the first one runs, in degrees clockwise from the level; each other one
            runs back. What falls is painted from above, what rises from below.
        curve: how far strokes are bent; 1 is an arm's.
        bristles: across half a stroke.
        dry: how soon a stroke runs out of paint, about 0…1.5.
        seed: another one gives other strokes.
    """

    size: Size
    middle: tuple[float, float]
    frame: tuple[float, float]
    count: int
    angle: float
    curve: float
    bristles: float
    dry: float
    seed: int

    @property
    def ways(self) -> tuple[float, float]:
        """1, or -1 where the strokes are those of another angle mirrored: left-right, up-down.

        All are drawn as if the first one fell to the right; so a mirrored angle gives mirrored
        strokes, to the last bit.
        """
        turn = math.radians(self.angle)
        cosine, sine = math.cos(turn), math.sin(turn)
        return (-1.0 if cosine < 0.0 else 1.0), (-1.0 if sine < 0.0 else 1.0)


@dataclass(frozen=True)
class BrushStroke:
    """The fields of one stroke, float32, over some rows of the picture.

    Attributes:
        rows: which.
        load: how much paint there is for a pixel: it is painted where this, and what the gaps are
            filled by, is above 0.
        along: how far the brush has come when it passes, 0…1 over the stroke; hairs lag.
        passed: at which share of the hand's time that is, 0…1.
        settles: which streaks dry first, about -1…1.
        thick: of the paint, 0…1.3.
        mix, mix_2: how much of a second and of a third colour, 0…1.
        middle_line: three points along the stroke, in parts of the frame.
    """

    rows: slice
    load: Field
    along: Field
    passed: Field
    settles: Field
    thick: Field
    mix: Field
    mix_2: Field
    middle_line: tuple[tuple[float, float], ...]


@lru_cache(maxsize=2)
def strokes(work: Brushwork) -> tuple[BrushStroke, ...]:
    """The strokes in the order in which they are drawn, as long as there is a frame."""
    unit = max(min(work.frame), 1e-3)
    x = (np.arange(work.size.width) + 0.5 - work.middle[0]) / unit
    y = (np.arange(work.size.height) + 0.5 - work.middle[1]) / unit
    across_way, down_way = work.ways
    columns = (x * across_way).astype(np.float32)[None, :]
    rows = (y * down_way).astype(np.float32)[:, None]
    dice = np.random.default_rng(work.seed)
    turn = math.radians(work.angle)
    turn = math.atan2(abs(math.sin(turn)), abs(math.cos(turn)))
    turn += math.radians(dice.uniform(-3.0, 3.0))
    half = work.frame[0] / unit / 2.0, work.frame[1] / unit / 2.0
    sine, cosine = abs(math.sin(turn)), abs(math.cos(turn))
    across, along = half[0] * sine + half[1] * cosine, half[0] * cosine + half[1] * sine
    return tuple(
        _stroke(work, number, (columns, rows), turn, (across, along), dice)
        for number in range(work.count)
    )


def _stroke(
    work: Brushwork,
    number: int,
    grid: tuple[Field, Field],
    turn: float,
    reach: tuple[float, float],
    dice: np.random.Generator,
) -> BrushStroke:
    across, along = reach
    x, y = grid
    own = turn + math.radians(dice.uniform(-3.5, 3.5))
    cosine, sine = math.cos(own), math.sin(own)
    p = x * np.float32(cosine) + y * np.float32(sine)
    q = y * np.float32(cosine) - x * np.float32(sine)
    way = 1.0 if number % 2 == 0 else -1.0
    half_width = across / work.count * dice.uniform(1.14, 1.3)
    place = -across + (number + 0.5 + dice.uniform(-0.03, 0.03)) * 2.0 * across / work.count
    bend, phase = work.curve * dice.uniform(0.6, 1.2), dice.uniform(-2.0, 2.0)
    part = p / np.float32(along)
    line = np.float32(place) + np.float32(bend * 0.3) * (part * part - np.float32(0.35))
    line += np.float32(0.05 * work.curve) * np.sin(part * np.float32(3.1) + np.float32(phase))
    slope = np.float32(bend * 0.6 / along) * part
    slope += np.float32(0.155 * work.curve / along) * np.cos(part * 3.1 + np.float32(phase))
    v = (q - line) / (np.sqrt(1.0 + slope * slope) * np.float32(half_width))
    places = np.float32(way) * p
    inside = np.flatnonzero((np.abs(v) < _WIDE).any(axis=1))
    rows = slice(inside[0], inside[-1] + 1) if len(inside) else slice(0, 1)
    beside, far = narrow(v[rows]), narrow(np.broadcast_to(places, v.shape)[rows])
    under = far[np.abs(beside) < 0.8]
    low, high = (float(under.min()), float(under.max())) if len(under) else (-along, along)
    low, high = low + dice.uniform(-0.02, 0.05), high - dice.uniform(0.02, 0.1)
    length = np.float32(1.0 / max(high - low, 1e-3))
    share = (far - np.float32(low)) * length
    clump, bristle, hair, second = _texture(work, number, beside, far)
    edge_way = np.abs(beside)
    end = narrow(soft_step(0.45, 1.03, share) ** 1.4)
    start = 1.0 - soft_step(-0.035, 0.03, share + 0.02 * bristle + 0.03 * beside * beside)
    edge = soft_step(0.74, 1.06, edge_way + 0.07 * bristle + 0.06 * clump + 0.04 * hair * end)
    load = 0.64 + 0.26 * clump + 0.24 * bristle + 0.22 * hair
    load -= np.float32(work.dry) * (0.06 + 1.1 * end) + 1.5 * edge + 2.2 * start
    load -= 3.0 * np.maximum(share - 1.04 - 0.05 * bristle, 0.0)
    # Beside the stroke the level falls: what fills gaps must not burst over the frame.
    load = np.maximum(load, -2.2 + 0.35 * bristle + 0.3 * hair)
    load -= 3.2 * np.maximum(edge_way - 1.22, 0.0)
    lag = 0.05 * beside * beside + 0.022 * clump + 0.016 * bristle + 0.012 * hair
    thick = 0.45 + 0.3 * bristle + 0.42 * hair + 0.22 * clump
    thick += 0.35 * soft_step(0.55, 0.88, edge_way) * (1.0 - edge)
    thick = np.clip(thick, 0.0, 1.3) * (1.0 - 0.6 * end)
    mix = np.clip(0.5 + 0.62 * clump + 0.4 * bristle + 0.15 * hair, 0.0, 1.0)
    spots = []
    for along_it in (-0.6, 0.0, 0.6):
        bent = place + bend * 0.3 * (along_it**2 - 0.35)
        to_p = along_it * along * way
        spot_x = (to_p * cosine - bent * sine) * work.ways[0]
        spot_y = (to_p * sine + bent * cosine) * work.ways[1]
        unit = min(work.frame)
        spots.append((0.5 + spot_x * unit / work.frame[0], 0.5 + spot_y * unit / work.frame[1]))
    return BrushStroke(
        rows=rows,
        load=narrow(load),
        along=narrow(share + lag),
        passed=narrow(np.interp((share + lag) / WAY, _WAYS, _TIMES)),
        settles=narrow(0.5 * bristle + 0.45 * hair + 0.35 * clump),
        thick=narrow(thick),
        mix=narrow(mix),
        mix_2=narrow(0.8 * soft_step(0.25, 0.75, second)),
        middle_line=tuple(spots),
    )


def _texture(work: Brushwork, number: int, v: Field, far: Field) -> tuple[Field, ...]:
    """Clumps, bristles, hairs and streaks of another colour, about -1…1 each."""
    planes = []
    count = max(work.bristles, 1.0)
    to_across, to_along = _ACROSS / (2.0 * _WIDE), _ALONG / (2.0 * _LONG)
    for which, (fine, long, octaves) in enumerate(
        ((0.11, 1.8, 1.0), (0.36, 0.9, 1.0), (1.0, 0.42, 2.0), (0.2, 1.25, 1.0))
    ):
        cell = to_across / (count * fine), to_along * long
        noise = Noise(cell, octaves, seed=work.seed * 16 + number * 101 + which * 7 + 1)
        planes.append(noise_field(noise, Size(_ACROSS, _ALONG)) * np.float32(1.9))
    # Hairs are no rulers.
    wander = Noise((to_across * 0.6, to_along * 0.6), 2.0, seed=work.seed * 16 + number + 9)
    bent = noise_field(wander, Size(_ACROSS, _ALONG)) * np.float32(0.06 * to_across)
    at_x = v * np.float32(to_across) + np.float32(_ACROSS / 2.0 - 0.5)
    at_y = far * np.float32(to_along) + np.float32(_ALONG / 2.0 - 0.5)
    border = cv2.BORDER_REFLECT_101
    at_x += cv2.remap(bent, at_x, at_y, cv2.INTER_LINEAR, borderMode=border)
    found = cv2.remap(
        np.ascontiguousarray(np.stack(planes, axis=-1)), at_x, at_y, cv2.INTER_LINEAR,
        borderMode=border,
    )  # fmt: skip
    return tuple(np.ascontiguousarray(found[..., n]) for n in range(len(planes)))
