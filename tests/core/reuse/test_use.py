"""A use comes to a plain wrinkle: other rates, other lengths, what holds on whole frames."""

import unittest
from fractions import Fraction

from tests.core.design.wrinkles import FRAME, turning
from tests.core.render.test_render import Numbered
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.picture.image import Size
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.reuse.use import (
    AS_MADE,
    Choices,
    Use,
    natural_size,
    plainest,
    resolved,
    showing,
)
from wrinkle.core.time.rate import FrameRate
from wrinkle.library import find

VISIBLE = SettingRef("turn", "visible")


def held_on(*frames: int):  # type: ignore[no-untyped-def]
    """A treatment that is switched on and off on frames of 30 in a second."""
    wrinkle = lane_edits.make_lane(turning(), VISIBLE, -12 * FRAME)
    for number, frame in enumerate(frames):
        wrinkle = lane_edits.set_value(wrinkle, VISIBLE, frame * FRAME, bool(number % 2))
    for index in range(len(frames) + 1):
        wrinkle = lane_edits.set_ease(wrinkle, VISIBLE, index, Hold())
    return wrinkle


class Resolved(unittest.TestCase):
    def test_as_it_was_designed_it_is_itself(self) -> None:
        wrinkle = held_on(-5)
        self.assertIs(resolved(Use(wrinkle, {}), wrinkle.frame_rate), wrinkle)

    def test_what_holds_changes_on_whole_frames_of_the_new_rate(self) -> None:
        # Frame 5 at 30 is the sixth of a second: frame 4.17 at 25, of which 4 is the nearest.
        wrinkle = resolved(Use(held_on(-5), {}), FrameRate.of(25))
        times = [key.time * 25 for key in VISIBLE.of(wrinkle).track.keys]
        self.assertEqual(times, [-10, -4])
        turn = SettingRef("turn", "rotation").of(wrinkle).track.keys
        self.assertEqual([key.time for key in turn], [-12 * FRAME, 0])

    def test_what_holds_for_a_frame_holds_for_one_at_any_rate(self) -> None:
        # Frames -6 and -5 of 30 in a second both fall on -2 of 12; -9 and -3 do not.
        track = VISIBLE.of(resolved(Use(held_on(-9, -6, -5, -3), {}), FrameRate.of(12))).track
        self.assertEqual([key.time * 12 for key in track.keys], [-5, -4, -3, -2, -1])
        self.assertEqual([key.value for key in track.keys], [True, False, True, False, True])

    def test_another_length_moves_what_lies_between_in_proportion(self) -> None:
        wrinkle = lane_edits.set_value(turning(), SettingRef("turn", "rotation"), -6 * FRAME, 30.0)
        use = Use(wrinkle, {}, Choices(lead=24 * FRAME, tail=6 * FRAME))
        changed = resolved(use, wrinkle.frame_rate)
        self.assertEqual((changed.first_frame, changed.end_frame), (-24, 6))
        keys = SettingRef("turn", "rotation").of(changed).track.keys
        self.assertEqual([key.time / FRAME for key in keys], [-24, -12, 0, 0, 3, 6])
        with self.assertRaisesRegex(InputError, "lead must be above 0"):
            resolved(Use(wrinkle, {}, Choices(lead=Fraction(0))), wrinkle.frame_rate)

    def test_with_the_values_of_old_a_choice_is_as_made_again(self) -> None:
        wrinkle = find("Half turn").wrinkle
        dial = wrinkle.dials[0]
        chosen = Choices(lead=wrinkle.lead, tail=wrinkle.tail, dials={dial.id: dial.default})
        self.assertEqual(plainest(wrinkle, chosen), AS_MADE)
        strong = Choices(strength=80.0, dials={dial.id: dial.default})
        self.assertEqual(plainest(wrinkle, strong), Choices(strength=80.0))
        longer = Choices(lead=wrinkle.lead * 2)
        self.assertEqual(plainest(wrinkle, longer), longer)

    def test_a_cut_outside_its_clip_is_refused_by_name(self) -> None:
        source = Numbered("kite", Size(101, 60), 30, 90)
        use = Use(turning(), {"outgoing": Filling(source, Fraction(4))})
        with self.assertRaisesRegex(InputError, "cut of kite must lie within 0 and 3 seconds"):
            showing(use, Material(), Size(100, 60), FrameRate.of(30))
        self.assertEqual(natural_size(use), Size(102, 60))
