"""Flashes by hand-made sequences, with the verdicts that the published definitions give.

Sources: WCAG 2.2, 2.3.1 with *general flash and red flash thresholds* and *relative luminance*;
Rec. ITU-R BT.1702-3 (from memory).
"""

import math
import unittest
from collections.abc import Callable

import numpy as np

from wrinkle.core.measure.flashes import MOST_FLASHES, PEAK_CANDELA, Flashing, flashing
from wrinkle.core.measure.look import look_at
from wrinkle.core.picture import transfer
from wrinkle.core.picture.image import Image, Light

RATE, SECONDS = 30, 2
UPRIGHT, WIDE = (160, 90), (90, 160)
QUARTER = 0.25 * 341 * 256
"""WCAG: a quarter of the field of ten degrees, in pixels of a screen of 1024 × 768."""


def level(luminance: float) -> int:
    """The grey of a relative luminance (the formula of IEC 61966-2-1, written out)."""
    if luminance <= 0.0031308:
        return round(255 * 12.92 * luminance)
    return round(255 * (1.055 * luminance ** (1 / 2.4) - 0.055))


def plain(shape: tuple[int, int], luminance: float) -> np.ndarray:
    return np.full((*shape, 3), level(luminance), np.uint8)


def over_time(light: Callable[[int], float], shape: tuple[int, int] = UPRIGHT) -> Flashing:
    return flashing((plain(shape, light(n)) for n in range(RATE * SECONDS)), RATE)


def square(hertz: float, low: float, high: float) -> Callable[[int], float]:
    """So many pairs of changes in a second."""
    return lambda n: high if int(n * 2 * hertz / RATE + 1e-9) % 2 else low


def patch(share_of_quarter: float, shape: tuple[int, int]) -> Flashing:
    """A square of a share of a quarter of the field that flashes five times a second."""
    height, width = shape
    pixel = min(1024 / width, 768 / height)
    side = round(math.sqrt(share_of_quarter * QUARTER) / pixel)

    def frame(n: int) -> np.ndarray:
        found = plain(shape, 0.1)
        found[10 : 10 + side, 10 : 10 + side] = level(square(5, 0.1, 0.6)(n))
        return found

    return flashing(map(frame, range(RATE * SECONDS)), RATE)


def changes(light: np.ndarray) -> int:
    """How often one place turns by a tenth or more, written out from WCAG's general flash."""
    low = high = light[0]
    way = count = 0
    for now in light[1:]:
        low, high = min(low, now), max(high, now)
        if way <= 0 and now - low >= 0.1 and low < 0.8:
            way, low, high, count = 1, now, now, count + 1
        elif way >= 0 and high - now >= 0.1 and now < 0.8:
            way, low, high, count = -1, now, now, count + 1
    return count


class General(unittest.TestCase):
    def fails(self, found: Flashing) -> bool:
        self.assertEqual(len(found.general), len(found.red))
        return float(found.general.max()) > MOST_FLASHES

    def test_three_in_a_second_pass_and_more_fail(self) -> None:
        # WCAG 2.3.1: "not more than three flashes in any one-second period".
        self.assertFalse(self.fails(over_time(square(3, 0.2, 0.6))))
        self.assertTrue(self.fails(over_time(square(3.5, 0.2, 0.6))))
        # Fifteen changes a second are 7.5 pairs of opposing ones.
        found = over_time(lambda n: 0.6 if (n // 2) % 2 else 0.2)
        self.assertEqual(float(found.general.max()), 7.5)

    def test_changes_below_a_tenth_of_the_most_do_not_count(self) -> None:
        # WCAG, general flash: "10% or more of the maximum relative luminance".
        self.assertFalse(self.fails(over_time(square(5, 0.2, 0.29))))
        self.assertTrue(self.fails(over_time(square(5, 0.2, 0.31))))

    def test_pairs_whose_darker_state_is_bright_do_not_count(self) -> None:
        # WCAG, general flash: "the relative luminance of the darker image is below 0.80";
        # BT.1702: 20 cd/m² where the darker one is below 160 cd/m², on 200 cd/m².
        self.assertEqual((0.1 * PEAK_CANDELA, 0.8 * PEAK_CANDELA), (20.0, 160.0))
        self.assertFalse(self.fails(over_time(square(5, 0.82, 1.0))))
        self.assertTrue(self.fails(over_time(square(5, 0.77, 1.0))))

    def test_a_slow_swell_counts_as_a_change(self) -> None:
        # An increase followed by a decrease, however many frames they take: a sine of 4 Hz.
        sine = over_time(lambda n: 0.4 + 0.2 * math.sin(2 * math.pi * 4 * n / RATE))
        self.assertTrue(self.fails(sine))
        weak = over_time(lambda n: 0.4 + 0.045 * math.sin(2 * math.pi * 4 * n / RATE))
        self.assertFalse(self.fails(weak))
        slow = over_time(lambda n: 0.4 + 0.2 * math.sin(2 * math.pi * 2 * n / RATE))
        self.assertFalse(self.fails(slow))

    def test_small_areas_pass_just_below_a_quarter_of_the_field(self) -> None:
        # WCAG: 25 % of any field of ten degrees, for which it takes 341 × 256 pixels.
        for shape in (UPRIGHT, WIDE):
            self.assertFalse(self.fails(patch(0.9, shape)), shape)
            self.assertTrue(self.fails(patch(1.15, shape)), shape)
        # BT.1702: a quarter of the screen, which a quarter of the field is not.
        self.assertEqual(float(patch(1.15, WIDE).screen.max()), 0.0)

    def test_a_fine_balanced_pattern_passes(self) -> None:
        # WCAG, the exception: a checkerboard with squares smaller than 0.1 degree.
        rows, columns = np.indices((2 * UPRIGHT[0], 2 * UPRIGHT[1]))
        board = ((rows + columns) % 2)[..., None].astype(np.float32)
        looks = [
            look_at(Image(np.concatenate([np.repeat(x, 3, 2), np.ones_like(x)], 2), Light.ENCODED))
            for x in (board, 1.0 - board)
        ]
        frames = [looks[n % 2].colours for n in range(RATE)]
        self.assertFalse(self.fails(flashing(frames, RATE)))
        rows, columns = np.indices(UPRIGHT)
        coarse = ((rows // 20 + columns // 20) % 2)[..., None].astype(np.uint8)
        frames = [np.repeat(255 * (coarse if n % 2 else 1 - coarse), 3, 2) for n in range(RATE)]
        self.assertTrue(self.fails(flashing(frames, RATE)))

    def test_a_picture_that_only_moves_does_not_flash(self) -> None:
        dice = np.random.default_rng(4)
        coarse = np.kron(dice.integers(0, 255, (16, 30, 1)), np.ones((12, 12, 3))).astype(np.uint8)
        frames = [coarse[: UPRIGHT[0], n : n + UPRIGHT[1]] for n in range(RATE)]
        self.assertFalse(self.fails(flashing(frames, RATE)))

    def test_a_picture_that_flies_past_flashes_no_more_than_its_places_do(self) -> None:
        dice = np.random.default_rng(4)
        wide = np.kron(dice.integers(0, 255, (16, 40, 1)), np.ones((12, 12, 3))).astype(np.uint8)
        for speed in (5, 9, 14):
            frames = [wide[: UPRIGHT[0], n * speed :][:, : UPRIGHT[1]] for n in range(RATE // 2)]
            each = np.stack([transfer.decode_8bit(x)[..., 0] for x in frames])
            of_places = np.apply_along_axis(changes, 0, each[:, ::12, ::3])
            most = float(np.quantile(of_places, 0.75)) / 2.0
            self.assertLessEqual(float(flashing(frames, RATE).general.max()), most + 0.5, speed)


class Red(unittest.TestCase):
    def alternating(self, one: tuple[int, int, int], other: tuple[int, int, int]) -> Flashing:
        def frame(n: int) -> np.ndarray:
            return np.full((*UPRIGHT, 3), one if (n // 3) % 2 else other, np.uint8)

        return flashing(map(frame, range(RATE * SECONDS)), RATE)

    def test_a_saturated_red_counts_without_a_change_of_luminance(self) -> None:
        # WCAG, red flash: R/(R+G+B) >= 0.8, and more than 0.2 apart in u'v'. This grey is as
        # bright as the red.
        grey = (level(0.2126),) * 3
        found = self.alternating((255, 0, 0), grey)
        self.assertEqual(float(found.general.max()), 0.0)
        self.assertEqual(float(found.red.max()), 5.0)

    def test_a_dull_red_and_other_colours_do_not(self) -> None:
        self.assertEqual(float(self.alternating((200, 110, 110), (120, 120, 120)).red.max()), 0.0)
        self.assertEqual(float(self.alternating((0, 0, 255), (0, 90, 0)).red.max()), 0.0)
