"""Chains of colour tools: one by one, and through a table."""

import unittest

import numpy as np

from tests.core.effects.test_every_effect import picture, scene, shown
from wrinkle.core.effects.chain import ChainLink, after
from wrinkle.core.effects.effect import Values
from wrinkle.core.effects.recolouring import ColourStep, baked
from wrinkle.core.effects.registry import EFFECTS
from wrinkle.core.picture.grading import through
from wrinkle.core.picture.image import Image, Size

SMOOTH = (
    "curves", "lift_gamma_gain", "tone", "invert", "lift_gamma_gain", "invert", "black_and_white",
)  # fmt: skip
SIZE = Size(400, 400)


def links(*keys: str) -> list[ChainLink]:
    around = scene(SIZE)
    return [ChainLink(EFFECTS[key], shown(EFFECTS[key]), around) for key in keys]


def steps(*keys: str) -> tuple[ColourStep, ...]:
    return tuple(ColourStep(EFFECTS[key].tool, tuple(shown(EFFECTS[key]).items())) for key in keys)


def one_by_one(image: Image, *keys: str) -> np.ndarray:
    """The colours after the bare tools, held above black at the end; alpha as it is."""
    alpha = image.pixels[..., 3:]
    colours = image.pixels[..., :3] / np.maximum(alpha, np.float32(1e-9))
    for step in steps(*keys):
        colours = through(step.tool(Values(step.values), None), colours)
    return np.concatenate([np.maximum(colours, 0.0) * alpha, alpha], axis=-1)


class Chains(unittest.TestCase):
    def test_a_long_chain_is_read_from_a_table_and_stays_within_a_1023rd(self) -> None:
        self.assertIsNotNone(baked(steps(*SMOOTH)))
        for opaque in (True, False):
            image = picture(SIZE, EFFECTS["tone"], 1, opaque)
            together = after(image, links(*SMOOTH))
            apart = float(np.abs(together.pixels - one_by_one(image, *SMOOTH)).max())
            self.assertTrue(0.0 < apart <= 1.0 / 1023.0, (opaque, apart))
            np.testing.assert_array_equal(together.pixels[..., 3], image.pixels[..., 3])

    def test_a_chain_with_creases_is_not_baked(self) -> None:
        self.assertIsNone(baked(steps("cdl", "tone_map")))
        image = picture(SIZE, EFFECTS["tone"], 2)
        keys = ("cdl", "tone_map") * 4
        np.testing.assert_allclose(
            after(image, links(*keys)).pixels, one_by_one(image, *keys), atol=1e-6
        )

    def test_colours_brighter_than_white_go_through_the_tools(self) -> None:
        image = picture(SIZE, EFFECTS["tone"], 3)
        bright = Image(image.pixels * np.float32(3.0), image.light, True)
        bright.pixels[..., 3] = 1.0
        keys = ("saturation",) * 7
        np.testing.assert_allclose(
            after(bright, links(*keys)).pixels, one_by_one(bright, *keys), atol=1e-4
        )

    def test_what_lies_outside_between_two_tools_is_not_lost(self) -> None:
        image = picture(SIZE, EFFECTS["tone"], 4)
        chain = links("tone", "tone")
        for link, contrast in zip(chain, (50.0, -50.0), strict=True):
            link.values.update(contrast=contrast)
        np.testing.assert_allclose(after(image, chain).pixels, image.pixels, atol=1e-5)

    def test_a_chain_at_rest_is_the_picture_itself(self) -> None:
        image = picture(SIZE, EFFECTS["tone"], 5)
        around = scene(SIZE)
        resting = [ChainLink(one, Values(one.neutral()), around) for one in EFFECTS.values()]
        self.assertIs(after(image, resting), image)
