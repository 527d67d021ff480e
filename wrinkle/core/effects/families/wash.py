"""Colours laid over the picture: colour wash, light leak, and noise as a fill."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import angle, choice, evolution, length, number, seed, spot
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.channels import mixed, threefold
from wrinkle.core.picture.compositing import covered
from wrinkle.core.picture.gradient import CORNER_COLOURS, IN_CORNERS, FillForm
from wrinkle.core.picture.image import Image, Light, Pixels
from wrinkle.core.picture.noise import EVOLUTION, Noise, noise_field


def colour_wash(image: Image, values: Values, scene: Scene) -> Image:
    """A flat colour or a gradient by any blend mode, as much as there is picture."""
    x, y = grid(image.size)
    gradient = _gradient(values, scene)

    def band(pixels: Pixels, y: Field) -> Pixels:
        return _laid(pixels, gradient(x, y), values, image.opaque)

    return replace(image, pixels=in_bands(band, image.pixels, y))


def light_leak(image: Image, values: Values, scene: Scene) -> Image:
    """Warm light that drifts in from one side, its edge made by slow noise; it adds light."""
    x, y = grid(image.size)
    turn = math.radians(values.number("angle"))
    along = ((x - scene.left) / scene.width - 0.5) * math.cos(turn) + (
        (y - scene.top) / scene.height - 0.5
    ) * math.sin(turn)
    cell = max(values.number("size") * scene.unit, 1.0)
    z = values.number("evolution") * EVOLUTION
    noise = Noise((cell, cell), 2.0, z, seed=round(values.number("seed")), loop=EVOLUTION)
    ragged = noise_field(noise, image.size, scene.middle)
    level = along + 0.45 * ragged + values.number("reach") / 100.0 - 0.5
    share = np.clip(level, 0.0, 1.0).astype(np.float32)
    share *= np.sqrt(share)
    inner, outer = (np.array((*values.colour(k), 0.0)) for k in ("colour", "rim"))
    rows = np.stack((outer, inner - outer), axis=1) * (values.number("amount") / 25.0)
    light = mixed(cv2.merge((share, share * share)), rows)
    if not image.opaque:
        light = covered(light, image.pixels[..., 3])
    return Image(cv2.add(image.pixels, light), image.light, image.opaque)


def noise_fill(image: Image, values: Values, scene: Scene) -> Image:
    """Grey noise laid over the picture by any blend mode."""
    across, down = (max(n * scene.unit, 0.5) for n in values.pair("size"))
    z = values.number("evolution") * EVOLUTION
    noise = Noise(
        (across, down),
        values.number("complexity"),
        z,
        seed=round(values.number("seed")),
        loop=EVOLUTION,
    )
    field = noise_field(noise, image.size, scene.middle)
    if values.choice("basis") == "ridges":
        field = np.float32(1.0) - np.float32(2.5) * np.abs(field)
    grey = 0.5 + values.number("brightness") / 100.0 + values.number("contrast") / 100.0 * field
    grey = np.clip(1.0 - grey if values.on("invert") else grey, 0.0, 1.0)
    return laid(image, threefold(grey.astype(np.float32, copy=False)), values)


def laid(image: Image, colours: Field, values: Values) -> Image:
    """Encoded colours ``(H, W, 3)`` by the blend and the amount of the effect's own settings."""
    band = partial(_laid, values=values, opaque=image.opaque)
    return replace(image, pixels=in_bands(band, image.pixels, colours))


def _laid(pixels: Pixels, colours: Field, values: Values, opaque: bool) -> Pixels:
    above = Image(cv2.cvtColor(colours, cv2.COLOR_RGB2RGBA), Light.ENCODED, opaque=True)
    below = Image(pixels, Light.ENCODED, opaque)
    mode = BlendMode(values.choice("blend"))
    return blend(above, below, mode, values.number("amount") / 100.0, within=True).pixels


def _gradient(values: Values, scene: Scene) -> Callable[[Field, Field], Field]:
    """Encoded colours ``(H, W, 3)`` by the columns ``(1, W)`` and the rows ``(H, 1)``.

    They are mixed as they are seen, which is what a wash is chosen by.
    """
    first, second, third, fourth = (
        values.encoded(k) for k in ("colour", "colour_2", "colour_3", "colour_4")
    )
    form = FillForm(values.choice("form"))
    if form is FillForm.FLAT:
        return lambda x, y: np.tile(first, (y.size, x.size, 1))
    if form is FillForm.CORNERS:
        rows = np.stack((second - first, third - first, first + fourth - second - third), axis=1)

        def between_corners(x: Field, y: Field) -> Field:
            u = np.clip((x - scene.left) / scene.width, 0.0, 1.0).astype(np.float32)
            v = np.clip((y - scene.top) / scene.height, 0.0, 1.0).astype(np.float32)
            return mixed(cv2.merge(np.broadcast_arrays(u, v, u * v)), rows, first)

        return between_corners
    (x0, y0), (x1, y1) = scene.spot(values.pair("start")), scene.spot(values.pair("end"))
    reach = max(math.hypot(x1 - x0, y1 - y0), 1e-3)

    def along(x: Field, y: Field) -> Field:
        if form is FillForm.RADIAL:
            # Of columns and rows alone; the root of a sum costs a third of what hypot does.
            across, down = (
                (x - np.float32(x0)) / np.float32(reach),
                (y - np.float32(y0)) / np.float32(reach),
            )
            share = np.sqrt(across * across + down * down)
        else:
            share = ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / reach**2
        share = np.clip(share, 0.0, 1.0).astype(np.float32, copy=False)
        return mixed(share, (second - first)[:, None], first)

    return along


def blend_choice(neutral: BlendMode) -> SettingSpec:
    """The setting that says how what is laid over a picture meets it."""
    return choice("blend", "Blend", "How it meets the picture.", neutral.value,
                  *(mode.value for mode in BlendMode))  # fmt: skip


def _corner(key: str, label: str, about: str, neutral: Value) -> SettingSpec:
    """A colour that stands in a corner, if colours do."""
    spec = choice(key, label, about, neutral)
    return replace(spec, exchanged=CORNER_COLOURS[key], mirror_when=IN_CORNERS)


_AMOUNT = number("amount", "Amount", "How much of it.", 0.0, 0.0, 100.0)

EFFECTS = (
    Effect(
        "colour_wash",
        "Colour wash",
        "A flat colour or a gradient over the picture, by any blend.",
        Family.COLOUR,
        Light.ENCODED,
        (
            _AMOUNT,
            blend_choice(BlendMode.COLOR),
            choice("form", "Form", "How the colours lie.", FillForm.FLAT.value,
                   *(form.value for form in FillForm)),
            _corner("colour", "Colour", "The first one.", (0.8, 0.25, 0.05)),
            _corner("colour_2", "Colour 2", "At the end, or upper right.", (0.02, 0.25, 0.35)),
            _corner("colour_3", "Colour 3", "Lower left.", (0.02, 0.25, 0.35)),
            _corner("colour_4", "Colour 4", "Lower right.", (0.8, 0.25, 0.05)),
            spot("start", "Start"),
            spot("end", "End"),
        ),
        colour_wash,
        rests_by=("amount",),
        starts_with={"amount": 70.0, "form": "linear", "start": (0.5, 0.0), "end": (0.5, 1.0)},
        forms={
            FillForm.RADIAL.value: {"start": (0.5, 0.5), "end": (1.0, 0.5)},
            FillForm.CORNERS.value: {},
        },
        words="tint gradient filter wash",
    ),
    Effect(
        "light_leak",
        "Light leak",
        "Warm light drifts in from one side.",
        Family.LIGHT,
        Light.LINEAR,
        (
            _AMOUNT,
            number("reach", "Reach", "How far it comes in.", 50.0, -100.0, 300.0),
            angle("angle", about="The side it comes from."),
            length("size", "Size", "Of its shapes.", 80.0, 1.0, 1000.0, 5.0),
            choice("colour", "Colour", "Where it is brightest.", (1.0, 0.75, 0.35)),
            choice("rim", "Rim", "At its edge.", (0.8, 0.12, 0.02)),
            evolution(),
            seed(),
        ),
        light_leak,
        rests_by=("amount",),
        starts_with={"amount": 60.0},
        words="film burn warm flare sun",
    ),
    Effect(
        "noise_fill",
        "Noise",
        "Noise laid over the picture, by any blend.",
        Family.TEXTURE,
        Light.ENCODED,
        (
            _AMOUNT,
            blend_choice(BlendMode.SOFT_LIGHT),
            choice("basis", "Basis", "Soft clouds, or ridges.", "clouds", "clouds", "ridges"),
            length("size", "Size", "Width and height of the largest spots.", (20.0, 20.0),
                   0.2, 1000.0),
            number("complexity", "Complexity", "How many finer layers.", 4.0, 1.0, 10.0,
                   Unit.NONE, 0.5),
            number("contrast", "Contrast", "Between light and dark.", 100.0, 0.0, 1000.0, step=5.0),
            number("brightness", "Brightness", "Shifts all of it.", 0.0, -200.0, 200.0),
            choice("invert", "Invert", "Light and dark exchanged.", False),
            evolution(),
            seed(),
        ),
        noise_fill,
        rests_by=("amount",),
        starts_with={"amount": 70.0},
        words="clouds smoke paper fractal texture streaks",
    ),
)  # fmt: skip
