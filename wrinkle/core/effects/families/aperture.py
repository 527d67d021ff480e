"""Blades of metal that shut over the picture, as those of a lens do."""

from __future__ import annotations

import math
from functools import cache

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import angle, choice, number, spot
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.noise import perlin

_BEYOND = 1.0
"""Pixels by which blades overlap when they are shut: none of them is half covered then."""
_CURVED = 0.55
"""Radians in a short side: how much the edge of a blade is bent."""
_SCRATCHES = 2048
_BRUSHED = 70.0
"""Brush marks of the metal on a short side."""


def blades(image: Image, values: Values, scene: Scene) -> Image:
    """The picture through an opening of so many blades; shut, only they are seen.

    Each blade covers what lies beyond its edge and lies over its neighbour, so that its edge goes
    on past the corner of the opening. All follows from the angle at which a circle about the
    middle leaves the blade.
    """
    shut = values.number("shut") / 100.0
    short = min(scene.width, scene.height)
    x0, y0 = scene.spot(values.pair("centre"))
    x, y = grid(image.size)
    right, below = (
        (x - np.float32(x0)) / np.float32(short),
        (y - np.float32(y0)) / np.float32(short),
    )
    # OpenCV's own polar coordinates are a third of a degree off.
    far = np.sqrt(right * right + below * below)
    turn = np.arctan2(below, right)
    count = max(round(values.number("blades")), 3)
    part = 2.0 * math.pi / count
    opening = _widest(scene, (x0, y0)) / short * (1.0 - shut) - _BEYOND / short * shut
    whole = values.number("twist")
    way = -1.0 if whole < 0.0 else 1.0
    # The edges are bent, and turn as they shut.
    twist = math.radians(abs(whole)) * shut
    turn = (turn - np.float32(math.radians(values.number("angle")))) * np.float32(way)
    turn += far * np.float32(_CURVED) - np.float32(twist + _CURVED * opening)
    reach = np.arccos(np.clip(np.float32(opening) / np.maximum(far, np.float32(1e-6)), -1.0, 1.0))
    place = (turn + reach) * np.float32(1.0 / part)
    which = np.floor(place)
    from_normal = (place - which) * np.float32(part) - reach
    which = np.mod(which, np.float32(count))
    inside = far * np.cos(from_normal) - np.float32(opening)
    # How far the next blade's edge is away; it lies over this one.
    beside = np.float32(opening) - far * np.cos(from_normal - np.float32(part))
    # The opening is cut by the nearest edge, whichever blade lies above: where one blade ends over
    # another, nothing shines through.
    nearest = turn - np.float32(part) * np.rint(turn * np.float32(1.0 / part))
    cut = far * np.cos(nearest) - np.float32(opening)
    covered = np.clip(cut * np.float32(short) + np.float32(0.5), 0.0, 1.0)
    tone = _tone(values, (inside, beside, which), (part, twist), from_normal)
    # In the opening each edge throws its shadow on the picture.
    dark = min(0.65 * values.number("shadow") / 100.0, 1.0) * min(shut / 0.12, 1.0)
    shade = np.float32(1.0) - np.float32(dark) * _fading(-cut, 0.045)
    open_ = (np.float32(1.0) - covered) * shade
    *planes, alpha = cv2.split(image.pixels)
    if not image.opaque:
        # Blades stand before the picture, and where there is none there are no blades.
        covered *= alpha
    shown = covered * tone
    for plane, own in zip(values.colour("colour"), planes, strict=True):
        cv2.multiply(own, open_, own)
        cv2.scaleAdd(shown, plane, own, own)
    return Image(cv2.merge([*planes, alpha]), image.light, image.opaque)


def _widest(scene: Scene, middle: tuple[float, float]) -> float:
    """How far the corner of the frame is away that is farthest from a point, and a little more."""
    sides = [max(abs(start - place), abs(start + length - place)) for start, length, place in (
        (scene.left, scene.width, middle[0]), (scene.top, scene.height, middle[1]),
    )]  # fmt: skip
    return math.hypot(*sides) * 1.02


def _tone(
    values: Values, edges: tuple[Field, Field, Field], turns: tuple[float, float], delta: Field
) -> Field:
    """How bright the metal is: each blade by its way to the light, with brush marks and an edge."""
    inside, beside, which = edges
    part, twist = turns
    # Light comes from where the first blade opens to.
    facing = np.cos(which * np.float32(part) + np.float32(twist))
    tone = np.float32(0.5) + np.float32(0.26) * facing
    table = _brush_marks()
    spots = np.abs(inside * np.float32(_BRUSHED * 3.0) + which * np.float32(173.0))
    low = spots.astype(np.int32)
    scratched = table.take(low % _SCRATCHES)
    scratched += (table.take((low + 1) % _SCRATCHES) - scratched) * (spots - low).astype(np.float32)
    tone += scratched * np.float32(0.16 * values.number("brushed") / 100.0)
    # Brushed metal shines in a streak across its marks.
    streak = (delta - np.float32(0.25)) * np.float32(1.0 / 0.34)
    tone += np.float32(0.42) * _fading(streak * streak, 1.0)
    shadow = np.float32(min(0.8 * values.number("shadow") / 100.0, 1.0))
    tone *= np.float32(1.0) - shadow * _fading(beside, 0.03)
    light = np.float32(1.3 * values.number("edge") / 100.0)
    tone += light * _fading(inside, 0.0045) * (np.float32(0.6) + np.float32(0.4) * facing)
    found: Field = np.maximum(tone, np.float32(0.0))
    return found


@cache
def _brush_marks() -> Field:
    """How light brushed metal is along a line across its marks, about -1…1."""
    marks = np.arange(_SCRATCHES) / 3.0
    wide, fine = (perlin(marks * x, np.array([0.37]), 0.21)[0] for x in (1.0, 2.7))
    table: Field = wide + np.float32(0.6) * fine
    return table


def _fading(away: Field, reach: float) -> Field:
    """1 at an edge and before it, and less and less beyond it."""
    # Numbers that are hardly any take ten times as long.
    found: Field = cv2.exp(np.clip(away * np.float32(-1.0 / reach), -12.0, 0.0))
    return found


EFFECTS = (
    Effect(
        "blades",
        "Blades",
        "Blades of metal shut over the picture, as those of a lens do.",
        Family.REVEAL,
        Light.LINEAR,
        (
            number("shut", "Shut", "How far; 100 leaves no opening.", 0.0, 0.0, 100.0),
            number("blades", "Blades", "How many there are.", 7.0, 3.0, 14.0, Unit.NONE),
            angle("angle", "Angle", "To where the first one opens; light comes from there."),
            number("twist", "Twist", "How far they turn as they shut; below 0 the other way round.",
                   70.0, -360.0, 360.0, Unit.DEGREES, 1.0, Mirroring.TURN),
            spot(),
            choice("colour", "Colour", "Of the metal.", (0.17, 0.185, 0.2)),
            number("brushed", "Brushed", "How much the metal is brushed.", 100.0, 0.0, 200.0),
            number("edge", "Edge light", "How much the edges shine.", 100.0, 0.0, 200.0),
            number("shadow", "Shadow", "Of each edge on what lies below.", 100.0, 0.0, 125.0),
        ),
        blades,
        rests_by=("shut",),
        starts_with={"shut": 55.0, "angle": -60.0},
        ends_with={"shut": 100.0},
        words="iris aperture shutter lens diaphragm close",
    ),
)  # fmt: skip
