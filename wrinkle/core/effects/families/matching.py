"""Colour match: a picture takes on the colours of another one, as a whole or tone by tone.

Source: Reinhard, Ashikhmin, Gooch, Shirley, "Color Transfer between Images", 2001: mean and spread
of each channel become those of the other picture; here in CIE Lab of the encoded colours.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Effect, Family, Scene, Values, choice, number
from wrinkle.core.effects.sampling import Field
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.channels import mixed
from wrinkle.core.picture.compositing import recoloured, straight
from wrinkle.core.picture.image import Image, Light

_LEAST_SPREAD = 0.5
"""Of 100 in CIE Lab: a picture of one colour has no spread to divide by."""
_LOOKED_AT = 60_000
_LEAST_SHARE = 0.02
_TONES = ("dark", "middle", "bright")

Numbers = NDArray[np.float64]


def colour_match(image: Image, values: Values, scene: Scene) -> Image:
    """Mean and spread of lightness and colours become those of the other picture.

    By tones, dark, middle and bright parts are matched each with their like: a pixel belongs to
    them by the shares (1 - l)², what is left, and l² of its lightness l.
    """
    if scene.other is None:
        return image
    own, wanted = _sample(image), _sample(scene.other.in_light(Light.ENCODED))
    if min(own[:, 3].sum(), wanted[:, 3].sum()) < _LEAST_SHARE:
        return image
    amount = values.number("amount") / 100.0
    share = np.array([values.number("lightness"), *[values.number("colour")] * 2]) / 100.0 * amount
    if not values.on("by_tones"):
        scale, shift = _transfer(own, wanted, None, share)
        rows, columns = np.diag(scale), shift
        return _matched(image, lambda lab: mixed(lab, rows, columns))
    pairs = [
        _transfer(own, wanted, tone, share * values.number(name) / 100.0)
        for tone, name in enumerate(_TONES)
    ]
    scales, shifts = (np.stack(parts, axis=1) for parts in zip(*pairs, strict=True))

    def by_tones(lab: Field) -> Field:
        weights = _tones(lab[..., 0] / np.float32(100.0))
        return np.asarray(lab * mixed(weights, scales) + mixed(weights, shifts), np.float32)

    return _matched(image, by_tones)


def _matched(image: Image, change: Callable[[Field], Field]) -> Image:
    def colours(band: Field) -> Field:
        changed = cv2.cvtColor(change(_lab(band)), cv2.COLOR_Lab2RGB)
        return np.asarray(np.clip(changed, 0.0, 1.0), np.float32)

    return recoloured(image, in_bands(colours, straight(image)))


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
    """The mean and the standard deviation of each channel of ``(N, 4)``: Lab and a weight.

    A tone of which there is next to nothing has the statistics of the whole.
    """
    lab, weight = sample[:, :3], sample[:, 3:]
    if tone is not None:
        light = np.ascontiguousarray(lab[:, :1] / 100.0, np.float32)
        part = weight * _tones(light)[:, 0, tone : tone + 1]
        if part.sum() >= _LEAST_SHARE * weight.sum():
            weight = part
    weight = weight / max(float(weight.sum()), 1e-6)
    mean = (lab * weight).sum(axis=0)
    return mean, np.sqrt((((lab - mean) ** 2) * weight).sum(axis=0))


def _tones(light: Field) -> Field:
    """How much each lightness ``(H, W)``, 0…1, belongs to the dark, middle and bright tones."""
    dark, bright = np.square(np.float32(1.0) - light), np.square(light)
    shares: Field = cv2.merge((dark, np.float32(1.0) - dark - bright, bright))
    return shares


def _lab(colours: Field) -> Field:
    clipped = np.clip(colours, 0.0, 1.0)
    lab: Field = cv2.cvtColor(clipped, cv2.COLOR_RGB2Lab)
    return lab


def _sample(image: Image) -> Numbers:
    """Lab and coverage of the pixels ``(N, 4)``; of large pictures every so many of them."""
    step = max(1, round(math.sqrt(image.size.width * image.size.height / _LOOKED_AT)))
    part = Image(np.ascontiguousarray(image.pixels[::step, ::step]), image.light, image.opaque)
    lab = _lab(straight(part)).reshape(-1, 3)
    return np.hstack([lab, part.pixels[..., 3].reshape(-1, 1)]).astype(np.float64)


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
