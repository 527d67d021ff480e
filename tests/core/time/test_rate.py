import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from wrinkle.core.errors import InputError
from wrinkle.core.time.rate import FrameRate

RATES = ["24", "25", "30", "60", "24000/1001", "30000/1001", "60000/1001"]


class FrameRates(unittest.TestCase):
    @given(st.sampled_from(RATES), st.integers(-24 * 3600 * 60, 24 * 3600 * 60))
    def test_a_frame_and_its_time_name_each_other_over_a_day(self, text: str, frame: int) -> None:
        rate = FrameRate.parse(text)
        time = rate.seconds(frame)
        self.assertEqual(rate.frame_at(time), frame)
        self.assertEqual(rate.frames_until(time), frame)
        self.assertEqual(rate.nearest_frame(time), frame)
        self.assertEqual(rate.frame_at(time - Fraction(1, 10**9)), frame - 1)

    def test_what_people_write_is_read(self) -> None:
        cases = {"29.97": "30000/1001", "23.976": "24000/1001", " 30 fps": "30", "12.5": "25/2"}
        for written, exact in cases.items():
            self.assertEqual(str(FrameRate.parse(written)), exact)
        self.assertEqual(
            [FrameRate.parse(x).label for x in RATES][4:], ["23.976", "29.97", "59.94"]
        )

    def test_an_impossible_rate_is_refused(self) -> None:
        for text in ("0", "-5", "fast", "1/0", "nan", "inf", "5000"):
            with self.subTest(text), self.assertRaises(InputError):
                FrameRate.parse(text)

    def test_six_frames_at_30_are_twelve_at_60(self) -> None:
        # Common practice.
        self.assertEqual(FrameRate.of(60).frame_at(FrameRate.of(30).seconds(6)), 12)
