"""Draws the demo's clips; the same program always gives the same pictures."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
import skia

from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.brushes import HEIGHT, WIDTH
from wrinkle.demo.scenes import SCENES
from wrinkle.media.video_file import write_video

FULL_SIZE = Size(720, 1280)
RATE = FrameRate(Fraction(30))
SECONDS = 3.2
# Keeps each clip of 3.2 seconds well under 1.5 MB.
_MOST_BITS = 2_800_000
_GRAINS = 6
_MIDDLE_GRAIN = 8
_LOOKED_AT = Size(180, 320)
_LOOKS_A_SECOND = 2


def draw_scene(name: str, time: float, size: Size) -> Bytes8:
    """One instant of a scene as RGB ``(H, W, 3)``, without grain."""
    surface = skia.Surface(size.width, size.height)
    canvas = surface.getCanvas()
    factor = max(size.width / WIDTH, size.height / HEIGHT)
    canvas.translate(size.width / 2, size.height / 2)
    canvas.scale(factor, factor)
    canvas.translate(-WIDTH / 2, -HEIGHT / 2)
    SCENES[name](canvas, time)
    pixels: Bytes8 = surface.toarray(colorType=skia.kRGBA_8888_ColorType)
    return np.ascontiguousarray(pixels[..., :3])


def draw_clip(
    path: Path, name: str, size: Size = FULL_SIZE, rate: FrameRate = RATE, seconds: float = SECONDS
) -> None:
    """Draws a scene to an MP4 file, with a little grain."""
    count = rate.nearest_frame(Fraction(seconds))
    write_video(
        path,
        _frames(name, size, rate, count),
        size,
        rate,
        crf=24,
        most_bits=_MOST_BITS,
    )


def drawing_sum(name: str) -> str:
    """What a scene looks like, as one word: a hash of its drawing, free of any encoding."""
    looks = round(SECONDS * _LOOKS_A_SECOND)
    found = hashlib.blake2b(digest_size=16)
    for number in range(looks):
        found.update(draw_scene(name, number / _LOOKS_A_SECOND, _LOOKED_AT).tobytes())
    return found.hexdigest()


def _frames(name: str, size: Size, rate: FrameRate, count: int) -> Iterator[Bytes8]:
    dice = np.random.default_rng(sum(name.encode()))
    shape = (size.height, size.width, 1)
    grains = []
    for _ in range(_GRAINS):
        grain = np.clip(dice.normal(_MIDDLE_GRAIN, 2.2, shape), 0, 2 * _MIDDLE_GRAIN)
        grains.append(np.repeat(grain.astype(np.uint8), 3, axis=2))
    for number in range(count):
        pixels = draw_scene(name, float(rate.seconds(number)), size)
        darker = cv2.subtract(pixels, (_MIDDLE_GRAIN,) * 4)
        yield cv2.add(darker, grains[number % _GRAINS])
