"""Outlines and their raster, against formulas."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.picture.outlines import bounds
from wrinkle.core.errors import InputError
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import rotation, scaling, translation
from wrinkle.core.picture.vector import Cap, Contour, Drawing, Stroke, coverage, painted

SIZE = Size(200, 120)
CIRCLE = paths.ellipse(100.3, 59.7, 40.0, 40.0)


def area(outline: paths.Outline, grow: float = 0.0) -> float:
    return float(coverage([paths.flattened(outline, True)], SIZE, grow).sum())


class Outlines(unittest.TestCase):
    def test_areas_are_those_of_the_formulas(self) -> None:
        self.assertAlmostEqual(area(CIRCLE) / (math.pi * 1600), 1.0, delta=2e-3)
        self.assertAlmostEqual(area(paths.rectangle(10.25, 10, 60.75, 50)), 50.5 * 40, delta=2.0)
        six = paths.regular_polygon(100, 60, 40, 40, 6)
        self.assertAlmostEqual(area(six) / (1.5 * math.sqrt(3) * 1600), 1.0, delta=2e-3)

    def test_expansion_moves_the_edge_by_exactly_its_length(self) -> None:
        for grow in (-15.0, -0.5, 0.5, 7.25, 15.0):
            wanted = math.pi * (40.0 + grow) ** 2
            self.assertAlmostEqual(area(CIRCLE, grow) / wanted, 1.0, delta=6e-3, msg=str(grow))

    def test_a_transform_moves_the_centroid_as_the_matrix_does(self) -> None:
        matrix = translation(110, 50) @ rotation(33) @ scaling(1.2, 0.5) @ translation(-100, -60)
        shape = paths.rectangle(80, 45, 120, 75)
        seen = coverage([paths.flattened(paths.transformed(shape, matrix), True)], SIZE)
        rows, columns = np.mgrid[0:120, 0:200] + 0.5
        middle = np.array([(seen * columns).sum(), (seen * rows).sum()]) / seen.sum()
        np.testing.assert_allclose(middle, (matrix @ (100, 60, 1))[:2], atol=0.02)

    @settings(deadline=None, max_examples=25)
    @given(st.integers(0, 3), st.floats(0.05, 0.95))
    def test_a_point_put_into_a_curve_changes_no_form(self, segment: int, share: float) -> None:
        more = paths.inserted(CIRCLE, segment, share)
        self.assertEqual(len(paths.knots(more)), 5)
        away = [paths.nearest(CIRCLE, True, x, y).distance for x, y in paths.flattened(more, True)]
        self.assertLess(max(away), 0.02)

    def test_points_are_removed_and_turned_from_corner_to_smooth(self) -> None:
        square = paths.rectangle(0, 0, 6, 6)
        self.assertTrue(all(knot.corner for knot in paths.knots(square)))
        smooth = paths.knots(paths.smoothed(square, 1))[1]
        self.assertEqual(smooth, paths.Knot(6, 0, -1, -1, 1, 1))
        again = paths.cornered(paths.smoothed(square, 1), 1)
        self.assertEqual(again, square)
        two = paths.removed(paths.removed(square, 0), 0)
        with self.assertRaisesRegex(InputError, "at least two points"):
            paths.removed(two, 0)
        with self.assertRaisesRegex(InputError, "six numbers"):
            paths.knots((1.0, 2.0))

    def test_the_nearest_place_on_a_circle(self) -> None:
        found = paths.nearest(CIRCLE, True, 100.3 + 50, 59.7)
        self.assertAlmostEqual(found.distance, 10.0, delta=0.02)
        left, top, right, bottom = bounds(CIRCLE)
        np.testing.assert_allclose((left, top, right, bottom), (60.3, 19.7, 140.3, 99.7), atol=0.05)


class Drawings(unittest.TestCase):
    def test_a_stroke_is_as_wide_as_it_says_and_shows_the_asked_part(self) -> None:
        line = (Contour(paths.polygon(((20, 60), (180, 60))), closed=False),)
        for start, end, seen in ((0.0, 1.0, 160.0), (0.25, 0.75, 80.0), (0.5, 0.5, 0.0)):
            stroke = Stroke(10.0, (1.0, 1.0, 1.0), Cap.BUTT, start=start, end=end)
            alpha = painted(Drawing(line, None, stroke), SIZE).pixels[..., 3]
            self.assertAlmostEqual(float(alpha.sum()), seen * 10.0, delta=4.0)
        dashed = Stroke(10.0, (1.0, 1.0, 1.0), Cap.BUTT, dash=(10.0, 30.0))
        alpha = painted(Drawing(line, None, dashed), SIZE).pixels[..., 3]
        self.assertAlmostEqual(float(alpha.sum()), 160.0 * 10.0 / 4, delta=2.0)

    def test_overlapping_contours_leave_a_hole(self) -> None:
        ring = Drawing(
            (Contour(CIRCLE), Contour(paths.ellipse(100.3, 59.7, 20, 20))), (2.0, 0.5, 0.0), None
        )
        picture = painted(ring, SIZE).pixels
        self.assertAlmostEqual(float(picture[..., 3].sum()), math.pi * 1200, delta=10.0)
        # Colours are linear light and may exceed one; alpha is premultiplied.
        self.assertAlmostEqual(float(picture[60, 130, 0]), 2.0, delta=0.02)
        self.assertEqual(float(picture[60, 100, 3]), 0.0)
