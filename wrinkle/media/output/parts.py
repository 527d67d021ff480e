"""Parts of what is shown: what a wrinkle adds to the plain cut, and where its next clip shows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.media.output.output import NumberedPictures

_LEVELS = np.float32(255.0)
_NOTHING = np.float32(0.5 / 255.0)
"""Differences of less than half a level are none."""


@dataclass(frozen=True, eq=False)
class Overlay:
    """What lies over the plain cut so that it looks dressed, as clear as can be.

    For each pixel the smallest alpha a is taken with which a colour within 0…1 exists that leads
    from the plain one p to the dressed one d in d = c a + p (1 - a), in encoded values, as other
    programs lay pictures over each other. Alpha stands on a level of 8 bits, and the colour is
    worked out for that: so that nothing is lost where both are rounded.

    Attributes:
        dressed, plain: the same frames with and without the wrinkles.
    """

    dressed: NumberedPictures
    plain: NumberedPictures

    @property
    def size(self) -> Size:
        """Of the pictures."""
        return self.dressed.size

    def image(self, frame: int) -> Image:
        """The overlay of a frame: encoded, premultiplied."""
        wanted, there = (_levels(x.image(frame)) for x in (self.dressed, self.plain))
        away = wanted - there
        with np.errstate(divide="ignore", invalid="ignore"):
            # Brighter: white could do it; darker: black could.
            needed = np.where(away > 0.0, away / (1.0 - there), -away / there)
        needed = np.where(np.abs(away) < _NOTHING, 0.0, needed)
        alpha = np.ceil(np.clip(needed.max(axis=2), 0.0, 1.0) * _LEVELS - 1e-3) / _LEVELS
        alpha = alpha[..., np.newaxis].astype(np.float32)
        colour = np.clip(wanted - there * (1.0 - alpha), 0.0, alpha)
        found = np.concatenate([colour, alpha], axis=2).astype(np.float32)
        return Image(found, Light.ENCODED, False)


@dataclass(frozen=True, eq=False)
class IncomingMatte:
    """Where the incoming clip shows, as grey: black where it does not, white where it is whole.

    What white in its place changes, against black, is how much of it is seen: pictures are laid
    over each other in encoded values. Whatever lies over it is the same in both.

    Attributes:
        white, black: the same frames with the incoming clip all white, and all black.
    """

    white: NumberedPictures
    black: NumberedPictures

    @property
    def size(self) -> Size:
        """Of the pictures."""
        return self.white.size

    def image(self, frame: int) -> Image:
        """The matte of a frame; its grey is not encoded further: 0.5 is half."""
        shown = [x.image(frame).in_light(Light.ENCODED).pixels[..., :3]
                 for x in (self.white, self.black)]  # fmt: skip
        share = np.clip(np.mean(shown[0] - shown[1], axis=2), 0.0, 1.0)
        found = np.ones((*share.shape, 4), np.float32)
        found[..., :3] = share[..., np.newaxis]
        return Image(found, Light.ENCODED, True)


def _levels(image: Image) -> NDArray[np.float32]:
    """Encoded colours ``(H, W, 3)`` as other programs see them: of 8 bits, over black."""
    return image.to_bytes8()[..., :3].astype(np.float32) / _LEVELS
