"""Frames of a piece that were drawn before, for the screen or for another file."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.piece.film import Film
from wrinkle.core.render.frames import ScreenFrame, screen_frame

_SHARE = 0.6
"""Of the budget: beyond it, frames that are looked at would have to go."""


@dataclass(frozen=True)
class KeptFrames:
    """A film whose dressed frames are drawn once for all files of 8 bits.

    Attributes:
        film: what is shown.
    """

    film: Film

    @property
    def size(self) -> Size:
        """Of the pictures."""
        return self.film.size

    def image(self, frame: int) -> Image:
        """The picture of a frame, exact to 8 bits.

        Raises:
            InputError: a wrinkle of the piece cannot be read.
            MediaError: a source cannot be read.
        """
        film, store = self.film, self.film.store
        if not film.is_costly(frame):
            return film.image(frame)
        plan = film.plan(frame)
        kept = store.frame(plan)
        if isinstance(kept, ScreenFrame) and kept.opaque:
            return _image_of(kept)
        image = film.drawn(frame, plan)
        if image.opaque and store.used + image.pixels.nbytes // 4 <= _SHARE * store.budget:
            store.keep_frame(plan, screen_frame(image))
        return image


def _image_of(kept: ScreenFrame) -> Image:
    levels = cv2.cvtColor(kept.pixels, cv2.COLOR_BGRA2RGBA)
    return Image(levels.astype(np.float32) / np.float32(255.0), Light.ENCODED, True)
