import unittest
from fractions import Fraction

import numpy as np

from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality, Shutter, blur_instants
from wrinkle.core.picture.placement import Matrix, Pose, frame_corners, pose_matrix, translation
from wrinkle.core.picture.resample import resample

FRAME = Fraction(1, 30)
SIZE = Size(240, 60)


def blurred_matrices(  # type: ignore[no-untyped-def]
    matrix_at, time: Fraction, shutter: Shutter, size: Size, quality: Quality
) -> list[Matrix]:
    """The placements at the instants that the way of a frame's corners needs."""

    def corners(instant: Fraction):  # type: ignore[no-untyped-def]
        return frame_corners(matrix_at(instant), size)

    return [matrix_at(x) for x in blur_instants(corners, time, shutter, quality)]


def slide(pixels_a_frame: float):
    def matrix(time: Fraction) -> Matrix:
        return translation(pixels_a_frame * float(time / FRAME), 0.0)

    return matrix


class MotionBlur(unittest.TestCase):
    def test_a_bar_leaves_a_ramp_as_wide_as_its_way_and_keeps_its_light(self) -> None:
        # A bar moving v px a frame at shutter angle a leaves a ramp v a / 360 px wide.
        bar = np.zeros((60, 240, 4), np.float32)
        bar[:, 100:140] = 1.0
        for speed, angle in ((24.0, 180.0), (24.0, 360.0), (30.0, 90.0), (12.0, 720.0)):
            with self.subTest(speed=speed, angle=angle):
                shutter = Shutter(angle, FRAME)
                moves = blurred_matrices(slide(speed), Fraction(0), shutter, SIZE, Quality.FINAL)
                row = resample(Image(bar), moves, SIZE, EdgeCover.BARE).pixels[30, :, 0]
                width = speed * angle / 360.0
                ramp = row[60:120]
                self.assertAlmostEqual(float(row.sum()), 40.0, delta=1e-2)
                self.assertAlmostEqual(float(((ramp > 0.02) & (ramp < 0.98)).sum()), width, delta=3)
                # Centred on the frame: half of the ramp on each side of the edge.
                self.assertAlmostEqual(float(ramp.sum()), 20.0, delta=0.1)

    def test_what_stands_still_or_an_instant_costs_one_sample(self) -> None:
        for move, angle in ((slide(0.0), 180.0), (slide(50.0), 0.0)):
            shutter = Shutter(angle, FRAME)
            moves = blurred_matrices(move, Fraction(0), shutter, SIZE, Quality.FINAL)
            self.assertEqual(len(moves), 1)

    def test_what_lies_where_no_number_reaches_costs_one_sample(self) -> None:
        # Found by the search: a lane and a formula that overflow together.
        for value in (np.nan, np.inf):
            found = blur_instants(
                lambda time, value=value: np.full((4, 2), value * (1.0 + float(time))),  # type: ignore[misc]
                Fraction(1, 60), Shutter(180.0, FRAME), Quality.FINAL,
            )  # fmt: skip
            self.assertEqual(found, [Fraction(1, 60)])

    def test_more_way_takes_more_samples_and_final_more_than_preview(self) -> None:
        def count(speed: float, quality: Quality) -> int:
            shutter = Shutter(180.0, FRAME)
            return len(blurred_matrices(slide(speed), Fraction(0), shutter, SIZE, quality))

        for quality, least, most in ((Quality.PREVIEW, 2, 32), (Quality.FINAL, 4, 96)):
            counts = [count(speed, quality) for speed in (2, 60, 180, 5000)]
            self.assertEqual(counts, sorted(counts))
            # The blur of 1 px takes two samples in a preview: four look the same.
            self.assertEqual((counts[0], counts[-1]), (least, most))
        self.assertGreater(count(120, Quality.FINAL), count(120, Quality.PREVIEW))

    def test_enough_samples_look_like_very_many(self) -> None:
        dice = np.random.default_rng(3)
        size = Size(135, 240)
        rough = dice.random((240, 135, 4), dtype=np.float32)
        rough[..., 3] = 1.0
        picture = Image(rough, Light.LINEAR, True)

        def turn(time: Fraction) -> Matrix:
            return pose_matrix(Pose(rotation=20.0 * float(time / FRAME)), size)

        shutter = Shutter(180.0, FRAME)
        few = blurred_matrices(turn, Fraction(0), shutter, size, Quality.FINAL)
        many = [turn(instant) for instant in shutter.instants(Fraction(0), 256)]
        found = resample(picture, few, size, EdgeCover.MIRROR).to_bytes8().astype(float)
        expected = resample(picture, many, size, EdgeCover.MIRROR).to_bytes8().astype(float)
        self.assertLess(float(np.sqrt(np.mean((found - expected) ** 2))), 4.0)
