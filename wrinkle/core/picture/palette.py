"""A palette: the few colours that say most about a picture.

Clusters in CIE Lab of the encoded colours, where distances are about as large as they look. Source:
Lloyd, "Least squares quantization in PCM", 1982; begun at the colours farthest from each other
(Gonzalez 1985), so that the same picture always has the same palette.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.compositing import straight
from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.transfer import decode

_SIDE = 64
_ROUNDS = 40
_SETTLED = 0.01

Colour = tuple[float, float, float]


def palette(image: Image, count: int) -> list[Colour]:
    """Linear colours of a picture, from the darkest to the lightest.

    Args:
        image: any picture; what it does not cover has no say.
        count: how many; fewer are found where there are fewer different ones.
    """
    sample = lab_sample(image)
    if not len(sample):
        return []
    centres = _farthest(sample, count)
    for _ in range(_ROUNDS):
        nearest = _distances(sample, centres).argmin(axis=1)
        moved = np.stack(
            [
                sample[nearest == n].mean(axis=0) if (nearest == n).any() else centre
                for n, centre in enumerate(centres)
            ]
        )
        settled = float(np.abs(moved - centres).max()) < _SETTLED
        centres = moved
        if settled:
            break
    centres = centres[centres[:, 0].argsort()]
    colours = cv2.cvtColor(centres[None].astype(np.float32), cv2.COLOR_Lab2RGB)[0]
    linear = decode(np.clip(colours, 0.0, 1.0))
    return [(float(red), float(green), float(blue)) for red, green, blue in linear]


def lab_sample(image: Image) -> NDArray[np.float64]:
    """Lab ``(N, 3)`` of the picture made small."""
    small = cv2.resize(image.pixels, (_SIDE, _SIDE), interpolation=cv2.INTER_AREA)
    encoded = Image(small, image.light, image.opaque).in_light(Light.ENCODED)
    lab = cv2.cvtColor(np.clip(straight(encoded), 0.0, 1.0), cv2.COLOR_RGB2Lab)
    found: NDArray[np.float64] = lab[small[..., 3] > 0.5].astype(np.float64)
    return found


def _farthest(sample: NDArray[np.float64], count: int) -> NDArray[np.float64]:
    """The middle of all, then again and again the colour farthest from those that are there."""
    chosen = [sample[_distances(sample, sample.mean(axis=0)[None])[:, 0].argmin()]]
    while len(chosen) < count:
        away = _distances(sample, np.array(chosen)).min(axis=1)
        if away.max() < _SETTLED:
            break
        chosen.append(sample[away.argmax()])
    return np.array(chosen)


def _distances(sample: NDArray[np.float64], centres: NDArray[np.float64]) -> NDArray[np.float64]:
    found: NDArray[np.float64] = ((sample[:, None] - centres[None]) ** 2).sum(axis=2)
    return found
