"""Sets of colours, against WCAG's own contrast and CIE lightness as colour-science has it."""

import unittest

import colour
import numpy as np

from tests.ui.test_theme import contrast as wcag_contrast
from wrinkle.core.measure.colour_sets import contrast, lightness, tone_sets, word_sets

MAIN = np.array(
    [[20, 60, 110], [240, 235, 220], [200, 90, 40], [40, 130, 120], [120, 110, 100]], np.uint8
)


class ColourSets(unittest.TestCase):
    def test_contrast_and_lightness_are_those_of_the_standards(self) -> None:
        dice = np.random.default_rng(3)
        for one, other in dice.integers(0, 256, (40, 2, 3)):
            codes = ["#{:02x}{:02x}{:02x}".format(*x) for x in (one, other)]
            self.assertAlmostEqual(
                contrast(tuple(one), tuple(other)), wcag_contrast(*codes), delta=0.01
            )
            # Source: colour-science, sRGB to XYZ to L*a*b* with its own white.
            lab = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(one / 255.0))
            self.assertAlmostEqual(lightness(tuple(one)), float(lab[0]), delta=0.05)

    def test_tones_go_from_dark_to_light_well_apart(self) -> None:
        sets = tone_sets(MAIN)
        self.assertTrue(1 <= len(sets) <= 4)
        for three in sets:
            tones = [lightness(x) for x in three]
            self.assertGreaterEqual(min(np.diff(tones)), 10.0)
        spans = [lightness(x[2]) - lightness(x[0]) for x in sets]
        self.assertEqual(spans, sorted(spans, reverse=True))
        self.assertEqual(sets[0][0], (20, 60, 110))
        self.assertEqual(sets[0][2], (240, 235, 220))
        self.assertEqual(tone_sets(MAIN[:2]), [])
        self.assertEqual(tone_sets(np.tile(MAIN[:1], (5, 1))), [])

    def test_words_are_read_and_alike_colours_get_black_or_white(self) -> None:
        for fill, outline in word_sets(MAIN):
            self.assertGreaterEqual(contrast(fill, outline), 3.0)
        alike = np.array([[250, 250, 250], [240, 240, 240]], np.uint8)
        self.assertEqual(
            word_sets(alike), [((250, 250, 250), (0, 0, 0)), ((240, 240, 240), (0, 0, 0))]
        )
        self.assertEqual(word_sets(np.zeros((0, 3), np.uint8)), [])
