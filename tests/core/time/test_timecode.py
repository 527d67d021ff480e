import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from wrinkle.core.errors import InputError
from wrinkle.core.time.rate import FrameRate
from wrinkle.core.time.timecode import parse_timecode, timecode

NTSC = FrameRate.of(30000, 1001)
NTSC_60 = FrameRate.of(60000, 1001)


class Timecode(unittest.TestCase):
    def test_drop_frame_figures(self) -> None:
        # SMPTE ST 12-1: numbers 00 and 01 are left out each minute but the tenth.
        cases = {
            0: "00:00:00;00",
            1799: "00:00:59;29",
            1800: "00:01:00;02",
            17981: "00:09:59;29",
            17982: "00:10:00;00",
            107892: "01:00:00;00",
        }
        for frame, text in cases.items():
            with self.subTest(text):
                self.assertEqual(timecode(frame, NTSC), text)
                self.assertEqual(parse_timecode(text, NTSC), frame)
        self.assertEqual(timecode(3600, NTSC_60), "00:01:00;04")

    @given(st.sampled_from([NTSC, NTSC_60, FrameRate.of(24), FrameRate.of(25),
                            FrameRate(Fraction(3, 10))]),
           st.integers(-3_000_000, 3_000_000))  # fmt: skip
    def test_a_timecode_leads_back_to_its_frame(self, rate: FrameRate, frame: int) -> None:
        self.assertEqual(parse_timecode(timecode(frame, rate), rate), frame)

    def test_what_does_not_exist_is_refused(self) -> None:
        for text, rate in (
            ("00:01:00;00", NTSC),
            ("00:00:00;00", FrameRate.of(25)),
            ("00:00:00:25", FrameRate.of(25)),
            ("00:61:00:00", FrameRate.of(25)),
            ("soon", NTSC),
        ):
            with self.subTest(text), self.assertRaises(InputError):
                parse_timecode(text, rate)
