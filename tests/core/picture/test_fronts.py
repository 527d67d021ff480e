"""Fronts, cells and strokes: the fields that stand still under paint, ink and rust."""

import unittest

import numpy as np
from scipy import ndimage
from scipy.spatial import cKDTree

from wrinkle.core.picture.arrival import arrival, even_levels
from wrinkle.core.picture.bent_noise import noise_at
from wrinkle.core.picture.brushwork import Brushwork, strokes
from wrinkle.core.picture.cells import scattered
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.ramps import least_jerk


class Arrival(unittest.TestCase):
    def test_in_an_even_medium_a_front_comes_as_far_as_it_has_time(self) -> None:
        starts = [(20, 10), (5, 60)]
        found = arrival(np.full((48, 80), 0.5), [(*spot, 0.0) for spot in starts])
        # Reference: the Euclidean distance, as SciPy computes it; ways along sixteen directions
        # are at most 2.8 % longer (1 / cos of half the angle between two of them).
        ground = np.ones((48, 80), bool)
        for spot in starts:
            ground[spot] = False
        wanted = 0.5 * ndimage.distance_transform_edt(ground)
        self.assertTrue((found >= wanted - 1e-4).all())
        self.assertTrue((found <= wanted * 1.028 + 1e-4).all())

    def test_a_late_start_waits_and_a_wall_is_gone_around(self) -> None:
        cost = np.ones((21, 41))
        cost[:15, 19:22] = 1e6
        found = arrival(cost, [(0, 0, 3.0)])
        self.assertAlmostEqual(float(found[0, 0]), 3.0, delta=1e-4)
        around = 3.0 + 2 * np.hypot(15, 20)
        self.assertAlmostEqual(float(found[0, 40]), around, delta=0.06 * around)

    def test_below_each_level_lies_its_share(self) -> None:
        times = np.random.default_rng(2).gamma(2.0, size=(60, 90)).astype(np.float32)
        levels = even_levels(times)
        self.assertTrue((np.diff(levels) > 0).all())
        for share in (0.1, 0.5, 0.9):
            level = np.interp(share, np.linspace(0, 1, len(levels)), levels)
            self.assertAlmostEqual(float((times < level).mean()), share, delta=0.01)


class Scattered(unittest.TestCase):
    def test_the_nearest_point_is_told_for_every_pixel(self) -> None:
        size, cell = Size(90, 70), 14.0
        cells = scattered(size, cell, 5, (45.0, 35.0))
        places = np.stack([cells.x, cells.y], axis=-1).reshape(-1, 2)
        points = np.unique(places, axis=0)
        # About one point for each square of the lattice.
        self.assertAlmostEqual(len(points), 90 * 70 / cell**2, delta=22)
        y, x = np.mgrid[0 : size.height, 0 : size.width] + 0.5
        # Reference: SciPy's k-d tree.
        near, _ = cKDTree(points).query(np.stack([x.ravel(), y.ravel()], axis=1))
        np.testing.assert_allclose(cells.near.ravel() * cell, near, atol=1.2)
        own = np.hypot(places[:, 0] - x.ravel(), places[:, 1] - y.ravel())
        np.testing.assert_allclose(own, near, atol=1.2)

    def test_the_pattern_hangs_on_the_middle_and_the_seed_alone(self) -> None:
        small = scattered(Size(40, 40), 10.0, 3, (20.0, 20.0))
        large = scattered(Size(80, 80), 10.0, 3, (40.0, 40.0))
        np.testing.assert_array_equal(small.chance, large.chance[20:60, 20:60])
        other = scattered(Size(40, 40), 10.0, 4, (20.0, 20.0))
        self.assertGreater(float((small.chance != other.chance).mean()), 0.9)


class Strokes(unittest.TestCase):
    def test_a_hand_moves_with_the_least_jerk(self) -> None:
        # Reference: Flash and Hogan 1985, equation 3: 10 t³ - 15 t⁴ + 6 t⁵.
        for t in (0.0, 0.2, 0.5, 0.77, 1.0):
            self.assertAlmostEqual(least_jerk(t), 10 * t**3 - 15 * t**4 + 6 * t**5, places=12)
        self.assertEqual((least_jerk(-1.0), least_jerk(2.0)), (0.0, 1.0))

    def test_strokes_run_there_and_back_and_cover_the_frame(self) -> None:
        size = Size(108, 192)
        work = Brushwork(size, (54.0, 96.0), (108.0, 192.0), 4, 10.0, 0.8, 30.0, 0.8, 2)
        drawn = strokes(work)
        covered = np.zeros((192, 108), bool)
        for number, stroke in enumerate(drawn):
            covered[stroke.rows] |= stroke.load > -1.0
            middle = (stroke.rows.stop - stroke.rows.start) // 2
            runs = stroke.along[middle, 90] - stroke.along[middle, 18]
            self.assertGreater(runs * (1 if number % 2 == 0 else -1), 0.0)
        self.assertGreater(float(covered.mean()), 0.98)

    def test_noise_at_straight_coordinates_has_no_seam_and_its_own_seed(self) -> None:
        y, x = np.mgrid[0:60, 0:60].astype(np.float32) / 20.0
        one, other = noise_at(x, y, 1), noise_at(x, y, 2)
        self.assertLess(float(np.abs(np.diff(one, axis=1)).max()), 0.3)
        self.assertGreater(float(np.abs(one - other).mean()), 0.1)


if __name__ == "__main__":
    unittest.main()
