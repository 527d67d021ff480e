"""Edits of several pins at once, retiming, and copies with a difference."""

import unittest
from fractions import Fraction

from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import keyframes, lane_edits
from wrinkle.core.design.edits.layer_copies import duplicate
from wrinkle.core.design.edits.retiming import Retiming, pin_frames, retime
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import IncomingHalf
from wrinkle.core.time.rate import FrameRate

TURN = SettingRef("turn", "rotation")
SCALE = SettingRef("turn", "scale")


def stepping() -> Wrinkle:
    """A lane with pins on frames -6, -4, -1, 3 and 6."""
    wrinkle = lane_edits.make_lane(turning(), SettingRef("turn", "skew"), -6 * FRAME)
    for frame, value in ((-4, 10.0), (-1, 40.0), (3, 20.0), (6, 0.0)):
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("turn", "skew"), frame * FRAME, value)
    return lane_edits.set_ease(wrinkle, SettingRef("turn", "skew"), 1, FEELS["rush"])


SKEW = SettingRef("turn", "skew")


def short() -> Wrinkle:
    """The same lane alone, in a window of six frames on each side."""
    alone = lane_edits.drop_lane(stepping(), TURN, FRAME)
    return replace(alone, lead=6 * FRAME, tail=6 * FRAME)


def frames(wrinkle: Wrinkle, ref: SettingRef = SKEW) -> list[int]:
    return [int(key.time / FRAME) for key in ref.of(wrinkle).track.keys]


def values(wrinkle: Wrinkle, ref: SettingRef = SKEW) -> list[float]:
    return [key.value for key in ref.of(wrinkle).track.keys]


class SeveralPins(unittest.TestCase):
    def test_they_are_shifted_and_scaled(self) -> None:
        some = {SKEW: frozenset({1, 2})}
        self.assertEqual(frames(keyframes.shift(stepping(), some, FRAME)), [-6, -3, 0, 3, 6])
        every = {SKEW: frozenset(range(5))}
        self.assertEqual(
            frames(keyframes.scale_time(stepping(), every, Fraction(2))), [-12, -8, -2, 6, 12]
        )
        self.assertEqual(
            values(keyframes.scale_value(stepping(), {SKEW: frozenset({2, 3})}, 0.5)),
            [0.0, 10.0, 20.0, 10.0, 0.0],
        )

    def test_reversed_pins_run_backwards_with_their_eases(self) -> None:
        before = stepping()
        after = keyframes.reverse(before, {SKEW: frozenset({0, 1, 2})})
        self.assertEqual((frames(after)[:3], values(after)[:3]), ([-6, -3, -1], [40.0, 10.0, 0.0]))
        for n in range(21):
            time = (-6 + Fraction(n, 4)) * FRAME
            mirrored = -7 * FRAME - time
            self.assertAlmostEqual(
                SKEW.of(after).at(time), SKEW.of(before).at(mirrored), delta=1e-9
            )
        self.assertEqual(keyframes.reverse(after, {SKEW: frozenset({0, 1, 2})}), before)

    def test_the_sides_are_swapped(self) -> None:
        swapped = keyframes.swap_sides(stepping(), SKEW)
        self.assertEqual(frames(swapped), [-6, -3, 1, 4, 6])
        for n in range(-24, 25):
            time = n * FRAME / 4
            self.assertAlmostEqual(
                SKEW.of(swapped).at(time), SKEW.of(stepping()).at(-time), delta=1e-9
            )

    def test_they_are_copied_onto_another_setting_of_the_same_kind(self) -> None:
        copied = keyframes.copy(stepping(), {SKEW: frozenset({1, 2})})
        pasted = keyframes.paste(stepping(), copied, "incoming", 2 * FRAME)
        there = SettingRef("incoming", "skew")
        self.assertEqual((frames(pasted, there), values(pasted, there)), ([2, 5], [10.0, 40.0]))
        onto = keyframes.paste(stepping(), copied, "incoming", 2 * FRAME, "rotation")
        self.assertEqual(values(onto, SettingRef("incoming", "rotation")), [10.0, 40.0])
        again = keyframes.paste(stepping(), copied, "turn", -4 * FRAME)
        self.assertEqual(again, stepping())

    def test_what_is_in_the_way_is_named(self) -> None:
        one = {SKEW: frozenset({1})}
        for step, told in (
            (lambda w: keyframes.shift(w, one, -2 * FRAME), "in the order of time"),
            (
                lambda w: keyframes.shift(w, {SKEW: frozenset({4})}, 9 * FRAME),
                "would leave the window",
            ),
            (lambda w: keyframes.scale_time(w, one, Fraction(0)), "factors above 0"),
            (lambda w: keyframes.scale_value(w, one, 1e9), "Skew must be within"),
            (lambda w: keyframes.reverse(w, {SKEW: frozenset({0, 2})}), "neighbouring"),
            (lambda w: keyframes.swap_sides(w, TURN), "make it its own"),
            (lambda w: keyframes.copy(w, {}), "Choose the pins"),
            (
                lambda w: keyframes.paste(w, keyframes.copy(w, one), "turn", FRAME, "scale"),
                "they take values of different kinds",
            ),
            (
                lambda w: keyframes.paste(w, keyframes.copy(w, one), "turn", FRAME, "skew.jitter"),
                "has no .* that could take these pins",
            ),
        ):
            with self.subTest(told), self.assertRaisesRegex(InputError, told):
                step(stepping())

    def test_removing_all_ends_the_lane(self) -> None:
        gone = keyframes.remove(stepping(), {SKEW: frozenset(range(5))})
        self.assertIsNone(SKEW.of(gone).track)


class Retimed(unittest.TestCase):
    def test_six_frames_at_30_are_twelve_at_60_and_every_pin_doubles(self) -> None:
        # Common practice: every key time doubles in frames.
        wrinkle = short()
        doubled = retime(wrinkle, Retiming(FrameRate.of(60), wrinkle.lead, wrinkle.tail))
        self.assertEqual(len(doubled.frames), 2 * len(wrinkle.frames))
        before, after = dict(pin_frames(wrinkle)), dict(pin_frames(doubled))
        self.assertEqual(after["Turn · Skew"], [2 * n for n in before["Turn · Skew"]])

    def test_pins_on_the_first_and_last_frame_stay_tied(self) -> None:
        wrinkle = short()
        longer = retime(wrinkle, Retiming(wrinkle.frame_rate, 9 * FRAME, 8 * FRAME))
        self.assertEqual(frames(longer), [-9, -4, -1, 3, 8])
        whole = retime(wrinkle, Retiming(wrinkle.frame_rate, 12 * FRAME, 12 * FRAME, True))
        self.assertEqual(frames(whole), [-12, -8, -2, 6, 12])
        with self.assertRaisesRegex(InputError, "A pin on frame -4 would be left outside"):
            retime(wrinkle, Retiming(wrinkle.frame_rate, 2 * FRAME, 6 * FRAME))

    def test_holds_on_whole_frames_stay_on_whole_frames(self) -> None:
        wrinkle = lane_edits.set_ease(stepping(), SKEW, 1, Hold())
        slower = retime(wrinkle, Retiming(FrameRate.of(24), wrinkle.lead, wrinkle.tail))
        times = [key.time * 24 for key in SKEW.of(slower).track.keys]
        self.assertEqual(times[1], -3)
        self.assertEqual(times[2], Fraction(-24, 30))

    def test_a_copy_four_points_larger_stays_four_points_larger_between_the_pins(self) -> None:
        # Common practice: a second copy 4 points larger at every key.
        wrinkle = lane_edits.make_lane(turning(), SCALE, -12 * FRAME)
        wrinkle = lane_edits.set_value(wrinkle, SCALE, 0 * FRAME, (130.0, 130.0))
        wrinkle = lane_edits.set_ease(wrinkle, SCALE, 0, FEELS["overshoot"])
        ghost = duplicate(wrinkle, "turn", "scale", 4.0)
        self.assertEqual([x.id for x in ghost.layers][-2:], ["turn", "turn-copy"])
        copied = SettingRef("turn-copy", "scale")
        for n in range(-48, 49):
            larger, first = copied.of(ghost).at(n * FRAME / 4), SCALE.of(ghost).at(n * FRAME / 4)
            self.assertAlmostEqual(larger[0] - first[0], 4.0, delta=1e-9)
        self.assertEqual(TURN.of(ghost).track.incoming, IncomingHalf.CARRY_ON)
        with self.assertRaisesRegex(InputError, "Opacity must be within"):
            duplicate(wrinkle, "turn", "opacity", 5.0)
