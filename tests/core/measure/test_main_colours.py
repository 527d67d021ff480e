"""The main colours of pictures whose colours are known."""

import unittest

import numpy as np

from wrinkle.core.measure.main_colours import main_colours


class MainColours(unittest.TestCase):
    def test_plain_fields_give_their_own_colours_the_largest_first(self) -> None:
        picture = np.zeros((60, 100, 3), np.uint8)
        fields = (
            ((200, 40, 30), 45),
            ((20, 90, 160), 25),
            ((240, 220, 60), 20),
            ((10, 10, 10), 10),
        )
        left = 0
        for colour, width in fields:
            picture[:, left : left + width] = colour
            left += width
        dice = np.random.default_rng(2)
        noisy = np.clip(picture + dice.normal(0.0, 3.0, picture.shape), 0, 255).astype(np.uint8)
        found = main_colours([noisy], 4)
        self.assertEqual(found.shape, (4, 3))
        for one, (colour, _) in zip(found, fields, strict=True):
            self.assertLess(np.abs(one.astype(int) - colour).max(), 14)
        np.testing.assert_array_equal(main_colours([noisy], 4), found)

    def test_no_more_are_found_than_there_are(self) -> None:
        self.assertEqual(main_colours([], 5).shape, (0, 3))
        grey = np.full((8, 8, 3), 120, np.uint8)
        np.testing.assert_array_equal(main_colours([grey, grey], 5), [(120, 120, 120)])


if __name__ == "__main__":
    unittest.main()
