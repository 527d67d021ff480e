"""Colour match: a picture takes on the colours of another one, as a whole or tone by tone.

Source: Reinhard, Ashikhmin, Gooch, Shirley, "Color Transfer between Images", 2001: mean and spread
of each channel become those of the other picture; here in CIE Lab of the encoded colours.
"""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.motion.declaring import choice, number
from wrinkle.core.picture.compositing import straight
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.lab import lab, shifted, tones

_LEAST_SPREAD = 0.5
"""Of 100 in CIE Lab: a picture of one colour has no spread to divide by."""
_LOOKED_AT = 60_000
_LEAST_SHARE = 0.02
_TONES = ("dark", "middle", "bright")

Numbers = NDArray[np.float64]


def colour_match(image: Image, values: Values, scene: Scene) -> Image:
    """Mean and spread of lightness and colours become those of the other picture.

    By tones, dark, middle and bright parts are matched each with their like.
    """
    if scene.other is None:
        return image
    own, wanted = _sample(image), _sample(scene.other.in_light(Light.ENCODED))
    if min(own[3].sum(), wanted[3].sum()) < _LEAST_SHARE:
        return image
    amount = values.number("amount") / 100.0
    share = np.array([values.number("lightness"), *[values.number("colour")] * 2]) / 100.0 * amount
    if values.on("by_tones"):
        pairs = [
            _transfer(own, wanted, tone, share * values.number(name) / 100.0)
            for tone, name in enumerate(_TONES)
        ]
    else:
        pairs = [_transfer(own, wanted, None, share)] * len(_TONES)
    scales, shifts = (np.stack(parts, axis=1) for parts in zip(*pairs, strict=True))
    return Image(shifted(image.pixels, scales, shifts), image.light, image.opaque)


def _transfer(
    own: Numbers, wanted: Numbers, tone: int | None, share: Numbers
) -> tuple[Numbers, Numbers]:
    """The scale and the shift of each channel that carry one sample's statistics to another's."""
    here, spread = _statistics(own, tone)
    there, goal = _statistics(wanted, tone)
    factor = goal / np.maximum(spread, _LEAST_SPREAD)
    # own + ((own - here) · factor + there - own) · share
    return 1.0 - share + factor * share, (there - here * factor) * share


def _statistics(sample: Numbers, tone: int | None) -> tuple[Numbers, Numbers]:
    """The mean and the standard deviation of each channel of ``(4, N)``: Lab and a weight.

    A tone of which there is next to nothing has the statistics of the whole.
    """
    colours, weight = sample[:3], sample[3]
    if tone is not None:
        part = weight * tones(colours[0].astype(np.float32))[:, tone]
        if part.sum() >= _LEAST_SHARE * weight.sum():
            weight = part
    weight = weight / max(float(weight.sum()), 1e-6)
    mean = (colours * weight).sum(axis=1)
    away = colours - mean[:, None]
    return mean, np.sqrt((away * away * weight).sum(axis=1))


def _sample(image: Image) -> Numbers:
    """Lab and coverage of the pixels ``(4, N)``; of large pictures every so many of them."""
    step = max(1, round(math.sqrt(image.size.width * image.size.height / _LOOKED_AT)))
    part = Image(np.ascontiguousarray(image.pixels[::step, ::step]), image.light, image.opaque)
    planes = (*cv2.split(lab(straight(part))), part.pixels[..., 3])
    return np.stack([plane.ravel() for plane in planes]).astype(np.float64)


EFFECTS = (
    Effect(
        "colour_match",
        "Colour match",
        "Takes on the colours of the scene below, or of another layer.",
        Family.COLOUR,
        Light.ENCODED,
        (
            number("amount", "Amount", "How much of it.", 0.0, 0.0, 100.0),
            number("lightness", "Lightness", "How much of its lightness.", 100.0, 0.0, 100.0),
            number("colour", "Colour", "How much of its colours.", 100.0, 0.0, 100.0),
            choice("by_tones", "By tones", "Dark, middle and bright parts each with their like.",
                   False),
            number("dark", "Dark", "How much of its dark tones.", 100.0, 0.0, 100.0),
            number("middle", "Middle", "How much of its middle tones.", 100.0, 0.0, 100.0),
            number("bright", "Bright", "How much of its bright tones.", 100.0, 0.0, 100.0),
        ),
        colour_match,
        rests_by=("amount",),
        starts_with={"amount": 100.0},
        words="grade transfer fit scene overlay",
        needs_layer=True,
        sees_below=True,
    ),
)  # fmt: skip
