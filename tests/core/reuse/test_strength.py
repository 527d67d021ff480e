"""Strength scales what departs from rest, softness what fades, and lengths what stretches."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from tests.core.design.wrinkles import FRAME, turning
from tests.core.reuse.every_kind import SIZE, every_kind, material
from wrinkle import library
from wrinkle.core.design.document.masking import Matte
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import PictureSource, TreatmentSource, WordsSource
from wrinkle.core.design.document.timing import Blink, Span
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import effect_edits, grouping, lane_edits, layer_edits
from wrinkle.core.design.edits.layer_edits import with_layer
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Track
from wrinkle.core.render.compose import render
from wrinkle.core.reuse.strength import with_softness, with_strength
from wrinkle.core.reuse.use import Choices, Use, resolved
from wrinkle.core.time.rate import FrameRate

ROTATION = SettingRef("turn", "rotation")


def effected(kind: str, **values: object) -> Wrinkle:
    wrinkle, use = effect_edits.add_effect(turning(), "turn", kind)
    layer = wrinkle.layer("turn")
    for name, value in values.items():
        address = layer.effect_use(use).address(name)
        layer = layer.with_setting(address, Setting(value))  # type: ignore[arg-type]
    return with_layer(wrinkle, layer)


def effect_value(wrinkle: Wrinkle, name: str) -> object:
    return wrinkle.layer("turn").effects[0].setting(name).rest


def keys(wrinkle: Wrinkle, ref: SettingRef) -> list[tuple[Fraction, object]]:
    track = ref.of(wrinkle).track
    return [(key.time / FRAME, key.value) for key in track.keys] if track is not None else []


class Strength(unittest.TestCase):
    def test_nothing_is_left_at_0_but_the_plain_cut(self) -> None:
        wrinkle = effected("glow", amount=300.0)
        jitter = Jitter(Setting(5.0))
        wrinkle = lane_edits.set_jitter(wrinkle, ROTATION, jitter)
        wrinkle = lane_edits.set_formula(wrinkle, SettingRef("turn", "skew"), "5 + frame")
        still = with_strength(wrinkle, 0.0)
        for frame in (-12, -1, 0, 7):
            found = render(still, material(), frame, SIZE).pixels
            plain = render(plain_cut(), material(), frame, SIZE).pixels
            self.assertLess(float(np.abs(found - plain).max()), 1e-6, frame)

    def test_half_and_one_and_a_half(self) -> None:
        wrinkle = effected("glow", amount=300.0, radius=12.0)
        for percent, degrees, amount in ((50.0, 45.0, 150.0), (150.0, 135.0, 450.0)):
            found = with_strength(wrinkle, percent)
            self.assertEqual([value for _, value in keys(found, ROTATION)], [0.0, degrees])
            self.assertEqual(effect_value(found, "amount"), amount)
            self.assertEqual(effect_value(found, "radius"), 12.0)
        self.assertIs(with_strength(wrinkle, 100.0), wrinkle)
        with self.assertRaisesRegex(InputError, "strength must be within 0 and 200 %, not 201"):
            with_strength(wrinkle, 201.0)

    def test_it_stays_within_the_range_and_shrinks_to_nothing_at_most(self) -> None:
        far = with_strength(effected("flash", amount=80.0), 200.0)
        self.assertEqual(effect_value(far, "amount"), 100.0)
        small = lane_edits.set_value(turning(), SettingRef("turn", "scale"), FRAME, (25.0, 200.0))
        found = with_strength(small, 200.0).layer("turn").setting("scale").rest
        np.testing.assert_allclose(found, (6.25, 300.0))

    def test_switched_effects_and_curves(self) -> None:
        flip = effected("flip", across=True)
        self.assertEqual(effect_value(with_strength(flip, 50.0), "across"), True)
        self.assertEqual(effect_value(with_strength(flip, 0.0), "across"), False)
        curve = effected("curves")
        points = effect_value(curve, "all")
        half = effect_value(with_strength(curve, 50.0), "all")
        for at in range(0, len(points), 6):  # type: ignore[arg-type]
            x, y = points[at : at + 2]  # type: ignore[index]
            np.testing.assert_allclose(half[at : at + 2], (x, x + (y - x) / 2))  # type: ignore[index]

    def test_what_shows_and_hides_stays(self) -> None:
        reveal = effected("noise_reveal", amount=60.0)
        self.assertEqual(with_strength(reveal, 0.0).layer("turn").effects,
                         reveal.layer("turn").effects)  # fmt: skip
        wrinkle = layer_edits.add_layer(turning(), "Ink", PictureSource("ink.png"))
        wrinkle = layer_edits.add_layer(wrinkle, "Words", WordsSource("Now"))
        for layer in ("ink", "words"):
            place = SettingRef(layer, "position")
            wrinkle = lane_edits.set_value(wrinkle, place, FRAME, (0.2, 0.3))
        ink = replace(wrinkle.layer("ink"), opacity=Setting(40.0))
        wrinkle = with_layer(wrinkle, ink)
        cut = replace(wrinkle.layer("incoming"), matte=Matte("ink"))
        found = with_strength(with_layer(wrinkle, cut), 0.0)
        self.assertEqual(found.layer("ink"), ink)
        self.assertEqual(found.layer("words"), wrinkle.layer("words"))

    def test_softness_scales_feathers_and_soft_edges_only(self) -> None:
        wrinkle = every_kind()
        found = with_softness(wrinkle, 50.0)
        mask = found.layer("outgoing").masks[0]
        self.assertEqual(mask.feather.rest, 4.0)
        self.assertEqual(replace(mask, feather=Setting(8.0)), wrinkle.layer("outgoing").masks[0])
        reveal = with_softness(effected("luma_reveal", softness=80.0), 200.0)
        self.assertEqual(effect_value(reveal, "softness"), 100.0)


class Lengths(unittest.TestCase):
    """A shake of six frames about the cut, under a turn that stretches."""

    def shaken(self, held: HeldAt | None, by: str) -> Wrinkle:
        track = Track(tuple(Keyframe(n * FRAME, float(n)) for n in (-3, 0, 3)))
        wrinkle = layer_edits.add_layer(turning(), "Shake", TreatmentSource())
        layer = replace(wrinkle.layer("shake"), span=Span(-3 * FRAME, 3 * FRAME))
        if by == "lane":
            track = replace(track, keeps=held)
        wrinkle = with_layer(wrinkle, layer.with_setting("skew", Setting(0.0, track)))
        if by == "group":
            wrinkle = grouping.group_layers(wrinkle, ["shake"])
        name = {"group": "group", "layer": "shake"}.get(by)
        if name is not None:
            wrinkle = with_layer(wrinkle, replace(wrinkle.layer(name), keeps=held))
        return wrinkle

    def times(self, wrinkle: Wrinkle) -> list[Fraction]:
        return [time for time, _ in keys(wrinkle, SettingRef("shake", "skew"))]

    def test_pins_stretch_with_their_side_and_what_keeps_its_length_does_not(self) -> None:
        for held, wanted in (
            (None, [-6, 0, 12]),
            (HeldAt.CUT, [-3, 0, 3]),
            (HeldAt.FIRST, [-15, -12, -9]),
            (HeldAt.LAST, [33, 36, 39]),
        ):
            for by in ("lane", "layer", "group"):
                use = Use(self.shaken(held, by), {}, Choices(lead=24 * FRAME, tail=48 * FRAME))
                found = resolved(use, FrameRate.of(30))
                with self.subTest(held, by=by):
                    self.assertEqual(self.times(found), wanted)
                    span = found.layer("shake").span
                    ends = (span.start / FRAME, span.end / FRAME)  # type: ignore[operator]
                    stretched = by == "lane" or held is None
                    self.assertEqual(ends, (-6, 12) if stretched else (wanted[0], wanted[2]))
                    # Twice as long before the cut, four times after it, and each its own half.
                    turn = [time for time, _ in keys(found, ROTATION)]
                    self.assertEqual(turn, [-24, 0, 0, 48])

    def test_a_shorter_lead_cuts_off_what_keeps_its_length(self) -> None:
        use = Use(self.shaken(HeldAt.CUT, "layer"), {}, Choices(lead=2 * FRAME))
        found = resolved(use, FrameRate.of(30))
        self.assertEqual(self.times(found), [-3, 0, 3])

    def test_what_is_held_at_an_end_stretches_where_the_window_is_too_short_for_it(self) -> None:
        fade = Track((Keyframe(3 * FRAME, 0.0), Keyframe(11 * FRAME, 9.0)), keeps=HeldAt.LAST)
        ref = SettingRef("turn", "skew")
        wrinkle = lane_edits.with_track(turning(), ref, fade)
        for tail, wanted in ((20, [11, 19]), (10, [1, 9]), (6, [1.5, 5.5])):
            found = resolved(Use(wrinkle, {}, Choices(tail=tail * FRAME)), FrameRate.of(30))
            self.assertEqual([time for time, _ in keys(found, ref)], wanted)

    def test_the_hold_of_a_dip_is_a_length_and_its_ways_in_and_out_stay(self) -> None:
        dip = library.find("dip_to_colour").wrinkle
        into, out = (SettingRef(layer.id, "opacity") for layer in dip.layers[-2:])
        for hold, frames in (("0.2", 6), ("0.1", 3), ("1.5", 45)):
            found = resolved(Use(dip, {}, Choices(dials={"hold": hold})), FrameRate.of(30))
            (starts, _), (full, _) = keys(found, into)
            (clears, _), (gone, _) = keys(found, out)
            self.assertEqual((full - starts, clears - full, gone - clears), (9, frames, 9))
            self.assertEqual(found.tail, (gone + 2) * FRAME)

    def test_a_lane_made_from_its_outgoing_half_is_held_at_the_cut(self) -> None:
        track = Track((Keyframe(-6 * FRAME, 0.0), Keyframe(Fraction(0), 9.0)),
                      IncomingHalf.RETURN, HeldAt.FIRST)  # fmt: skip
        wrinkle = lane_edits.with_track(turning(), SettingRef("turn", "skew"), track)
        found = resolved(Use(wrinkle, {}, Choices(lead=24 * FRAME)), FrameRate.of(30))
        self.assertEqual([t for t, _ in keys(found, SettingRef("turn", "skew"))], [-6, 0])

    def test_rates_never_stretch_and_whole_frames_stay_whole(self) -> None:
        wrinkle = lane_edits.set_jitter(turning(), ROTATION, Jitter(Setting(3.0), rate=9.0))
        layer = wrinkle.layer("turn")
        flash = Span(4 * FRAME, 5 * FRAME)
        layer = replace(layer, span=flash, timing=replace(layer.timing, blink=Blink(2, 1)))
        wrinkle = with_layer(wrinkle, layer)
        for rate, blink, frames in (
            (60, (4, 2), (8, 10)),
            (24, (2, 1), (3, 4)),
            (12, (1, 1), (2, 3)),
        ):
            found = resolved(Use(wrinkle, {}), FrameRate.of(rate)).layer("turn")
            jitter = found.setting("rotation").jitter
            self.assertEqual(jitter.rate if jitter else 0, 9.0)
            held = found.timing.blink
            self.assertEqual((held.shown, held.hidden) if held else None, blink)
            start, end = found.span.start, found.span.end
            self.assertEqual((start * rate, end * rate), frames)  # type: ignore[operator]

    def test_at_60_and_back_it_is_the_same_document(self) -> None:
        wrinkle = self.shaken(HeldAt.LAST, "lane")
        layer = wrinkle.layer("turn")
        on = Track(tuple(Keyframe(n * FRAME, n % 2 == 0, Hold()) for n in (-4, -3, -2, 0, 1, 5)))
        layer = replace(layer, timing=replace(layer.timing, blink=Blink(3, 2)),
                        visible=Setting(True, on), span=Span(-2 * FRAME, 5 * FRAME))  # fmt: skip
        wrinkle = with_layer(wrinkle, layer)
        lengths = (wrinkle.lead, wrinkle.tail)
        fast = retime(wrinkle, Retiming(FrameRate.of(60), *lengths, stretch=True))
        self.assertNotEqual(fast, wrinkle)
        back = retime(fast, Retiming(FrameRate.of(30), *lengths, stretch=True))
        self.assertEqual(back, wrinkle)
