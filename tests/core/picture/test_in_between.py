"""Pictures between two, against pictures that were moved by known ways."""

import unittest

import cv2
import numpy as np

from wrinkle.core.picture.image import Image, Light
from wrinkle.core.picture.in_between import in_between, plain_between


def spots(seed: int) -> np.ndarray:
    """Sharp and soft spots, ``(360, 240, 3)``, encoded."""
    dice = np.random.default_rng(seed)
    total = np.zeros((360, 240, 3), np.float32)
    for sigma in (1.2, 4.0, 12.0):
        total += cv2.GaussianBlur(
            dice.standard_normal(total.shape).astype(np.float32), (0, 0), sigma
        ) * np.float32(sigma)
    return np.clip(0.5 + 0.18 * total / total.std(), 0.0, 1.0)


def image(colours: np.ndarray) -> Image:
    pixels = np.dstack([colours, np.ones(colours.shape[:2], np.float32)])
    return Image(np.ascontiguousarray(pixels), Light.ENCODED, True).in_light(Light.LINEAR)


def apart(one: Image, other: Image) -> float:
    """The root of the mean square of what differs, in levels, away from the rim."""
    found = (x.in_light(Light.ENCODED).pixels[24:-24, 24:-24, :3] for x in (one, other))
    return float(np.sqrt(np.mean((next(found) - next(found)) ** 2))) * 255.0


class Between(unittest.TestCase):
    def test_what_moves_is_where_it_is_by_then_and_not_twice(self) -> None:
        still = spots(1)
        first, last = image(still), image(np.roll(still, (2, 6), axis=(0, 1)))
        truth = image(np.roll(still, (1, 3), axis=(0, 1)))
        flown, blended = in_between(first, last, 0.5), plain_between(first, last, 0.5)
        # Half as far from the truth at most, as a mix of both.
        self.assertLess(apart(flown, truth), 0.5 * apart(blended, truth))
        self.assertTrue(flown.opaque)

    def test_where_nothing_moves_together_it_is_the_plain_mix(self) -> None:
        first, last = image(spots(2)), image(spots(3))
        for share in (0.25, 0.5):
            flown, blended = (f(first, last, share) for f in (in_between, plain_between))
            self.assertLess(apart(flown, blended), 0.12 * apart(blended, first))

    def test_at_both_ends_it_is_the_picture(self) -> None:
        still = spots(4)
        first, last = image(still), image(np.roll(still, 5, axis=1))
        for share, wanted in ((0.0, first), (1.0, last)):
            np.testing.assert_allclose(
                in_between(first, last, share).pixels, wanted.pixels, atol=1e-5
            )
