"""One frame as it is measured: small, over black, what nothing covers told apart from black."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Bytes8, Image, Light, Size

SHORT_SIDE = 180
"""Pixels of the pictures that are measured: one is about a tenth of a degree of the view then."""
CELL = 2
"""Measured pixels across a cell, of which colours are kept."""
# A little more than white comes of rounding.
_WHITE = 1.001
_NEAR = 5
"""Measured pixels across what is near a pixel."""
_LOST = 4.0 / 255.0
"""By how much the deviation of what is near a pixel falls at white where its detail is lost; half
of what is noticed as a change, a judgement of ours."""
_DISTRIBUTED = 0.6
"""What lies together up to so large a share is in one part of the frame; else all round."""


def measured_size(size: Size) -> Size:
    """In which size frames of a size are measured: of the same shape, and never larger."""
    return size.scaled(min(1.0, SHORT_SIDE / min(size)))


@dataclass(frozen=True, eq=False)
class FrameLook:
    """What is measured of one frame by itself; nobody writes into its pictures.

    Attributes:
        colours: encoded RGB ``(H / CELL, W / CELL, 3)`` over black.
        grey: its luma ``(H, W)``.
        brightness: mean luma, 0…1.
        bare: the share of the frame that nothing covers, 0…1.
        where: in which part of the frame most of it is, in words.
        sharpness: mean size of the second differences of luma, 0…1.
        saturation: mean distance of the strongest from the weakest colour, 0…1.
        beyond: the share of the pixels that are brighter than white and lose detail by it.
    """

    colours: Bytes8
    grey: Bytes8
    brightness: float
    bare: float
    where: str
    sharpness: float
    saturation: float
    beyond: float

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return self.colours.nbytes + self.grey.nbytes


def look_at(image: Image) -> FrameLook:
    """Measures a picture by itself."""
    planes = cv2.split(image.in_light(Light.ENCODED).pixels)
    bare, where = 0.0, ""
    if not image.opaque:
        open_ = np.clip(1.0 - planes[3], 0.0, 1.0)
        bare = float(open_.mean())
        where = _part(open_)
    most = cv2.max(cv2.max(planes[0], planes[1]), planes[2])
    colours = cv2.merge([cv2.convertScaleAbs(cv2.max(x, 0.0), alpha=255.0) for x in planes[:3]])
    grey = cv2.cvtColor(colours, cv2.COLOR_RGB2GRAY)
    red, green, blue = cv2.split(colours)
    spread = cv2.subtract(cv2.max(cv2.max(red, green), blue), cv2.min(cv2.min(red, green), blue))
    edges = cv2.Laplacian(grey, cv2.CV_16S)
    cells = (max(1, grey.shape[1] // CELL), max(1, grey.shape[0] // CELL))
    return FrameLook(
        colours=cv2.resize(colours, cells, interpolation=cv2.INTER_AREA),
        grey=grey,
        brightness=cv2.mean(grey)[0] / 255.0,
        bare=bare,
        where=where,
        sharpness=float(cv2.norm(edges, cv2.NORM_L1)) / (grey.size * 255.0),
        saturation=cv2.mean(spread)[0] / 255.0,
        beyond=_beyond_white(most),
    )


def _beyond_white(light: NDArray[np.float32]) -> float:
    """The share of a plane that is beyond white and loses detail there: an even sky has none."""
    bright = light > _WHITE
    if not bright.any():
        return 0.0
    lost = _deviation(light) - _deviation(np.minimum(light, 1.0)) > _LOST
    return float(np.count_nonzero(bright & lost)) / light.size


def _deviation(plane: NDArray[np.float32]) -> NDArray[np.float32]:
    """The standard deviation of what is near each pixel."""
    mean = cv2.blur(plane, (_NEAR, _NEAR))
    variance = cv2.blur(plane * plane, (_NEAR, _NEAR)) - mean * mean
    return np.asarray(np.sqrt(np.maximum(variance, 0.0)), np.float32)


def _part(open_: NDArray[np.float32]) -> str:
    """In which part of the frame most of a plane of shares lies."""
    whole = float(open_.sum())
    if whole <= 0.0:
        return ""
    rows, columns = np.array_split(open_, 2, axis=0), np.array_split(open_, 2, axis=1)
    top, left = float(rows[0].sum()) / whole, float(columns[0].sum()) / whole
    up = _side(top, "top", "bottom")
    across = _side(left, "left", "right")
    return " ".join(word for word in (up, across) if word) or "all round"


def _side(share: float, one: str, other: str) -> str:
    if share > _DISTRIBUTED:
        return one
    return other if share < 1.0 - _DISTRIBUTED else ""
