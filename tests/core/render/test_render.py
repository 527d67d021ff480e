"""Frames of a wrinkle over sources whose every pixel is known."""

import math
import unittest
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import FillSource, PictureSource, TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import lane_edits, layer_edits, wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Jobs
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import Manner, render
from wrinkle.core.render.material import Filling, Material, default_cut
from wrinkle.core.render.placing import layer_matrix
from wrinkle.core.render.plan import plan_frame
from wrinkle.core.time.rate import FrameRate

SIZE = Size(54, 96)


class Numbered:
    """A source whose frame n is grey n / 100, with a bright corner that shows the way up."""

    def __init__(self, name: str, size: Size, rate: int, count: int) -> None:
        self.name = self.identity = name
        self.size = size
        self._rate, self._count = FrameRate.of(rate), count
        self.duration = self._rate.seconds(count)

    def index_at(self, seconds: Fraction) -> int:
        return min(max(self._rate.frame_at(seconds), 0), self._count - 1)

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        share = seconds * self._rate.per_second % 1
        return (self.index_at(seconds) + 1, float(share)) if share else None

    def image(self, index: int, size: Size) -> Image:
        pixels = np.full((size.height, size.width, 4), index / 100, np.float32)
        pixels[: size.height // 4, : size.width // 4, 0] = 1.0
        pixels[..., 3] = 1.0
        return Image(pixels, Light.LINEAR, True)


def material(outgoing: int = 30, incoming: int = 30) -> Material:
    return Material({
        "outgoing": Filling(Numbered("a", SIZE, outgoing, 90), Fraction(1)),
        "incoming": Filling(Numbered("b", SIZE, incoming, 90), Fraction(1)),
    })  # fmt: skip


def grey(image: Image) -> float:
    return float(image.in_light(Light.LINEAR).pixels[-1, -1, 1])


class Rendering(unittest.TestCase):
    def test_each_frame_shows_its_own_source_frame_on_both_sides_of_the_cut(self) -> None:
        for frame, index in ((-12, 18), (-1, 29), (0, 30), (11, 41), (-20, 10), (20, 50)):
            found = grey(render(plain_cut(), material(), frame, SIZE))
            self.assertAlmostEqual(found, index / 100, delta=1e-6, msg=str(frame))

    def test_another_rate_shows_the_same_times(self) -> None:
        wrinkle = replace(plain_cut(), frame_rate=FrameRate.of(60))
        self.assertEqual(wrinkle.frames, range(-24, 24))
        for frame, index in ((-24, 18), (-1, 29), (1, 30), (2, 31), (23, 41)):
            self.assertAlmostEqual(
                grey(render(wrinkle, material(), frame, SIZE)), index / 100, delta=1e-6
            )
        quick = grey(render(plain_cut(), material(incoming=60), 3, SIZE))
        self.assertAlmostEqual(quick, 0.66, delta=1e-6)

    def test_a_clip_that_is_too_short_holds_its_last_frame(self) -> None:
        short = Material({"incoming": Filling(Numbered("b", SIZE, 30, 33), Fraction(1))})
        self.assertAlmostEqual(grey(render(plain_cut(), short, 11, SIZE)), 0.32, delta=1e-6)

    def test_an_empty_slot_shows_nothing(self) -> None:
        nothing = render(turning(), Material(), -3, SIZE)
        self.assertEqual(float(np.abs(nothing.pixels).max()), 0.0)

    def test_the_same_bytes_on_any_number_of_threads_and_each_time(self) -> None:
        frames = (-12, -3, -1, 0, 5)
        alone = [render(turning(), material(), n, SIZE).to_bytes8().tobytes() for n in frames]
        with ThreadPoolExecutor(3) as pool:
            spread = [
                render(turning(), material(), n, SIZE, manner=Manner(pool)).to_bytes8().tobytes()
                for n in frames
            ]
        jobs = Jobs(3)
        self.addCleanup(jobs.stop)
        side_by_side = list(
            jobs.in_order(lambda n: render(turning(), material(), n, SIZE).to_bytes8().tobytes(),
                          frames)
        )  # fmt: skip
        self.assertEqual(alone, spread)
        self.assertEqual(alone, side_by_side)

    def test_a_turn_is_seen_where_it_must_be(self) -> None:
        # A quarter turn clockwise brings the bright upper left corner to the upper right; -90
        # (frame 0 of carry on) to the lower left. Without motion blur the corner is whole.
        square = Size(64, 64)
        wrinkle = replace(turning(90.0), shutter_angle=0.0)
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("turn", "rotation"), -FRAME, 90.0)
        fill = {
            key: Filling(Numbered(key, square, 30, 90), Fraction(1))
            for key in ("outgoing", "incoming")
        }
        before = render(wrinkle, Material(fill), -1, square).pixels[..., 0]
        after = render(wrinkle, Material(fill), 0, square).pixels[..., 0]
        self.assertGreater(before[4, 60], 0.99)
        self.assertLess(before[4, 4], 0.5)
        self.assertGreater(after[60, 4], 0.99)
        self.assertLess(after[4, 60], 0.5)

    def test_no_corner_is_bare_and_rest_is_the_clip_itself(self) -> None:
        for frame in turning().frames:
            image = render(turning(), material(), frame, SIZE)
            self.assertTrue(image.opaque)
            np.testing.assert_allclose(image.pixels[..., 3], 1.0, atol=1e-5)
        plain = render(plain_cut(), material(), 12, SIZE).to_bytes8()
        np.testing.assert_array_equal(render(turning(), material(), 12, SIZE).to_bytes8(), plain)

    def test_motion_blur_is_off_where_it_is_switched_off(self) -> None:
        for wrinkle, many in (
            (turning(), True),
            (replace(turning(), shutter_angle=0.0), False),
            (
                lane_edits.set_value(turning(), SettingRef("turn", "motion_blur"), FRAME, False),
                False,
            ),
        ):
            plan = plan_frame(wrinkle, material(), -1, SIZE, Quality.FINAL)
            self.assertEqual(len(plan.layers[-1].placements) > 1, many)

    def test_equal_plans_say_that_a_kept_picture_can_be_shown(self) -> None:
        def plan(wrinkle: Wrinkle) -> object:
            return plan_frame(wrinkle, material(), -3, SIZE, Quality.PREVIEW)

        self.assertEqual(plan(turning()), plan(wrinkle_edits.rename(turning(), "Other")))
        self.assertEqual(hash(plan(turning())), hash(plan(turning())))
        self.assertNotEqual(plan(turning()), plan(turning(91.0)))

    def test_yes_or_no_choices_and_colours_are_animated(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Flash", FillSource())
        shown, colour = SettingRef("flash", "visible"), SettingRef("flash", "source.colour")
        wrinkle = lane_edits.make_lane(wrinkle, shown, -12 * FRAME)
        wrinkle = lane_edits.set_value(wrinkle, shown, -12 * FRAME, False)
        wrinkle = lane_edits.set_value(wrinkle, shown, -4 * FRAME, True)
        wrinkle = lane_edits.make_lane(wrinkle, colour, -4 * FRAME)
        wrinkle = lane_edits.set_value(wrinkle, colour, -4 * FRAME, (0.0, 0.0, 0.0))
        wrinkle = lane_edits.set_value(wrinkle, colour, 0 * FRAME, (1.0, 0.5, 0.0))
        before = render(wrinkle, material(), -5, SIZE)
        np.testing.assert_array_equal(
            before.pixels, render(plain_cut(), material(), -5, SIZE).pixels
        )
        # Half-way between black and a colour is half of its light.
        half = render(wrinkle, material(), -2, SIZE).in_light(Light.LINEAR).pixels[9, 9]
        np.testing.assert_allclose(half, (0.5, 0.25, 0.0, 1.0), atol=1e-6)
        cover = SettingRef("outgoing", "edge_cover")
        wrinkle = lane_edits.set_value(
            plain_cut(), SettingRef("outgoing", "scale"), FRAME, (50.0, 50.0)
        )
        wrinkle = lane_edits.make_lane(wrinkle, cover, -12 * FRAME)
        wrinkle = lane_edits.set_value(wrinkle, cover, -6 * FRAME, "bare")
        for frame, alpha in ((-7, 1.0), (-6, 0.0), (-1, 0.0)):
            corner = render(wrinkle, material(), frame, SIZE).pixels[0, 0, 3]
            self.assertEqual(float(corner), alpha, frame)
        for value, told in (("round", "must be one of bare, mirror"), (1.0, "one of its choices")):
            with self.assertRaisesRegex(InputError, told):
                lane_edits.set_value(wrinkle, cover, FRAME, value)
        with self.assertRaisesRegex(InputError, "need a number or a pair"):
            lane_edits.set_formula(wrinkle, cover, "t")

    def test_a_child_moves_with_its_parent(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Hand", TreatmentSource())
        wrinkle = layer_edits.change_layer(wrinkle, "outgoing", parent="hand")
        hand, own = SettingRef("hand", "position"), SettingRef("outgoing", "scale")
        wrinkle = lane_edits.set_value(wrinkle, hand, FRAME, (0.25, 0.0))
        wrinkle = lane_edits.set_value(wrinkle, own, FRAME, (50.0, 50.0))
        place = layer_matrix(wrinkle, wrinkle.layer("outgoing"), -FRAME, -FRAME, Size(80, 40))
        np.testing.assert_allclose(place @ [0.0, 0.0, 1.0], [40.0, 10.0, 1.0])
        with self.assertRaisesRegex(InputError, "Outgoing → Hand → Outgoing"):
            layer_edits.change_layer(wrinkle, "hand", parent="outgoing")
        alone = layer_edits.remove_layer(wrinkle, "hand")
        self.assertIsNone(alone.layer("outgoing").parent)

    def test_jitter_and_formulas_move_the_picture_alike_at_any_rate(self) -> None:
        ref = SettingRef("turn", "position")
        wrinkle = lane_edits.set_jitter(turning(0.0), ref, Jitter(amount=Setting(0.1), rate=10.0))
        wrinkle = lane_edits.set_formula(
            wrinkle, SettingRef("turn", "rotation"), "t * 90 + frame * 0"
        )
        twice = replace(wrinkle, frame_rate=FrameRate.of(60))
        for frame in (-7, 4):
            time = frame * FRAME
            one = layer_matrix(wrinkle, wrinkle.layer("turn"), time, time, SIZE)
            two = layer_matrix(twice, twice.layer("turn"), time, time, SIZE)
            np.testing.assert_array_equal(one, two)
            turned = math.degrees(math.atan2(one[1, 0], one[0, 0]))
            self.assertAlmostEqual(turned, 90.0 * float(time))
        with self.assertRaisesRegex(InputError, "no finite value at t = 0"):
            lane_edits.set_formula(wrinkle, ref, "1 / t, 0")
        with self.assertRaisesRegex(InputError, "two formulas with a comma"):
            lane_edits.set_formula(wrinkle, ref, "t")
        with self.assertRaisesRegex(InputError, "Opacity must be within 0 and 100"):
            lane_edits.set_formula(wrinkle, SettingRef("turn", "opacity"), "100 + t")

    def test_stepped_jitter_rests_while_the_shutter_is_open(self) -> None:
        jitter = Jitter(amount=Setting(0.3), rate=30.0, stepped=True)
        wrinkle = lane_edits.set_jitter(turning(0.0), SettingRef("turn", "position"), jitter)
        plan = plan_frame(wrinkle, material(), -3, SIZE, Quality.FINAL)
        self.assertEqual(len(plan.layers[-1].placements), 1)

    def test_opacity_mixes_a_picture_over_the_clip(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Card", PictureSource("card.png"))
        fade = Track((Keyframe(-12 * FRAME, 0.0), Keyframe(Fraction(0), 100.0)))
        card = wrinkle.layers[-1].with_setting("opacity", Setting(100.0, fade))
        wrinkle = layer_edits.with_layers(wrinkle, (*wrinkle.layers[:-1], card))
        white = Numbered("card", SIZE, 30, 200)
        given = Material(material().slots, {"card.png": white})
        encoded = render(wrinkle, given, -6, SIZE).in_light(Light.ENCODED).pixels[-1, -1, 1]
        clip = render(plain_cut(), given, -6, SIZE).in_light(Light.ENCODED).pixels[-1, -1, 1]
        self.assertAlmostEqual(float(encoded), float(clip) * 0.5, delta=1e-5)
        self.assertIs(
            render(wrinkle, given, -12, SIZE).opaque, True, "opacity 0 leaves the clip as it is"
        )

    def test_a_clip_is_cut_where_the_window_has_room(self) -> None:
        long, short = Numbered("l", SIZE, 30, 90), Numbered("s", SIZE, 30, 20)
        self.assertEqual(default_cut("outgoing", long, plain_cut()), 66 * FRAME)
        self.assertEqual(default_cut("incoming", long, plain_cut()), 24 * FRAME)
        self.assertEqual(default_cut("outgoing", short, plain_cut()), 10 * FRAME)
        # At a rate of a frame in two and a half seconds the nearest one lies beyond the end.
        slow = replace(plain_cut(), frame_rate=FrameRate(Fraction(2, 5)), tail=Fraction(1, 50))
        for key in ("outgoing", "incoming"):
            self.assertEqual(default_cut(key, Numbered("two", SIZE, 30, 60), slow), 0)
