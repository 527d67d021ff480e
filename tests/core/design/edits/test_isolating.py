"""One layer alone, and what its masks cover: looked at in the pictures that come of it."""

import math
import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document.dials import Dial, Drive
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import FillSource, GroupSource, TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import layer_edits, mask_edits
from wrinkle.core.design.edits.isolating import isolated, masks_alone
from wrinkle.core.picture.image import Size
from wrinkle.core.render.compose import render
from wrinkle.core.render.material import Material

SIZE = Size(90, 160)


def filled(red: float, green: float, blue: float) -> FillSource:
    return FillSource(colour=Setting((red, green, blue)))


def bench() -> Wrinkle:
    """A red and a green ground, a blue fill in a group that is moved, a treatment on top."""
    found = layer_edits.with_layers(plain_cut(), ())
    for name, source in (
        ("red", filled(1.0, 0.0, 0.0)),
        ("green", filled(0.0, 1.0, 0.0)),
        ("group", GroupSource()),
        ("blue", filled(0.0, 0.0, 1.0)),
        ("all", TreatmentSource()),
    ):
        found = layer_edits.add_layer(found, name, source)
    ids = {x.name: x.id for x in found.layers}
    group = found.layer(ids["group"])
    moved = replace(group, placement=replace(group.placement, position=Setting((0.5, 0.0))))
    found = layer_edits.with_layers(
        found,
        tuple(
            {"group": moved, "blue": replace(x, group=group.id)}.get(x.name, x)
            for x in found.layers
        ),
    )
    return found


def picture(wrinkle: Wrinkle) -> np.ndarray:
    return render(wrinkle, Material(), 0, SIZE).pixels


class Isolated(unittest.TestCase):
    def setUp(self) -> None:
        self.wrinkle = bench()
        self.ids = {x.name: x.id for x in self.wrinkle.layers}

    def test_one_layer_is_seen_hidden_or_not_where_its_group_puts_it(self) -> None:
        red = replace(self.wrinkle.layer(self.ids["red"]), visible=Setting(False))
        hidden = layer_edits.with_layers(
            self.wrinkle, tuple(red if x.id == red.id else x for x in self.wrinkle.layers)
        )
        middle = picture(isolated(hidden, red.id))[80, 45]
        np.testing.assert_allclose(middle, (1.0, 0.0, 0.0, 1.0), atol=1e-6)
        alone = picture(isolated(self.wrinkle, self.ids["blue"]))
        np.testing.assert_allclose(alone[80, 60], (0.0, 0.0, 1.0, 1.0), atol=1e-6)
        # Half a frame to the right of it is what the group was moved by.
        self.assertEqual(float(alone[80, 30, 3]), 0.0)
        np.testing.assert_array_equal(alone, picture(isolated(self.wrinkle, self.ids["group"])))

    def test_a_treatment_is_seen_on_what_lies_below_it(self) -> None:
        whole = picture(self.wrinkle)
        np.testing.assert_array_equal(picture(isolated(self.wrinkle, self.ids["all"])), whole)

    def test_no_dial_brings_back_what_is_hidden(self) -> None:
        drive = Drive(self.ids["green"], "visible", values=(False, True))
        other = Drive(self.ids["green"], "opacity")
        with_dial = replace(self.wrinkle, dials=(Dial("d", "Shown", drives=(drive, other)),))
        self.assertEqual(isolated(with_dial, self.ids["red"]).dials[0].drives, (other,))


class MasksAlone(unittest.TestCase):
    def test_what_an_ellipse_covers_is_white_where_the_layer_is_placed(self) -> None:
        wrinkle = bench()
        layer = next(x.id for x in wrinkle.layers if x.name == "blue")
        outline = form_outline(MaskForm.ELLIPSE, SIZE)
        masked, _ = mask_edits.add_mask(wrinkle, layer, outline, "Ellipse", False)
        dim = replace(masked.layer(layer), opacity=Setting(20.0))
        masked = layer_edits.with_layers(
            masked, tuple(dim if x.id == layer else x for x in masked.layers)
        )
        cover = picture(masks_alone(masked, layer))[..., 3]
        xs, ys = np.array(outline).reshape(-1, 6)[:, 0], np.array(outline).reshape(-1, 6)[:, 1]
        half = (np.ptp(xs) * SIZE.width / 2.0, np.ptp(ys) * SIZE.height / 2.0)
        # The area of an ellipse (geometry); the right half of it lies beyond the frame.
        self.assertAlmostEqual(
            float(cover.sum()), math.pi * half[0] * half[1] / 2.0, delta=0.02 * SIZE.width * 160
        )
        self.assertEqual(float(cover.max()), 1.0)
        self.assertEqual(float(cover[0].max()), 0.0)

    def test_without_masks_it_covers_all(self) -> None:
        wrinkle = bench()
        red = next(x.id for x in wrinkle.layers if x.name == "red")
        self.assertEqual(float(picture(masks_alone(wrinkle, red))[..., 3].min()), 1.0)


class Times(unittest.TestCase):
    def test_a_layer_that_is_not_there_yet_shows_nothing(self) -> None:
        wrinkle = bench()
        red = next(x for x in wrinkle.layers if x.name == "red")
        late = replace(red, span=replace(red.span, start=Fraction(1, 5)))
        wrinkle = layer_edits.with_layers(
            wrinkle, tuple(late if x.id == red.id else x for x in wrinkle.layers)
        )
        self.assertEqual(float(picture(isolated(wrinkle, red.id)).max()), 0.0)
