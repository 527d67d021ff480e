"""What a picture holds, counted: waveform, parade, vectorscope and histogram.

Brightness and colour are Y′, C′B and C′R of Rec. ITU-R BT.709-6, 3.2 and 3.3, of encoded values.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Bytes8

LEVELS = 256
Counts = NDArray[np.int64]
_KR, _KB = 0.2126, 0.0722
_CB, _CR = 1.8556, 1.5748


def brightness(pixels: Bytes8) -> NDArray[np.float32]:
    """Y′ 0…255 of encoded 8-bit RGB, in any shape ``(…, 3)`` or ``(…, 4)``."""
    red, green, blue = (pixels[..., n].astype(np.float32) for n in range(3))
    return np.asarray(_KR * red + (1.0 - _KR - _KB) * green + _KB * blue, np.float32)


def colour_difference(pixels: Bytes8) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """C′B and C′R, −0.5…0.5, of encoded 8-bit RGB in any shape ``(…, 3)`` or ``(…, 4)``."""
    bright = brightness(pixels)
    blue, red = pixels[..., 2].astype(np.float32), pixels[..., 0].astype(np.float32)
    return (blue - bright) / (255.0 * _CB), (red - bright) / (255.0 * _CR)


def waveform(pixels: Bytes8, columns: int) -> Counts:
    """How often each brightness is in each column: ``(256, columns)``, dark first.

    Args:
        pixels: encoded 8-bit RGB ``(H, W, 3)``.
        columns: into which the width is divided.
    """
    return _by_column(np.rint(brightness(pixels)).astype(np.int64), columns)


def parade(pixels: Bytes8, columns: int) -> Counts:
    """The same of red, green and blue: ``(3, 256, columns)``."""
    parts = (pixels[..., n].astype(np.int64) for n in range(3))
    return np.stack([_by_column(part, columns) for part in parts])


def vectorscope(pixels: Bytes8) -> Counts:
    """How often each colour is there: ``(256, 256)``, rows by C′R, columns by C′B, low first."""
    across, up = colour_difference(pixels)
    column, row = (scope_place(x) for x in (across, up))
    counts = np.bincount((row * LEVELS + column).ravel(), minlength=LEVELS * LEVELS)
    return counts.reshape(LEVELS, LEVELS)


def scope_place(difference: NDArray[np.float32]) -> Counts:
    """The row or the column 0…255 of a colour difference −0.5…0.5; grey is 128."""
    return np.asarray(np.clip(np.rint(difference * 255.0) + 128.0, 0, LEVELS - 1), np.int64)


def histogram(pixels: Bytes8) -> Counts:
    """How often each level is there: ``(4, 256)`` of brightness, red, green and blue."""
    parts = [np.rint(brightness(pixels)).astype(np.int64)]
    parts += [pixels[..., n].astype(np.int64) for n in range(3)]
    return np.stack([np.bincount(part.ravel(), minlength=LEVELS) for part in parts])


def _by_column(levels: Counts, columns: int) -> Counts:
    width = levels.shape[1]
    place = np.arange(width, dtype=np.int64) * columns // width
    counts = np.bincount((levels * columns + place).ravel(), minlength=LEVELS * columns)
    return counts.reshape(LEVELS, columns)
