"""CIE Lab against colour-science."""

import unittest

import colour
import numpy as np

from wrinkle.core.picture.lab import lab, shifted


class Lab(unittest.TestCase):
    def setUp(self) -> None:
        dice = np.random.default_rng(3)
        self.colours = dice.random((40, 30, 3)).astype(np.float32)
        self.colours[:4] *= np.float32(0.02)  # the straight pieces near black

    def test_it_is_that_of_colour_science(self) -> None:
        d65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        xyz = colour.sRGB_to_XYZ(self.colours)
        found = lab(self.colours)
        # The published matrix is rounded to four digits, and the white with it.
        self.assertLess(float(np.abs(found - colour.XYZ_to_Lab(xyz, d65)).max()), 0.05)
        greys = np.linspace(0.0, 1.0, 90, dtype=np.float32)
        found = lab(np.stack([greys] * 3, axis=-1)[None])
        np.testing.assert_allclose(found[..., 1:], 0.0, atol=1e-3)

    def test_it_is_scaled_and_shifted_and_comes_back(self) -> None:
        alpha = np.linspace(0.0, 1.0, 30, dtype=np.float32)[None, :, None].repeat(40, axis=0)
        pixels = np.concatenate((self.colours * alpha, alpha), axis=-1)
        np.testing.assert_allclose(
            shifted(pixels, np.ones((3, 3)), np.zeros((3, 3))), pixels, atol=1e-4
        )
        # The dark tones become lighter by 40 and all lose their colour.
        scales, shifts = np.array([(1.0,) * 3, (0.0,) * 3, (0.0,) * 3]), np.zeros((3, 3))
        shifts[0, 0] = 40.0
        found = shifted(pixels, scales, shifts)[..., :3] / np.maximum(alpha, 1e-6)
        light = lab(self.colours)[..., :1]
        wanted = np.minimum(light + 40.0 * (1.0 - light / 100.0) ** 2, 100.0)
        seen = alpha[0, :, 0] > 0.01
        np.testing.assert_allclose(lab(found)[:, seen, :1], wanted[:, seen], atol=0.02)
        self.assertLess(float(np.ptp(found[:, seen], axis=-1).max()), 1e-3)
