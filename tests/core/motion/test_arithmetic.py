import math
import unittest

from wrinkle.core.errors import InputError
from wrinkle.core.motion.arithmetic import calculate


class Arithmetic(unittest.TestCase):
    def test_what_is_typed_is_worked_out(self) -> None:
        cases = {"180/5": 36.0, "-(2+3)*4": -20.0, "2**3": 8.0, "pi": math.pi, "3×4": 12.0,
                 "−7": -7.0, " 1e3 ": 1000.0}  # fmt: skip
        for text, value in cases.items():
            with self.subTest(text):
                self.assertEqual(calculate(text), value)

    def test_everything_else_is_refused_at_once(self) -> None:
        words = "x|1/0|9**9**9|nan|__import__('os')|(1).real|[1]|True|1 if 1 else 2|'a'|1j|f(1)"
        for text in ("", "(" * 150, "(" * 500, "1" * 300, *words.split("|")):
            with self.subTest(text[:20]), self.assertRaises(InputError):
                calculate(text)
