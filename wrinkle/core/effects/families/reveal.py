"""Effects that let parts of the picture go: by its brightness, by noise, by its colour."""

from __future__ import annotations

import colorsys

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import angle, choice, evolution, length, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.channels import luma
from wrinkle.core.picture.compositing import covered, straight
from wrinkle.core.picture.image import Image, Light, Pixels
from wrinkle.core.picture.noise import EVOLUTION, Noise, noise_field, still_noise_field
from wrinkle.core.picture.placement import rotation
from wrinkle.core.picture.ramps import smoothstep

_LEAST_SOFT = 1e-3
_CHARACTERS = ("grain", "cloud", "cells", "fibres", "drips")


def luma_reveal(image: Image, values: Values, scene: Scene) -> Image:
    """What is darker than a threshold is gone; inverted, what is brighter.

    At 0 % all is there, at 100 % nothing, whatever the softness.
    """
    level = luma(straight(image))
    if values.on("invert"):
        level = np.float32(1.0) - level
    rough = values.number("roughness") / 100.0
    if rough > 0.0:
        noise = Noise((6.0 * scene.unit, 6.0 * scene.unit), 4.0, seed=round(values.number("seed")))
        middle = scene.middle
        level = level + np.float32(rough) * still_noise_field(noise, image.size, middle)
        level = np.clip(level, 0.0, 1.0)
    return _kept(image, level, values.number("threshold"), values.number("softness"))


def noise_reveal(image: Image, values: Values, scene: Scene) -> Image:
    """Noise eats the picture away; the edge of what is left can be coloured."""
    field = noise_level(values, image, scene)
    amount, softness = values.number("amount"), values.number("softness")
    band = values.number("edge") / 100.0
    if band <= 0.0:
        return _kept(image, field, amount, softness)
    # The band lies within what is left, where the level is just above the threshold.
    soft = max(softness / 100.0, _LEAST_SOFT)
    threshold = _threshold(amount, soft + band)
    inner = smoothstep((field - np.float32(threshold + band)) / np.float32(soft))
    outer = smoothstep((field - np.float32(threshold)) / np.float32(soft))
    colour = np.array(values.colour("edge_colour"), np.float32)
    share = (outer - inner).clip(0.0, 1.0) * np.float32(values.number("edge_amount") / 100.0)
    left = covered(image.pixels, outer)
    paint = left[..., 3:] * colour
    left[..., :3] += (paint - left[..., :3]) * (share / np.maximum(outer, 1e-6))[..., None]
    return Image(left, image.light)


def colour_key(image: Image, values: Values, scene: Scene) -> Image:
    """What has the key's hue, and saturation and brightness in range, is gone."""

    def keyed(pixels: Pixels) -> Pixels:
        return _keyed(Image(pixels, image.light, image.opaque), values)

    return Image(in_bands(keyed, image.pixels), image.light)


def _keyed(image: Image, values: Values) -> Pixels:
    colours = np.clip(straight(image), 0.0, 1.0)
    hsv = cv2.cvtColor(np.ascontiguousarray(colours, np.float32), cv2.COLOR_RGB2HSV)
    # The key's hue is read in encoded colour, as the picture's is.
    red, green, blue = (float(x) for x in values.encoded("key"))
    hue, _, _ = colorsys.rgb_to_hsv(red, green, blue)
    soft = max(values.number("softness") / 100.0, _LEAST_SOFT)
    far = np.abs(hsv[..., 0] / 360.0 - hue)
    apart = np.minimum(far, 1.0 - far) * 2.0
    within = smoothstep((values.number("hue_range") / 180.0 - apart) / soft + 1.0)
    strong = _between(hsv[..., 1], values.pair("saturation"), soft)
    light = _between(hsv[..., 2], values.pair("brightness"), soft)
    matched = light if values.on("by_brightness") else within * strong * light
    gone = matched * np.float32(values.number("amount") / 100.0)
    share = gone if values.on("invert") else np.float32(1.0) - gone
    spill = values.number("spill") / 100.0
    pixels = covered(image.pixels, share.astype(np.float32))
    if spill > 0.0 and not values.on("by_brightness"):
        grey = luma(pixels)[..., None]
        tinted = (within * np.float32(spill))[..., None]
        pixels[..., :3] += (grey - pixels[..., :3]) * tinted
    return pixels


def _between(level: Field, bounds: tuple[float, float], soft: float) -> Field:
    """1 where a level lies between two bounds in per cent, fading to 0 beyond them."""
    low, high = (bound / 100.0 for bound in bounds)
    return smoothstep((level - low) / soft + 1.0) * smoothstep((high - level) / soft + 1.0)


def noise_level(values: Values, image: Image, scene: Scene) -> Field:
    """The order in which a noise reveal takes the pixels, 0…1, evenly filled."""
    character = values.choice("character")
    cell = max(values.number("size") * scene.unit, 1.0)
    middle = scene.middle
    z = values.number("evolution") * EVOLUTION
    number_ = round(values.number("seed")) * 8 + _CHARACTERS.index(character)

    def noise(across: float, down: float, octaves: float, which: int = 0) -> Field:
        field = Noise((across, down), octaves, z, seed=number_ + which + 1, loop=EVOLUTION)
        return noise_field(field, image.size, middle)

    if character == "grain":
        field = noise(cell / 4.0, cell / 4.0, 2.0)
    elif character == "cloud":
        field = noise(cell, cell, 6.0)
    elif character == "cells":
        # The ridges of noise are the walls of cells.
        field = np.abs(noise(cell, cell, 1.0)) * 2.4 - 0.55 + 0.2 * noise(cell, cell, 3.0, 1)
    elif character == "fibres":
        field = noise(cell / 6.0, cell * 2.0, 4.0)
    else:
        field = 0.6 * noise(cell / 3.0, cell * 3.0, 2.0) + 0.4 * noise(cell, cell, 4.0, 1)
    level = 0.5 + 0.75 * field
    bias = values.number("bias") / 100.0
    if bias > 0.0:
        turn = rotation(values.number("angle"))
        x, y = grid(image.size)
        across, down = (x - middle[0]) / scene.width, (y - middle[1]) / scene.height
        ramp = 0.5 + across * np.float32(turn[0, 0]) + down * np.float32(turn[1, 0])
        level = level + (ramp - level) * np.float32(bias)
    result: Field = np.clip(level, 0.0, 1.0).astype(np.float32)
    return result


def _kept(image: Image, level: Field, percent: float, softness: float) -> Image:
    soft = max(softness / 100.0, _LEAST_SOFT)
    share = smoothstep((level - np.float32(_threshold(percent, soft))) / np.float32(soft))
    return Image(covered(image.pixels, share.astype(np.float32)), image.light)


def _threshold(percent: float, soft: float) -> float:
    """Where the fade begins: at 0 % all of it lies below black, at 100 % above white."""
    return percent / 100.0 * (1.0 + soft) - soft


_SOFTNESS = number("softness", "Softness", "How gradually.", 10.0, 0.0, 100.0, soft=True)

EFFECTS = (
    Effect(
        "luma_reveal",
        "Luma reveal",
        "The picture's own brightness lets it go, bit by bit.",
        Family.REVEAL,
        Light.ENCODED,
        (
            number("threshold", "Threshold", "What is darker is gone; 100 clears all.", 0.0,
                   0.0, 100.0),
            _SOFTNESS,
            number("roughness", "Roughness", "Noise in the edge.", 0.0, 0.0, 100.0),
            choice("invert", "Invert", "What is brighter goes first.", False),
            seed(),
        ),
        luma_reveal,
        rests_by=("threshold",),
        starts_with={"threshold": 40.0},
        ends_with={"threshold": 100.0},
        words="melt threshold dissolve wipe",
    ),
    Effect(
        "noise_reveal",
        "Noise reveal",
        "Noise eats the picture away.",
        Family.REVEAL,
        Light.ENCODED,
        (
            number("amount", "Amount", "How much is gone.", 0.0, 0.0, 100.0),
            choice("character", "Character", "What the noise is like.", "cloud", *_CHARACTERS),
            length("size", "Size", "Of the largest spots.", 30.0, 0.5, 1000.0),
            _SOFTNESS,
            number("bias", "Direction bias", "How much it runs one way.", 0.0, 0.0, 100.0),
            angle("angle", "Direction", "Where it goes last."),
            evolution(),
            seed(),
            number("edge", "Edge band", "How wide the coloured edge is.", 0.0, 0.0, 100.0),
            choice("edge_colour", "Edge colour", "Of the band.", (0.45, 0.13, 0.03)),
            number("edge_amount", "Edge amount", "How much of its colour.", 100.0, 0.0, 100.0),
        ),
        noise_reveal,
        rests_by=("amount",),
        starts_with={"amount": 45.0},
        ends_with={"amount": 100.0},
        words="rust burn creep dissolve erode",
    ),
    Effect(
        "colour_key",
        "Colour key",
        "One colour, or one brightness, becomes a hole.",
        Family.REVEAL,
        Light.ENCODED,
        (
            number("amount", "Amount", "How much of it goes.", 0.0, 0.0, 100.0),
            choice("key", "Key", "The colour that goes.", (0.0, 1.0, 0.0)),
            number("hue_range", "Hue range", "How far hues may lie from the key's.", 40.0,
                   0.0, 180.0, Unit.DEGREES),
            number("saturation", "Saturation", "From this to that.", (25.0, 100.0), 0.0, 100.0),
            number("brightness", "Brightness", "From this to that.", (5.0, 100.0), 0.0, 100.0),
            choice("by_brightness", "Brightness alone", "The hue does not count.", False),
            _SOFTNESS,
            number("spill", "Spill", "Takes the key's tint off what stays.", 0.0, 0.0, 100.0),
            choice("invert", "Invert", "Only that colour stays.", False),
        ),
        colour_key,
        rests_by=("amount",),
        starts_with={"amount": 100.0},
        words="chroma green screen darks ghost",
    ),
)  # fmt: skip
