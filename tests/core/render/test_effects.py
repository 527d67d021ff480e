"""Effects of layers and treatments in a frame."""

import unittest
from fractions import Fraction

import numpy as np

from tests.core.design.wrinkles import FRAME
from tests.core.render.test_layers import SIZE, WHITE, fills, masked, seen
from tests.core.render.test_render import grey, material
from wrinkle.core.design.document import coding
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.design.edits import effect_edits, lane_edits, layer_edits
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.compose import render
from wrinkle.core.render.plan import plan_frame

CUT = Fraction(0)


def with_effect(wrinkle, layer: str, kind: str, **values: object):
    wrinkle, use = effect_edits.add_effect(wrinkle, layer, kind)
    for name, value in values.items():
        ref = SettingRef(layer, f"effects.{use}:{kind}.{name}")
        wrinkle = lane_edits.set_value(wrinkle, ref, CUT, value)
    return wrinkle


class InAFrame(unittest.TestCase):
    def test_an_effect_acts_on_its_layer_and_is_skipped_at_rest(self) -> None:
        wrinkle = with_effect(plain_cut(), "incoming", "exposure", stops=1.0)
        self.assertAlmostEqual(grey(render(wrinkle, material(), 3, SIZE)), 0.66, delta=1e-5)
        resting = with_effect(plain_cut(), "incoming", "exposure", stops=0.0)
        plan = plan_frame(resting, material(), 3, SIZE, Quality.FINAL)
        self.assertEqual(plan.layers[0].effects, ())
        # Frames beside the window show the plain clip.
        self.assertAlmostEqual(grey(render(wrinkle, material(), 20, SIZE)), 0.50, delta=1e-5)

    def test_a_treatments_effect_acts_on_what_is_below_within_its_mask(self) -> None:
        wrinkle = layer_edits.add_layer(fills((0.25, 0.25, 0.25)), "Flash", TreatmentSource())
        wrinkle = with_effect(wrinkle, "flash", "exposure", stops=1.0)
        self.assertAlmostEqual(float(seen(wrinkle)[50, 5, 0]), 0.5, delta=1e-4)
        half = masked(wrinkle, "flash", paths.rectangle(-1.0, -1.0, 0.5, 2.0))
        row = seen(half)[50, :, 0]
        self.assertAlmostEqual(float(row[5]), 0.5, delta=1e-3)
        self.assertAlmostEqual(float(row[55]), 0.25, delta=1e-3)

    def test_the_chain_acts_in_its_order(self) -> None:
        first = with_effect(fills(WHITE), "a", "exposure", stops=-1.0)
        both = with_effect(first, "a", "invert", amount=100.0)
        swapped = effect_edits.move_effect(both, "a", "e2", 0)
        # Half the light of white, inverted in encoded colour; or black, whose half is black.
        self.assertAlmostEqual(float(seen(both)[9, 9, 0]), 0.0571, delta=2e-3)
        self.assertAlmostEqual(float(seen(swapped)[9, 9, 0]), 0.0, delta=1e-5)

    def test_colours_are_matched_to_what_lies_below_unless_a_layer_is_named(self) -> None:
        red, green, grey_ = (0.5, 0.05, 0.05), (0.05, 0.4, 0.05), (0.2, 0.2, 0.2)
        stack = fills(red, green, grey_)
        matched = with_effect(stack, "c", "colour_match", amount=100.0)
        np.testing.assert_allclose(seen(matched)[9, 9, :3], green, atol=5e-3)
        named = effect_edits.change_effect(matched, "c", "e1", layer="a")
        np.testing.assert_allclose(seen(named)[9, 9, :3], red, atol=5e-3)
        lowest = layer_edits.with_layers(stack, stack.layers[-1:])
        alone = with_effect(lowest, "c", "colour_match", amount=100.0)
        np.testing.assert_allclose(seen(alone)[9, 9, :3], grey_, atol=1e-6)

    def test_a_clip_larger_than_the_frame_has_its_effect_where_the_frame_is(self) -> None:
        wide = material()
        wrinkle = with_effect(plain_cut(), "incoming", "vignette", amount=100.0, feather=10.0)
        square = render(wrinkle, wide, 3, Size(60, 60)).pixels
        np.testing.assert_allclose(square[0, 0, :3], 0.0, atol=1e-3)
        self.assertGreater(float(square[30, 30, 0]), 0.2)

    def test_a_blur_follows_the_movement_of_its_layer(self) -> None:
        wrinkle = with_effect(plain_cut(), "incoming", "directional_blur", length=0.0, follow=100.0)
        ref = SettingRef("incoming", "position")
        wrinkle = lane_edits.make_lane(wrinkle, ref, CUT)
        wrinkle = lane_edits.set_value(wrinkle, ref, 6 * FRAME, (0.6, 0.0))
        plan = plan_frame(wrinkle, material(), 3, SIZE, Quality.FINAL)
        # A tenth of the width in each frame, level; 90° seen from a layer that is turned by -90°.
        np.testing.assert_allclose(plan.layers[0].effects[0].motion, (6.0, 0.0), atol=1e-6)
        turned = lane_edits.set_value(wrinkle, SettingRef("incoming", "rotation"), CUT, -90.0)
        plan = plan_frame(turned, material(), 3, SIZE, Quality.FINAL)
        np.testing.assert_allclose(plan.layers[0].effects[0].motion, (0.0, 6.0), atol=1e-6)
        # Once it stands still nothing is blurred.
        still = render(wrinkle, material(), 9, SIZE).pixels
        plain = render(effect_edits.without_effects(wrinkle), material(), 9, SIZE).pixels
        np.testing.assert_array_equal(still, plain)

    def test_chains_are_copied_and_broken_ones_refused_by_name(self) -> None:
        wrinkle = with_effect(plain_cut(), "incoming", "glow")
        copied = effect_edits.add_chain(wrinkle, "incoming", wrinkle.layer("incoming").effects)
        self.assertEqual([use.id for use in copied.layer("incoming").effects], ["e1", "e2"])
        self.assertEqual(coding.decode(coding.encode(copied)), copied)
        text = coding.encode(wrinkle)
        with self.assertRaisesRegex(DocumentError, "no effect 'glower'"):
            coding.decode(text.replace(b'"glow"', b'"glower"'))
        with self.assertRaisesRegex(DocumentError, "no setting 'amounts'"):
            coding.decode(text.replace(b'"amount"', b'"amounts"'))
        with self.assertRaisesRegex(InputError, "Amount must be within 0 and 1000"):
            with_effect(wrinkle, "incoming", "glow", amount=-1.0)
