"""In which colours a video is written: what white, red, green and blue are, and how it is tagged.

What is drawn is BT.709 with the curve of sRGB (common practice for what is seen on screens). BT.601
is that of 525 lines, SMPTE ST 170; Display P3 has the primaries of SMPTE EG 432-1 with white D65.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import cv2
import numpy as np
from av.video.reformatter import ColorPrimaries, Colorspace, ColorTrc
from numpy.typing import NDArray

from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.transfer import decode_8bit, encode_to_8bit
from wrinkle.core.registering import Registry

Primaries = tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
"""CIE x and y of red, green and blue."""
_709: Primaries = ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060))
_601: Primaries = ((0.630, 0.340), (0.310, 0.595), (0.155, 0.070))
_P3: Primaries = ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060))
_WHITE = (0.3127, 0.3290)
_SMPTE_170M = 6
"""ITU-T H.273: the number that stands for this one among primaries, curves and matrices."""


@dataclass(frozen=True)
class Colour:
    """One way.

    Attributes:
        key: its name on the command line and in files.
        label: what the window calls it.
        primaries: what they are.
        tags: of primaries, curve and matrix, by the numbers of ITU-T H.273.
        matrix: from RGB to brightness and colour.
    """

    key: str
    label: str
    primaries: Primaries
    tags: tuple[int, int, int]
    matrix: Colorspace = Colorspace.ITU709

    @property
    def as_drawn(self) -> bool:
        """Whether its values are those that are drawn."""
        return self.primaries == _709


_RED_GREEN_BLUE_709 = int(ColorPrimaries.BT709)
_MATRIX_709 = int(Colorspace.ITU709)
BT709 = Colour(
    "bt709", "BT.709, the usual", _709, (_RED_GREEN_BLUE_709, int(ColorTrc.BT709), _MATRIX_709)
)
COLOURS: Registry[Colour] = Registry(
    "colour",
    (
        BT709,
        Colour("srgb", "sRGB", _709,
               (_RED_GREEN_BLUE_709, int(ColorTrc.IEC61966_2_1), _MATRIX_709)),
        Colour("bt601", "BT.601, for old players", _601, (_SMPTE_170M,) * 3, Colorspace.ITU601),
        Colour("p3", "Display P3", _P3,
               (int(ColorPrimaries.SMPTE432), int(ColorTrc.IEC61966_2_1), _MATRIX_709)),
    ),
)  # fmt: skip


def in_colour(image: Image, colour: Colour) -> Image:
    """A picture whose values are those of other primaries."""
    if colour.as_drawn:
        return image
    linear = image.in_light(Light.LINEAR)
    pixels = linear.pixels.copy()
    pixels[..., :3] = cv2.transform(linear.pixels[..., :3], from_709(colour.primaries))
    return Image(pixels, Light.LINEAR, image.opaque)


def as_drawn(pixels: NDArray[np.uint8], colour: Colour) -> NDArray[np.uint8]:
    """RGB ``(H, W, 3)`` of other primaries as it is seen on a usual screen."""
    if colour.as_drawn:
        return pixels
    light = cv2.transform(decode_8bit(pixels), np.linalg.inv(from_709(colour.primaries)))
    whole = np.dstack([np.clip(light, 0.0, 1.0), np.ones(light.shape[:2], np.float32)])
    return np.ascontiguousarray(encode_to_8bit(whole)[..., :3])


@cache
def from_709(primaries: Primaries) -> NDArray[np.float32]:
    """The matrix ``(3, 3)`` from linear BT.709 to linear light of other primaries; white stays."""
    found = np.linalg.inv(_to_xyz(primaries)) @ _to_xyz(_709)
    return found.astype(np.float32)


def _to_xyz(primaries: Primaries) -> NDArray[np.float64]:
    """From linear RGB to CIE XYZ. Source: SMPTE RP 177, 3.3: white has the light 1."""
    columns = np.array([(x / y, 1.0, (1.0 - x - y) / y) for x, y in primaries]).T
    x, y = _WHITE
    white = np.array((x / y, 1.0, (1.0 - x - y) / y))
    return np.asarray(columns * np.linalg.solve(columns, white))
