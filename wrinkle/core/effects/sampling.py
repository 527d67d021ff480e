"""Reading a picture at other places: maps of coordinates, and straight means along a line."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Scene
from wrinkle.core.picture.image import Image, Pixels
from wrinkle.core.picture.resample import EdgeCover

Field = NDArray[np.float32]

BORDERS = {
    EdgeCover.BARE: cv2.BORDER_CONSTANT,
    EdgeCover.MIRROR: cv2.BORDER_REFLECT,
    EdgeCover.REPEAT: cv2.BORDER_WRAP,
    EdgeCover.STRETCH: cv2.BORDER_REPLICATE,
}


def grid(image: Image) -> tuple[Field, Field]:
    """The continuous coordinates of the pixel centres: x ``(1, W)`` and y ``(H, 1)``."""
    width, height = image.size
    x = (np.arange(width, dtype=np.float32) + np.float32(0.5))[None, :]
    y = (np.arange(height, dtype=np.float32) + np.float32(0.5))[:, None]
    return x, y


def read(image: Image, x: Field, y: Field, scene: Scene) -> Image:
    """The picture read at continuous coordinates ``(H, W)``, linearly between pixels."""
    pixels = read_pixels(image.pixels, x, y, scene)
    return Image(pixels, image.light, image.opaque and scene.cover is not EdgeCover.BARE)


def read_pixels(pixels: Field, x: Field, y: Field, scene: Scene) -> Pixels:
    """As ``read``, on bare pixels."""
    found: Pixels = cv2.remap(
        pixels,
        np.asarray(x - np.float32(0.5), np.float32),
        np.asarray(y - np.float32(0.5), np.float32),
        cv2.INTER_LINEAR,
        borderMode=BORDERS[scene.cover],
    )
    return found


def mean_of_maps(image: Image, maps: Sequence[tuple[Field, Field]], scene: Scene) -> Image:
    """The mean of the picture read by several maps."""
    total: Pixels | None = None
    for x, y in maps:
        one = read_pixels(image.pixels, x, y, scene)
        total = one if total is None else cv2.add(total, one, total)
    mean = cv2.multiply(total, (1.0 / len(maps),) * 4)
    return Image(mean, image.light, image.opaque and scene.cover is not EdgeCover.BARE)
