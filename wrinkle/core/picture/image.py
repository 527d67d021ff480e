"""The image type, and the size of a picture."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from enum import Enum
from fractions import Fraction
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture import transfer

Pixels = NDArray[np.float32]
"""float32 ``(height, width, 4)``, red, green, blue, alpha, colours premultiplied."""

Bytes8 = NDArray[np.uint8]
"""Encoded 8-bit pixels ``(height, width, channels)``."""

_LARGEST_SIDE = 16384


class Size(NamedTuple):
    """Width and height in pixels."""

    width: int
    height: int

    @property
    def label(self) -> str:
        """As people write it: ``1080×1920``."""
        return f"{self.width}×{self.height}"

    @property
    def even(self) -> Size:
        """The size, one pixel larger where a side is odd: video with 4:2:0 colour has none."""
        return Size(self.width + self.width % 2, self.height + self.height % 2)

    def scaled(self, factor: float | Fraction) -> Size:
        """This size times a factor, in whole pixels, at least one."""
        return Size(max(1, int(self.width * factor + 0.5)), max(1, int(self.height * factor + 0.5)))

    def within(self, side: int) -> Size:
        """This size, or a smaller one of its shape whose longer side is so many pixels."""
        return self.scaled(min(1.0, side / max(self)))

    @classmethod
    def parse(cls, text: str) -> Size:
        """The size that a person wrote: ``1080x1920`` or ``1080×1920``.

        Raises:
            InputError: the text is no size, or a side is not within 1…16384.
        """
        width, found, height = text.strip().lower().replace("×", "x").partition("x")
        if not (found and width.strip().isdigit() and height.strip().isdigit()):
            raise InputError(f"'{text}' is not a size; write width x height, such as 1080x1920.")
        return cls.checked(int(width), int(height))

    @classmethod
    def checked(cls, width: int, height: int) -> Size:
        """A size that a picture can have.

        Raises:
            InputError: a side is not within 1…16384.
        """
        size = cls(width, height)
        if not (1 <= width <= _LARGEST_SIDE and 1 <= height <= _LARGEST_SIDE):
            raise InputError(
                f"A picture of {size.label} is not possible; each side must be within 1 and "
                f"{_LARGEST_SIDE} pixels."
            )
        return size


class Light(Enum):
    """What the numbers of an image stand for."""

    LINEAR = "linear"
    """Proportional to light."""
    ENCODED = "encoded"
    """After the sRGB transfer function."""


@dataclass(frozen=True, eq=False)
class Image:
    """Pixels with their state named. Nobody writes into the pixels of an image.

    Attributes:
        pixels: float32 ``(H, W, 4)`` RGBA, premultiplied; alpha 0…1, colours may exceed 1.
        light: whether the colours are linear or encoded.
        opaque: alpha is known to be 1 everywhere.
        levels: the encoded levels ``(H, W, 3)`` of which the pixels are a table's; None for all
            others. What is made of an image by ``replace`` has none.
    """

    pixels: Pixels
    light: Light = Light.LINEAR
    opaque: bool = False
    levels: Bytes8 | None = field(default=None, init=False)

    @property
    def size(self) -> Size:
        """Width and height."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return self.pixels.nbytes + (self.levels.nbytes if self.levels is not None else 0)

    def in_light(self, light: Light) -> Image:
        """The same picture in another state; itself if it is in that state already."""
        if light is self.light:
            return self
        if self.levels is not None:
            # To look them up again takes a fifth of the time of the curve.
            return Image(transfer.from_levels(self.levels, light is Light.LINEAR), light, True)
        curve = transfer.ENCODING if light is Light.ENCODED else transfer.DECODING
        return replace(self, pixels=curve.of_premultiplied(self.pixels), light=light)

    def to_bytes8(self) -> NDArray[np.uint8]:
        """Encoded 8-bit RGBA ``(H, W, 4)``, premultiplied, for a screen or a file."""
        if self.levels is not None:
            return np.asarray(cv2.cvtColor(self.levels, cv2.COLOR_RGB2RGBA), np.uint8)
        if self.opaque and self.light is Light.LINEAR:
            return transfer.encode_to_8bit(self.pixels)
        return transfer.to_levels(self.in_light(Light.ENCODED).pixels)


def blank(size: Size, light: Light = Light.LINEAR) -> Image:
    """A picture with nothing in it: every pixel is fully transparent."""
    return Image(np.zeros((size.height, size.width, 4), np.float32), light)


def filled(size: Size, colour: Iterable[float], light: Light = Light.LINEAR) -> Image:
    """A picture of one opaque colour: red, green and blue in the state it is to have."""
    row = np.full((size.width, 4), (*colour, 1.0), np.float32)
    # Row by row it is copied whole: four values at a time take six times as long.
    pixels = np.broadcast_to(row, (size.height, size.width, 4)).copy()
    return Image(pixels, light, opaque=True)


def mirrored(image: Image, direction: Direction) -> Image:
    """The picture with left and right, or up and down, exchanged; itself where nothing is."""
    if direction is Direction.AS_MADE:
        return image
    return replace(image, pixels=mirrored_field(image.pixels, direction))


def mirrored_field(values: NDArray[np.float32], direction: Direction) -> NDArray[np.float32]:
    """Values over a picture ``(H, W, …)`` with left and right, or up and down, exchanged."""
    rows, columns = -1 if direction.down else 1, -1 if direction.across else 1
    return np.ascontiguousarray(values[::rows, ::columns])


def from_bytes8(pixels: NDArray[np.uint8]) -> Image:
    """A linear image from encoded 8-bit RGB ``(H, W, 3)`` or straight RGBA ``(H, W, 4)``."""
    if pixels.shape[2] == 3:
        levels = np.ascontiguousarray(pixels)
        image = Image(transfer.from_levels(levels, linear=True), opaque=True)
        # Only here: whoever makes an image of other pixels has no levels for them.
        object.__setattr__(image, "levels", levels)
        return image
    linear = transfer.decode_8bit(pixels)
    alpha = linear[..., 3:]
    linear[..., :3] *= alpha
    return Image(linear, opaque=bool(alpha.min(initial=1.0) == 1.0))
