"""Random movements while a shutter is open, looked at one by one and together."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import NamedTuple

import cv2
import numpy as np

from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality, Shutter, blur_instants
from wrinkle.core.picture.placement import Matrix, Pose, frame_corners, pose_matrix
from wrinkle.core.picture.resample import Plane, resample, resample_masked

SIZE = Size(90, 160)
_WHOLE = Shutter(360.0, Fraction(1))


class Apart(NamedTuple):
    """How far both are apart, in levels of 0…255: in the mean and at most; and of what."""

    mean: float
    most: float
    looks: int
    cover: EdgeCover
    cut: bool


def compared(seed: int) -> Iterator[Apart]:
    """One movement after the other, without an end; those that are looked at alike are left out."""
    dice = np.random.default_rng(seed)
    rough = dice.random((SIZE.height, SIZE.width, 4), dtype=np.float32)
    pixels = cv2.GaussianBlur(rough, (0, 0), 1.2)
    pixels[..., 3] = 1.0
    picture = Image(pixels, Light.LINEAR, True)
    blots = cv2.GaussianBlur((rough[..., 0] > 0.7).astype(np.float32), (0, 0), 5.0)
    plane = Plane(np.clip(blots * 3.0 - 0.5, 0.0, 1.0), np.eye(3))
    while True:
        way = _way(dice)

        def corners(time: Fraction, way: _Way = way) -> np.ndarray:
            return frame_corners(way.at(time), SIZE)

        instants = blur_instants(corners, Fraction(0), _WHOLE, Quality.PREVIEW)
        moves = [way.at(instant) for instant in instants]
        cover, cut = list(EdgeCover)[dice.integers(4)], bool(dice.random() < 0.4)
        one_by_one, together = (
            resample_masked(picture, np.eye(3), moves, [plane], SIZE, cover, loosely=loosely)
            if cut
            else resample(picture, moves, SIZE, cover, loosely=loosely)
            for loosely in (False, True)
        )
        off = np.abs(one_by_one.pixels - together.pixels) * 255.0
        if off.any() or not np.isfinite(off).all():
            yield Apart(float(off.mean()), float(off.max()), len(moves), cover, cut)


class _Way(NamedTuple):
    """From one pose to another, by a power of time."""

    start: dict[str, np.ndarray]
    end: dict[str, np.ndarray]
    power: float

    def at(self, time: Fraction) -> Matrix:
        share = (float(time) + 0.5) ** self.power
        now = {k: (1.0 - share) * self.start[k] + share * self.end[k] for k in self.start}
        return pose_matrix(
            Pose(
                rotation=float(now["rotation"]),
                skew=float(now["skew"]),
                scale=(float(now["scale"][0]), float(now["scale"][1])),
                position=(float(now["position"][0]), float(now["position"][1])),
                tilt=(float(now["tilt"][0]), float(now["tilt"][1])),
            ),
            SIZE,
        )


def _way(dice: np.random.Generator) -> _Way:
    reach, turn = dice.choice([0.05, 0.2, 1.0]), dice.choice([0.0, 5.0, 40.0, 200.0])
    tilted, skewed = (dice.random(2) < 0.3).astype(float)

    def pose() -> dict[str, np.ndarray]:
        return {
            "rotation": dice.normal(0.0, turn, ()),
            "skew": dice.normal(0.0, 20.0 * reach * skewed, ()),
            "scale": 100.0 * np.exp(dice.normal(0.0, 0.5 * reach, 2)),
            "position": dice.normal(0.0, 0.5 * reach, 2),
            "tilt": dice.normal(0.0, 25.0 * tilted, 2),
        }

    return _Way(pose(), pose(), float(dice.choice([1.0, 1.0, 1.3, 2.0])))
