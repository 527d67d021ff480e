"""How fast a picture moves."""

import unittest

import cv2
import numpy as np

from wrinkle.core.picture.flow import motion_between
from wrinkle.core.picture.image import Bytes8

WIDTH, HEIGHT = 64, 114


def spots(seed: int) -> Bytes8:
    coarse = np.random.default_rng(seed).random((24, 14))
    fine = cv2.resize(coarse, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)
    return np.asarray(np.clip(fine, 0.0, 1.0) * 255.0, np.uint8)


class Flow(unittest.TestCase):
    def test_a_known_motion_comes_back(self) -> None:
        for across in (0.5, 2.0, 5.0):
            moved = np.float32([[1, 0, across], [0, 1, across / 3.0]])
            before = spots(3)
            after = cv2.warpAffine(before, moved, (WIDTH, HEIGHT), borderMode=cv2.BORDER_REFLECT)
            # What a picture is moved by is known: geometry.
            speed = float(np.hypot(across, across / 3.0))
            self.assertAlmostEqual(motion_between(before, after).speed, speed, delta=0.1)

    def test_lengths_are_rounded_as_ieee_754_has_it_and_not_as_memory_happens_to_lie(self) -> None:
        search = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_ULTRAFAST)
        search.setFinestScale(1)
        search.setPatchSize(8)
        search.setPatchStride(4)
        search.setGradientDescentIterations(16)
        for seed in range(24):
            before, after = spots(seed), np.roll(spots(seed), seed % 5 + 1, axis=seed % 2)
            across, down = np.moveaxis(search.calc(before, after, None)[::4, ::4], -1, 0)
            # A vector of a processor that multiplies and adds at once rounds once, the rest twice.
            lengths = [np.sqrt(x * x + y * y) for x, y in zip(across.flat, down.flat, strict=True)]
            self.assertEqual(motion_between(before, after).speed, float(np.median(lengths)))
