"""Lanes, masks and layers that are made whole by one press."""

import unittest
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.mask_forms import ROUND, MaskForm, form_outline
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import FillSource, TreatmentSource, WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import (
    grouping,
    lane_edits,
    layer_copies,
    layer_edits,
    mask_edits,
    time_edits,
)
from wrinkle.core.design.edits.lane_shapes import (
    LaneShape,
    begin_lane,
    kept_within,
    set_span,
    shaped,
    usual_shape,
    with_effect,
)
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.design.edits.mask_motions import MaskMotion, revealed_in_turn, set_in_motion
from wrinkle.core.design.edits.reveals import overlapping, revealed_by
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.errors import InputError
from wrinkle.core.mask.coverage import MaskShape, shape_coverage
from wrinkle.core.motion.track import CUT, IncomingHalf, Side
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import in_frame

FRAME = Fraction(1, 30)
UPRIGHT, LEVEL = Size(54, 96), Size(96, 54)


def treated() -> Wrinkle:
    """A plain cut of twelve and twelve frames under a treatment."""
    return layer_edits.add_layer(plain_cut(), "Treat", TreatmentSource())


def pins(wrinkle: Wrinkle, layer: str, key: str) -> list[tuple[float, object]]:
    """Frame and value of each keyframe."""
    track = SettingRef(layer, key).of(wrinkle).track
    return [(float(k.time / FRAME), k.value) for k in track.keys] if track else []


class Lanes(unittest.TestCase):
    def test_a_new_lane_goes_as_its_layer_and_its_setting_want_it(self) -> None:
        wrinkle = treated()
        for layer, key, value, shape, wanted in (
            ("treat", "rotation", 180.0, LaneShape.CARRIES_ON, [(-10, 0.0), (0, 180.0)]),
            ("treat", "skew_axis", 9.0, LaneShape.CARRIES_ON, [(-10, 0.0), (0, 9.0)]),
            ("treat", "camera", 90.0, LaneShape.RETURNS, [(-10, 200.0), (0, 90.0)]),
            ("outgoing", "rotation", 9.0, LaneShape.RISES, [(-11, 0.0), (0, 9.0)]),
            ("incoming", "opacity", 0.0, LaneShape.SETTLES, [(0, 0.0), (10, 100.0)]),
        ):
            with self.subTest(layer=layer, key=key):
                ref = SettingRef(layer, key)
                self.assertIs(usual_shape(wrinkle, ref), shape)
                typed = lane_edits.set_value(wrinkle, ref, CUT, value)
                self.assertEqual(pins(begin_lane(typed, ref, CUT), layer, key), wanted)
        turn = SettingRef("treat", "rotation")
        back = shaped(begin_lane(wrinkle, turn, CUT), turn, LaneShape.RETURNS, CUT, 90.0)
        self.assertIs(turn.of(back).track.incoming, IncomingHalf.RETURN)
        self.assertEqual(pins(shaped(back, turn, LaneShape.CROSSES, CUT), "treat", "rotation"),
                         [(-11, 90.0), (10, -90.0)])  # fmt: skip

    def test_every_effect_is_at_rest_where_the_window_begins_and_ends(self) -> None:
        moving = set()
        for effect in EFFECTS.values():
            for layer in ("treat", "outgoing", "incoming"):
                wrinkle = with_effect(treated(), layer, effect.key)
                (use,) = wrinkle.layer(layer).effects
                ends = {"outgoing": [-12], "incoming": [11]}.get(layer, [-12, 11])
                for frame in ends:
                    time = frame * FRAME
                    # To the end of the shutter.
                    for instant in (time - FRAME / 2, time, time + FRAME / 2):
                        values = {
                            spec.key: use.setting(spec.key).at(instant, Side.of(time))
                            for spec in effect.settings
                        }
                        if not effect.resting(values):
                            moving.add(effect.key)
        self.assertEqual(moving, {"flip"}, "there is nothing between flipped and not")

    def test_lanes_follow_the_span_of_their_layer_until_they_are_changed(self) -> None:
        wrinkle = with_effect(treated(), "treat", "exposure")
        key = str(wrinkle.layer("treat").lanes()[0])
        ref = SettingRef("treat", key)
        self.assertEqual(pins(wrinkle, "treat", key), [(-10, 0.0), (0, 1.0)])
        later = set_span(wrinkle, "treat", CUT, None)
        self.assertEqual(pins(later, "treat", key), [(0, 1.0), (10, 0.0)])
        short = set_span(wrinkle, "treat", -FRAME, CUT)
        self.assertEqual((ref.of(short).track, ref.of(short).rest), (None, 1.0))
        touched = lane_edits.set_value(wrinkle, ref, -5 * FRAME, 0.2)
        kept = set_span(touched, "treat", CUT, None)
        self.assertEqual(ref.of(kept), ref.of(touched))

    def test_what_lies_over_the_clips_is_not_there_at_the_ends_and_titles_come_clean(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Title", WordsSource())
        wrinkle = with_effect(kept_within(wrinkle, "title"), "title", "gaussian_blur")
        span = wrinkle.layer("title").span
        self.assertEqual((span.start, span.end), (-11 * FRAME, 11 * FRAME))
        key = str(wrinkle.layer("title").lanes()[0])
        self.assertEqual([value for _, value in pins(wrinkle, "title", key)], [4.0, 0.0])
        wrinkle = begin_lane(wrinkle, SettingRef("title", "opacity"), CUT)
        self.assertEqual(pins(wrinkle, "title", "opacity"), [(-11, 0.0), (0, 100.0)])

    def test_clips_overlap_with_the_outgoing_one_in_front(self) -> None:
        wrinkle = overlapping(treated())
        self.assertEqual([x.id for x in wrinkle.layers], ["incoming", "outgoing", "treat"])
        self.assertEqual(wrinkle.layer("outgoing").span.end, 11 * FRAME)
        melting = with_effect(wrinkle, "outgoing", "luma_reveal")
        key = str(melting.layer("outgoing").lanes()[0])
        self.assertEqual(pins(melting, "outgoing", key)[-1], (11, 100.0))
        with self.assertRaisesRegex(InputError, "No layer shows the outgoing clip"):
            overlapping(layer_edits.remove_layer(treated(), "outgoing"))

    def test_another_layer_reveals_the_next_clip_and_both_ends_are_whole(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Ink", FillSource())
        revealed, view = revealed_by(wrinkle, "ink", dark=True)
        self.assertEqual(revealed.layer(view).matte, Matte("ink", MatteBy.BRIGHTNESS, True))
        self.assertFalse(revealed.layer("ink").visible.rest)
        there = {
            frame: [x.id for x in revealed.layers if x.span.holds(frame * FRAME) and x.id != "ink"]
            for frame in (-12, -11, 0, 10, 11)
        }
        self.assertEqual(there[-12], ["outgoing"])
        self.assertEqual(there[11], ["incoming"])
        self.assertEqual([there[n] for n in (-11, 0, 10)], [["outgoing", view]] * 3)
        with self.assertRaisesRegex(InputError, "No layer shows the incoming clip"):
            revealed_by(layer_edits.remove_layer(wrinkle, "incoming"), "ink", dark=True)

    def test_what_is_seen_fades_where_its_opacity_becomes_a_lane(self) -> None:
        faded = begin_lane(plain_cut(), SettingRef("incoming", "opacity"), CUT)
        self.assertEqual(pins(faded, "incoming", "opacity"), [(0, 0.0), (10, 100.0)])


class Masks(unittest.TestCase):
    def covered(self, wrinkle: Wrinkle, time: Fraction, size: Size) -> np.ndarray:
        """What the mask shows of a frame."""
        mask = wrinkle.layer("outgoing").masks[0]
        path = parts(mask.path.at(time))
        if mask.keeps_form.rest:
            path = in_frame(path, wrinkle.reference_size, size)
        return shape_coverage(MaskShape(path), size, size)

    def test_masks_sweep_open_shut_and_leave(self) -> None:
        for form, motion, first, last in (
            (MaskForm.EDGE, MaskMotion.SWEEPS, 0.0, 1.0),
            (MaskForm.BAR, MaskMotion.SWEEPS, 0.0, 0.0),
            (MaskForm.ELLIPSE, MaskMotion.OPENS, 0.0, 1.0),
            (MaskForm.POLYGON, MaskMotion.SHUTS, 1.0, 0.0),
            (MaskForm.FULL, MaskMotion.LEAVES, 1.0, 0.0),
        ):
            wrinkle = overlapping(plain_cut())
            outline = form_outline(form, Size(1080, 1920))
            keeps = form in ROUND
            wrinkle, mask = mask_edits.add_mask(wrinkle, "outgoing", outline, None, keeps)
            wrinkle = set_in_motion(wrinkle, "outgoing", mask, motion)
            for size in (UPRIGHT, LEVEL):
                with self.subTest(form=form, size=size.label):
                    start = self.covered(wrinkle, -12 * FRAME, size)
                    end = self.covered(wrinkle, 11 * FRAME, size)
                    self.assertLess(float(np.abs(start - first).max()), 0.01)
                    self.assertLess(float(np.abs(end - last).max()), 0.01)
                    between = self.covered(wrinkle, 3 * FRAME, size)
                    self.assertTrue(0.02 < float(between.mean()) < 0.98)

    def test_a_group_is_revealed_in_turn(self) -> None:
        wrinkle = plain_cut()
        for name in ("One", "Two", "Three"):
            wrinkle = layer_edits.add_layer(wrinkle, name, FillSource())
        grouped = grouping.group_layers(wrinkle, ("one", "two", "three"))
        shown = revealed_in_turn(grouped, "group")
        starts = [pins(shown, x, path_ref(x, "m1").key)[0][0] for x in ("one", "two", "three")]
        self.assertEqual(starts, sorted(set(starts)))
        with self.assertRaisesRegex(InputError, "Select a group"):
            revealed_in_turn(grouped, "one")


class Copies(unittest.TestCase):
    def test_the_other_half_shows_the_rest_and_goes_the_other_way(self) -> None:
        outline = form_outline(MaskForm.DIAGONAL, Size(1080, 1920))
        wrinkle, _ = mask_edits.add_mask(plain_cut(), "outgoing", outline)
        ref = SettingRef("outgoing", "position")
        wrinkle = begin_lane(lane_edits.set_value(wrinkle, ref, CUT, (-1.0, -0.5)), ref, CUT)
        halves = layer_copies.other_half(wrinkle, "outgoing")
        first, second = halves.layers[:2]
        self.assertEqual([x.masks[0].inverted.rest for x in (first, second)], [False, True])
        self.assertEqual(pins(halves, second.id, "position")[-1][1], (1.0, 0.5))

    def test_bands_cover_the_frame_and_go_alternating_ways(self) -> None:
        ref = SettingRef("incoming", "position")
        wrinkle = lane_edits.set_value(plain_cut(), ref, CUT, (-1.4, 0.0))
        bands = layer_copies.in_bands(wrinkle, "incoming", 3)
        layers = [x for x in bands.layers if x.name.startswith("Incoming")]
        self.assertEqual([x.name for x in layers], ["Incoming 1", "Incoming 2", "Incoming 3"])
        self.assertEqual([x.placement.position.rest[0] for x in layers], [-1.4, 1.4, -1.4])
        total = sum(
            shape_coverage(MaskShape(parts(x.masks[0].path.rest)), UPRIGHT, UPRIGHT) for x in layers
        )
        np.testing.assert_allclose(total, 1.0, atol=1e-5)

    def test_a_layer_in_parts_is_there_as_long_as_before(self) -> None:
        wrinkle = time_edits.in_parts(treated(), "treat", 4)
        spans = [x.span for x in wrinkle.layers if x.name == "Treat"]
        self.assertEqual([(x.start, x.end) for x in spans],
                         [(None, -6 * FRAME), (-6 * FRAME, CUT), (CUT, 6 * FRAME),
                          (6 * FRAME, None)])  # fmt: skip
        short = time_edits.set_span(treated(), "treat", CUT, 3 * FRAME)
        with self.assertRaisesRegex(InputError, "too short for 4 parts"):
            time_edits.in_parts(short, "treat", 4)
