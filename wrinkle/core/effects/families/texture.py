"""Grain and vignette."""

from __future__ import annotations

import math
from dataclasses import replace

import cv2
import numpy as np

from wrinkle.core.effects.effect import Effect, Family, Scene, Values
from wrinkle.core.effects.sampling import Field, grid
from wrinkle.core.motion.declaring import choice, length, number, seed
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.picture.bands import in_bands
from wrinkle.core.picture.channels import luma
from wrinkle.core.picture.compositing import covered, mixed, straight
from wrinkle.core.picture.image import Image, Light, Pixels, Size, filled
from wrinkle.core.picture.noise import Noise, noise_field
from wrinkle.core.picture.ramps import smoothstep
from wrinkle.core.picture.vector import Coverage


def grain(image: Image, values: Values, scene: Scene) -> Image:
    """Film grain: seeded anew so many times a second; its size is part of the frame, not of pixels.

    Noise on a lattice as fine as the grain, brought to the picture's size: another size of picture
    shows the same grains.
    """
    cell = values.number("size") * scene.unit
    rate = values.number("rate")
    step = math.floor(scene.time * rate + 1e-6) if rate > 0.0 else 0
    dice = np.random.default_rng((round(values.number("seed")), step + (1 << 30)))
    field = lattice_noise(image.size, (cell, cell), dice)
    dark = np.float32(values.number("shadows") / 100.0)
    strength = np.float32(values.number("amount") / 100.0 * 0.2)

    def grained(pixels: Field, noise: Field) -> Field:
        level = np.clip(luma(straight(Image(pixels, image.light, image.opaque))), 0.0, 1.0)
        left = np.float32(1.0) - level
        weight = (np.float32(1.0) - dark) * np.float32(4.0) * level * left + dark * left
        added = noise * strength * weight * pixels[..., 3]
        most = cv2.max(pixels, cv2.merge([pixels[..., 3]] * 4))
        found = cv2.min(cv2.max(pixels + cv2.merge([added] * 4), 0.0), most)
        found[..., 3] = pixels[..., 3]
        return np.asarray(found, np.float32)

    return Image(in_bands(grained, image.pixels, field), image.light, image.opaque)


def lattice_noise(
    size: Size, cell: tuple[float, float], dice: np.random.Generator, soft: bool = False
) -> Field:
    """Random levels, normal with a deviation of 1, on a lattice of cells as wide and high as said.

    The lattice does not depend on the pixels: another size of picture shows the same levels.

    Args:
        size: of the picture.
        cell: width and height, in pixels.
        dice: gives the levels.
        soft: whether the levels go over into each other without a crease.
    """
    columns, rows = (max(1, round(side / part)) for side, part in zip(size, cell, strict=True))
    cells = dice.standard_normal((rows, columns), dtype=np.float32)
    between = cv2.INTER_CUBIC if soft else cv2.INTER_LINEAR
    how = cv2.INTER_AREA if columns > size.width or rows > size.height else between
    levels: Field = cv2.resize(cells, tuple(size), interpolation=how)
    return levels


def vignette(image: Image, values: Values, scene: Scene) -> Image:
    """A colour closing in from the rim, soft and, on request, ragged with noise."""
    roundness = values.number("roundness") / 100.0
    x, y = grid(image.size)
    x0, y0 = scene.middle
    short = min(scene.width, scene.height)
    # From the frame's own ellipse to a circle of its short side.
    across = scene.width + (short - scene.width) * roundness
    down = scene.height + (short - scene.height) * roundness
    x, y = (x - np.float32(x0)) * (2.0 / across), (y - np.float32(y0)) * (2.0 / down)
    raggedness = np.float32(values.number("noise") / 100.0)
    fields = [image.pixels, y]
    if raggedness > 0.0:
        cell = 40.0 * scene.unit
        noise = Noise((cell, cell), 4.0, seed=round(values.number("seed")))
        fields.append(noise_field(noise, image.size, (x0, y0)))
    size, feather = values.number("size") / 100.0, max(values.number("feather") / 100.0, 1e-3)
    amount, colour = np.float32(values.number("amount") / 100.0), values.colour("colour")

    def band(pixels: Pixels, y: Field, *ragged: Field) -> Pixels:
        radius = np.sqrt(x * x + y * y)
        for noise in ragged:
            radius += raggedness * noise
        share: Coverage = smoothstep((radius - size) / feather + 0.5) * amount
        paint = filled(Size(pixels.shape[1], pixels.shape[0]), colour).pixels
        if not image.opaque:
            paint = covered(paint, pixels[..., 3])
        return mixed(covered(paint, share), 1.0, pixels, share)

    return replace(image, pixels=in_bands(band, *fields))


EFFECTS = (
    Effect(
        "grain",
        "Grain",
        "Film grain, another on every frame.",
        Family.TEXTURE,
        Light.ENCODED,
        (
            number("amount", "Amount", "How strong the grain is.", 0.0, 0.0, 400.0),
            length("size", "Size", "Of a grain.", 0.25, 0.1, 20.0, 0.05),
            number("shadows", "Shadows", "From the middle to the dark tones.", 30.0, 0.0, 100.0),
            number("rate", "Rate", "New grain so many times a second; 0 keeps it.", 30.0,
                   0.0, 240.0, Unit.PER_SECOND),
            seed(),
        ),
        grain,
        rests_by=("amount",),
        starts_with={"amount": 40.0},
        words="film noise texture analogue",
        timed=True,
    ),
    Effect(
        "vignette",
        "Vignette",
        "Any colour closing in from the rim.",
        Family.TEXTURE,
        Light.LINEAR,
        (
            number("amount", "Amount", "How much of the colour.", 0.0, 0.0, 100.0),
            choice("colour", "Colour", "Of the rim.", (0.0, 0.0, 0.0)),
            number("size", "Size", "How far from the middle it begins.", 100.0, -100.0, 300.0),
            number("feather", "Feather", "How wide the fade is.", 80.0, 0.0, 400.0, soft=True),
            number("roundness", "Roundness", "From the frame's to a circle.", 0.0, 0.0, 100.0),
            number("noise", "Noise", "How ragged the edge is.", 0.0, 0.0, 100.0),
            seed(),
        ),
        vignette,
        rests_by=("amount",),
        starts_with={"amount": 70.0},
        words="rim dark edge close white",
    ),
)  # fmt: skip
