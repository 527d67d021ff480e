"""Scopes against plain counting, and against the formulas of the library colour-science."""

import unittest

import colour
import numpy as np

from wrinkle.core.measure import scopes


class Scopes(unittest.TestCase):
    def setUp(self) -> None:
        dice = np.random.default_rng(11)
        self.pixels = dice.integers(0, 256, (37, 61, 3), np.uint8)
        # Source: ITU-R BT.709 as colour-science has it, full range.
        shape = self.pixels.reshape(-1, 3) / 255.0
        weights = colour.WEIGHTS_YCBCR["ITU-R BT.709"]
        found = colour.RGB_to_YCbCr(
            shape, weights, in_bits=8, out_bits=8, in_legal=False, out_legal=False
        )
        self.ycc = found.reshape(37, 61, 3)

    def test_brightness_and_colour_are_those_of_the_standard(self) -> None:
        np.testing.assert_allclose(
            scopes.brightness(self.pixels), self.ycc[..., 0] * 255.0, atol=0.01
        )
        across, up = scopes.colour_difference(self.pixels)
        np.testing.assert_allclose(across, self.ycc[..., 1], atol=1e-4)
        np.testing.assert_allclose(up, self.ycc[..., 2], atol=1e-4)

    def test_each_pixel_is_counted_where_it_belongs(self) -> None:
        levels = np.rint(self.ycc[..., 0] * 255.0).astype(int)
        wanted = np.zeros((256, 20), int)
        colours = np.zeros((256, 256), int)
        reds = np.zeros((256, 20), int)
        for y in range(37):
            for x in range(61):
                wanted[levels[y, x], x * 20 // 61] += 1
                reds[self.pixels[y, x, 0], x * 20 // 61] += 1
                blue, red = self.ycc[y, x, 1:] * 255.0 + 128.0
                colours[round(min(red, 255.0)), round(min(blue, 255.0))] += 1
        near = np.abs(scopes.waveform(self.pixels, 20) - wanted).sum()
        # Halves may be rounded to either side.
        self.assertLessEqual(near, 4)
        np.testing.assert_array_equal(scopes.parade(self.pixels, 20)[0], reds)
        self.assertLessEqual(np.abs(scopes.vectorscope(self.pixels) - colours).sum(), 16)
        counts = scopes.histogram(self.pixels)
        for channel in range(3):
            wanted_row = np.histogram(self.pixels[..., channel], bins=256, range=(0, 256))[0]
            np.testing.assert_array_equal(counts[channel + 1], wanted_row)
        self.assertEqual([int(x.sum()) for x in counts], [37 * 61] * 4)

    def test_grey_stands_in_the_middle_and_primaries_where_they_should(self) -> None:
        grey = np.full((4, 4, 3), 90, np.uint8)
        self.assertEqual(int(scopes.vectorscope(grey)[128, 128]), 16)
        for rgb, (across, up) in (
            ((255, 0, 0), (-0.1146, 0.5)), ((0, 255, 0), (-0.3854, -0.4542)),
            ((0, 0, 255), (0.5, -0.0458)),
        ):  # fmt: skip
            one = np.array([[rgb]], np.uint8)
            found = [float(x[0, 0]) for x in scopes.colour_difference(one)]
            # ITU-R BT.709-6, 3.3, worked out by hand from 0.2126, 0.7152 and 0.0722.
            np.testing.assert_allclose(found, (across, up), atol=2e-4)


if __name__ == "__main__":
    unittest.main()
