"""Masks: feather, expansion, inversion and how several meet."""

import math
import unittest

import numpy as np

from wrinkle.core.mask.coverage import Combine, MaskShape, mask_plane, shape_coverage
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import Pose, frame_corners, pose_matrix
from wrinkle.core.picture.resample import moved_plane

SIZE = Size(160, 240)
LEFT_HALF = paths.rectangle(-2.0, -2.0, 0.5, 3.0)
CIRCLE = paths.ellipse(0.5, 0.5, 0.25, 0.25 * 160 / 240)


def seen(*shapes: MaskShape) -> np.ndarray:
    plane = mask_plane([(shape, None) for shape in shapes], SIZE)
    return moved_plane(plane, np.eye(3), SIZE)


class Coverage(unittest.TestCase):
    def test_a_feather_keeps_the_area_of_a_straight_edge_and_is_as_wide_as_it_says(self) -> None:
        for feather in (0.0, 10.0, 40.0, 120.0):
            values = seen(MaskShape(LEFT_HALF, feather=feather))
            self.assertAlmostEqual(float(values.mean()), 0.5, delta=2e-3, msg=str(feather))
        # Four standard deviations: 2.3 % is left at either end of the fade (normal distribution).
        row = seen(MaskShape(LEFT_HALF, feather=40.0))[120]
        for place, wanted in ((60, 0.977), (80, 0.5), (100, 0.023)):
            self.assertAlmostEqual(float(row[place - 1] + row[place]) / 2, wanted, delta=4e-3)

    def test_expansion_moves_a_straight_edge_by_its_length(self) -> None:
        for grow in (-20.0, 3.5, 20.0):
            values = seen(MaskShape(LEFT_HALF, expansion=grow))
            self.assertAlmostEqual(float(values[120].sum()), 80.0 + grow, delta=0.05)

    def test_a_wide_feather_with_a_negative_expansion_fades_inside_its_path(self) -> None:
        # Common practice: feather 120 px and expansion -100 px are nothing at the path itself.
        big = Size(540, 960)
        circle = paths.ellipse(0.5, 0.5, 0.5, 0.5 * 540 / 960)
        shape = MaskShape(circle, feather=120.0, expansion=-100.0)
        values = shape_coverage(shape, big, big)
        self.assertLess(float(values[480, :3].max()), 1e-3)
        self.assertLess(float(values[480, 20]), 5e-3)
        self.assertGreater(float(values[480, 270]), 0.999)
        larger = shape_coverage(MaskShape(circle, feather=1200.0), big, big)
        self.assertTrue(np.isfinite(larger).all())

    def test_as_much_room_as_the_looks_reach_shows_the_same(self) -> None:
        shape = MaskShape(paths.ellipse(0.1, 0.5, 0.4, 0.3), feather=12.0)
        smaller = pose_matrix(Pose(rotation=4.0, scale=(85.0, 85.0)), SIZE)
        corners = frame_corners(np.linalg.inv(smaller), SIZE)
        left, top = np.ceil(-corners.min(axis=0)).astype(int).tolist()
        whole, narrow = (
            moved_plane(mask_plane([(shape, None)], SIZE, around), smaller, SIZE)
            for around in (None, (left, top))
        )
        np.testing.assert_allclose(narrow, whole, atol=4e-3)
        # And less of it does not: the ellipse goes on beyond the frame.
        cut = moved_plane(mask_plane([(shape, None)], SIZE, (0, 0)), smaller, SIZE)
        self.assertGreater(float(np.abs(cut - whole).max()), 0.05)

    def test_masks_meet_as_their_names_say(self) -> None:
        two = paths.rectangle(0.25, -1.0, 2.0, 2.0)
        a, b = seen(MaskShape(LEFT_HALF)), seen(MaskShape(two))
        for how, wanted in (
            (Combine.ADD, np.maximum(a, b)),
            (Combine.SUBTRACT, a * (1 - b)),
            (Combine.INTERSECT, a * b),
            (Combine.DIFFERENCE, abs(a - b)),
        ):
            found = seen(MaskShape(LEFT_HALF), MaskShape(two, combine=how))
            np.testing.assert_allclose(found, wanted, atol=1e-6, err_msg=how.value)
        first = seen(MaskShape(LEFT_HALF, combine=Combine.SUBTRACT))
        np.testing.assert_allclose(first, 1 - a, atol=1e-6)

    def test_inversion_and_opacity(self) -> None:
        whole = seen(MaskShape(CIRCLE))
        np.testing.assert_allclose(seen(MaskShape(CIRCLE, inverted=True)), 1 - whole, atol=1e-6)
        faint = seen(MaskShape(CIRCLE, opacity=0.25))
        np.testing.assert_allclose(faint, whole * 0.25, atol=1e-6)

    def test_a_ring_of_two_feathered_ellipses(self) -> None:
        inner = paths.ellipse(0.5, 0.5, 0.15, 0.1)
        ring = seen(
            MaskShape(CIRCLE, feather=8.0),
            MaskShape(inner, combine=Combine.SUBTRACT, feather=8.0),
        )
        self.assertLess(float(ring[120, 80]), 0.01)
        wanted = math.pi * (40.0**2 - 24.0**2)
        self.assertAlmostEqual(float(ring.sum()) / wanted, 1.0, delta=0.03)

    def test_painted_coverage_takes_the_place_of_the_path_and_can_grow(self) -> None:
        painted = np.zeros((240, 160), np.float32)
        rows, columns = np.mgrid[0:240, 0:160]
        painted[np.hypot(rows - 120, columns - 80) < 40] = 1.0
        for grow in (0.0, 6.0, -6.0):
            plane = mask_plane([(MaskShape(CIRCLE, expansion=grow), painted)], SIZE)
            found = float(moved_plane(plane, np.eye(3), SIZE).sum())
            self.assertAlmostEqual(found / (math.pi * (40 + grow) ** 2), 1.0, delta=0.02)
