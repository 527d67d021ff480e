"""Surroundings far from a picture are those near it, a whole number of pictures on."""

import unittest

import numpy as np

from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.placement import rotation, translation
from wrinkle.core.picture.resample import resample

SIZE = Size(40, 24)


class FarPlaces(unittest.TestCase):
    def test_mirrored_after_two_pictures_repeated_after_one(self) -> None:
        pixels = np.random.default_rng(5).random((SIZE.height, SIZE.width, 4), dtype=np.float32)
        pixels[..., 3] = 1.0
        image = Image(pixels, Light.LINEAR, True)
        for cover, period in ((EdgeCover.MIRROR, 2), (EdgeCover.REPEAT, 1)):
            for turn in (0.0, 31.0):
                here = translation(3.5, -2.25) @ rotation(turn)
                wanted = resample(image, [here], SIZE, cover).pixels
                for across, down in ((1, 0), (-3, 2), (5_000, -70_001)):
                    # By whole pictures along the picture's own sides, before it is turned.
                    moved = translation(
                        float(across * period * SIZE.width), float(down * period * SIZE.height)
                    )
                    found = resample(image, [here @ moved], SIZE, cover).pixels
                    np.testing.assert_allclose(found, wanted, atol=2e-3)
        # What is mirrored is not yet the same after one picture.
        once = resample(image, [translation(float(SIZE.width), 0.0)], SIZE, EdgeCover.MIRROR)
        np.testing.assert_array_equal(once.pixels, pixels[:, ::-1])

    def test_what_is_squashed_almost_to_a_line_is_repeated_beyond_counting(self) -> None:
        rows = np.linspace(0.0, 1.0, SIZE.height, dtype=np.float32)
        pixels = np.ones((SIZE.height, SIZE.width, 4), np.float32)
        pixels[..., :3] = rows[:, None, None]
        image = Image(pixels, Light.LINEAR, True)
        # All columns are the same: however many lie in a pixel, it is what they are.
        squashed = np.diag((1e-11, 1.0, 1.0)) @ translation(0.3, 0.0)
        for cover in (EdgeCover.MIRROR, EdgeCover.REPEAT):
            found = resample(image, [squashed], SIZE, cover).pixels
            np.testing.assert_allclose(found, pixels, atol=2e-3)
