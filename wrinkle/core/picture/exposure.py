"""More or less light on a picture."""

from __future__ import annotations

import numpy as np

from wrinkle.core.picture.compiled import passes
from wrinkle.core.picture.image import Image

_LARGEST_LIGHT = np.float32(64.0)


def brightened(image: Image, factor: float) -> Image:
    """Colours times a factor, in the state the picture has; none above 64."""
    lit, compiled = np.float32(min(factor, 1e6)), passes()
    if compiled is None:
        pixels = image.pixels * lit
        pixels = np.where(pixels < _LARGEST_LIGHT, pixels, _LARGEST_LIGHT)
        pixels[..., 3] = image.pixels[..., 3]
    else:
        pixels = np.empty(image.pixels.shape, np.float32)
        compiled.brighten(np.ascontiguousarray(image.pixels), lit, _LARGEST_LIGHT, pixels)
    return Image(pixels, image.light, image.opaque)
