import math
import re
import unittest

from wrinkle.core.errors import InputError
from wrinkle.core.motion.formula import calculate, evaluate, split_pair


class Formulas(unittest.TestCase):
    def test_formulas_see_time_frame_progress_and_rate(self) -> None:
        names = {"t": 0.5, "frame": 15.0, "p": 0.75, "fps": 30.0}
        for text, value in (
            ("t * fps - frame", 0.0),
            ("sin(pi * t) + p", 1.75),
            ("max(1)", None),
            ("fmod(frame, 4) // 2 % 2", 1.0),
            ("atan2(1, 1) * 4 - pi", 0.0),
        ):
            with self.subTest(text):
                if value is None:
                    self.assertRaises(InputError, evaluate, text, names)
                else:
                    self.assertAlmostEqual(evaluate(text, names), value)

    def test_what_is_wrong_is_named_and_nothing_endless_is_begun(self) -> None:
        names = {"t": 0.0}
        for text, told in (
            ("1 / t", "has no finite value at t = 0"),
            ("tt * 2", "'tt' is not a number that can be used; there are: t, pi"),
            ("open(1)", "'open' is not a function"),
            ("t.real", "'t.real' is not a number"),
            ("factorial(99999999)", "no finite value"),
            ("comb(10**9, 10**8)", "no finite value"),
            ("9.0 ** 9 ** 9 ** 9", "no finite value"),
            ("(lambda: 1)()", "is not a number"),
            ("sin(x=1)", "is not a number"),
            ("sin(*t)", "is not a number"),
        ):
            with self.subTest(text), self.assertRaisesRegex(InputError, re.escape(told)):
                evaluate(text, names)

    def test_a_pair_is_parted_outside_of_brackets(self) -> None:
        self.assertEqual(split_pair("pow(t, 2), 3"), ("pow(t, 2)", " 3"))
        self.assertIsNone(split_pair("pow(t, 2)"))
        self.assertIsNone(split_pair("1, 2, 3"))


class Arithmetic(unittest.TestCase):
    def test_what_is_typed_is_worked_out(self) -> None:
        cases = {"180/5": 36.0, "-(2+3)*4": -20.0, "2**3": 8.0, "pi": math.pi, "3×4": 12.0,
                 "−7": -7.0, " 1e3 ": 1000.0}  # fmt: skip
        for text, value in cases.items():
            with self.subTest(text):
                self.assertEqual(calculate(text), value)

    def test_everything_else_is_refused_at_once(self) -> None:
        words = "x|1/0|9**9**9|nan|__import__('os')|(1).real|[1]|True|1 if 1 else 2|'a'|1j|f(1)"
        for text in ("", "(" * 150, "(" * 500, "1" * 400, *words.split("|")):
            with self.subTest(text[:20]), self.assertRaises(InputError):
                calculate(text)
