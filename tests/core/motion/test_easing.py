import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Bezier, Exponential, Hold, Linear
from wrinkle.core.motion.feels import FEELS, ease_text, parse_ease

INSIDE = st.floats(1e-6, 1.0 - 1e-6)
FREE = st.floats(-3.0, 4.0)


def published_bezier(ease: Bezier, share: float) -> float:
    """CSS Easing Functions Level 1, section 2.2, by SciPy's root finding on the polynomial."""

    def polynomial(first: float, second: float, s: float) -> float:
        return 3 * first * s * (1 - s) ** 2 + 3 * second * s**2 * (1 - s) + s**3

    s = brentq(lambda s: polynomial(ease.x1, ease.x2, s) - share, 0.0, 1.0, xtol=1e-15)
    return float(polynomial(ease.y1, ease.y2, s))


class Eases(unittest.TestCase):
    # Handles that make the curve stand upright (x1 near 1 with x2 near 0) are a case of their own:
    # there the value's slope has no bound, and the last digits of any root decide.
    @given(st.floats(0.0, 0.9), FREE, st.floats(0.1, 1.0), FREE, st.floats(0.001, 0.999))
    def test_bezier_agrees_with_root_finding(
        self, x1: float, y1: float, x2: float, y2: float, share: float
    ) -> None:
        ease = Bezier(x1, y1, x2, y2)
        self.assertAlmostEqual(ease.at(share), published_bezier(ease, share), delta=1e-9)

    def test_an_upright_bezier_goes_through_its_middle(self) -> None:
        upright = Bezier(1.0, 0.0, 0.0, 1.0)
        self.assertAlmostEqual(upright.at(0.5), 0.5, delta=1e-4)
        self.assertLess(upright.at(0.49), 0.5)
        self.assertGreater(upright.at(0.51), 0.5)

    def test_the_named_css_curves(self) -> None:
        for name in ("ease", "ease-in", "ease-out", "ease-in-out"):
            curve = parse_ease(name)
            assert isinstance(curve, Bezier)
            for share in np.linspace(0.01, 0.99, 33):
                self.assertAlmostEqual(
                    curve.at(share), published_bezier(curve, share), delta=1e-10, msg=name
                )

    @given(st.sampled_from([*FEELS.values(), Hold(early=True), Exponential(9.0, out=True)]), INSIDE)
    def test_every_ease_starts_and_ends_where_it_should_and_runs_backwards(
        self, ease: Bezier, share: float
    ) -> None:
        self.assertEqual((ease.at(0.0), ease.at(1.0)), (0.0, 1.0))
        self.assertAlmostEqual(ease.reversed().at(share), 1.0 - ease.at(1.0 - share), delta=1e-9)

    def test_half_a_turn_in_five_exponential_steps(self) -> None:
        # Common practice: starting at 1 degree, each the last times 180 ** (1/5), rounded.
        values = [round(1 + 179 * Exponential(180.0).at(n / 5)) for n in range(6)]
        self.assertEqual(values, [1, 3, 8, 23, 64, 180])

    def test_text_leads_back_to_the_ease(self) -> None:
        for ease in [*FEELS.values(), Bezier(0.1, -0.5, 0.9, 1.5), Exponential(7.0, True),
                     Hold(True), Linear()]:  # fmt: skip
            self.assertEqual(parse_ease(ease_text(ease)), ease)

    def test_an_impossible_ease_is_refused(self) -> None:
        for text in ("", "quick", "cubic-bezier(2, 0, 1, 1)", "cubic-bezier(0, 0, 1)",
                     "cubic-bezier(0, nan, 1, 1)", "exponential(1)", "exponential(x)",
                     "exponential(5, in)"):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError):
                parse_ease(text)
        with self.assertRaises(InputError):
            Bezier(0.0, math.inf, 1.0, 1.0)
