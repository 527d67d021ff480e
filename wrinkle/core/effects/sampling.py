"""Reading a picture at other places: maps of coordinates, and straight means along a line."""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.effects.effect import Scene
from wrinkle.core.picture.edge_cover import BORDERS, EdgeCover
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Image, Pixels, Size

Field = NDArray[np.float32]


def grid(size: Size) -> tuple[Field, Field]:
    """The continuous coordinates of the pixel centres: x ``(1, W)`` and y ``(H, 1)``."""
    width, height = size
    x = (np.arange(width, dtype=np.float32) + np.float32(0.5))[None, :]
    y = (np.arange(height, dtype=np.float32) + np.float32(0.5))[:, None]
    return x, y


def read(image: Image, x: Field, y: Field, scene: Scene) -> Image:
    """The picture read at continuous coordinates, linearly between pixels.

    Args:
        image: the picture.
        x, y: ``(H, W)``, or what broadcasts to it.
        scene: says what is outside.
    """
    pixels = read_pixels(image.pixels, x, y, scene)
    return Image(pixels, image.light, image.opaque and scene.cover is not EdgeCover.BARE)


def read_pixels(pixels: Field, x: Field, y: Field, scene: Scene) -> Pixels:
    """As ``read``, on bare pixels ``(H, W, 4)``."""
    x, y = np.broadcast_arrays(x, y)
    found: Pixels = cv2.remap(
        pixels,
        np.asarray(x - np.float32(0.5), np.float32),
        np.asarray(y - np.float32(0.5), np.float32),
        cv2.INTER_LINEAR,
        borderMode=BORDERS[scene.cover],
    )
    return found


def blurred(pixels: Pixels, sigma: float, cover: EdgeCover, loosely: bool = False) -> Pixels:
    """A Gaussian blur of ``(H, W, 4)`` with the surroundings that an edge cover asks for.

    A preview may be blurred ``loosely``; see ``gaussian``.

    Wider than four times the picture it is even all over, and no wider one is made.
    """
    sigma = min(sigma, 4.0 * max(pixels.shape[:2]))
    if cover is not EdgeCover.REPEAT:
        return gaussian(pixels, sigma, BORDERS[cover], loosely)
    # OpenCV blurs no repeated borders: the surroundings are drawn first.
    height, width = pixels.shape[:2]
    reach = math.ceil(3.0 * sigma) + 2
    across, down = min(reach, width), min(reach, height)
    around = cv2.copyMakeBorder(pixels, down, down, across, across, cv2.BORDER_WRAP)
    wide = gaussian(around, sigma, loosely=loosely)
    return np.ascontiguousarray(wide[down : down + height, across : across + width])


def halved(image: Image) -> Image:
    """The picture at half its size, by areas: what is smeared has no fine detail."""
    width, height = image.size
    return shrunk(image, Size((width + 1) // 2, (height + 1) // 2))


def shrunk(image: Image, size: Size) -> Image:
    """The picture at another, smaller size, by areas."""
    pixels = cv2.resize(image.pixels, tuple(size), interpolation=cv2.INTER_AREA)
    return Image(pixels, image.light, image.opaque)


def enlarged(image: Image, size: Size) -> Image:
    """The picture at another, larger size."""
    pixels = cv2.resize(image.pixels, tuple(size), interpolation=cv2.INTER_LINEAR)
    return Image(pixels, image.light, image.opaque)
