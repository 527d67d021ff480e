"""Fills: a flat colour or a gradient, mixed in linear light."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum

import numpy as np

from wrinkle.core.picture.image import Image, Light, Size, filled
from wrinkle.core.picture.transfer import encode


class FillForm(Enum):
    """How the colours of a fill lie in the frame."""

    FLAT = "flat"
    LINEAR = "linear"
    RADIAL = "radial"
    CORNERS = "corners"


CORNER_COLOURS = {
    "colour": ("colour_2", "colour_3"),
    "colour_2": ("colour", "colour_4"),
    "colour_3": ("colour_4", "colour"),
    "colour_4": ("colour_3", "colour_2"),
}
"""The settings of the colours in the corners: the one beside each, and the one above or below."""
IN_CORNERS = ("form", FillForm.CORNERS.value)
"""The setting, and its value, at which the colours stand in corners."""


@dataclass(frozen=True)
class Fill:
    """Colours over the frame.

    Attributes:
        form: how they lie.
        colours: linear; one for flat, two from start to end, or four for the corners: upper left,
            upper right, lower left, lower right.
        start, end: in parts of the frame; radial: the centre and a point on the rim.
    """

    form: FillForm
    colours: tuple[tuple[float, ...], ...]
    start: tuple[float, float] = (0.5, 0.0)
    end: tuple[float, float] = (0.5, 1.0)

    @property
    def even(self) -> bool:
        """Whether it is one colour: moved in whatever light, it stays that colour."""
        return self.form is FillForm.FLAT

    def picture(self, size: Size) -> Image:
        """Its picture in a frame of a size."""
        return gradient(self, size)


def gradient(fill: Fill, size: Size) -> Image:
    """The fill over a frame of ``size``: an opaque image, encoded where it is one colour."""
    if fill.even:
        # Layers are laid over each other in encoded colour.
        colour = encode(np.array(fill.colours[0], np.float64))
        return filled(size, tuple(colour.tolist()), Light.ENCODED)
    across = (np.arange(size.width, dtype=np.float32) + 0.5)[None, :]
    down = (np.arange(size.height, dtype=np.float32) + 0.5)[:, None]
    colours = np.array(fill.colours, np.float32)
    pixels = np.ones((size.height, size.width, 4), np.float32)
    if fill.form is FillForm.CORNERS:
        right, under = (across / size.width)[..., None], (down / size.height)[..., None]
        upper = colours[0] + (colours[1] - colours[0]) * right
        lower = colours[2] + (colours[3] - colours[2]) * right
        pixels[..., :3] = upper + (lower - upper) * under
        return Image(pixels, Light.LINEAR, opaque=True)
    x0, y0 = fill.start[0] * size.width, fill.start[1] * size.height
    along = (fill.end[0] * size.width - x0, fill.end[1] * size.height - y0)
    length = max(math.hypot(*along), 1e-6)
    x, y = across - np.float32(x0), down - np.float32(y0)
    if fill.form is FillForm.RADIAL:
        passed = np.hypot(x, y) / np.float32(length)
    else:
        passed = (x * np.float32(along[0]) + y * np.float32(along[1])) / np.float32(length**2)
    share = np.clip(passed, 0.0, 1.0)[..., None]
    pixels[..., :3] = colours[0] + (colours[1] - colours[0]) * share
    return Image(pixels, Light.LINEAR, opaque=True)
