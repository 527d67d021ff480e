import unittest

import numpy as np
from scipy.cluster.vq import kmeans2
from scipy.spatial.distance import cdist

from wrinkle.core.picture.image import Image, Light, Size, blank
from wrinkle.core.picture.palette import lab_sample, palette
from wrinkle.core.picture.transfer import decode


def _spread(sample: np.ndarray, centres: np.ndarray) -> float:
    """The squares of the distances to the nearest centres, added up, by SciPy."""
    return float(cdist(sample, centres, "sqeuclidean").min(axis=1).sum())


class Palettes(unittest.TestCase):
    def test_the_colours_that_a_picture_is_made_of_are_found_dark_to_light(self) -> None:
        made = np.array([(0.1, 0.05, 0.2), (0.8, 0.3, 0.1), (0.9, 0.9, 0.7)], np.float32)
        dice = np.random.default_rng(1)
        pixels = np.ones((128, 64, 4), np.float32)
        pixels[..., :3] = np.repeat(made[[0, 1, 2, 2]], 32, axis=0)[:, None]
        pixels[..., :3] += dice.normal(0, 0.02, (128, 64, 3)).astype(np.float32)
        found = palette(Image(pixels, Light.ENCODED, True), 3)
        np.testing.assert_allclose(found, decode(made), atol=0.01)

    def test_clusters_are_as_tight_as_scipys(self) -> None:
        dice = np.random.default_rng(2)
        pixels = np.ones((64, 64, 4), np.float32)
        pixels[..., :3] = dice.random((64, 64, 3), dtype=np.float32) ** 2
        image = Image(pixels, Light.ENCODED, True)
        sample = lab_sample(image)
        spread = min(
            _spread(sample, kmeans2(sample, 4, seed=n, minit="++", iter=40)[0]) for n in range(5)
        )
        found = np.array([np.array(colour) for colour in palette(image, 4)], np.float32)
        own = Image(np.ones((1, 4, 4), np.float32), Light.LINEAR, True)
        own.pixels[0, :, :3] = found
        centres = np.unique(lab_sample(own), axis=0)
        self.assertLess(_spread(sample, centres), 1.1 * spread)

    def test_one_colour_gives_one_and_nothing_none(self) -> None:
        flat = Image(np.full((9, 9, 4), 0.5, np.float32), Light.ENCODED)
        flat.pixels[..., 3] = 1.0
        self.assertEqual(len(palette(flat, 3)), 1)
        self.assertEqual(palette(blank(Size(4, 4)), 3), [])
