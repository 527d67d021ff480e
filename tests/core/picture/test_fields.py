"""Gaussian blur, noise and gradients against outside references."""

import unittest

import numpy as np
from scipy import ndimage

from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.gradient import Fill, FillForm, gradient
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.noise import Noise, noise_field, perlin


class GaussianBlur(unittest.TestCase):
    def test_it_is_scipys(self) -> None:
        picture = np.random.default_rng(1).random((160, 120)).astype(np.float32)
        for sigma in (0.7, 2.0, 5.0, 9.0, 17.0, 40.0):
            wanted = ndimage.gaussian_filter(
                picture.astype(np.float64), sigma, mode="reflect", truncate=6
            )
            found = gaussian(picture, sigma)
            self.assertLess(float(np.abs(found - wanted).max()), 4e-3, sigma)
            away = gaussian(picture, sigma, loosely=True) - wanted
            self.assertLess(float(np.abs(away).max()), 2e-2, sigma)
            self.assertLess(float(np.sqrt(np.mean(away**2))), 3e-3, sigma)

    def test_at_rest_it_is_the_same_picture_and_the_input_is_untouched(self) -> None:
        picture = np.random.default_rng(2).random((7, 5, 4)).astype(np.float32)
        before = picture.copy()
        self.assertIs(gaussian(picture, 0.0), picture)
        gaussian(picture, 30.0)
        np.testing.assert_array_equal(picture, before)
        one = np.ones((1, 1), np.float32)
        np.testing.assert_allclose(gaussian(one, 50.0), one, atol=1e-6)


def _perlin_point(x: float, y: float, z: float, table: list[int]) -> float:
    """Ken Perlin's reference implementation of 2002, point by point."""

    def fade(t: float) -> float:
        return t * t * t * (t * (t * 6 - 15) + 10)

    def grad(code: int, x: float, y: float, z: float) -> float:
        code &= 15
        u = x if code < 8 else y
        v = y if code < 4 else (x if code in (12, 14) else z)
        return (u if code & 1 == 0 else -u) + (v if code & 2 == 0 else -v)

    def lerp(t: float, a: float, b: float) -> float:
        return a + t * (b - a)

    p = table * 2
    cx, cy, cz = int(x // 1) & 255, int(y // 1) & 255, int(z // 1) & 255
    x, y, z = x % 1, y % 1, z % 1
    u, v, w = fade(x), fade(y), fade(z)
    a, b = p[cx] + cy, p[cx + 1] + cy
    aa, ab, ba, bb = p[a] + cz, p[a + 1] + cz, p[b] + cz, p[b + 1] + cz
    return lerp(
        w,
        lerp(
            v,
            lerp(u, grad(p[aa], x, y, z), grad(p[ba], x - 1, y, z)),
            lerp(u, grad(p[ab], x, y - 1, z), grad(p[bb], x - 1, y - 1, z)),
        ),
        lerp(
            v,
            lerp(u, grad(p[aa + 1], x, y, z - 1), grad(p[ba + 1], x - 1, y, z - 1)),
            lerp(u, grad(p[ab + 1], x, y - 1, z - 1), grad(p[bb + 1], x - 1, y - 1, z - 1)),
        ),
    )


class GradientNoise(unittest.TestCase):
    def test_it_is_the_published_noise(self) -> None:
        # Perlin, "Improving Noise", 2002; the value at (3.14, 42, 7) of its reference is
        # 0.13691995878400012 (from memory).
        self.assertAlmostEqual(
            float(perlin(np.array([3.14]), np.array([42.0]), 7.0)[0, 0]), 0.136919958784, places=6
        )
        from wrinkle.core.picture import noise

        table = [int(n) for n in noise.PERMUTATION]
        x, y = np.linspace(-3.3, 9.7, 23), np.linspace(-5.1, 4.2, 17)
        for z in (-1.3, 0.0, 2.6):
            field = perlin(x, y, z)
            for row in range(0, 17, 4):
                for column in range(0, 23, 3):
                    wanted = _perlin_point(x[column], y[row], z, table)
                    self.assertAlmostEqual(float(field[row, column]), wanted, places=5)

    def test_it_loops_is_seeded_and_independent_of_the_size(self) -> None:
        big, small = Size(160, 120), Size(80, 60)
        noise = Noise((60.0, 40.0), 3.0, 1.25, seed=5, loop=4)
        later = Noise((60.0, 40.0), 3.0, 5.25, seed=5, loop=4)
        field = noise_field(noise, big)
        np.testing.assert_allclose(field, noise_field(later, big), atol=1e-5)
        other = noise_field(Noise((60.0, 40.0), 3.0, 1.25, seed=6, loop=4), big)
        self.assertLess(abs(float(np.corrcoef(field.ravel(), other.ravel())[0, 1])), 0.3)
        half = noise_field(Noise((30.0, 20.0), 3.0, 1.25, seed=5, loop=4), small)
        means = field.reshape(60, 2, 80, 2).mean(axis=(1, 3))
        self.assertLess(float(np.abs(means - half).max()), 0.03)


class Gradients(unittest.TestCase):
    def test_colours_are_mixed_in_light_between_the_ends(self) -> None:
        black, white, red = (0.0, 0.0, 0.0), (1.0, 1.0, 1.0), (1.0, 0.0, 0.0)
        size = Size(11, 21)
        across = gradient(Fill(FillForm.LINEAR, (black, white), (0.0, 0.5), (1.0, 0.5)), size)
        np.testing.assert_allclose(across.pixels[3, :, 1], (np.arange(11) + 0.5) / 11, atol=1e-6)
        round_ = gradient(Fill(FillForm.RADIAL, (white, black), (0.5, 0.5), (1.0, 0.5)), size)
        self.assertAlmostEqual(float(round_.pixels[10, 5, 0]), 1.0, places=5)
        self.assertEqual(float(round_.pixels[0, 5, 0]), 0.0)
        four = gradient(Fill(FillForm.CORNERS, (black, white, red, red)), size).pixels
        np.testing.assert_allclose(four[10, 5, :3], (0.75, 0.25, 0.25), atol=1e-6)
