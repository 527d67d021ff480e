"""What is measured of pictures whose truth is known: coverage, motion, loudness."""

import math
import unittest

import numpy as np
from scipy.ndimage import map_coordinates, zoom
from scipy.signal import lfilter

from wrinkle.core.measure.enlarging import enlargement
from wrinkle.core.measure.look import look_at, measured_size
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.flow import motion_between
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.placement import Pose, pose_matrix
from wrinkle.core.picture.resample import resample
from wrinkle.core.sound.loudness import MOMENT, SILENCE, momentary
from wrinkle.core.synthesis.samples import SAMPLE_RATE

SIZE = Size(180, 320)


def white(size: Size = SIZE) -> Image:
    return Image(np.ones((size.height, size.width, 4), np.float32), Light.LINEAR, True)


def posed(pose: Pose, size: Size = SIZE) -> Image:
    return resample(white(size), [pose_matrix(pose, size)], size, EdgeCover.BARE)


class Bare(unittest.TestCase):
    def test_the_bare_share_is_the_area_that_geometry_gives(self) -> None:
        half = look_at(posed(Pose(scale=(50.0, 50.0))))
        self.assertAlmostEqual(half.bare, 0.75, delta=0.002)
        self.assertEqual(half.where, "all round")
        moved = look_at(posed(Pose(position=(0.25, 0.0))))
        self.assertAlmostEqual(moved.bare, 0.25, delta=0.003)
        self.assertEqual(moved.where, "left")
        # Of a square turned by 45 degrees about its middle four triangles stick out: what is
        # bare is what they do not cover, 1 - 2 (sqrt 2 - 1).
        square = Size(200, 200)
        turned = look_at(posed(Pose(rotation=45.0), square))
        self.assertAlmostEqual(turned.bare, 1.0 - 2.0 * (math.sqrt(2.0) - 1.0), delta=0.003)

    def test_black_is_not_bare(self) -> None:
        pixels = np.zeros((32, 32, 4), np.float32)
        pixels[..., 3] = 1.0
        self.assertEqual(look_at(Image(pixels, Light.LINEAR)).bare, 0.0)

    def test_brightness_and_saturation_of_what_is_shown(self) -> None:
        pixels = np.ones((20, 20, 4), np.float32)
        pixels[:10, :, :3] = (1.0, 0.0, 0.0)
        pixels[:5, :, 0] = 1.5
        look = look_at(Image(pixels, Light.ENCODED, True))
        # Rec. ITU-R BT.601 luma, which the grey of 8-bit pictures has: 0.299 of red.
        self.assertAlmostEqual(look.brightness, (0.299 + 1.0) / 2, delta=0.003)
        self.assertAlmostEqual(look.saturation, 0.5, delta=0.003)

    def test_what_is_beyond_white_counts_where_detail_is_lost(self) -> None:
        # Stripes in the upper half, even light in the lower one.
        ramp = np.ones((80, 40, 4), np.float32)
        ramp[:40, :, :3] = (0.8 + 0.2 * (np.arange(40) % 4 // 2))[:, None]
        for factor, lost in ((1.0, 0.0), (1.3, 0.5), (1.1, 0.25), (1.005, 0.0)):
            pixels = ramp * np.float32([factor, factor, factor, 1.0])
            look = look_at(Image(pixels, Light.ENCODED, True))
            # Near the border some of the even light is near stripes.
            self.assertAlmostEqual(look.beyond, lost, delta=0.05, msg=factor)

    def test_frames_are_measured_small_in_their_shape(self) -> None:
        self.assertEqual(measured_size(Size(1080, 1920)), Size(180, 320))
        self.assertEqual(measured_size(Size(3840, 2160)), Size(320, 180))
        self.assertEqual(measured_size(Size(54, 96)), Size(54, 96))


class Motion(unittest.TestCase):
    """Against pictures that SciPy moved by known ways."""

    def setUp(self) -> None:
        dice = np.random.default_rng(1)
        self.field = sum(
            much * zoom(dice.random((900 // cell, 700 // cell)), cell, order=1)[:880, :680]
            for cell, much in ((6, 0.2), (15, 0.3), (40, 0.5))
        )

    def seen(self, turn: float = 0.0, way: tuple[float, float] = (0.0, 0.0)) -> np.ndarray:
        """A picture of the field, turned about its middle and moved, in radians and pixels."""
        ys, xs = np.mgrid[0:320, 0:180].astype(float)
        ys, xs = ys - 160.0 - way[1], xs - 90.0 - way[0]
        cosine, sine = math.cos(turn), math.sin(turn)
        places = [440.0 - sine * xs + cosine * ys, 340.0 + cosine * xs + sine * ys]
        return (map_coordinates(self.field, places, order=1) * 255).astype(np.uint8)

    def test_shifts_come_back_within_five_per_cent(self) -> None:
        for speed in (0.5, 1.0, 3.0, 8.0, 20.0, 28.0):
            way = (0.8 * speed, 0.6 * speed)
            motion = motion_between(self.seen(), self.seen(way=way))
            self.assertTrue(motion.trusted, speed)
            self.assertAlmostEqual(motion.speed / speed, 1.0, delta=0.05)
            np.testing.assert_allclose(motion.way, way, atol=0.05 * speed)

    def test_turns_come_back_within_five_per_cent(self) -> None:
        ys, xs = np.mgrid[0:320, 0:180]
        far = float(np.median(np.hypot(xs - 90.0, ys - 160.0)))
        for degrees in (0.5, 2.0, 6.0):
            turn = math.radians(degrees)
            truth = far * 2.0 * math.sin(turn / 2.0)
            motion = motion_between(self.seen(), self.seen(turn))
            self.assertAlmostEqual(motion.speed / truth, 1.0, delta=0.05)

    def test_another_picture_is_not_trusted(self) -> None:
        other = np.random.default_rng(9).integers(0, 255, (320, 180)).astype(np.uint8)
        self.assertFalse(motion_between(self.seen(), other).trusted)


class Enlargement(unittest.TestCase):
    def needed(self, pose: Pose, size: Size) -> float:
        box = (0.0, 0.0, float(size.width), float(size.height))
        middle = pose.anchor[0] * size.width, pose.anchor[1] * size.height
        return enlargement(pose_matrix(pose, size), box, middle, size)

    def test_turned_frames_need_what_geometry_gives(self) -> None:
        # cos θ + (long/short) · sin θ; 45 degrees at 16:9 are 1.964 (geometry).
        for size in (Size(1920, 1080), Size(1080, 1920)):
            for degrees in (3.0, 20.0, 45.0):
                angle = math.radians(degrees)
                wanted = math.cos(angle) + 16 / 9 * math.sin(angle)
                self.assertAlmostEqual(self.needed(Pose(rotation=degrees), size), wanted, 9)
        self.assertAlmostEqual(self.needed(Pose(rotation=45.0), Size(1920, 1080)), 1.964, 3)

    def test_tilted_frames_need_what_a_search_finds(self) -> None:
        dice = np.random.default_rng(3)
        for _ in range(12):
            pose = Pose(
                anchor=tuple(0.5 + 0.2 * dice.uniform(-1, 1, 2)),
                position=tuple(0.1 * dice.uniform(-1, 1, 2)),
                scale=tuple(100 + 20 * dice.uniform(-1, 1, 2)),
                rotation=float(dice.uniform(-40, 40)),
                skew=float(dice.uniform(-15, 15)),
                tilt=tuple(dice.uniform(-25, 25, 2)),
            )
            self.assertAlmostEqual(self.needed(pose, SIZE), self.searched(pose), delta=2e-3)

    def searched(self, pose: Pose) -> float:
        """The smallest factor at which every point of the frame's rim lies in the picture."""
        ends = np.linspace(0.0, 1.0, 200)
        rim = [(x, y) for x in ends for y in (0.0, 1.0)] + [(x, y) for y in ends for x in (0, 1)]
        spots = np.array([(x * SIZE.width, y * SIZE.height, 1.0) for x, y in rim]).T
        low, high = 0.2, 12.0
        for _ in range(40):
            factor = (low + high) / 2.0
            scale = (pose.scale[0] * factor, pose.scale[1] * factor)
            matrix = pose_matrix(
                Pose(pose.anchor, pose.position, scale, pose.skew, pose.skew_axis, pose.rotation,
                     pose.tilt, pose.camera), SIZE,
            )  # fmt: skip
            local = np.linalg.solve(matrix, spots)
            xs, ys = local[0] / local[2], local[1] / local[2]
            inside = (xs >= -1e-9) & (xs <= SIZE.width) & (ys >= -1e-9) & (ys <= SIZE.height)
            if inside.all():
                high = factor
            else:
                low = factor
        return high

    def test_beyond_the_horizon_nothing_helps(self) -> None:
        self.assertEqual(self.needed(Pose(tilt=(80.0, 0.0), camera=60.0), SIZE), math.inf)


class Loudness(unittest.TestCase):
    """By the values of EBU Tech 3341, and by SciPy's filters."""

    def tone(self, hertz: float, decibel: float) -> np.ndarray:
        time = np.arange(SAMPLE_RATE * 2) / SAMPLE_RATE
        one = 10 ** (decibel / 20) * np.sin(2 * np.pi * hertz * time)
        return np.stack([one, one], axis=1).astype(np.float32)

    def test_the_tones_of_the_standard_have_its_loudness(self) -> None:
        # EBU Tech 3341, minimum requirements tests 1 and 2: stereo, 1 kHz, at -23 and -33 dBFS.
        for decibel in (-23.0, -33.0):
            (found,) = momentary(self.tone(1000.0, decibel), np.array([SAMPLE_RATE], np.int64))
            self.assertAlmostEqual(found, decibel, delta=0.1)

    def test_other_tones_are_weighted_as_by_filtering(self) -> None:
        # BS.1770-4, annex 1, tables 1 and 2, sample after sample.
        shelf = (1.53512485958697, -2.69169619938638, 1.19839281085285), (
            1.0, -1.69065929318241, 0.73248077421585)  # fmt: skip
        high = (1.0, -2.0, 1.0), (1.0, -1.99004745483398, 0.99007225036621)
        for hertz in (60.0, 400.0, 8000.0):
            tone = self.tone(hertz, -12.0)
            weighted = lfilter(*high, lfilter(*shelf, tone.astype(float), axis=0), axis=0)
            part = weighted[SAMPLE_RATE - MOMENT // 2 : SAMPLE_RATE + MOMENT // 2]
            wanted = -0.691 + 10 * math.log10(float((part**2).mean(axis=0).sum()))
            (found,) = momentary(tone, np.array([SAMPLE_RATE], np.int64))
            self.assertAlmostEqual(found, wanted, delta=0.01)

    def test_silence_and_what_is_outside(self) -> None:
        quiet = momentary(np.zeros((MOMENT, 2), np.float32), np.array([0, 10**7], np.int64))
        self.assertEqual(list(quiet), [SILENCE, SILENCE])
        self.assertEqual(list(momentary(np.zeros((0, 2), np.float32), np.array([3]))), [SILENCE])
