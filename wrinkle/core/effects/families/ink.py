"""Wet ink: drops bleed through paper, and the picture stands where they have been."""

from __future__ import annotations

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field
from wrinkle.core.motion.declaring import choice, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.arrival import level_at
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.ramps import eased, least_jerk
from wrinkle.core.picture.soaking import Soaking, soaked

_STEPS, _OLDEST, _YOUNGEST = 4096, 1.0, -0.2
"""Of the curve of ink over age, and the ages of its ends."""
_DARKEST = 0.004
"""Of a channel of ink: no pigment takes all."""
_DRAWN = 0.93
"""The share of the whole at which the front has come everywhere."""


def wet_ink(image: Image, values: Values, scene: Scene) -> Image:
    """The picture as far as ink has soaked in: at 0 % nothing, at 100 % all of it, and dry.

    What ink does to a place depends on how long ago the wet front came there: first clear water,
    then a rim of pigment, a body that thins out, and a tide line.
    """
    share = values.number("soaked") / 100.0
    if share <= 0.0:
        return Image(np.zeros_like(image.pixels), image.light)
    fields = soaked(
        Soaking(
            image.size,
            scene.middle,
            (scene.width, scene.height),
            max(round(values.number("drops")), 1),
            values.number("fingers") / 100.0,
            round(values.number("seed")),
        )
    )
    run = min(1.0, share / _DRAWN)
    even = (least_jerk(run) * 0.3 + run * 0.7) ** 1.15
    front = level_at(fields.coming, even)
    front += max(0.0, share - 0.84) ** 1.5 / 0.16**1.5 * 0.17 - 0.02 * (1 - min(share / 0.04, 1.0))
    age = cv2.subtract(front, fields.comes)
    reached = age / fields.soft
    reached += np.float32(0.5)
    np.clip(reached, 0.0, 1.0, out=reached)
    reached *= reached * (np.float32(3.0) - np.float32(2.0) * reached)
    wet = 1.0 - eased(0.78, 0.995, share)
    ink = _of_age(age, values.number("rim") / 100.0)
    ink *= cv2.addWeighted(fields.pigment, 0.55, fields.pigment, 0.0, 1.0)
    ink *= reached
    ink *= np.float32(wet * values.number("density") / 100.0)
    # Clear water runs ahead of the ink, and darkens the paper a little.
    water = cv2.addWeighted(age, 1.0 / 0.055, age, 0.0, 1.0)
    np.clip(water, 0.0, 1.0, out=water)
    water *= water
    water *= cv2.addWeighted(reached, -0.11 * wet, reached, 0.0, 0.11 * wet)
    water *= cv2.addWeighted(fields.paper, 0.6, fields.paper, 0.0, 1.0)
    cv2.add(ink, water, ink)
    np.maximum(ink, 0.0, out=ink)
    tooth = 0.5 * wet * values.number("paper") / 100.0
    shown = cv2.multiply(reached, cv2.addWeighted(fields.paper, tooth, fields.paper, 0.0, 1.0))
    return _laid(image, values, ink, (reached, shown), fields.paper)


def _of_age(age: Field, rim: float) -> Field:
    """How much ink there is at each age: a table, which costs less than three exponentials."""
    ages = np.linspace(_YOUNGEST, _OLDEST, _STEPS)
    curve = np.exp(-(((ages - 0.018) / 0.012) ** 2)) * 0.75 * rim
    curve += np.minimum(np.exp(-ages / 0.16), 1.0) * 0.55
    curve += np.exp(-(((ages - 0.085) / 0.01) ** 2)) * 0.16 * rim
    scale = (_STEPS - 1) / (_OLDEST - _YOUNGEST)
    places = cv2.addWeighted(age, scale, age, 0.0, -_YOUNGEST * scale)
    np.clip(places, 0.0, _STEPS - 1.0, out=places)
    found: Field = curve.astype(np.float32).take(places.astype(np.int32))
    return found


def _laid(
    image: Image, values: Values, ink: Field, where: tuple[Field, Field], paper: Field
) -> Image:
    """The picture under ink that takes light away (Beer and Lambert) and scatters its own.

    Args:
        image: the picture.
        values: of the effect.
        ink: how much of it there is.
        where: how much of the picture there is, and how bright it is with the tooth of the paper.
        paper: its tooth.
    """
    reached, shown = where
    colour = values.colour("colour")
    scatter = values.number("scatter") / 100.0
    veil = cv2.multiply(cv2.addWeighted(paper, -0.52 * scatter, paper, 0.0, -0.75 * scatter), ink)
    veil = cv2.exp(veil)
    veil = cv2.addWeighted(veil, -0.52, veil, 0.0, 0.52)
    clear = cv2.subtract(1.0, veil)
    # Planes of their own take half the time.
    *planes, alpha = cv2.split(image.pixels)
    seen = cv2.multiply(shown, clear)
    if not image.opaque:
        veil = cv2.multiply(veil, alpha)
    passed = np.zeros_like(ink)
    for own, part in zip(planes, colour, strict=True):
        darkness = -float(np.log(max(part, _DARKEST)))
        left = cv2.exp(cv2.addWeighted(ink, -0.55 * darkness, ink, 0.0, 0.0))
        cv2.accumulate(left, passed)
        cv2.multiply(cv2.multiply(own, seen), left, own)
        cv2.scaleAdd(veil, part * 1.1 + _DARKEST, own, own)
    # What lies below is seen through as much ink as there is of all colours.
    behind = cv2.multiply(cv2.multiply(cv2.subtract(1.0, reached), passed, scale=1.0 / 3.0), clear)
    left = cv2.subtract(1.0, behind)
    left = left if image.opaque else cv2.multiply(left, alpha)
    return Image(cv2.merge([*planes, left]), image.light)


EFFECTS = (
    Effect(
        "wet_ink",
        "Wet ink",
        "Drops of ink bleed through paper, and the picture stands where they have been.",
        Family.REVEAL,
        Light.LINEAR,
        (
            number("soaked", "Soaked", "How far; 0 is nothing, 100 all of it and dry.", 100.0,
                   0.0, 100.0),
            number("drops", "Drops", "How many fall.", 5.0, 1.0, 9.0, Unit.NONE),
            number("fingers", "Fingers", "How far it runs along fibres.", 100.0, 0.0, 160.0),
            number("density", "Density", "How dark it is.", 100.0, 0.0, 150.0),
            number("rim", "Rim", "How dark its edge is.", 100.0, 0.0, 150.0),
            number("scatter", "Scatter", "How much of its own colour is seen.", 100.0, 0.0, 150.0),
            number("paper", "Paper", "How much of its tooth is seen while it is wet.", 40.0,
                   0.0, 100.0),
            choice("colour", "Colour", "Of the ink.", (0.02, 0.055, 0.17)),
            seed(),
        ),
        wet_ink,
        rests_by=("soaked",),
        starts_with={"soaked": 55.0},
        ends_with={"soaked": 0.0},
        words="bleed watercolour paper drop stain",
    ),
)  # fmt: skip
