import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import (
    Back,
    Bezier,
    Bounce,
    Break,
    Circular,
    Exponential,
    Hold,
    Jump,
    Linear,
    Points,
    Power,
    Sine,
    Spring,
    Steps,
    Way,
)
from wrinkle.core.motion.feels import FEELS, ease_text, parse_ease

INSIDE = st.floats(1e-6, 1.0 - 1e-6)
FREE = st.floats(-3.0, 4.0)

EVERY = [
    Linear(),
    Bezier(0.1, -0.5, 0.9, 1.5),
    Points(((0.0, 0.0), (0.25, 0.7), (1.0, 1.0))),
    Break(0.2, 0.7),
    *(
        shape(way)
        for way in Way
        for shape in (Power, Sine, Exponential, Circular, Back, Bounce, Spring)
    ),
    Spring(Way.OUT, 1.0, 2.0),
    Spring(Way.IN, 2.0, 2.0),
]


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

    @given(st.sampled_from([*FEELS.values(), Hold(early=True), *EVERY]), INSIDE)
    def test_every_ease_starts_and_ends_where_it_should_and_runs_backwards(
        self, ease: Bezier, share: float
    ) -> None:
        self.assertEqual((ease.at(0.0), ease.at(1.0)), (0.0, 1.0))
        self.assertAlmostEqual(ease.reversed().at(share), 1.0 - ease.at(1.0 - share), delta=1e-9)

    def test_half_a_turn_in_five_exponential_steps(self) -> None:
        # Common practice: starting at 1 degree, each the last times 180 ** (1/5), rounded.
        values = [round(1 + 179 * Exponential().at(n / 5)) for n in range(6)]
        self.assertEqual(values, [1, 3, 8, 23, 64, 180])

    def test_shapes_have_their_closed_forms(self) -> None:
        # Written out from their definitions: u^n, a quarter of a sine, a quarter of a circle,
        # r^u, and u^2 ((a + 1) u - a).
        for u in (0.2, 0.5, 0.9):
            for ease, value in (
                (Power(Way.IN, 4.0), u**4),
                (Sine(), 1 - math.sin(math.pi / 2 * (1 - u))),
                (Circular(), 1 - math.sqrt(1 - u**2)),
                (Exponential(Way.IN, 1024.0), (1024**u - 1) / 1023),
                (Back(Way.IN, 1.5), 2.5 * u**3 - 1.5 * u**2),
                (Bounce(Way.OUT, 0), u**2),
            ):
                self.assertAlmostEqual(ease.at(u), value, delta=1e-12, msg=str(ease))
                turned = 1 - ease.at(1 - u)
                self.assertAlmostEqual(ease.reversed().at(u), turned, delta=1e-12)

    def test_every_shape_has_its_own_slope(self) -> None:
        # The derivative by SciPy-style central differences, away from corners and steps.
        for ease in EVERY:
            for share in (0.13, 0.37, 0.58, 0.83):
                step = 1e-6
                slope = (ease.at(share + step) - ease.at(share - step)) / (2 * step)
                self.assertAlmostEqual(ease.slope(share), slope, delta=1e-5, msg=ease_text(ease))

    def test_bezier_slopes_at_the_ends_are_those_of_the_handles(self) -> None:
        self.assertAlmostEqual(Bezier(0.25, 0.5, 0.5, 0.75).slope(0.0), 2.0)
        self.assertAlmostEqual(Bezier(0.25, 0.5, 0.5, 0.75).slope(1.0), 0.5)
        self.assertEqual(Bezier(0.0, 0.0, 0.5, 1.0).slope(0.0), 2.0)
        self.assertEqual(Bezier(0.0, 1.0, 0.5, 1.0).slope(0.0), math.inf)

    def test_springs_follow_the_differential_equation(self) -> None:
        # SciPy's solution of x'' + 2 d w x' + w^2 x = w^2 from rest, scaled to arrive at 1.
        for damping, frequency in ((0.1, 3.0), (0.4, 2.0), (1.0, 1.5), (2.5, 1.0), (0.7, 0.5)):
            omega = 2 * math.pi * frequency
            solved = solve_ivp(
                lambda _, y, o=omega, d=damping: (y[1], o * o * (1 - y[0]) - 2 * d * o * y[1]),
                (0.0, 1.0), (0.0, 0.0), rtol=1e-10, atol=1e-12, dense_output=True,
            )  # fmt: skip
            spring = Spring(Way.OUT, damping, frequency)
            for share in np.linspace(0.01, 0.99, 23):
                expected = solved.sol(share)[0] / solved.sol(1.0)[0]
                self.assertAlmostEqual(spring.at(share), expected, delta=1e-7)

    def test_a_break_rests_in_the_middle_with_smooth_edges(self) -> None:
        ease = Break(0.4)
        self.assertEqual({ease.at(x) for x in (0.3, 0.4, 0.5, 0.69)}, {0.5})
        for edge in (0.3, 0.7):
            for side in (-1e-5, 1e-5):
                self.assertLess(abs(ease.slope(edge + side)), 1e-6)

    def test_a_bounce_lands_as_often_as_it_says_and_keeps_its_speed(self) -> None:
        ease = Bounce(Way.OUT, 3, 0.5)
        # Free fall: 1 + 2 (1/2 + 1/4 + 1/8) = 2.75 falls; landings after 1, 2, 2.5, 2.75 of them.
        for landing in (1.0, 2.0, 2.5, 2.75):
            self.assertAlmostEqual(ease.at(landing / 2.75), 1.0, delta=1e-12)
        speed_before, speed_after = (ease.slope((1.0 + x) / 2.75) for x in (-1e-9, 1e-9))
        self.assertAlmostEqual(speed_after, -speed_before / 2, delta=1e-5)

    def test_css_steps_and_linear(self) -> None:
        # CSS Easing Functions Level 2: the values at the jumps, and missing places filled in.
        for jump, values in (
            ("jump-start", [1 / 3, 2 / 3, 1.0]), ("jump-end", [0.0, 1 / 3, 2 / 3]),
            ("jump-both", [0.25, 0.5, 0.75]), ("jump-none", [0.0, 0.5, 1.0]),
        ):  # fmt: skip
            ease = parse_ease(f"steps(3, {jump})")
            for share, value in zip((0.1, 0.5, 0.9), values, strict=True):
                self.assertAlmostEqual(ease.at(share), value, msg=jump)
        filled = parse_ease("linear(0, 0.2, 0.8 50%, 1)")
        self.assertEqual(filled, Points(((0.0, 0.0), (0.25, 0.2), (0.5, 0.8), (1.0, 1.0))))
        self.assertAlmostEqual(filled.at(0.375), 0.5)

    def test_a_table_from_a_spreadsheet_is_an_ease(self) -> None:
        # Common practice: the exponential half turn, worked out elsewhere and pasted.
        column = parse_ease("0\n1\n3\n8\n23\n64\n180")
        self.assertAlmostEqual(column.at(5 / 6) * 180, 64)
        self.assertEqual(parse_ease("0 1 3 8 23 64 180"), column)
        pairs = parse_ease("10;5\n12;10\n20;25")
        self.assertAlmostEqual(pairs.at(0.2), 0.25)
        for text in ("5", "1,2,3\n4,5,6", "3 1 3", "1 2\n1 3", "0 1\n2", "1e999 2"):
            with self.subTest(text), self.assertRaises(InputError):
                parse_ease(text)

    def test_text_leads_back_to_the_ease(self) -> None:
        for ease in (*FEELS.values(), *EVERY, Steps(4), Steps(5, Jump.BOTH), Hold(True)):
            self.assertEqual(parse_ease(ease_text(ease)), ease)
        own = {"mine": Power(Way.BOTH, 7.0)}
        self.assertEqual(parse_ease("Mine", own), own["mine"])

    def test_an_impossible_ease_is_refused(self) -> None:
        words = (
            "|quick|cubic-bezier(2, 0, 1, 1)|cubic-bezier(0, 0, 1)|cubic-bezier(0, nan, 1, 1)"
            "|exponential(1)|exponential(x)|exponential(5, up)|steps(0)|steps(1, jump-none)"
            "|steps(2.5)|linear(0)|linear(0, 1 x)|break(2)|spring(0)|power(0)|power(2, 3)|sine(1)"
            "|spring(nan, 2)|linear(0.5, 1)|bounce(99)"
        )
        for text in words.split("|"):
            with self.subTest(text), self.assertRaises(InputError):
                parse_ease(text)
        with self.assertRaises(InputError):
            Bezier(0.0, math.inf, 1.0, 1.0)
