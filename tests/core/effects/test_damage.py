"""What breaks the picture, against published formulas and OpenCV's block matching."""

import unittest

import cv2
import numpy as np
from scipy.integrate import solve_ivp

from wrinkle.core.effects.effect import Effect, Scene, Values
from wrinkle.core.effects.families.blow import ringing
from wrinkle.core.effects.families.drag import block_ways
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Light, Size

SIZE = Size(180, 320)


def spotted(seed: int, size: Size = SIZE) -> np.ndarray:
    """Soft spots in all colours, ``(H, W, 4)``, linear."""
    dice = np.random.default_rng(seed)
    rough = dice.random((size.height, size.width, 3)).astype(np.float32)
    soft = cv2.GaussianBlur(rough, (0, 0), 3.0)
    soft = (soft - soft.min()) / (soft.max() - soft.min())
    return np.dstack([soft, np.ones(soft.shape[:2], np.float32)])


def made(key: str, pixels: np.ndarray, time: float = 0.1, **given: Value) -> np.ndarray:
    one: Effect = EFFECTS[key]
    scene = Scene.whole(Size(pixels.shape[1], pixels.shape[0]), time=time)
    values = Values({**one.neutral(), **given})
    image = Image(pixels, Light.LINEAR, True)
    return one.applied(image, values, scene).in_light(Light.LINEAR).pixels


class Blow(unittest.TestCase):
    def test_it_rings_as_the_differential_equation_says(self) -> None:
        # x'' + 2 d w x' + w² x = 0 from 0 with speed 1, solved by SciPy; scaled to its first peak.
        times = np.linspace(0.0, 1.0, 400)
        for damping in (0.1, 0.6, 1.0, 2.5):
            w = 2.0 * np.pi * 5.0
            solved = solve_ivp(
                lambda _, s, w=w, d=damping: (s[1], -2.0 * d * w * s[1] - w * w * s[0]),
                (0.0, 1.0), (0.0, 1.0), t_eval=times, rtol=1e-10, atol=1e-13,
            ).y[0]  # fmt: skip
            found = np.array([ringing(time, 5.0, damping) for time in times])
            fine = max(ringing(time, 5.0, damping) for time in np.linspace(0.0, 0.3, 4000))
            self.assertAlmostEqual(fine, 1.0, 4)
            scale = solved.max() / found.max()
            np.testing.assert_allclose(found * scale, solved, atol=1e-6 * scale)

    def test_before_it_lands_and_long_after_it_nothing_moves(self) -> None:
        pixels = spotted(1)
        for time in (-0.2, 60.0):
            self.assertIs(made("blow", pixels, time, amount=8.0, turn=3.0, smear=0.01), pixels)

    def test_it_throws_the_picture_along_its_angle_as_far_as_it_says(self) -> None:
        pixels = spotted(2)
        peak = next(t for t in np.linspace(0.0, 0.2, 4001) if ringing(t, 6.0, 0.2) > 0.99999)
        # The seed makes the pace uneven: the place is looked for by OpenCV's own search.
        thrown = max(
            (made("blow", pixels, peak + late, amount=10.0, angle=0.0, damping=0.2)
             for late in np.linspace(-0.01, 0.01, 9)),
            key=lambda x: float(np.abs(x - pixels).sum()),
        )  # fmt: skip
        patch = pixels[140:180, 60:100, :3]
        found = cv2.matchTemplate(thrown[..., :3], patch, cv2.TM_SQDIFF)
        x, y = cv2.minMaxLoc(found)[2]
        self.assertEqual(y, 140)
        self.assertAlmostEqual(x - 60, 0.1 * SIZE.width, delta=1.0)


class Dragging(unittest.TestCase):
    def test_blocks_go_the_way_that_block_matching_finds(self) -> None:
        size = Size(320, 320)
        before = spotted(3, size)
        after = before.copy()
        # The left half goes down, the right half to the right.
        after[:, :160] = np.roll(before, (9, 0), axis=(0, 1))[:, :160]
        after[:, 160:] = np.roll(before, (0, 7), axis=(0, 1))[:, 160:]
        one, other = (Image(x, Light.LINEAR, True) for x in (before, after))
        ways = block_ways(one, other, Size(8, 8)) * size.height
        near = [(row, column) for row in (2, 3, 4, 5) for column in (1, 2, 5, 6)]
        for row, column in near:
            spot = row * 40 + 8, column * 40 + 8
            patch = after[spot[0] : spot[0] + 24, spot[1] : spot[1] + 24, :3]
            wide = before[spot[0] - 12 : spot[0] + 36, spot[1] - 12 : spot[1] + 36, :3]
            x, y = cv2.minMaxLoc(cv2.matchTemplate(wide, patch, cv2.TM_SQDIFF))[2]
            matched = 12 - x, 12 - y
            np.testing.assert_allclose(ways[row, column], matched, atol=1.2)

    def test_what_stands_still_drags_nothing_and_blocks_clear_to_the_share(self) -> None:
        one = EFFECTS["block_drag"]
        pixels = spotted(4)
        still = Image(spotted(5), Light.LINEAR, True)
        scene = Scene.whole(SIZE, other=still, earlier=still)
        values = Values({**one.neutral(), "drag": 30.0})
        image = Image(pixels, Light.LINEAR, True)
        np.testing.assert_array_equal(one.applied(image, values, scene).pixels, pixels)
        gone = []
        for share in (10.0, 35.0, 80.0):
            values = Values({**one.neutral(), "cleared": share, "block": 5.0})
            cleared = one.applied(image, values, scene).pixels[..., 3] == 0.0
            self.assertAlmostEqual(float(cleared.mean()), share / 100.0, delta=0.02)
            gone.append(cleared)
        self.assertTrue((gone[1] | ~gone[0]).all() and (gone[2] | ~gone[1]).all())


class TapeAndFilm(unittest.TestCase):
    def test_tape_comes_in_from_nothing_and_a_whole_roll_is_none(self) -> None:
        pixels = spotted(6)
        apart = [
            float(np.abs(made("tape", pixels, strength=strength) - pixels).mean())
            for strength in (40.0, 10.0, 2.5, 0.6)
        ]
        self.assertEqual(apart, sorted(apart, reverse=True))
        self.assertLess(apart[-1], 1e-3)
        np.testing.assert_allclose(made("tape", pixels, roll=1.0), pixels, atol=2e-3)
        same = (made("tape", pixels, strength=80.0) for _ in range(2))
        self.assertEqual(next(same).tobytes(), next(same).tobytes())

    def test_film_that_has_run_whole_pictures_stands_as_before(self) -> None:
        pixels = spotted(7)
        np.testing.assert_allclose(made("film_gate", pixels, run=3.0), pixels, atol=2e-3)
        # Half a pitch on, the line between two pictures lies where the strip says.
        half = made("film_gate", pixels, run=0.5)
        dark = np.flatnonzero(half[..., :3].max(axis=(1, 2)) < 0.03)
        middle = (1.0 + 1.07) / 2.0 - 0.5 * 1.07
        self.assertAlmostEqual(float(dark.mean()) / SIZE.height, middle, delta=0.01)
        self.assertAlmostEqual(len(dark) / SIZE.height, 0.07, delta=0.015)


class Tearing(unittest.TestCase):
    def test_the_sheet_goes_and_what_is_not_torn_yet_is_untouched(self) -> None:
        pixels = spotted(8)
        left = [
            float(made("torn_paper", pixels, torn=torn, shadow=0.0)[..., 3].mean())
            for torn in (5.0, 30.0, 50.0, 70.0, 90.0, 100.0)
        ]
        self.assertEqual(left, sorted(left, reverse=True))
        self.assertGreater(left[0], 0.98)
        self.assertEqual(left[-1], 0.0)
        begun = made("torn_paper", pixels, torn=25.0)
        np.testing.assert_allclose(begun[-60:], pixels[-60:], atol=1e-5)
        self.assertLess(float(begun[:40, ..., 3].min()), 0.9)

    def test_its_print_is_moved_and_never_stretched(self) -> None:
        # Far from the tear each row of either half is the picture's own, moved aside.
        pixels = spotted(9)
        torn = made("torn_paper", pixels, torn=45.0, shadow=0.0, curl=2.0)
        for row in (20, 60, 120):
            for part in (slice(5, 30), slice(150, 175)):
                wanted = torn[row : row + 1, part, :3]
                self.assertEqual(float(torn[row, part, 3].min()), 1.0)
                found = cv2.matchTemplate(pixels[row : row + 1, :, :3], wanted, cv2.TM_SQDIFF)
                self.assertLess(float(found.min()), 0.05)
