"""Moving pictures of tiles are small in memory and look like what they were made of."""

import unittest

import numpy as np

from tests.ui.window_case import application
from wrinkle.library.shelf import Shelves
from wrinkle.library.shipped_tiles import shipped_tile
from wrinkle.ui.choosing.tile_strip import NOTHING, TileStrip, read_already, shipped_strip
from wrinkle.ui.shared.qimages import pixels_of


class Strips(unittest.TestCase):
    def test_each_picture_is_as_it_was_in_a_quarter_of_the_memory(self) -> None:
        application()
        one = next(x for x in Shelves().all() if x.shipped)
        pictures = shipped_tile(one)
        strip = shipped_strip(one)
        self.assertEqual(len(strip), len(pictures))
        self.assertLess(strip.nbytes, sum(x.nbytes for x in pictures) / 4)
        for shown, wanted in zip(strip, pictures, strict=True):
            apart = np.abs(pixels_of(shown).astype(int) - wanted.astype(int))
            self.assertLess(apart.mean(), 2.0)
        # All who show it share it.
        self.assertIs(read_already(one), strip)

    def test_of_nothing_there_is_nothing(self) -> None:
        self.assertEqual(list(TileStrip()), [])
        self.assertFalse(NOTHING)
