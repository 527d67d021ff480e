"""How the whole picture of a wrinkle moves as it is seen: whatever makes it move.

What fills the slots is not known, and must not count: a sound depends on the wrinkle alone. So its
slots are filled with a texture, the same on both sides of the cut, and what becomes of it is
followed by dense inverse search (Kroeger et al., 2016).
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise

import cv2
import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from wrinkle.core.design.document.links import relinked
from wrinkle.core.design.document.sources import PictureSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.picture.flow import motion_between
from wrinkle.core.picture.image import Bytes8, Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.showing import Showing
from wrinkle.core.sound.motion import Movement, as_movement
from wrinkle.core.time.rate import FrameRate

_SHORT_SIDE = 64
_SPOT = 5
"""Pixels: as large as what is followed best."""
_FINER = 2
"""Pictures for each frame: what is too fast to be followed otherwise is slow enough then."""
_MOST_PICTURES = 480
_KEPT = 64


@dataclass(frozen=True)
class _Texture:
    """A still picture of spots."""

    pixels: NDArray[np.float32]
    name: str = "texture"
    identity: str = "texture"
    duration: Fraction = Fraction(3600)

    @property
    def size(self) -> Size:
        height, width = self.pixels.shape[:2]
        return Size(width, height)

    def index_at(self, seconds: Fraction) -> int:
        return 0

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        return None

    def image(self, index: int, size: Size) -> Image:
        scaled = cv2.resize(self.pixels, size, interpolation=cv2.INTER_AREA)
        return Image(np.asarray(scaled, np.float32), Light.ENCODED, True).in_light(Light.LINEAR)


def seen_movement(wrinkle: Wrinkle, start: Fraction, length: Fraction) -> Movement | None:
    """How the picture moves, at moments that lie evenly from a start over a length, in seconds.

    Gives nothing where nothing moves.

    Raises:
        InputError: something in the wrinkle cannot be drawn.
    """
    count = min(max(8, int(length * wrinkle.frame_rate.per_second * _FINER)), _MOST_PICTURES)
    # What is left is all that its pictures depend on: a sound that changes costs no new ones.
    drawn = replace(
        _drawable(wrinkle),
        frame_rate=FrameRate(Fraction(count) / length),
        shutter_angle=0.0,
        name="seen",
        about="",
        set_aside=(),
        sounds=(),
    )
    return drawn_movement(drawn, start, count)


@lru_cache(maxsize=_KEPT)
def drawn_movement(drawn: Wrinkle, start: Fraction, count: int) -> Movement | None:
    """How the picture of a silent wrinkle moves in so many of its own frames from a time on."""
    rate, shape = drawn.frame_rate, drawn.reference_size
    size = shape.scaled(Fraction(_SHORT_SIDE, min(shape)))
    filling = Filling(_texture(Size(2 * size.width, 2 * size.height)), Fraction(1800))
    material = Material(slots={x.key: filling for x in drawn.slots if x.moving})
    showing = Showing(drawn, material, size, Quality.PREVIEW)
    first = round(start * rate.per_second)
    pictures = [_grey(showing.image(frame)) for frame in range(first, first + count + 1)]
    speeds, across = np.zeros(count), np.zeros(count)
    lost = np.zeros(count, bool)
    for place, (before, after) in enumerate(pairwise(pictures)):
        motion = motion_between(before, after)
        # Across the cut there may be another picture, whatever fills the slots.
        lost[place] = not motion.trusted or first + place == -1
        speeds[place], across[place] = motion.speed, motion.way[0]
    if lost.all():
        return None
    for values in (speeds, across):
        values[lost] = np.interp(np.flatnonzero(lost), np.flatnonzero(~lost), values[~lost])
    smooth = np.hanning(2 * _FINER + 1)
    smooth /= smooth.sum()
    return as_movement(*(np.convolve(x, smooth, "same") for x in (speeds, across)))


def _drawable(wrinkle: Wrinkle) -> Wrinkle:
    """The wrinkle without what needs a file: tables move nothing, and pictures lie over."""
    layers = tuple(
        replace(layer, effects=tuple(use for use in layer.effects if not use.asset))
        for layer in wrinkle.layers
        if not isinstance(layer.source, PictureSource)
    )
    ids = {layer.id for layer in layers}
    layers = tuple(relinked(x, lambda link: link.target if link.target in ids else None)
                   for x in layers)  # fmt: skip
    return with_layers(replace(wrinkle, dials=()), layers)


@lru_cache(maxsize=4)
def _texture(size: Size) -> _Texture:
    dice = np.random.default_rng(7)
    spots = dice.random((size.height // _SPOT + 2, size.width // _SPOT + 2, 3), np.float32)
    whole = cv2.resize(spots, size, interpolation=cv2.INTER_CUBIC)
    pixels = np.ones((size.height, size.width, 4), np.float32)
    pixels[..., :3] = np.clip(whole, 0.0, 1.0)
    return _Texture(pixels)


def _grey(image: Image) -> Bytes8:
    return np.asarray(cv2.cvtColor(image.to_bytes8()[..., :3], cv2.COLOR_RGB2GRAY), np.uint8)
