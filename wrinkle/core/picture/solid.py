"""A picture of one colour, where a clip would be."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from wrinkle.core.picture.image import Image, Light, Size


@dataclass(frozen=True)
class Solid:
    """One grey of any size, as long as is asked for.

    Attributes:
        name: what it is called.
        grey: linear, 0…1.
        size: that it says it has.
        duration: in seconds.
    """

    name: str
    grey: float
    size: Size
    duration: Fraction = Fraction(24 * 3600)

    @property
    def identity(self) -> str:
        """Differs between different ones."""
        return f"solid:{self.grey}:{self.size.label}"

    def index_at(self, seconds: Fraction) -> int:
        """There is one picture."""
        return 0

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """There is no next one."""
        return None

    def image(self, index: int, size: Size) -> Image:
        """The picture in a size."""
        pixels = np.full((size.height, size.width, 4), self.grey, np.float32)
        pixels[..., 3] = 1.0
        return Image(pixels, Light.LINEAR, True)
