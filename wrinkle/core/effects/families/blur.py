"""Blurs: Gaussian, directional, spin and zoom. They average light."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import blurred, enlarged, halved
from wrinkle.core.motion.declaring import angle, length, number, spot
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.placement import Matrix, rotation, scaling, translation
from wrinkle.core.picture.resample import resample

_SPACING, _SPACING_PREVIEW = 2.0, 5.0
_MOST, _MOST_PREVIEW = 96, 20
_LEAST_REACH = 0.01
_HALVED_FROM = 8


def gaussian_blur(image: Image, values: Values, scene: Scene) -> Image:
    """A Gaussian with a standard deviation of half the radius."""
    sigma = values.number("radius") * scene.unit / 2.0
    pixels = blurred(image.pixels, sigma, scene.cover, scene.preview)
    opaque = image.opaque and scene.cover is not EdgeCover.BARE
    return Image(np.clip(pixels, 0.0, None) if not opaque else pixels, image.light, opaque)


def directional_blur(image: Image, values: Values, scene: Scene) -> Image:
    """The mean along a straight line through each pixel; the layer's own movement can add to it."""
    own = values.number("length") * scene.unit
    turn = math.radians(values.number("angle"))
    share = values.number("follow") / 100.0
    way = (
        own * math.cos(turn) + scene.motion[0] * share,
        own * math.sin(turn) + scene.motion[1] * share,
    )
    reach = math.hypot(*way)
    if reach < _LEAST_REACH:
        return image
    return _mean(image, reach, scene, lambda share: translation(way[0] * share, way[1] * share))


def spin_blur(image: Image, values: Values, scene: Scene) -> Image:
    """The mean over a turn about a centre."""
    x, y = scene.spot(values.pair("centre"))
    degrees = values.number("angle")
    far = _farthest(image, x, y)
    path = math.radians(abs(degrees)) * far

    def turned(share: float) -> Matrix:
        return translation(x, y) @ rotation(degrees * share) @ translation(-x, -y)

    return _mean(image, path, scene, turned)


def zoom_blur(image: Image, values: Values, scene: Scene) -> Image:
    """The mean over a growth about a centre, even in its logarithm."""
    x, y = scene.spot(values.pair("centre"))
    growth = math.log1p(values.number("amount") / 100.0)
    path = _farthest(image, x, y) * abs(growth)

    def grown(share: float) -> Matrix:
        factor = math.exp(growth * share)
        return translation(x, y) @ scaling(factor, factor) @ translation(-x, -y)

    return _mean(image, path, scene, grown)


def _mean(image: Image, path: float, scene: Scene, moved: Callable[[float], Matrix]) -> Image:
    """The mean of the picture moved by shares -0.5…0.5 of a movement, evenly spread.

    A preview of a long smear is made at half size: what is smeared has no fine detail.
    """
    spacing, most = (_SPACING_PREVIEW, _MOST_PREVIEW) if scene.preview else (_SPACING, _MOST)
    count = min(most, max(3, math.ceil(path / spacing)))
    shares = [(index + 0.5) / count - 0.5 for index in range(count)]
    matrices = [moved(share) for share in shares]
    if not (scene.preview and count > _HALVED_FROM and min(image.size) > _HALVED_FROM):
        return resample(image, matrices, image.size, scene.cover)
    width, height = image.size
    half = halved(image)
    shrink = scaling(half.size.width / width, half.size.height / height)
    grow = scaling(width / half.size.width, height / half.size.height)
    mean = resample(half, [shrink @ m @ grow for m in matrices], half.size, scene.cover)
    return enlarged(mean, image.size)


def _farthest(image: Image, x: float, y: float) -> float:
    width, height = image.size
    return max(math.hypot(a - x, b - y) for a in (0, width) for b in (0, height))


EFFECTS = (
    Effect(
        "gaussian_blur",
        "Gaussian blur",
        "Softens everything evenly.",
        Family.BLUR,
        Light.LINEAR,
        (length("radius", "Radius", "Twice the standard deviation.", 0.0, 0.0, 400.0),),
        gaussian_blur,
        starts_with={"radius": 4.0},
        words="soft haze defocus dissolve",
    ),
    Effect(
        "directional_blur",
        "Directional blur",
        "Smears along a straight line.",
        Family.BLUR,
        Light.LINEAR,
        (
            length("length", "Length", "Of the smear.", 0.0, 0.0, 400.0),
            angle("angle"),
            number("follow", "Follow motion", "Adds the layer's own way in a frame.", 0.0,
                   -400.0, 400.0),
        ),
        directional_blur,
        rests_by=("length", "follow"),
        follows=True,
        starts_with={"length": 15.0},
        words="motion speed whip line smear",
    ),
    Effect(
        "spin_blur",
        "Spin blur",
        "Smears along circles about a centre.",
        Family.BLUR,
        Light.LINEAR,
        (
            number("angle", "Angle", "Of the turn it averages over.", 0.0, -360.0, 360.0,
                   Unit.DEGREES, mirror=Mirroring.TURN),
            spot(),
        ),
        spin_blur,
        rests_by=("angle",),
        starts_with={"angle": 12.0},
        words="radial turn rotation",
    ),
    Effect(
        "zoom_blur",
        "Zoom blur",
        "Smears away from a centre.",
        Family.BLUR,
        Light.LINEAR,
        (
            number("amount", "Amount", "The growth it averages over.", 0.0, -90.0, 400.0),
            spot(),
        ),
        zoom_blur,
        rests_by=("amount",),
        starts_with={"amount": 20.0},
        words="radial rush tunnel",
    ),
)  # fmt: skip
