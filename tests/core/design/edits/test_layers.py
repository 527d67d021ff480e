"""Edits of groups, mattes, masks and time, and what they refuse."""

import unittest
from fractions import Fraction

from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME
from tests.core.picture.outlines import bounds
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.links import cut_by, within
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slot_kinds import WORDS
from wrinkle.core.design.document.slots import OUTGOING, Slot, called
from wrinkle.core.design.document.sources import (
    FillSource,
    GroupSource,
    NoiseSource,
    ShapeSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.timing import Beyond, Blink, Span, Timing
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import (
    grouping,
    lane_edits,
    layer_copies,
    layer_edits,
    mask_edits,
    matte_edits,
    slot_edits,
    time_edits,
)
from wrinkle.core.design.edits.layer_copies import duplicate
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.motion.values import parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size

FRAME_SIZE = Size(1080, 1920)


def names(wrinkle: Wrinkle, group: str | None = None) -> list[str]:
    return [layer.id for layer in within(wrinkle.layers, group)]


def with_fills(*ids: str) -> Wrinkle:
    wrinkle = plain_cut()
    for name in ids:
        wrinkle = layer_edits.add_layer(wrinkle, name, FillSource())
    return wrinkle


class Slots(unittest.TestCase):
    def test_a_slot_is_called_by_its_label_and_by_what_it_takes(self) -> None:
        slots = (OUTGOING, Slot("clip", "Fog"), Slot("words", "Title", WORDS))
        found = [called(slots, key) for key in ("outgoing", "clip", "words", "third")]
        self.assertEqual(found, ["outgoing clip", "clip “Fog”", "words “Title”", "third clip"])


class Groups(unittest.TestCase):
    def test_layers_are_grouped_entered_dissolved_and_copied_whole(self) -> None:
        wrinkle = grouping.group_layers(with_fills("a", "b", "c"), ["a", "c"], "Pair")
        self.assertEqual(names(wrinkle), ["outgoing", "incoming", "b", "pair"])
        self.assertEqual(names(wrinkle, "pair"), ["a", "c"])
        wrinkle = layer_edits.add_layer(wrinkle, "new", FillSource(), above="a")
        self.assertEqual(names(wrinkle, "pair"), ["a", "new", "c"])
        wrinkle = matte_edits.set_matte(wrinkle, "c", Matte("a"))
        twice = duplicate(wrinkle, "pair")
        copy = names(twice, "pair-copy")
        self.assertEqual(copy, ["a-2", "new-2", "c-2"])
        # The copy's own links lead to the copies.
        self.assertEqual(twice.layer("c-2").matte.layer, "a-2")
        gone = grouping.dissolve_group(wrinkle, "pair")
        self.assertEqual(names(gone), ["outgoing", "incoming", "b", "a", "new", "c"])
        removed = layer_edits.remove_layer(wrinkle, "pair")
        self.assertEqual(names(removed), ["outgoing", "incoming", "b"])
        self.assertEqual(len(removed.layers), 3)

    def test_the_order_of_the_stack_shows_each_group_before_what_it_holds(self) -> None:
        wrinkle = grouping.group_layers(with_fills("a", "b"), ["a"], "Box")
        wrinkle = grouping.place_layer(wrinkle, "b", "box", "a")
        self.assertEqual(
            [layer.id for layer in grouping.front_to_back(wrinkle)],
            ["box", "b", "a", "incoming", "outgoing"],
        )
        back = grouping.place_layer(wrinkle, "a", None, None)
        self.assertEqual(names(back)[0], "a")
        self.assertFalse(grouping.may_hold(wrinkle, "box", "box"))

    def test_circles_are_refused_by_name(self) -> None:
        wrinkle = grouping.group_layers(with_fills("a", "b"), ["a"], "Box")
        with self.assertRaisesRegex(InputError, "cannot be made from itself: a → Box → a"):
            matte_edits.set_matte(wrinkle, "a", Matte("box"))
        wrinkle = matte_edits.set_matte(wrinkle, "b", Matte("box"))
        with self.assertRaisesRegex(InputError, r"Box → b → Box|b → Box → b"):
            matte_edits.set_matte(wrinkle, "box", Matte("b"))
        with self.assertRaisesRegex(InputError, "cannot hold itself"):
            grouping.place_layer(wrinkle, "box", "box")
        with self.assertRaisesRegex(InputError, "no group"):
            grouping.place_layer(wrinkle, "a", "b")
        treated = layer_edits.add_layer(wrinkle, "Turn", TreatmentSource())
        with self.assertRaisesRegex(InputError, "no picture of its own"):
            matte_edits.set_matte(treated, "a", Matte("turn"))

    def test_a_matte_is_a_link_that_reordering_cannot_break(self) -> None:
        wrinkle = matte_edits.set_matte(
            with_fills("ink", "sky"), "sky", Matte("ink", MatteBy.COVERAGE, True)
        )
        moved = grouping.place_layer(wrinkle, "sky", None)
        self.assertEqual(moved.layers[0].id, "sky")
        moved = grouping.place_layer(moved, "ink", None, "incoming")
        self.assertEqual(moved.layer("sky").matte, Matte("ink", MatteBy.COVERAGE, True))
        self.assertEqual([x.id for x in cut_by(moved.layers, "ink")], ["sky"])
        self.assertIsNone(layer_edits.remove_layer(moved, "ink").layer("sky").matte)


class Masks(unittest.TestCase):
    def test_ready_forms_are_round_and_upright_on_the_screen(self) -> None:
        left, top, right, bottom = bounds(form_outline(MaskForm.ELLIPSE, FRAME_SIZE))
        self.assertAlmostEqual((right - left) * 1080, (bottom - top) * 1920, delta=1.0)
        for angle in (0.0, 30.0):
            bar = paths.transformed(
                form_outline(MaskForm.BAR, FRAME_SIZE, angle), _pixels(FRAME_SIZE)
            )
            corners = [(k.x, k.y) for k in paths.knots(bar)]
            width = (
                (corners[0][0] - corners[1][0]) ** 2 + (corners[0][1] - corners[1][1]) ** 2
            ) ** 0.5
            self.assertAlmostEqual(width, 0.2 * 1080, delta=0.1)
        edge = form_outline(MaskForm.EDGE, FRAME_SIZE)
        self.assertAlmostEqual(bounds(edge)[2], 0.5)

    def test_points_are_changed_in_every_keyframe(self) -> None:
        wrinkle, mask = mask_edits.add_mask(
            plain_cut(), "outgoing", paths.rectangle(0.2, 0.2, 0.8, 0.8)
        )
        ref = path_ref("outgoing", mask)
        wrinkle = mask_edits.set_path(
            wrinkle, ref, -5 * FRAME, paths.ellipse(0.5, 0.5, 0.2, 0.2), True
        )
        wrinkle = mask_edits.set_path(wrinkle, ref, -2 * FRAME, paths.rectangle(0, 0, 1, 1), True)
        more = mask_edits.insert_point(wrinkle, ref, 1, 0.5)
        track = ref.of(more).track
        self.assertEqual({len(key.value) for key in track.keys}, {30})
        self.assertEqual(len(ref.of(more).rest), 30)
        half = parts(ref.of(more).at(Fraction(-7, 60)))
        self.assertEqual(len(half), 30)
        fewer = ref.of(mask_edits.remove_point(more, ref, 2))
        self.assertEqual({len(key.value) for key in fewer.track.keys}, {24})
        kept = paths.knots(parts(fewer.track.keys[1].value))
        self.assertEqual([(k.x, k.y) for k in kept], [(0, 0), (1, 0), (1, 1), (0, 1)])
        self.assertEqual(coding.decode(coding.encode(more)), more)

    def test_masks_have_own_names_and_impossible_values_are_refused(self) -> None:
        wrinkle, first = mask_edits.add_mask(plain_cut(), "outgoing", paths.rectangle(0, 0, 1, 1))
        wrinkle, second = mask_edits.add_mask(wrinkle, "outgoing", paths.rectangle(0, 0, 1, 1))
        self.assertNotEqual(first, second)
        wrinkle = mask_edits.change_mask(wrinkle, "outgoing", second, name="Port", shown=False)
        self.assertEqual(wrinkle.layer("outgoing").mask(second).name, "Port")
        only = mask_edits.remove_mask(wrinkle, "outgoing", first)
        self.assertEqual([m.id for m in only.layer("outgoing").masks], [second])
        ref = SettingRef("outgoing", f"masks.{second}.feather")
        with self.assertRaisesRegex(InputError, "Feather must be within"):
            lane_edits.set_value(wrinkle, ref, Fraction(0), -1.0)
        with self.assertRaisesRegex(InputError, "six numbers"):
            lane_edits.set_value(wrinkle, path_ref("outgoing", second), Fraction(0), (1.0, 2.0))

    def test_what_a_layer_has_is_pasted_to_others_mirrored_on_request(self) -> None:
        wrinkle = with_fills("a", "b")
        for key, value in (("position", (0.5, 0.25)), ("rotation", 30.0), ("scale", (50.0, 50.0))):
            ref = SettingRef("a", key)
            wrinkle = lane_edits.set_value(
                lane_edits.make_lane(wrinkle, ref, Fraction(0)), ref, Fraction(0), value
            )
        wrinkle, mask = mask_edits.add_mask(wrinkle, "a", paths.rectangle(0.0, 0.1, 0.25, 0.3))
        source = wrinkle.layer("a")
        across = layer_copies.pasted(wrinkle, "b", "place", source, Direction.LEFT_RIGHT).layer("b")
        self.assertEqual(across.setting("position").at(Fraction(0)), (-0.5, 0.25))
        self.assertEqual(across.setting("rotation").at(Fraction(0)), -30.0)
        self.assertEqual(across.setting("scale").at(Fraction(0)), (50.0, 50.0))
        down = layer_copies.pasted(wrinkle, "b", "masks", source, Direction.UP_DOWN).layer("b")
        box = bounds(parts(down.setting(f"masks.{mask}.path").rest))
        for found, wanted in zip(box, (0.0, 0.7, 0.25, 0.9), strict=True):
            self.assertAlmostEqual(found, wanted)
        look = layer_copies.pasted(
            matte_edits.set_matte(wrinkle, "a", Matte("b")), "b", "look", source, Direction.AS_MADE
        )
        self.assertIsNone(look.layer("b").matte)


class Time(unittest.TestCase):
    def clip_time(self, wrinkle: Wrinkle, frames: int, layer: str = "outgoing") -> Fraction:
        time = frames * FRAME
        found = wrinkle.layer(layer)
        return found.timing.clip_time(time, wrinkle.clock(found, time)) / FRAME

    def test_slide_speed_reverse_freeze_and_stutter(self) -> None:
        wrinkle = plain_cut()
        slid = time_edits.set_timing(wrinkle, "outgoing", slide=3 * FRAME)
        self.assertEqual(self.clip_time(slid, -4), -1)
        half = lane_edits.set_value(
            wrinkle, SettingRef("outgoing", "timing.speed"), Fraction(0), 50.0
        )
        self.assertEqual(self.clip_time(half, -4), -2)
        back = time_edits.set_timing(half, "outgoing", reverse=True)
        self.assertEqual(self.clip_time(back, -4), 2)
        still = time_edits.freeze_layer(half, "outgoing", -6 * FRAME)
        self.assertEqual([self.clip_time(still, n) for n in (-12, -1)], [-3, -3])
        # Common practice: a picture rate of 6 in 30 fps holds each picture for 5 frames.
        slow = lane_edits.set_value(
            wrinkle, SettingRef("outgoing", "timing.stutter"), Fraction(0), 6.0
        )
        found = [self.clip_time(slow, n) for n in range(-11, 0)]
        self.assertEqual(found, [-15, *[-10] * 5, *[-5] * 5])
        never = lane_edits.set_value(
            wrinkle, SettingRef("outgoing", "timing.stutter"), Fraction(0), 1e-9
        )
        self.assertEqual(self.clip_time(never, -4), -4)

    def test_a_speed_lane_runs_as_far_as_its_area(self) -> None:
        track = Track((Keyframe(-12 * FRAME, 100.0), Keyframe(Fraction(0), 300.0)))
        layer = plain_cut().layer("outgoing").with_setting("timing.speed", Setting(100.0, track))
        wrinkle = layer_edits.with_layer(plain_cut(), layer)
        # The mean speed of a straight line is that of its middle: 200 % over 12 frames.
        self.assertAlmostEqual(float(self.clip_time(wrinkle, -12)), -24.0, places=6)
        self.assertAlmostEqual(float(self.clip_time(wrinkle, -6)), -15.0, places=6)
        worked = replace(layer.timing, speed=Setting(100.0, formula="100 + 0 * t"))
        wrinkle = layer_edits.with_layer(plain_cut(), replace(layer, timing=worked))
        self.assertAlmostEqual(float(self.clip_time(wrinkle, -7)), -7.0, places=6)

    def test_split_and_freeze_here_make_two_layers(self) -> None:
        split, later = time_edits.split_layer(plain_cut(), "outgoing", -5 * FRAME)
        self.assertEqual(split.layer("outgoing").span.end, -5 * FRAME)
        self.assertEqual(
            (split.layer(later).span.start, split.layer(later).span.end), (-5 * FRAME, 0)
        )
        frozen, still = time_edits.freeze_from(plain_cut(), "outgoing", -5 * FRAME)
        self.assertEqual(self.clip_time(frozen, -1, still), -5)
        self.assertEqual(self.clip_time(frozen, -7), -7)
        with self.assertRaisesRegex(InputError, "cannot be split here"):
            time_edits.split_layer(plain_cut(), "outgoing", Fraction(0))
        tied = time_edits.set_span(split, later, Fraction(-9), Fraction(9))
        self.assertEqual(tied.layer(later).span, Span())
        for start, end in ((split.tail, None), (None, -split.lead)):
            with self.assertRaisesRegex(InputError, "one frame of the window at least"):
                time_edits.set_span(split, later, start, end)

    def test_times_beyond_any_transition_are_refused(self) -> None:
        far = Fraction(10**9)
        for wrong in (
            lambda: Span(start=-far),
            lambda: Span(end=far),
            lambda: Timing(slide=far),
            lambda: Timing(freeze=-far),
            lambda: Keyframe(far, 1.0),
        ):
            with self.assertRaisesRegex(InputError, "within an hour of the cut"):
                wrong()

    def test_a_blink_counts_from_the_layers_start(self) -> None:
        timing = (
            time_edits.set_timing(plain_cut(), "incoming", blink=Blink(2, 1), beyond=Beyond.LOOP)
            .layer("incoming")
            .timing
        )
        self.assertEqual([timing.shown(n, 0) for n in range(6)], [True, True, False] * 2)
        with self.assertRaisesRegex(InputError, "1 to 1000"):
            Blink(0, 1)


class Documents(unittest.TestCase):
    def test_every_kind_of_layer_comes_back_from_its_file(self) -> None:
        wrinkle = plain_cut()
        for name, source in (
            ("Words", WordsSource("Kite\nDay", size=Setting(20.0))),
            ("Shape", ShapeSource(closed=False)),
            ("Noise", NoiseSource()),
            ("Group", GroupSource()),
        ):
            wrinkle = layer_edits.add_layer(wrinkle, name, source)
        wrinkle, key = slot_edits.add_slot(wrinkle)
        self.assertEqual((key, wrinkle.slots[-1].label), ("third", "Third clip"))
        self.assertEqual(coding.decode(coding.encode(wrinkle)), wrinkle)
        self.assertEqual(len(slot_edits.remove_unused_slots(wrinkle).slots), 2)

    def test_a_broken_link_in_a_file_is_named(self) -> None:
        text = coding.encode(with_fills("a")).replace(b'"id": "a"', b'"id": "a", "group": "b"')
        with self.assertRaisesRegex(DocumentError, "group of the layer 'a' does not exist"):
            coding.decode(text)

    def test_a_lane_breaks_at_the_cut_only_where_its_layer_crosses_it(self) -> None:
        wrinkle = with_fills("both")
        keys = (Keyframe(Fraction(0), 40.0), Keyframe(5 * FRAME, 0.0))
        setting = Setting(0.0, track=Track(keys))
        for layer, broken in (("both", True), ("incoming", False), ("outgoing", False)):
            ref = SettingRef(layer, "rotation")
            changed = wrinkle.layer(layer).with_setting("rotation", setting)
            moving = layer_edits.with_layer(wrinkle, changed)
            self.assertEqual(lane_edits.fault_at_cut(moving, ref) is not None, broken, layer)
        self.assertIsNone(lane_edits.fault_at_cut(wrinkle, SettingRef("both", "rotation")))


def _pixels(size: Size):
    from wrinkle.core.picture.placement import scaling

    return scaling(*size)
