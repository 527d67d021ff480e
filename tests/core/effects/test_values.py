"""The numbers of single effects, against outside references."""

import colorsys
import math
import unittest
from dataclasses import replace

import colour as science
import numpy as np
from scipy import ndimage
from scipy.interpolate import PchipInterpolator

from tests.core.effects.test_every_effect import picture, scene, smooth
from wrinkle.core.effects.effect import Values
from wrinkle.core.effects.families.curves import curve_values
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.motion.values import Value
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.paths import polygon

SIZE = Size(100, 160)


def applied(key: str, image: Image, time: float = 0.0, **values: Value) -> np.ndarray:
    one = EFFECTS[key]
    return one.applied(
        image, Values({**one.neutral(), **values}), scene(image.size, time=time)
    ).pixels


def point(key: str, *colours: tuple[float, float, float], **values: Value) -> list[np.ndarray]:
    """Some colours, in the state that the effect wants, through the effect."""
    one = EFFECTS[key]
    pixels = np.ones((1, len(colours), 4), np.float32)
    pixels[0, :, :3] = colours
    found = applied(key, Image(pixels, one.light, True), **values)
    return [found[0, index, :3] for index in range(len(colours))]


class Blurs(unittest.TestCase):
    def test_gaussian_is_scipys(self) -> None:
        image = picture(SIZE, EFFECTS["gaussian_blur"], 1)
        found = applied("gaussian_blur", image, radius=8.0)
        wanted = ndimage.gaussian_filter(
            image.pixels.astype(np.float64), (4.0, 4.0, 0.0), mode="reflect", truncate=6
        )
        self.assertLess(float(np.abs(found - wanted).max()), 6e-3)

    def test_a_level_blur_of_an_edge_is_the_box_integral(self) -> None:
        pixels = np.zeros((20, 100, 4), np.float32)
        pixels[:, 50:] = 1.0
        pixels[..., 3] = 1.0
        one = EFFECTS["directional_blur"]
        values = Values({**one.neutral(), "length": 200.0})
        row = one.applied(Image(pixels, one.light, True), values, scene(Size(100, 20))).pixels[
            9, :, 0
        ]
        # Analytic: the mean over 40 pixels of a step is a ramp of 40 pixels.
        wanted = np.clip((np.arange(100) + 0.5 - 30.0) / 40.0, 0.0, 1.0)
        self.assertLess(float(np.abs(row - wanted).max()), 0.03)

    def test_spin_and_zoom_are_the_mean_of_many_single_warps(self) -> None:
        image = smooth(SIZE, EFFECTS["spin_blur"])
        x0, y0 = SIZE.width / 2, SIZE.height / 2
        for key, values, moved in (
            ("spin_blur", {"angle": 30.0}, lambda s: (math.cos(a := math.radians(30 * s)),
                                                     math.sin(a))),
            ("zoom_blur", {"amount": 30.0}, lambda s: (math.exp(math.log(1.3) * s), 0.0)),
        ):  # fmt: skip
            total = np.zeros((SIZE.height, SIZE.width))
            count = 240
            rows, columns = np.mgrid[0 : SIZE.height, 0 : SIZE.width] + 0.5
            for index in range(count):
                c, s = moved((index + 0.5) / count - 0.5)
                norm = c * c + s * s
                x = ((columns - x0) * c + (rows - y0) * s) / norm + x0
                y = ((rows - y0) * c - (columns - x0) * s) / norm + y0
                total += ndimage.map_coordinates(
                    image.pixels[..., 0].astype(np.float64), (y - 0.5, x - 0.5), order=1,
                    mode="reflect",
                )  # fmt: skip
            found = applied(key, image, **values)[..., 0]
            self.assertLess(float(np.abs(found - total / count).max()), 0.01, key)


class Bends(unittest.TestCase):
    def test_a_lens_bend_is_undone_by_its_inverse_and_keeps_the_corners(self) -> None:
        image = smooth(Size(270, 480), EFFECTS["lens_bend"])
        # What is left is the loss of reading twice; the wider the lens, the smaller the rim.
        for field, loss in ((40.0, 3e-3), (90.0, 0.012), (120.0, 0.03)):
            bent = applied("lens_bend", image, field=field)
            again = applied("lens_bend", Image(bent, Light.LINEAR, True), field=-field)
            self.assertLess(float(np.abs(again - image.pixels).mean()), loss, field)
            self.assertLess(float(np.abs(bent[0, 0] - image.pixels[0, 0]).max()), 0.02)
        # The formula at the centre: the magnification is tan(a) / a.
        half = math.radians(45.0)
        wide = np.zeros((480, 270, 4), np.float32)
        wide[..., 0] = np.hypot(*(np.mgrid[0:480, 0:270] + 0.5 - [[[240]], [[135]]])) < 20.0
        wide[..., 3] = 1.0
        disc = applied("lens_bend", Image(wide, Light.LINEAR, True), field=90.0)[..., 0]
        self.assertAlmostEqual(
            disc.sum() / wide[..., 0].sum(), (math.tan(half) / half) ** 2, delta=0.05
        )

    def test_tile_flip_and_bulge_put_pixels_where_they_say(self) -> None:
        image = picture(Size(60, 90), EFFECTS["tile"], 3)
        tiled = applied("tile", image, columns=3.0, rows=3.0)
        # Common practice: enlarged to 300 %, the middle of three by three tiles is the picture.
        areas = image.pixels.reshape(30, 3, 20, 3, 4).mean(axis=(1, 3))
        np.testing.assert_allclose(tiled[30:60, 20:40], areas, atol=1e-5)
        np.testing.assert_allclose(tiled[:, :20], tiled[:, 39:19:-1], atol=1e-4)
        np.testing.assert_array_equal(applied("flip", image, across=True), image.pixels[:, ::-1])
        np.testing.assert_array_equal(applied("flip", image, down=True), image.pixels[::-1])
        swollen = applied("bulge", smooth(SIZE, EFFECTS["bulge"]), amount=50.0, radius=30.0)
        plain = smooth(SIZE, EFFECTS["bulge"]).pixels
        np.testing.assert_allclose(swollen[:40], plain[:40], atol=1e-5)

    def test_a_bulge_is_scipys_reading_by_its_formula(self) -> None:
        image = smooth(SIZE, EFFECTS["bulge"])
        x0, y0 = 40.0, 96.0

        rows, columns = np.mgrid[0 : SIZE.height, 0 : SIZE.width] + 0.5
        away = np.stack((rows - y0, columns - x0))
        rest = np.clip(1.0 - (away**2).sum(axis=0) / 30.0**2, 0.0, 1.0)
        places = away * (1.0 + 0.6 * rest**2) + np.array((y0, x0))[:, None, None] - 0.5
        wanted = ndimage.map_coordinates(
            image.pixels[..., 1].astype(np.float64), places, order=1, mode="reflect"
        )
        found = applied("bulge", image, amount=-60.0, radius=30.0, centre=(0.4, 0.6))
        np.testing.assert_allclose(found[..., 1], wanted, atol=1e-4)

    def test_ripples_are_scipys_reading_along_a_sine(self) -> None:
        image = smooth(SIZE, EFFECTS["ripple"])
        found = applied(
            "ripple", image, amount=4.0, wavelength=25.0, angle=0.0, form="straight", speed=0.0
        )
        rows, columns = np.mgrid[0 : SIZE.height, 0 : SIZE.width].astype(np.float64)
        phase = 2 * np.pi * (columns + 0.5 - SIZE.width / 2) / 25.0
        plain = image.pixels[..., 0].astype(np.float64)
        wanted = [
            ndimage.map_coordinates(plain, (rows + sign * 4.0 * np.sin(phase), columns), order=1,
                                    mode="reflect")
            for sign in (1.0, -1.0)
        ]  # fmt: skip
        self.assertLess(min(float(np.abs(found[..., 0] - one).max()) for one in wanted), 1e-4)

    def test_a_swirl_squeezes_nothing(self) -> None:
        dots = np.zeros((200, 200, 4), np.float32)
        dots[50:150, 50:150] = 1.0
        dots[..., 3] = 1.0
        found = applied(
            "noise_warp", Image(dots, Light.LINEAR, True), amount=6.0, character="swirl", size=40.0
        )
        self.assertAlmostEqual(float(found[..., 0].sum()) / 10000.0, 1.0, delta=0.02)

    def test_noise_warp_and_ripple_come_back_after_whole_turns(self) -> None:
        image = smooth(SIZE, EFFECTS["noise_warp"])
        start = applied("noise_warp", image, amount=8.0, evolution=0.25)
        again = applied("noise_warp", image, amount=8.0, evolution=3.25)
        np.testing.assert_allclose(start, again, atol=1e-4)
        one, later = (applied("ripple", image, time, amount=3.0, speed=4.0) for time in (0.1, 0.35))
        np.testing.assert_allclose(one, later, atol=1e-4)


class Breaks(unittest.TestCase):
    def test_channels_move_by_whole_pixels_exactly(self) -> None:
        image = picture(Size(100, 120), EFFECTS["channel_split"], 5)
        found = applied("channel_split", image, offset=4.0)
        np.testing.assert_allclose(found[:, 4:, 0], image.pixels[:, :-4, 0], atol=1e-6)
        np.testing.assert_allclose(found[:, :-4, 2], image.pixels[:, 4:, 2], atol=1e-6)
        np.testing.assert_array_equal(found[..., 1], image.pixels[..., 1])

    def test_each_channel_is_moved_scaled_and_turned_by_itself(self) -> None:
        image = picture(Size(100, 120), EFFECTS["channel_split"], 5)
        found = applied("channel_split", image, green=(3.0, -2.0), blue_turn=180.0)
        np.testing.assert_array_equal(found[..., 0], image.pixels[..., 0])
        np.testing.assert_allclose(found[:-2, 3:, 1], image.pixels[2:, :-3, 1], atol=1e-6)
        np.testing.assert_allclose(found[..., 2], image.pixels[::-1, ::-1, 2], atol=1e-4)
        even = smooth(Size(100, 120), EFFECTS["channel_split"])
        large = applied("channel_split", even, red_scale=200.0)[..., 0]
        middle = ndimage.zoom(
            even.pixels[30:90, 25:75, 0], 2.0, order=1, grid_mode=True, mode="reflect"
        )
        np.testing.assert_allclose(large[4:-4, 4:-4], middle[4:-4, 4:-4], atol=2e-3)

    def test_random_patterns_are_steps_in_time_the_same_at_any_rate(self) -> None:
        image = picture(Size(60, 90), EFFECTS["slices"], 6)
        for key, values in (("slices", {"amount": 20.0}), ("block_shuffle", {"amount": 60.0})):
            first, same, other = (
                applied(key, image, time, rate=10.0, **values) for time in (0.01, 0.09, 0.11)
            )
            np.testing.assert_array_equal(first, same)
            self.assertGreater(float(np.abs(first - other).max()), 0.1)

    def test_blocks_are_taken_from_the_picture(self) -> None:
        image = picture(Size(60, 60), EFFECTS["block_shuffle"], 7)
        found = applied("block_shuffle", image, amount=100.0, grid=(3.0, 3.0), rate=0.0)
        blocks = [image.pixels[r : r + 20, c : c + 20] for r in (0, 20, 40) for c in (0, 20, 40)]
        for row in (0, 20, 40):
            for column in (0, 20, 40):
                block = found[row : row + 20, column : column + 20]
                self.assertTrue(any(np.abs(block - one).max() < 1e-5 for one in blocks))

    def test_scan_lines_have_the_mean_and_the_spacing_that_they_say(self) -> None:
        light = Image(np.full((400, 100, 4), 1.0, np.float32), Light.LINEAR, True)
        column = applied("scan_lines", light, amount=60.0, spacing=10.0)[:, 50, 0]
        # Analytic: a cosine between 1 and 0.4; its mean is 0.7, its strongest period 10 pixels.
        self.assertAlmostEqual(float(column.mean()), 0.7, places=5)
        self.assertAlmostEqual(float(column.min()), 0.4, delta=0.02)
        self.assertEqual(int(np.abs(np.fft.rfft(column - column.mean())).argmax()), 40)
        fine = applied("scan_lines", light, amount=60.0, spacing=1.0)[:, 50, 0]
        np.testing.assert_allclose(fine, 0.7, atol=1e-5)

    def test_an_outline_is_what_scipys_blur_takes_away(self) -> None:
        image = smooth(SIZE, EFFECTS["channel_outline"])
        found = applied("channel_outline", image, amount=50.0, width=3.0, strength=80.0)
        plain = image.pixels[..., 2].astype(np.float64)
        edges = 3.2 * np.abs(plain - ndimage.gaussian_filter(plain, 3.0, mode="reflect"))
        np.testing.assert_allclose(found[..., 2], (plain + edges) / 2.0, atol=2e-3)


class Lights(unittest.TestCase):
    def test_a_stop_doubles_the_light(self) -> None:
        (found,) = point("exposure", (0.1, 0.2, 0.3), stops=2.0)
        np.testing.assert_allclose(found, (0.4, 0.8, 1.2), rtol=1e-6)

    def test_a_flash_covers_and_a_glow_only_adds(self) -> None:
        (found,) = point("flash", (0.2, 0.4, 0.6), amount=50.0)
        np.testing.assert_allclose(found, (0.6, 0.7, 0.8), atol=1e-5)
        dark = np.zeros((60, 60, 4), np.float32)
        dark[..., 3] = 1.0
        dark[28:32, 28:32, :3] = 4.0
        found = applied("glow", Image(dark, Light.LINEAR, True), amount=100.0, threshold=50.0)
        added = found - dark
        self.assertGreaterEqual(float(added.min()), -1e-5)
        self.assertGreater(float(added[22, 22, 0]), 1e-3)
        dim = Image(dark * np.float32(0.1), Light.LINEAR)
        dim.pixels[..., 3] = 1.0
        nothing = applied("glow", dim, amount=100.0, threshold=95.0, knee=0.0) - dim.pixels
        self.assertLess(float(np.abs(nothing).max()), 1e-6)

    def test_a_glow_is_the_mean_of_scipys_blurs_an_octave_apart(self) -> None:
        image = smooth(SIZE, EFFECTS["glow"])
        given = {"amount": 200.0, "threshold": 0.0, "knee": 0.0, "radius": 16.0}
        found = applied("glow", image, tint=(1.0, 0.5, 0.0), **given) - image.pixels
        plain = image.pixels[..., 1].astype(np.float64)
        blurs = [ndimage.gaussian_filter(plain, 8.0 / 2**n, mode="reflect") for n in range(5)]
        wanted = np.mean(blurs, axis=0)
        np.testing.assert_allclose(found[..., 1], wanted, atol=0.02)
        np.testing.assert_allclose(found[..., 2:], 0.0, atol=1e-6)
        held = applied("glow", image, hold=100.0, **given) - image.pixels
        room = 1.0 - image.pixels[..., :3].max(axis=2)
        np.testing.assert_allclose(held[..., 1], 2.0 * wanted * room, atol=0.04)

    def test_flicker_is_seeded_and_bounded(self) -> None:
        grey = Image(np.full((2, 2, 4), 1.0, np.float32), Light.LINEAR, True)
        seen = [float(applied("flicker", grey, n / 30, amount=1.0)[0, 0, 0]) for n in range(60)]
        self.assertGreater(max(seen), 1.2)
        self.assertTrue(all(0.5 - 1e-6 <= value <= 2.0 + 1e-6 for value in seen))


class Colours(unittest.TestCase):
    SOME = ((0.2, 0.5, 0.9), (0.7, 0.1, 0.3), (0.5, 0.5, 0.5))

    def test_colour_decisions_are_those_of_the_asc(self) -> None:
        # ASC CDL v1.2: out = (in * slope + offset) ^ power, then saturation about Rec. 709 luma.
        slope, offset, power, sat = (1.2, 0.9, 1.0), (0.05, -0.1, 0.0), (0.8, 1.0, 1.3), 0.6
        found = point(
            "cdl", *self.SOME, slope=tuple(x / 2 for x in slope),
            offset=tuple((x + 1) / 2 for x in offset), power=tuple(x / 2 for x in power),
            saturation=60.0,
        )  # fmt: skip
        for colour, seen in zip(self.SOME, found, strict=True):
            graded = np.clip(np.array(colour) * slope + offset, 0, 1) ** np.array(power)
            luma = graded @ (0.2126, 0.7152, 0.0722)
            np.testing.assert_allclose(seen, np.clip(luma + sat * (graded - luma), 0, 1), atol=1e-5)

    def test_hue_is_turned_as_pythons_colorsys_does(self) -> None:
        for colour, seen in zip(self.SOME, point("hue_shift", *self.SOME, hue=75.0), strict=True):
            hue, light, strong = colorsys.rgb_to_hls(*colour)
            wanted = colorsys.hls_to_rgb((hue + 75 / 360) % 1.0, light, strong)
            np.testing.assert_allclose(seen, wanted, atol=3e-3)

    def test_saturation_inversion_and_grey(self) -> None:
        luma = [float(np.dot(c, (0.2126, 0.7152, 0.0722))) for c in self.SOME]
        for level, seen in zip(luma, point("saturation", *self.SOME, saturation=0.0), strict=True):
            np.testing.assert_allclose(seen, level, atol=1e-5)
        for level, seen in zip(
            luma, point("black_and_white", *self.SOME, amount=100.0), strict=True
        ):
            np.testing.assert_allclose(seen, level, atol=1e-5)
        for colour, seen in zip(self.SOME, point("invert", *self.SOME, amount=100.0), strict=True):
            np.testing.assert_allclose(seen, 1 - np.array(colour), atol=1e-6)

    def test_tone_is_its_formula_on_greys(self) -> None:
        greys = np.linspace(0.0, 1.0, 9)
        for values, wanted in (
            ({"contrast": 50.0, "pivot": 40.0}, 0.4 + 2.0 * (greys - 0.4)),
            ({"contrast": -50.0}, 0.5 + 0.5 * (greys - 0.5)),
            ({"blacks": 100.0}, greys + 0.5 * (1 - greys) ** 6),
            ({"shadows": -60.0}, greys - 1.2 * greys * (1 - greys) ** 3),
            ({"highlights": 60.0}, greys + 1.2 * (1 - greys) * greys**3),
            ({"whites": -100.0}, greys - 0.5 * greys**6),
        ):
            found = [float(one[1]) for one in point("tone", *((g, g, g) for g in greys), **values)]
            np.testing.assert_allclose(found, np.maximum(wanted, 0.0), atol=1e-5, err_msg=values)

    def test_a_three_way_balance_keeps_luma_and_goes_towards_the_hue_that_is_asked(self) -> None:
        weights = np.array((0.2126, 0.7152, 0.0722))
        for hue in (0.0, 75.0, 200.0, 330.0):
            (found,) = point("three_way", (0.5, 0.5, 0.5), middle_hue=hue, middle_amount=40.0)
            self.assertAlmostEqual(float(found @ weights), 0.5, places=5)
            seen = colorsys.rgb_to_hsv(*(float(part) for part in found))[0] * 360.0
            # The six-cornered hue of HSV is up to 1.2 degrees from the angle.
            self.assertLess(abs((seen - hue + 180.0) % 360.0 - 180.0), 1.3)
        # The three weights add up to one: pushed alike, every tone goes the same way as far.
        all_ = {f"{part}_{key}": value for part in ("low", "middle", "high")
                for key, value in (("hue", 0.0), ("amount", 20.0))}  # fmt: skip
        dark, light = point("three_way", (0.3, 0.3, 0.3), (0.6, 0.6, 0.6), **all_)
        np.testing.assert_allclose(dark - 0.3, light - 0.6, atol=1e-5)
        np.testing.assert_allclose(dark[0] - dark[1], 0.1 * 1.5, atol=1e-5)

    def test_balance_keeps_brightness_and_pushes_where_it_says(self) -> None:
        (warm,) = point("white_balance", (0.5, 0.5, 0.5), temperature=50.0)
        self.assertAlmostEqual(float(warm @ np.array((0.2126, 0.7152, 0.0722))), 0.5, places=5)
        self.assertGreater(float(warm[0]), float(warm[2]) + 0.1)
        (red,) = point("three_way", (0.02, 0.02, 0.02), low_hue=0.0, low_amount=60.0)
        self.assertGreater(float(red[0]), float(red[1]) + 0.1)
        (spared,) = point("three_way", (0.98, 0.98, 0.98), low_hue=0.0, low_amount=60.0)
        np.testing.assert_allclose(spared, 0.98, atol=1e-3)

    def test_lift_gamma_gain_at_the_ends(self) -> None:
        black, white = point("lift_gamma_gain", (0, 0, 0), (1, 1, 1), lift=(0.55, 0.5, 0.5))
        np.testing.assert_allclose(black, (0.1, 0, 0), atol=1e-6)
        np.testing.assert_allclose(white, (1, 1, 1), atol=1e-6)
        (middle,) = point("lift_gamma_gain", (0.25, 0.25, 0.25), gamma=(1.0, 0.5, 0.5))
        np.testing.assert_allclose(middle, (0.5, 0.25, 0.25), atol=1e-6)

    def test_a_tone_map_goes_from_dark_over_the_middle_to_light(self) -> None:
        ends = {"dark": (0.0, 0.0, 0.2), "middle": (0.4, 0.0, 0.0), "light": (1.0, 1.0, 0.5)}
        encoded = {k: science.cctf_encoding(np.array(v)) for k, v in ends.items()}
        greys = [(g, g, g) for g in (0.0, 0.15, 0.3, 0.65, 1.0)]
        found = point("tone_map", *greys, amount=100.0, balance=30.0, **ends)
        dark, middle, light = encoded["dark"], encoded["middle"], encoded["light"]
        wanted = (dark, (dark + middle) / 2, middle, (middle + light) / 2, light)
        np.testing.assert_allclose(found, wanted, atol=1e-5)
        (two,) = point("tone_map", (0.5, 0.5, 0.5), amount=50.0, three=False, **ends)
        np.testing.assert_allclose(two, (0.5 + (dark + light) / 2) / 2, atol=1e-5)

    def test_sharpening_is_the_picture_and_what_a_blur_takes_away(self) -> None:
        image = smooth(SIZE, EFFECTS["sharpen"])
        found = applied("sharpen", image, amount=200.0, radius=4.0)
        blurred = ndimage.gaussian_filter(image.pixels[..., 1].astype(float), 2.0, mode="reflect")
        wanted = np.clip(image.pixels[..., 1] + 2 * (image.pixels[..., 1] - blurred), 0, 1)
        np.testing.assert_allclose(found[..., 1], wanted, atol=1e-3)


class Reveals(unittest.TestCase):
    def test_the_ends_are_whole_and_empty_whatever_the_softness(self) -> None:
        for key, name in (("luma_reveal", "threshold"), ("noise_reveal", "amount")):
            image = picture(SIZE, EFFECTS[key], 8)
            image.pixels[0, 0, :3], image.pixels[0, 1, :3] = 0.0, 1.0
            for softness in (0.0, 10.0, 100.0):
                tiny = applied(key, image, softness=softness, **{name: 1e-6})[..., 3]
                self.assertGreater(float(tiny.min()), 0.999, (key, softness))
                gone = applied(key, image, softness=softness, **{name: 100.0})[..., 3]
                self.assertLess(float(gone.max()), 1e-3, (key, softness))

    def test_more_is_gone_the_further_it_goes_in_every_character(self) -> None:
        image = smooth(SIZE, EFFECTS["noise_reveal"])
        for character in EFFECTS["noise_reveal"].spec("character").choices:
            left = [
                float(applied("noise_reveal", image, character=character, amount=a)[..., 3].mean())
                for a in (10.0, 40.0, 70.0, 95.0)
            ]
            self.assertEqual(left, sorted(left, reverse=True), character)
            self.assertTrue(0.2 < left[1] < 0.999 and left[3] < 0.3, (character, left))

    def test_a_threshold_of_82_clears_an_ordinary_clip(self) -> None:
        # Common practice; an ordinary clip has few tones above 80 %.
        image = smooth(SIZE, EFFECTS["luma_reveal"])
        image = Image(image.pixels * np.float32(0.78), image.light, True)
        image.pixels[..., 3] = 1.0
        gone = applied("luma_reveal", image, threshold=82.0, softness=2.0)[..., 3]
        self.assertLess(float(gone.max()), 1e-3)

    def test_what_is_left_fades_by_the_smoothstep_of_its_brightness(self) -> None:
        one = EFFECTS["luma_reveal"]
        ramp = np.ones((1, 101, 4), np.float32)
        ramp[0, :, :3] = np.linspace(0, 1, 101, dtype=np.float32)[:, None]
        found = applied(one.key, Image(ramp, one.light, True), threshold=50.0, softness=20.0)
        # At 50 % the fade of 20 % lies from 40 to 60 %: t²(3 - 2t).
        t = np.clip((np.linspace(0, 1, 101) - 0.4) / 0.2, 0, 1)
        np.testing.assert_allclose(found[0, :, 3], t * t * (3 - 2 * t), atol=1e-5)
        np.testing.assert_allclose(found[0, :, 0], ramp[0, :, 0] * found[0, :, 3], atol=1e-6)

    def test_a_key_takes_its_colour_and_leaves_the_rest(self) -> None:
        one = EFFECTS["colour_key"]
        colours = ((0.1, 0.9, 0.1), (0.9, 0.2, 0.1), (0.5, 0.5, 0.5))
        pixels = np.ones((1, 3, 4), np.float32)
        pixels[0, :, :3] = colours
        image = Image(pixels, one.light, True)
        alpha = applied("colour_key", image, amount=100.0)[0, :, 3]
        np.testing.assert_allclose(alpha, (0.0, 1.0, 1.0), atol=1e-3)
        kept = applied("colour_key", image, amount=100.0, invert=True)[0, :, 3]
        np.testing.assert_allclose(kept, (1.0, 0.0, 0.0), atol=1e-3)
        by_light = {"by_brightness": True, "brightness": (0.0, 60.0), "softness": 2.0}
        dark = applied("colour_key", image, amount=100.0, **by_light)[0, :, 3]
        np.testing.assert_allclose(dark, (1.0, 1.0, 0.0), atol=1e-3)
        # Saturation (largest less smallest, over the largest) is 8/9, 1/2 and 0.
        image.pixels[0, 1, :3] = 0.9, 0.45, 0.45
        by_depth = {"hue_range": 180.0, "softness": 1.0, "brightness": (0.0, 100.0)}
        for bounds, gone in (((0.0, 5.0), 2), ((45.0, 55.0), 1), ((84.0, 100.0), 0)):
            left = applied("colour_key", image, amount=100.0, saturation=bounds, **by_depth)
            wanted = [float(n != gone) for n in range(3)]
            np.testing.assert_allclose(left[0, :, 3], wanted, atol=1e-3)


class Textures(unittest.TestCase):
    def test_grain_keeps_the_mean_and_changes_with_its_steps(self) -> None:
        grey = Image(np.full((160, 100, 4), 0.5, np.float32), Light.ENCODED)
        grey.pixels[..., 3] = 1.0
        first, same, other = (
            applied("grain", grey, time, amount=100.0, size=1.0, rate=30.0)
            for time in (0.001, 0.03, 0.04)
        )
        self.assertAlmostEqual(float(first[..., 0].mean()), 0.5, delta=0.005)
        np.testing.assert_array_equal(first, same)
        self.assertGreater(float(np.abs(first - other).max()), 0.1)
        # Declared: a fifth of black to white at 100 %, most of it in the middle tones.
        self.assertAlmostEqual(float(first[..., 0].std()), 0.2 * 0.85, delta=0.01)
        # Film grain is of brightness: all channels move together.
        np.testing.assert_allclose(first[..., 0], first[..., 2], atol=1e-6)

    def test_a_vignette_leaves_the_middle_and_takes_the_corner(self) -> None:
        image = smooth(SIZE, EFFECTS["vignette"])
        found = applied("vignette", image, amount=100.0, colour=(1.0, 1.0, 1.0), feather=40.0)
        np.testing.assert_allclose(found[80, 50], image.pixels[80, 50], atol=1e-6)
        np.testing.assert_allclose(found[0, 0], 1.0, atol=1e-3)

    def test_a_vignette_fades_by_the_smoothstep_of_its_radius(self) -> None:
        image = smooth(SIZE, EFFECTS["vignette"])
        given = {"amount": 80.0, "size": 90.0, "feather": 60.0, "roundness": 100.0}
        found = applied("vignette", image, **given)
        rows, columns = np.mgrid[0 : SIZE.height, 0 : SIZE.width] + 0.5
        radius = np.hypot(columns - SIZE.width / 2, rows - SIZE.height / 2) / (SIZE.width / 2)
        t = np.clip((radius - 0.9) / 0.6 + 0.5, 0, 1)
        left = 1 - 0.8 * t * t * (3 - 2 * t)
        np.testing.assert_allclose(found[..., 0], image.pixels[..., 0] * left, atol=1e-5)

    def test_noise_and_grounds_lie_over_the_picture_by_w3cs_formulas(self) -> None:
        white = Image(np.ones((120, 80, 4), np.float32), Light.ENCODED, True)
        for key, values in (
            ("noise_fill", {"size": (12.0, 4.0), "complexity": 3.0}),
            ("ground", {"ground": "weave", "size": 6.0}),
        ):
            # Multiply by white shows the layer itself; over grey it is their product.
            layer = applied(key, white, amount=100.0, blend="multiply", **values)
            half = Image(white.pixels * np.float32(0.5), Light.ENCODED, True)
            half.pixels[..., 3] = 1.0
            found = applied(key, half, amount=60.0, blend="multiply", **values)
            np.testing.assert_allclose(
                found[..., :3], 0.5 * (0.4 + 0.6 * layer[..., :3]), atol=1e-5, err_msg=key
            )
            self.assertGreater(float(layer[..., 0].std()), 0.02, key)
            self.assertAlmostEqual(float(layer[..., 0].mean()), {"noise_fill": 0.5}.get(key, 0.8),
                                   delta=0.1)  # fmt: skip


class Smears(unittest.TestCase):
    def test_rings_are_left_alone_along_their_contours_and_blurred_across(self) -> None:
        size = Size(160, 160)
        rows, columns = np.mgrid[0:160, 0:160] + 0.5
        radius = np.hypot(rows - 80, columns - 80)
        pixels = np.repeat((0.5 + 0.5 * np.sin(radius / 4))[..., None], 4, axis=2).astype(
            np.float32
        )
        pixels[..., 3] = 1.0
        image = Image(pixels, Light.LINEAR, True)
        ring = (radius > 25) & (radius < 65)
        self.assertEqual(image.size, size)
        along = applied("contour_smear", image, length=10.0)[..., 0]
        across = applied("contour_smear", image, length=10.0, way="across")[..., 0]
        self.assertLess(float(np.abs(along - pixels[..., 0])[ring].mean()), 0.03)
        self.assertGreater(float(np.abs(across - pixels[..., 0])[ring].mean()), 0.15)


class Washes(unittest.TestCase):
    def test_a_wash_is_the_blend_of_its_colour(self) -> None:
        # W3C: color takes hue and saturation from above, the luminosity from below.
        (found,) = point("colour_wash", (0.3, 0.3, 0.3), amount=100.0, colour=(1.0, 0.0, 0.0))
        self.assertAlmostEqual(float(found @ np.array((0.3, 0.59, 0.11))), 0.3, places=4)
        self.assertGreater(float(found[0]), float(found[1]) + 0.2)
        (flat,) = point(
            "colour_wash", (0.3, 0.6, 0.9), amount=50.0, blend="normal", colour=(0, 0, 0)
        )
        np.testing.assert_allclose(flat, (0.15, 0.3, 0.45), atol=1e-5)

    def test_a_leak_only_adds_light(self) -> None:
        image = smooth(SIZE, EFFECTS["light_leak"])
        added = applied("light_leak", image, amount=50.0) - image.pixels
        self.assertGreaterEqual(float(added.min()), 0.0)
        full = applied("light_leak", image, amount=50.0, reach=300.0, colour=(0.5, 0.2, 0.1))
        # All of it is inside: the declared colour, four times as bright at 100 %.
        wanted = np.broadcast_to((1.0, 0.4, 0.2, 0.0), full.shape)
        np.testing.assert_allclose(full - image.pixels, wanted, atol=1e-5)
        self.assertGreater(float(added[:, -20:].mean()), float(added[:, :20].mean()))


class Linked(unittest.TestCase):
    def with_other(self, key: str, image: Image, other: Image, **values: Value) -> np.ndarray:
        one = EFFECTS[key]
        around = replace(scene(image.size), other=other)
        return one.applied(image, Values({**one.neutral(), **values}), around).pixels

    def test_white_pushes_one_way_black_the_other_and_grey_not_at_all(self) -> None:
        image = picture(Size(100, 120), EFFECTS["displace"], 9)
        for level, shift in ((1.0, 4), (0.0, -4), (0.5, 0)):
            flat = np.full((120, 100, 4), level, np.float32)
            flat[..., 3] = 1.0
            found = self.with_other("displace", image, Image(flat, Light.ENCODED, True), across=4.0)
            wanted = np.roll(image.pixels, shift, axis=1)
            np.testing.assert_allclose(found[:, 10:90], wanted[:, 10:90], atol=1e-5)

    def test_a_map_turns_the_picture_about_its_middle(self) -> None:
        image = picture(Size(100, 120), EFFECTS["displace"], 9)
        white = Image(np.ones((120, 100, 4), np.float32), Light.ENCODED, True)
        found = self.with_other("displace", image, white, turn=180.0)
        np.testing.assert_allclose(found, image.pixels[::-1, ::-1], atol=1e-3)

    def test_mean_and_spread_become_those_of_the_other_layer(self) -> None:
        # Reinhard and others 2001; the statistics are measured with colour-science.
        image = smooth(SIZE, EFFECTS["colour_match"])
        goal = Image(image.pixels[::-1, :, [1, 2, 0, 3]] * np.float32(0.5), Light.ENCODED, True)
        goal.pixels[..., 3] = 1.0
        goal.pixels[..., 0] += 0.2
        found = self.with_other("colour_match", image, goal, amount=100.0)
        for seen, wanted in zip(_lab_statistics(found), _lab_statistics(goal.pixels), strict=True):
            np.testing.assert_allclose(seen, wanted, atol=2.5)

    def test_by_tones_the_dark_and_the_bright_each_take_their_likes_colours(self) -> None:
        dice = np.random.default_rng(11)
        pixels = np.ones((80, 100, 4), np.float32)
        pixels[:40, :, :3], pixels[40:, :, :3] = 0.12, 0.88
        pixels[..., :3] += dice.normal(0, 0.02, (80, 100, 1)).astype(np.float32)
        cold_darks = pixels.copy()
        cold_darks[:40, :, 2] += 0.15
        cold_darks[40:, :, 2] -= 0.3
        image, goal = (Image(p, Light.ENCODED, True) for p in (pixels, cold_darks))
        whole = self.with_other("colour_match", image, goal, amount=100.0)
        tones = self.with_other("colour_match", image, goal, amount=100.0, by_tones=True)
        held = self.with_other(
            "colour_match", image, goal, amount=100.0, by_tones=True, dark=0.0, middle=0.0
        )
        for rows in (slice(0, 40), slice(40, 80)):
            wanted = _lab_statistics(cold_darks[rows])[0][2]
            self.assertLess(abs(_lab_statistics(tones[rows])[0][2] - wanted), 9.0)
            self.assertGreater(abs(_lab_statistics(whole[rows])[0][2] - wanted), 12.0)
        self.assertLess(abs(_lab_statistics(held[:40])[0][2]), 2.0)
        self.assertGreater(_lab_statistics(held[40:])[0][2], 10.0)


def _lab_statistics(pixels: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    colours = science.XYZ_to_Lab(science.sRGB_to_XYZ(pixels[..., :3].astype(np.float64)))
    return colours.mean(axis=(0, 1)), colours.std(axis=(0, 1))


class DrawnCurves(unittest.TestCase):
    def test_a_curve_is_scipys_monotone_cubic_and_never_overshoots(self) -> None:
        dice = np.random.default_rng(3)
        for _ in range(20):
            x = np.sort(dice.random(5))
            y = np.sort(dice.random(5))
            places = np.linspace(x[0], x[-1], 50)
            found = curve_values(polygon(zip(x, y, strict=True)), places)
            wanted = PchipInterpolator(x, y)(places)
            inner = (places > x[1]) & (places < x[-2])
            # SciPy takes other slopes at the two ends; within them both are the same.
            np.testing.assert_allclose(found[inner], wanted[inner], atol=1e-9)
            self.assertTrue(y.min() - 1e-9 <= found.min() <= found.max() <= y.max() + 1e-9)

    def test_of_points_at_one_place_the_later_counts_however_near_they_are(self) -> None:
        for apart in (0.0, 5e-324, 1e-9):
            steep = polygon(((0.0, 0.1), (apart, 0.9), (1.0, 1.0)))
            found = curve_values(steep, np.array([0.0, 0.5, 1.0]))
            np.testing.assert_allclose(found, (0.9, 0.95, 1.0))

    def test_channels_all_and_luma_go_through_their_curves(self) -> None:
        up = polygon(((0.0, 0.2), (1.0, 1.0)))
        (found,) = point("curves", (0.5, 0.5, 0.5), red=up)
        np.testing.assert_allclose(found, (0.6, 0.5, 0.5), atol=1e-3)
        (found,) = point("curves", (0.5, 0.25, 0.5), all=up)
        np.testing.assert_allclose(found, (0.6, 0.4, 0.6), atol=1e-3)
        (found,) = point("curves", (0.6, 0.3, 0.1), luma=polygon(((0.0, 0.0), (1.0, 0.5))))
        np.testing.assert_allclose(found, (0.3, 0.15, 0.05), atol=1e-3)
