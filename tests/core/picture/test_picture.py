"""Images, transfer, placement, resampling, compositing: against outside references."""

import math
import unittest
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import colour
import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy import ndimage

from wrinkle.core.errors import InputError
from wrinkle.core.picture import transfer
from wrinkle.core.picture.compositing import source_over
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.image import Image, Light, Size, blank, from_bytes8
from wrinkle.core.picture.placement import IDENTITY, Pose, pose_matrix, scaling, translation
from wrinkle.core.picture.resample import resample

DICE = np.random.default_rng(7)
SHAPES = [(1, 1), (1, 9), (7, 5), (33, 50), (90, 51)]


def random_image(height: int, width: int, opaque: bool = False) -> Image:
    pixels = DICE.random((height, width, 4), dtype=np.float32)
    if opaque:
        pixels[..., 3] = 1.0
    pixels[..., :3] *= pixels[..., 3:]
    return Image(pixels, Light.LINEAR, opaque)


class Transfer(unittest.TestCase):
    def test_levels_of_a_clip_are_the_same_in_either_light_and_of_no_other_picture(self) -> None:
        levels = np.random.default_rng(3).integers(0, 256, (9, 7, 3), np.uint8)
        image = from_bytes8(levels)
        encoded = image.in_light(Light.ENCODED)
        np.testing.assert_allclose(encoded.pixels[..., :3], levels / 255.0, atol=1e-7)
        self.assertEqual((encoded.opaque, float(encoded.pixels[..., 3].min())), (True, 1.0))
        np.testing.assert_array_equal(image.to_bytes8()[..., :3], levels)
        darker = replace(image, pixels=image.pixels * np.float32(0.5))
        wanted = Image(darker.pixels, Light.LINEAR, True).to_bytes8()
        np.testing.assert_array_equal(darker.to_bytes8(), wanted)
        self.assertGreater(int(image.to_bytes8().max()), int(wanted[..., :3].max()))

    def test_both_directions_agree_with_colour_science(self) -> None:
        # IEC 61966-2-1 as colour-science has it.
        values = np.linspace(0.0, 1.0, 4099).astype(np.float32).reshape(1, -1)
        encoded = colour.models.eotf_inverse_sRGB(values.astype(np.float64))
        np.testing.assert_allclose(transfer.encode(values), encoded, atol=3e-7)
        decoded = colour.models.eotf_sRGB(values.astype(np.float64))
        np.testing.assert_allclose(transfer.decode(values), decoded, atol=3e-7)

    def test_eight_bits_come_back_exactly(self) -> None:
        levels = np.arange(256, dtype=np.uint8).reshape(16, 16, 1).repeat(3, axis=2)
        linear = Image(from_bytes8(levels).pixels, Light.LINEAR, True)
        np.testing.assert_array_equal(linear.to_bytes8()[..., :3], levels)

    def test_the_fast_way_out_is_within_a_level_of_the_exact_one(self) -> None:
        image = random_image(64, 64, opaque=True)
        exact = np.rint(transfer.encode(image.pixels)[..., :3] * 255.0)
        difference = image.to_bytes8()[..., :3].astype(int) - exact
        self.assertLessEqual(np.abs(difference).max(), 1)

    def test_states_change_and_change_back_with_alpha(self) -> None:
        for shape in SHAPES:
            image = random_image(*shape)
            image.pixels[0, 0] = 0.0
            back = image.in_light(Light.ENCODED).in_light(Light.LINEAR)
            np.testing.assert_allclose(back.pixels, image.pixels, atol=2e-6)
            self.assertIs(image.in_light(Light.LINEAR), image)


class Placing(unittest.TestCase):
    def test_sizes_that_cannot_be_are_refused(self) -> None:
        for text in ("0x0", "1080", "1080x", "-2x5", "99999x9", "axb"):
            with self.subTest(text), self.assertRaises(InputError):
                Size.parse(text)
        self.assertEqual(Size.parse(" 1080×1920 "), Size(1080, 1920))

    @given(st.floats(-720, 720), st.floats(1, 400), st.floats(-1, 1), st.floats(-60, 60))
    def test_the_anchor_stays_and_moves_by_the_position(
        self, turn: float, scale: float, move: float, skew: float
    ) -> None:
        size = Size(90, 160)
        pose = Pose((0.3, 0.6), (move, -move), (scale, scale / 2), skew, 20.0, turn)
        x, y, _ = pose_matrix(pose, size) @ [27.0, 96.0, 1.0]
        self.assertAlmostEqual(x, 27.0 + 90.0 * move, delta=1e-9)
        self.assertAlmostEqual(y, 96.0 - 160.0 * move, delta=1e-9)

    def test_positive_angles_turn_clockwise_and_full_turns_are_exact(self) -> None:
        size = Size(100, 100)
        x, y, _ = pose_matrix(Pose(rotation=90.0), size) @ [50.0, 0.0, 1.0]
        self.assertEqual((x, y), (100.0, 50.0))
        np.testing.assert_array_equal(pose_matrix(Pose(rotation=720.0), size), IDENTITY)

    def test_tilt_is_the_hand_worked_homography(self) -> None:
        # Worked by hand: camera 200 px away; a plane turned by 60 degrees has half its width and
        # sin 60 = 0.8660 of it in depth, which shrinks by d / (d + depth).
        size = Size(200, 100)
        upright = pose_matrix(Pose(tilt=(0.0, 60.0)), size)
        for x, expected in ((200.0, 100 + 50 / 1.4330127), (0.0, 100 - 50 / 0.5669873)):
            point = upright @ [x, 50.0, 1.0]
            self.assertAlmostEqual(point[0] / point[2], expected, delta=1e-5)
        level = pose_matrix(Pose(tilt=(60.0, 0.0)), size) @ [100.0, 0.0, 1.0]
        self.assertAlmostEqual(level[1] / level[2], 50 - 25 / 1.2165064, delta=1e-5)
        far = pose_matrix(Pose(tilt=(0.0, 60.0), camera=1e7), size) @ [200.0, 50.0, 1.0]
        self.assertAlmostEqual(far[0] / far[2], 150.0, delta=1e-2)

    def test_clips_of_another_shape_fill_the_frame(self) -> None:
        wide, upright = Size(1920, 1080), Size(1080, 1920)
        self.assertEqual(fitted_size(wide, upright, Fit.FILL), Size(3413, 1920))
        self.assertEqual(fitted_size(wide, upright, Fit.WHOLE), Size(1080, 608))
        self.assertEqual(fitted_size(wide, upright, Fit.STRETCH), upright)
        shown = fitted_size(wide, upright, Fit.FILL)
        matrix = fit_matrix(shown, wide, upright, Fit.FILL)
        np.testing.assert_array_equal(matrix, translation(-1167, 0))


SCIPY_MODES = {
    EdgeCover.BARE: "constant",
    EdgeCover.MIRROR: "reflect",
    EdgeCover.REPEAT: "grid-wrap",
    EdgeCover.STRETCH: "nearest",
}


class Resampling(unittest.TestCase):
    def reference(self, image: Image, matrix: np.ndarray, size: Size, cover: EdgeCover):
        """scipy.ndimage.map_coordinates, linear; bare pictures stand in a ring of nothing."""
        ys, xs = np.mgrid[0 : size.height, 0 : size.width] + 0.5
        spots = np.linalg.inv(matrix) @ np.stack([xs.ravel(), ys.ravel(), np.ones(xs.size)])
        ring = 2 if cover is EdgeCover.BARE else 0
        source = np.pad(image.pixels.astype(np.float64), ((ring, ring), (ring, ring), (0, 0)))
        where = [spots[1] / spots[2] - 0.5 + ring, spots[0] / spots[2] - 0.5 + ring]
        planes = [
            ndimage.map_coordinates(source[..., c], where, order=1, mode=SCIPY_MODES[cover])
            for c in range(4)
        ]
        return np.stack(planes, -1).reshape(size.height, size.width, 4)

    def test_one_move_agrees_with_scipy_for_every_edge_cover(self) -> None:
        poses = [
            Pose(rotation=33.0, scale=(80.0, 80.0)),
            Pose(rotation=-123.0, scale=(170.0, 60.0), position=(0.4, -0.3), skew=25.0),
            Pose(position=(1.7, 0.2)),
        ]
        for height, width in [(33, 50), (90, 51)]:
            image = random_image(height, width)
            for cover in EdgeCover:
                for pose in poses:
                    with self.subTest(cover=cover, pose=pose):
                        size = Size(width, height)
                        matrix = pose_matrix(pose, size)
                        found = resample(image, [matrix], size, cover).pixels
                        expected = self.reference(image, matrix, size, cover)
                        np.testing.assert_allclose(found, expected, atol=2e-4)

    def test_many_moves_are_the_average_of_each(self) -> None:
        image, size = random_image(90, 51, opaque=True), Size(51, 90)
        for cover in EdgeCover:
            turns = [pose_matrix(Pose(rotation=4.0 * n), size) for n in range(9)]
            found = resample(image, turns, size, cover).pixels
            each = np.mean([self.reference(image, m, size, cover) for m in turns], axis=0)
            np.testing.assert_allclose(found, each, atol=2e-4, err_msg=str(cover))

    def test_the_result_is_the_same_to_the_bit_on_any_threads_and_input_is_untouched(self) -> None:
        image, size = random_image(200, 120), Size(120, 200)
        before = image.pixels.copy()
        turns = [pose_matrix(Pose(rotation=7.0 * n), size) for n in range(5)]
        alone = resample(image, turns, size, EdgeCover.MIRROR).pixels
        with ThreadPoolExecutor(3) as pool:
            spread = resample(image, turns, size, EdgeCover.MIRROR, pool).pixels
        np.testing.assert_array_equal(alone, spread)
        np.testing.assert_array_equal(image.pixels, before)

    def test_what_does_not_move_is_the_picture_itself(self) -> None:
        for height, width in SHAPES:
            image = random_image(height, width)
            still = resample(image, [IDENTITY], Size(width, height), EdgeCover.MIRROR)
            self.assertIs(still, image)
        cut_out = resample(image, [translation(-10, -20)], Size(20, 30), EdgeCover.MIRROR)
        np.testing.assert_array_equal(cut_out.pixels, image.pixels[20:50, 10:30])

    def test_a_tilted_picture_agrees_with_scipy_and_ends_at_its_horizon(self) -> None:
        image, size = random_image(90, 51, opaque=True), Size(51, 90)
        matrix = pose_matrix(Pose(tilt=(25.0, -30.0), rotation=10.0), size)
        for cover in EdgeCover:
            found = resample(image, [matrix], size, cover)
            expected = self.reference(image, matrix, size, cover)
            np.testing.assert_allclose(found.pixels, expected, atol=3e-4, err_msg=str(cover))
            self.assertEqual(found.opaque, cover is not EdgeCover.BARE)
        steep = pose_matrix(Pose(tilt=(85.0, 0.0), camera=50.0), size)
        seen = resample(image, [steep], size, EdgeCover.MIRROR)
        self.assertFalse(seen.opaque)
        self.assertEqual(float(seen.pixels[0].max()), 0.0)
        self.assertEqual(float(seen.pixels[-1, :, 3].min()), 1.0)

    def test_a_pixel_on_the_horizon_itself_is_a_number(self) -> None:
        size = Size(27, 48)
        image = Image(np.ones((48, 27, 4), np.float32), Light.LINEAR, True)
        for above in (0.0, 1e-12, 4e-9, 1e-7, 1e-5):
            # The depth of the pixels of column 8, whose centres are at 8.5.
            inverse = np.array([[3.0, 1.0, -9.0], [9.0, 1.0, -50.0], [0.1, 0.0, above - 0.85]])
            for cover in EdgeCover:
                found = resample(image, [np.linalg.inv(inverse)], size, cover)
                self.assertTrue(np.isfinite(found.pixels).all(), (above, cover))

    def test_a_picture_shrunk_to_nothing_leaves_nothing(self) -> None:
        image, size = random_image(33, 50), Size(50, 33)
        gone = resample(image, [scaling(0.0, 1.0)], size, EdgeCover.BARE)
        self.assertEqual(float(gone.pixels.max()), 0.0)

    def test_tiling_stays_right_for_any_zoom_out(self) -> None:
        # SciPy at the same places; far out, the average colour of the tile is left.
        image = random_image(60, 48, opaque=True)
        size = Size(48, 60)
        for cover in (EdgeCover.MIRROR, EdgeCover.REPEAT):
            matrix = pose_matrix(Pose(scale=(55.0, 55.0), rotation=20.0), size)
            found = resample(image, [matrix], size, cover).pixels
            expected = self.reference(image, matrix, size, cover)
            np.testing.assert_allclose(found, expected, atol=2e-4)
            far = pose_matrix(Pose(scale=(1.5, 1.5), rotation=20.0), size)
            found = resample(image, [far], size, cover).pixels
            mean = image.pixels.mean(axis=(0, 1))
            self.assertLess(float(np.abs(found - mean).max()), 0.12, cover)

    def test_a_strong_shrink_looks_at_all_pixels(self) -> None:
        stripes = np.zeros((256, 256, 4), np.float32)
        stripes[:, ::4] = 1.0
        small = resample(Image(stripes), [scaling(0.125, 0.125)], Size(32, 32), EdgeCover.MIRROR)
        np.testing.assert_allclose(small.pixels[4:28, 4:28], 0.25, atol=0.02)

    def test_the_enlargement_that_covers_a_turned_frame(self) -> None:
        # Geometry: cos a + (long side / short side) sin a; 45 degrees at 16:9 = 1.964.
        self.assertAlmostEqual(math.cos(math.pi / 4) * (1 + 16 / 9), 1.964, places=3)
        size = Size(160, 90)
        white = Image(np.ones((90, 160, 4), np.float32), Light.LINEAR, True)
        for turn in (5.0, 45.0, 80.0):
            angle = math.radians(turn)
            cover = 100.0 * (math.cos(angle) + 16 / 9 * math.sin(angle))
            for share, bare in ((1.02, False), (0.97, True)):
                pose = Pose(rotation=turn, scale=(cover * share, cover * share))
                seen = resample(white, [pose_matrix(pose, size)], size, EdgeCover.BARE)
                self.assertEqual(float(seen.pixels[..., 3].min()) < 0.5, bare, (turn, share))


class Compositing(unittest.TestCase):
    def test_source_over_is_porter_and_duff(self) -> None:
        # Porter and Duff 1984: over = A + B (1 - alpha A), on encoded premultiplied colour.
        for shape in SHAPES:
            above, below = random_image(*shape), random_image(*shape)
            above.pixels[0, 0], below.pixels[-1, -1] = 0.0, 0.0
            for opacity in (0.25, 1.0):
                a = above.in_light(Light.ENCODED).pixels.astype(np.float64) * opacity
                b = below.in_light(Light.ENCODED).pixels.astype(np.float64)
                found = source_over(above, below, opacity)
                self.assertIs(found.light, Light.ENCODED)
                np.testing.assert_allclose(found.pixels, a + b * (1 - a[..., 3:]), atol=1e-6)

    def test_what_does_not_show_costs_nothing(self) -> None:
        above, below = random_image(5, 5, opaque=True), blank(Size(5, 5))
        self.assertIs(source_over(above, below, 1.0), above)
        self.assertIs(source_over(above, below, 0.0), below)
