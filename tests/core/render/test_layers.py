"""Masks, mattes, groups, blends, time and drawn layers, as pixels that are known."""

import math
import unittest
from fractions import Fraction
from unittest import mock

import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME
from tests.core.render.test_render import Numbered, grey, material
from wrinkle import library
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.masking import Matte, MatteBy, PaintedFrame
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import (
    FillSource,
    NoiseSource,
    PictureSource,
    ShapeSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.timing import Beyond, Blink
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import (
    effect_edits,
    grouping,
    lane_edits,
    layer_edits,
    mask_edits,
    matte_edits,
    time_edits,
)
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.effects.effect import Effect
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.picture import paths
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.image import Image, Light, Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.placing import layer_pose
from wrinkle.core.render.plan import plan_frame

SIZE = Size(60, 100)
CUT = Fraction(0)


class Still:
    """A picture of two halves: left grey 0.8, right grey 0.2, linear, opaque."""

    name = identity = "halves"
    size = SIZE
    duration = Fraction(0)

    def index_at(self, seconds: Fraction) -> int:
        return 0

    def following(self, seconds: Fraction) -> None:
        return None

    def image(self, index: int, size: Size) -> Image:
        pixels = np.full((size.height, size.width, 4), 0.2, np.float32)
        pixels[:, : size.width // 2] = 0.8
        pixels[..., 3] = 1.0
        return Image(pixels, Light.LINEAR, True)


def fills(*colours: tuple[float, float, float]) -> Wrinkle:
    """A black ground with one flat fill for each colour over it: ground, a, b, …"""
    wrinkle = layer_edits.with_layers(replace(plain_cut(), shutter_angle=0.0), ())
    for name, colour in zip(("ground", "a", "b", "c"), ((0.0, 0.0, 0.0), *colours), strict=False):
        source = FillSource(colour=Setting(colour))
        wrinkle = layer_edits.add_layer(wrinkle, name, source)
    return wrinkle


def seen(wrinkle: Wrinkle, frame: int = 0, of: Material | None = None) -> np.ndarray:
    return render(wrinkle, of or Material(), frame, SIZE).in_light(Light.LINEAR).pixels


def masked(wrinkle: Wrinkle, layer: str, outline: tuple[float, ...], **values: object) -> Wrinkle:
    wrinkle, mask = mask_edits.add_mask(wrinkle, layer, outline)
    for name, value in values.items():
        ref = SettingRef(layer, f"masks.{mask}.{name}")
        wrinkle = lane_edits.set_value(wrinkle, ref, CUT, value)
    return wrinkle


LEFT = paths.rectangle(-1.0, -1.0, 0.5, 2.0)
WHITE, RED = (1.0, 1.0, 1.0), (1.0, 0.0, 0.0)


class Masks(unittest.TestCase):
    def test_a_mask_cuts_its_layer_and_its_inverse_the_rest(self) -> None:
        for inverted in (False, True):
            row = seen(masked(fills(WHITE), "a", LEFT, inverted=inverted))[50, :, 0]
            left, right = (0.0, 1.0) if inverted else (1.0, 0.0)
            np.testing.assert_allclose(row[:29], left, atol=1e-6)
            np.testing.assert_allclose(row[31:], right, atol=1e-6)

    def test_two_inverse_halves_make_the_whole_and_move_apart_with_their_layer(self) -> None:
        # Common practice: a diagonal split moves its halves in opposite directions.
        diagonal = paths.polygon(((0.0, 0.0), (1.0, 0.0), (0.0, 1.0)))
        wrinkle = masked(fills(WHITE, WHITE), "a", diagonal)
        wrinkle = masked(wrinkle, "b", diagonal, inverted=True)
        self.assertGreater(float(seen(wrinkle)[..., 0].min()), 0.5)
        for layer, way in (("a", -0.25), ("b", 0.25)):
            ref = SettingRef(layer, "position")
            wrinkle = lane_edits.set_value(wrinkle, ref, CUT, (way, way))
        apart = seen(wrinkle)[..., 0]
        self.assertAlmostEqual(float(apart[50, 30]), 0.0, delta=1e-6)
        self.assertEqual((float(apart[2, 2]), float(apart[97, 57])), (1.0, 1.0))

    def test_edge_cover_outside_the_picture_is_cut_by_the_same_mask(self) -> None:
        wrinkle = masked(fills(WHITE), "a", LEFT)
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("a", "position"), CUT, (0.25, 0.0))
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("a", "edge_cover"), CUT, "mirror")
        row = seen(wrinkle)[50, :, 0]
        np.testing.assert_allclose(row[:44], 1.0, atol=1e-5)
        np.testing.assert_allclose(row[46:], 0.0, atol=1e-5)

    def test_what_keeps_its_form_is_round_in_a_frame_of_any_shape(self) -> None:
        # The area of an ellipse with semi-axes a and b is π a b; a circle of 40 % of the short
        # side has equal widths and heights.
        drawn_in = Size(108, 192)
        round_there = form_outline(MaskForm.ELLIPSE, drawn_in)
        for keeps in (True, False):
            kept = masked(fills(WHITE), "a", round_there, keeps_form=keeps)
            shape = ShapeSource(path=Setting(round_there), keeps_form=Setting(keeps))
            drawn = layer_edits.add_layer(fills(), "b", shape)
            for one in (kept, drawn):
                one = replace(one, reference_size=drawn_in)
                light = render(one, Material(), 0, Size(192, 108)).in_light(Light.LINEAR)
                covered = light.pixels[..., 0]
                across, down = float(covered[54].sum()), float(covered[:, 96].sum())
                self.assertAlmostEqual(down, 75.6 if keeps else 42.5, delta=1.0)
                self.assertAlmostEqual(across, 75.6 if keeps else 134.4, delta=1.0)
                area = math.pi / 4.0 * across * down
                self.assertAlmostEqual(float(covered.sum()), area, delta=0.01 * area)

    def test_a_moving_mask_is_blurred_over_the_shutter(self) -> None:
        # A straight edge moving v pixels a frame at 180° leaves a ramp of v / 2 pixels.
        wrinkle = masked(replace(fills(WHITE), shutter_angle=180.0), "a", LEFT)
        ref = path_ref("a", "m1")
        wrinkle = mask_edits.set_path(wrinkle, ref, -4 * FRAME, paths.moved(LEFT, -4 / 3, 0), True)
        wrinkle = mask_edits.set_path(wrinkle, ref, 4 * FRAME, paths.moved(LEFT, 4 / 3, 0), True)
        row = seen(layer_edits.remove_layer(wrinkle, "ground"))[50, :, 3]
        plan = plan_frame(wrinkle, Material(), 0, SIZE, Quality.FINAL)
        self.assertGreater(len(plan.layers[-1].masks), 1)
        ramp = np.flatnonzero((row > 0.05) & (row < 0.95))
        self.assertAlmostEqual(len(ramp), 10 * 0.9, delta=2)
        self.assertAlmostEqual(float(row.mean()), 0.5, delta=0.01)

    def test_the_opacity_of_a_mask_is_averaged_over_the_shutter_in_light(self) -> None:
        wrinkle = masked(replace(fills(WHITE), shutter_angle=360.0), "a", LEFT)
        ref = SettingRef("a", "masks.m1.opacity")
        for time, value in ((-2 * FRAME, 0.0), (2 * FRAME, 100.0)):
            if value == 0.0:
                wrinkle = lane_edits.make_lane(wrinkle, ref, time)
            wrinkle = lane_edits.set_value(wrinkle, ref, time, value)
        alpha = render(layer_edits.remove_layer(wrinkle, "ground"), Material(), 0, SIZE).pixels[
            50, 10, 3
        ]
        self.assertAlmostEqual(float(alpha), 0.5, delta=0.01)

    def test_a_mask_limits_a_treatment_to_its_inside(self) -> None:
        wrinkle = layer_edits.add_layer(plain_cut(), "Turn", TreatmentSource())
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("turn", "rotation"), CUT, 180.0)
        of = Material({"incoming": Filling(Numbered("n", SIZE, 30, 90), Fraction(1))})
        whole = seen(wrinkle, 0, of)[..., 0]
        plain = seen(plain_cut(), 0, of)[..., 0]
        half = seen(masked(wrinkle, "turn", paths.rectangle(-1, -1, 2, 0.5)), 0, of)[..., 0]
        # The mask turns with its treatment: the upper half of it lies below.
        np.testing.assert_allclose(half[52:], whole[52:], atol=2e-3)
        np.testing.assert_allclose(half[:48], plain[:48], atol=2e-3)

    def test_painted_frames_cut_by_their_grey(self) -> None:
        wrinkle = masked(fills(WHITE), "a", LEFT)
        painted = (PaintedFrame(CUT, "x.png"),)
        wrinkle = mask_edits.change_mask(wrinkle, "a", "m1", painted=painted)
        row = seen(wrinkle, 0, Material(pictures={"x.png": Still()}))[50, :, 0]
        self.assertGreater(float(row[5]), 0.7)
        self.assertLess(float(row[55]), float(row[5]) - 0.3)


class Mattes(unittest.TestCase):
    def test_brightness_or_coverage_cuts_shown_or_hidden_and_inverted(self) -> None:
        wrinkle = fills(WHITE)
        wrinkle = layer_edits.add_layer(wrinkle, "ink", PictureSource("halves"))
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("ink", "visible"), CUT, False)
        of = Material(pictures={"halves": Still()})
        # IEC 61966-2-1: linear 0.8 and 0.2 are 0.906 and 0.485 encoded.
        for by, inverted, left, right in (
            (MatteBy.BRIGHTNESS, False, 0.906, 0.485),
            (MatteBy.BRIGHTNESS, True, 0.094, 0.515),
            (MatteBy.COVERAGE, False, 1.0, 1.0),
            (MatteBy.COVERAGE, True, 0.0, 0.0),
        ):
            cut = matte_edits.set_matte(wrinkle, "a", Matte("ink", by, inverted))
            row = render(cut, of, 0, SIZE).in_light(Light.ENCODED).pixels[50, :, 0]
            for place, wanted in ((5, left), (55, right)):
                self.assertAlmostEqual(float(row[place]), wanted, delta=2e-3, msg=(by, inverted))
            shown = lane_edits.set_value(cut, SettingRef("ink", "visible"), CUT, True)
            self.assertEqual(len(plan_frame(shown, of, 0, SIZE, Quality.FINAL).layers), 3)

    def test_a_group_is_a_matte_and_a_matte_that_is_not_there_covers_nothing(self) -> None:
        wrinkle = masked(fills(WHITE, RED), "b", LEFT)
        wrinkle = grouping.group_layers(wrinkle, ["b"], "Box")
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("box", "visible"), CUT, False)
        cut = matte_edits.set_matte(wrinkle, "a", Matte("box", MatteBy.COVERAGE))
        row = seen(cut)[50, :, 1]
        self.assertEqual((float(row[5]), float(row[55])), (1.0, 0.0))
        late = time_edits.set_span(cut, "box", 3 * FRAME, None)
        self.assertEqual(float(seen(late)[50, 5, 1]), 0.0)
        inverse = matte_edits.set_matte(late, "a", Matte("box", MatteBy.COVERAGE, True))
        self.assertEqual(float(seen(inverse)[50, 5, 1]), 1.0)


class Groups(unittest.TestCase):
    def test_a_treatment_in_a_group_ends_at_the_group(self) -> None:
        wrinkle = masked(fills(RED, WHITE), "a", LEFT)
        wrinkle = masked(wrinkle, "b", paths.rectangle(0.0, 0.0, 0.25, 2.0))
        wrinkle = grouping.group_layers(wrinkle, ["b"], "Box")
        wrinkle = layer_edits.add_layer(wrinkle, "Turn", TreatmentSource(), above="b")
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("turn", "rotation"), CUT, 180.0)
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("turn", "edge_cover"), CUT, "bare")
        row = seen(wrinkle)[50]
        np.testing.assert_allclose(row[5, :3], RED, atol=1e-5)
        np.testing.assert_allclose(row[55, :3], WHITE, atol=1e-5)

    def test_a_group_moves_fades_and_blends_as_one_picture(self) -> None:
        wrinkle = grouping.group_layers(fills(WHITE, RED), ["a", "b"], "Box")
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("box", "scale"), CUT, (50.0, 50.0))
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("box", "opacity"), CUT, 50.0)
        pixels = render(wrinkle, Material(), 0, SIZE).in_light(Light.ENCODED).pixels
        # Not even a trace of the white layer under the red one.
        np.testing.assert_allclose(pixels[50, 30, :3], (0.5, 0.0, 0.0), atol=1e-5)
        self.assertEqual(float(pixels[50, 5, 0]), 0.0)


class Looks(unittest.TestCase):
    def test_blend_and_only_within(self) -> None:
        wrinkle = lane_edits.set_value(
            fills((0.5, 0.5, 0.5), (0.5, 0.5, 0.5)), SettingRef("b", "blend"), CUT, "multiply"
        )
        encoded = render(wrinkle, Material(), 0, SIZE).in_light(Light.ENCODED).pixels[9, 9, 0]
        # Linear 0.5 is 0.7354 encoded (IEC 61966-2-1); blending is defined on encoded colour.
        self.assertAlmostEqual(float(encoded), 0.7354**2, delta=1e-3)
        alone = layer_edits.remove_layer(fills(WHITE, RED), "ground")
        alone = lane_edits.set_value(masked(alone, "a", LEFT), SettingRef("b", "within"), CUT, True)
        pixels = render(alone, Material(), 0, SIZE).pixels
        np.testing.assert_allclose(pixels[50, 5], (1, 0, 0, 1), atol=1e-5)
        np.testing.assert_allclose(pixels[50, 55], 0.0, atol=1e-6)
        self.assertEqual(BlendMode("multiply"), BlendMode.MULTIPLY)

    def test_a_further_shape_of_frame_shows_the_whole_clip_over_its_blurred_copy(self) -> None:
        wide = Numbered("wide", Size(160, 90), 30, 90)
        of = Material({"incoming": Filling(wide, Fraction(1))})
        wrinkle = lane_edits.set_value(
            plain_cut(), SettingRef("incoming", "fit"), CUT, "whole over blur"
        )
        picture = render(wrinkle, of, 0, SIZE)
        self.assertAlmostEqual(float(picture.pixels[..., 3].min()), 1.0, delta=1e-4)
        inside = picture.in_light(Light.LINEAR).pixels[50, 55, 1]
        self.assertAlmostEqual(float(inside), 0.3, delta=1e-3)
        # The bright corner of the clip is sharp in the whole copy and soft behind it.
        edge = picture.in_light(Light.LINEAR).pixels
        self.assertGreater(float(edge[35, 5, 0]), 0.99)

    def test_the_focus_point_stays_in_sight(self) -> None:
        of = Material({"incoming": Filling(Numbered("w", Size(160, 90), 30, 90), Fraction(1))})
        for focus, bright in (((0.0, 0.5), True), ((1.0, 0.5), False)):
            wrinkle = lane_edits.set_value(plain_cut(), SettingRef("incoming", "focus"), CUT, focus)
            corner = seen(wrinkle, 0, of)[3, 3, 0]
            self.assertEqual(corner > 0.9, bright, focus)


class Times(unittest.TestCase):
    def test_what_is_seen_where_the_handles_run_out(self) -> None:
        short = Material({"incoming": Filling(Numbered("b", SIZE, 30, 33), Fraction(1))})
        for beyond, wanted in ((Beyond.HOLD, 0.32), (Beyond.LOOP, 0.08), (Beyond.NOTHING, 0.0)):
            wrinkle = time_edits.set_timing(plain_cut(), "incoming", beyond=beyond)
            self.assertAlmostEqual(grey(render(wrinkle, short, 11, SIZE)), wanted, delta=1e-5)

    def test_frame_blending_mixes_light_of_neighbours(self) -> None:
        wrinkle = lane_edits.set_value(
            plain_cut(), SettingRef("incoming", "timing.speed"), CUT, 50.0
        )
        self.assertAlmostEqual(grey(render(wrinkle, material(), 3, SIZE)), 0.31, delta=1e-5)
        mixed = time_edits.set_timing(wrinkle, "incoming", frame_blending=True)
        self.assertAlmostEqual(grey(render(mixed, material(), 3, SIZE)), 0.315, delta=1e-5)

    def test_the_plain_clips_go_on_where_the_window_leaves_them(self) -> None:
        wrinkle = lane_edits.set_value(
            plain_cut(), SettingRef("incoming", "timing.speed"), CUT, 200.0
        )
        found = [grey(render(wrinkle, material(), n, SIZE)) for n in (11, 12, 13)]
        np.testing.assert_allclose(found, (0.52, 0.54, 0.55), atol=1e-5)

    def test_a_blink_hides_whole_frames(self) -> None:
        wrinkle = time_edits.set_timing(plain_cut(), "incoming", blink=Blink(2, 2))
        shown = [float(render(wrinkle, material(), n, SIZE).pixels[..., 3].max()) for n in range(5)]
        self.assertEqual(shown, [1.0, 1.0, 0.0, 0.0, 1.0])


class Drawn(unittest.TestCase):
    def test_shapes_words_and_noise_are_drawn_once_while_they_do_not_change(self) -> None:
        of = Material(fonts=library.fonts())
        for source in (ShapeSource(), WordsSource("Kite"), NoiseSource()):
            wrinkle = layer_edits.add_layer(fills(RED), "new", source)
            picture = seen(wrinkle, 0, of)
            self.assertGreater(float(np.ptp(picture[..., 1])), 0.2, type(source))
            kept = of.store.used
            seen(wrinkle, 5, of)
            self.assertEqual(of.store.used, kept, type(source))

    def test_what_moves_is_kept_only_when_it_is_asked_for_again(self) -> None:
        pins = Track((Keyframe(CUT, (0.0, 0.0)), Keyframe(10 * FRAME, (0.4, 0.0))))
        wrinkle = layer_edits.add_layer(fills(RED), "new", ShapeSource())
        wrinkle = lane_edits.with_track(wrinkle, SettingRef("new", "position"), pins)
        of, size = Material(), Size(240, 400)
        first = render(wrinkle, of, 2, size)
        kept = of.store.used
        render(wrinkle, of, 4, size)
        self.assertEqual(of.store.used, kept)
        self.assertEqual(render(wrinkle, of, 2, size).pixels.tobytes(), first.pixels.tobytes())
        self.assertGreater(of.store.used, kept)

    def test_what_the_first_effects_make_of_a_still_is_made_once_while_it_moves(self) -> None:
        pins = Track((Keyframe(CUT, (0.0, 0.0)), Keyframe(10 * FRAME, (0.4, 0.0))))
        wrinkle = layer_edits.add_layer(fills(RED), "new", ShapeSource())
        wrinkle = lane_edits.with_track(wrinkle, SettingRef("new", "position"), pins)
        wrinkle, one = effect_edits.add_effect(wrinkle, "new", "gaussian_blur")
        radius = SettingRef("new", f"effects.{one}.radius")
        counted = mock.patch.object(Effect, "applied", autospec=True, side_effect=Effect.applied)
        with counted as applied:
            of = Material()
            moved = [render(wrinkle, of, n, SIZE).pixels.tobytes() for n in (1, 3, 5)]
            self.assertEqual(applied.call_count, 1)
            alone = [render(wrinkle, Material(), n, SIZE).pixels.tobytes() for n in (1, 3, 5)]
            self.assertEqual(moved, alone)
            applied.reset_mock()
            lane = Track((Keyframe(CUT, 1.0), Keyframe(10 * FRAME, 6.0)))
            wider, of = lane_edits.with_track(wrinkle, radius, lane), Material()
            for n in (1, 3, 5):
                render(wider, of, n, SIZE)
            self.assertEqual(applied.call_count, 3)

    def test_layers_laid_into_each_other_write_into_nothing_that_is_kept(self) -> None:
        # The ground is seen as it is kept; what comes over it is laid into a picture of its own.
        wrinkle = layer_edits.with_layers(replace(plain_cut(), shutter_angle=0.0), ())
        for name, colour in (("ground", RED), ("a", WHITE), ("b", (0.0, 0.0, 1.0))):
            wrinkle = layer_edits.add_layer(wrinkle, name, ShapeSource(fill=Setting(colour)))
            wrinkle = lane_edits.set_value(wrinkle, SettingRef(name, "opacity"), CUT, 60.0)
        wrinkle = lane_edits.set_value(wrinkle, SettingRef("ground", "opacity"), CUT, 100.0)
        of = Material()
        frames = [render(wrinkle, of, n, SIZE).pixels.tobytes() for n in (0, 1, 2, 0)]
        self.assertEqual(len(set(frames)), 1)

    def test_a_shape_is_drawn_on_along_its_stroke(self) -> None:
        line = ShapeSource(
            path=Setting(paths.polygon(((0.0, 0.5), (1.0, 0.5)))),
            closed=False,
            filled=Setting(False),
            stroke=Setting(WHITE),
            stroke_width=Setting(20.0),
            cap=Setting("butt"),
            draw_to=Setting(0.0, Track((Keyframe(CUT, 0.0), Keyframe(10 * FRAME, 100.0)))),
        )
        wrinkle = layer_edits.add_layer(fills(), "line", line)
        for frame, share in ((0, 0.0), (5, 0.5), (10, 1.0)):
            row = seen(wrinkle, frame)[50, :, 0]
            self.assertAlmostEqual(float(row.mean()), share, delta=0.01)

    def test_another_size_shows_the_same(self) -> None:
        of = Material(fonts=library.fonts())
        for source in (ShapeSource(stroke_width=Setting(5.0)), WordsSource("Kite"), NoiseSource()):
            wrinkle = masked(
                layer_edits.add_layer(fills(), "new", source), "new", LEFT, feather=20.0
            )
            big = render(wrinkle, of, 0, Size(240, 400)).in_light(Light.LINEAR).pixels
            small = render(wrinkle, of, 0, Size(120, 200)).in_light(Light.LINEAR).pixels
            shrunk = big.reshape(200, 2, 120, 2, 4).mean(axis=(1, 3))
            self.assertLess(float(np.abs(shrunk - small).mean()), 0.01, type(source))


class PlannedOnce(unittest.TestCase):
    def test_mattes_in_a_chain_are_planned_and_drawn_once_each(self) -> None:
        wrinkle = fills()
        for number in range(12):
            wrinkle = layer_edits.add_layer(wrinkle, f"Fill {number}", FillSource())
            if number:
                matte = Matte(f"fill-{number - 1}", MatteBy.COVERAGE)
                wrinkle = matte_edits.set_matte(wrinkle, f"fill-{number}", matte)
        drawn_by = FillSource.drawn
        with mock.patch.object(FillSource, "drawn", autospec=True, side_effect=drawn_by) as drawn:
            frame = plan_frame(wrinkle, Material(), 0, SIZE, Quality.PREVIEW)
        self.assertEqual(drawn.call_count, len(frame.layers))
        chain = frame.layers[-1]
        for lower in reversed(frame.layers[1:-1]):
            assert chain.matte is not None
            self.assertIs(chain.matte.layer, lower)
            chain = lower
            if chain.matte is None:
                break

    def test_values_are_held_within_what_their_declarations_allow(self) -> None:
        # Skew -85 to 85, camera from 20: jitter and overshoot lead out of it.
        wrinkle = fills(RED)
        layer = wrinkle.layers[-1]
        far = {"skew": (80.0, 85.0), "camera": (30.0, 20.0)}
        for name, (rest, limit) in far.items():
            jitter = Jitter(amount=Setting(85.0 if name == "skew" else 1e4), rate=30.0)
            changed = layer.with_setting(name, Setting(rest, jitter=jitter))
            shaken = layer_edits.with_layer(wrinkle, changed)
            poses = [layer_pose(shaken, changed, n * FRAME)(n * FRAME) for n in range(12)]
            values = {abs(getattr(pose, name)) for pose in poses}
            self.assertIn(limit, values)
            spec = changed.spec(name)
            self.assertTrue(all(abs(v) <= spec.high for v in values))
