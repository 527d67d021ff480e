"""The picture of a wave holds all of it."""

import unittest

import numpy as np

from wrinkle.core.sound.heard import Fixed
from wrinkle.core.sound.wave_picture import MOMENT, coarser, peaks


class WavePictures(unittest.TestCase):
    def test_each_moment_has_its_lowest_and_its_highest(self) -> None:
        dice = np.random.default_rng(2)
        samples = (dice.random((10_000, 2)) * 2 - 1).astype(np.float32)
        found = peaks(Fixed(samples), range(100, 9_000))
        self.assertEqual(len(found), -(-8_900 // MOMENT))
        for place in (0, 17, 100):
            part = samples[100 + place * MOMENT : 100 + (place + 1) * MOMENT]
            self.assertEqual([part.min(), part.max()], found[place].tolist())
        fewer = coarser(found, 7)
        self.assertEqual(len(fewer), -(-len(found) // 7))
        self.assertEqual(float(fewer[3, 1]), float(found[21:28, 1].max()))
        self.assertEqual(float(fewer[-1, 0]), float(found[(len(fewer) - 1) * 7 :, 0].min()))
