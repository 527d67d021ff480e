import unittest
from concurrent.futures import ThreadPoolExecutor
from itertools import islice

import cv2
import numpy as np
from scipy import ndimage

from tests.core.picture.movements import compared
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.even_steps import taken_together
from wrinkle.core.picture.ground import ground_of
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.placement import Matrix, Pose, pose_matrix, scaling, translation
from wrinkle.core.picture.resample import Plane, resample, resample_masked

SIZE = Size(135, 240)
OUTSIDE = {
    EdgeCover.MIRROR: "reflect",
    EdgeCover.REPEAT: "grid-wrap",
    EdgeCover.BARE: "grid-constant",
}
"""SciPy's words for what lies beyond a picture."""


def soft(size: Size) -> Image:
    dice = np.random.default_rng(5)
    rough = dice.random((size.height, size.width, 4), dtype=np.float32)
    pixels = cv2.GaussianBlur(rough, (0, 0), 2.0)
    pixels[..., 3] = 1.0
    return Image(pixels, Light.LINEAR, True)


def turned(first: float, last: float, count: int = 32, scale: float = 130.0) -> list[Matrix]:
    angles = np.linspace(first, last, count)
    return [pose_matrix(Pose(rotation=a, scale=(scale, scale)), SIZE) for a in angles]


def by_scipy(pixels: np.ndarray, moves: list[Matrix], cover: EdgeCover) -> np.ndarray:
    """The average of a picture ``(H, W, 4)`` moved by each matrix, in float64."""
    half = translation(0.5, 0.5)
    total = np.zeros((SIZE.height, SIZE.width, 4))
    for move in moves:
        # SciPy counts rows first.
        across = np.linalg.inv(half) @ np.linalg.inv(move) @ half
        back = across[[1, 0, 2]][:, [1, 0, 2]]
        for channel in range(4):
            total[..., channel] += ndimage.affine_transform(
                pixels[..., channel].astype(float), back[:2, :2], back[:2, 2],
                (SIZE.height, SIZE.width), order=1, mode=OUTSIDE[cover],
            )  # fmt: skip
    return total / len(moves)


class EvenSteps(unittest.TestCase):
    def test_a_quarter_of_the_looks_gives_the_average_of_all(self) -> None:
        # Checked against SciPy's affine transform, look by look.
        card = Image(soft(Size(60, 80)).pixels, Light.LINEAR, True)
        centred = translation(37.0, 80.0)
        for cover, picture, moves, most in (
            (EdgeCover.MIRROR, soft(SIZE), turned(0.0, 40.0), 1.0),
            (EdgeCover.REPEAT, soft(SIZE), turned(0.0, 20.0, 24), 1.0),
            # The hard edge of a card is softer by a part of a pixel.
            (EdgeCover.BARE, card, [m @ centred for m in turned(0.0, 60.0)], 10.0),
        ):
            with self.subTest(cover=cover):
                ground = ground_of(picture.pixels, moves, SIZE, cover, None)
                fewer = taken_together(ground, SIZE, cover)
                self.assertLessEqual(len(fewer.inverses), len(moves) // 4)
                found = resample(picture, moves, SIZE, cover, loosely=True)
                off = np.abs(found.pixels - by_scipy(picture.pixels, moves, cover))
                # In levels of 0…255.
                self.assertLess(float(off.mean()) * 255.0, 0.25)
                self.assertLess(float(np.quantile(off, 0.999)) * 255.0, most)
                self.assertEqual(found.opaque, cover is not EdgeCover.BARE)

    def test_what_is_cut_moves_with_its_edge(self) -> None:
        share = np.zeros((SIZE.height, SIZE.width), np.float32)
        share[60:150, 30:90] = 1.0
        picture, plane = soft(SIZE), Plane(share, np.eye(3))
        moves = turned(0.0, 40.0, scale=100.0)
        whole = resample_masked(picture, np.eye(3), moves, [plane], SIZE, EdgeCover.BARE)
        loose = resample_masked(
            picture, np.eye(3), moves, [plane], SIZE, EdgeCover.BARE, loosely=True
        )
        self.assertFalse(np.array_equal(whole.pixels, loose.pixels))
        self.assertLess(float(np.abs(whole.pixels - loose.pixels).mean()), 0.5 / 255.0)

    def test_steps_that_differ_stay_as_they_are(self) -> None:
        dice = np.random.default_rng(8)
        shaken = [translation(*dice.uniform(-9.0, 9.0, 2)) for _ in range(16)]
        halted = [*turned(0.0, 0.0, 8), *turned(0.0, 40.0, 8)]
        seven = turned(0.0, 40.0, 7)
        over_the_horizon = [
            pose_matrix(Pose(tilt=(0.0, a), camera=60.0), SIZE) for a in np.linspace(60.0, 89.0, 16)
        ]
        growing = [scaling(1.0 + 0.6 * 1.35**k, 1.0 + 0.6 * 1.35**k) for k in range(16)]
        picture = soft(SIZE)
        for moves in (shaken, halted, seven, over_the_horizon):
            with self.subTest(moves=moves[-1]):
                plain = resample(picture, moves, SIZE, EdgeCover.BARE)
                loose = resample(picture, moves, SIZE, EdgeCover.BARE, loosely=True)
                self.assertTrue(np.array_equal(plain.pixels, loose.pixels))
        # A zoom that grows evenly is a turn's cousin: each step is the same map.
        plain = resample(picture, growing, SIZE, EdgeCover.MIRROR)
        loose = resample(picture, growing, SIZE, EdgeCover.MIRROR, loosely=True)
        self.assertLess(float(np.abs(plain.pixels - loose.pixels).mean()), 0.5 / 255.0)

    def test_any_number_of_threads_gives_the_same(self) -> None:
        picture, moves = soft(SIZE), turned(0.0, 40.0)
        alone = resample(picture, moves, SIZE, EdgeCover.MIRROR, loosely=True)
        with ThreadPoolExecutor(3) as others:
            spread = resample(picture, moves, SIZE, EdgeCover.MIRROR, others, loosely=True)
        self.assertTrue(np.array_equal(alone.pixels, spread.pixels))

    def test_random_movements_look_the_same(self) -> None:
        # ``python -m fuzz.movements`` looks at many: 1.2 levels in the mean was the most of 250.
        for apart in islice(compared(seed=1), 8):
            self.assertLess(apart.mean, 2.0, apart)
