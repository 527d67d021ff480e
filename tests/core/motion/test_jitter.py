import unittest
from fractions import Fraction

import numpy as np

from wrinkle.core.motion.jitter import jitter_at

KNOWN = [0.140216684843, -0.358026268355, -0.653772226711]


def row(rate: float, roughness: float, seed: int = 1, channel: int = 0, stepped: bool = False):
    """Ten seconds at 240 looks a second."""
    times = [Fraction(n, 240) for n in range(2400)]
    return np.array([jitter_at(t, rate, roughness, seed, channel, stepped) for t in times])


class Jitter(unittest.TestCase):
    def test_it_stays_within_its_reach_and_uses_it(self) -> None:
        for roughness in (0.0, 0.5, 1.0):
            values = row(12.0, roughness)
            self.assertLessEqual(float(np.abs(values).max()), 1.0)
            self.assertGreater(float(np.abs(values).max()), 0.5)
            self.assertLess(abs(float(values.mean())), 0.15)

    def test_its_spectrum_lies_within_its_rate(self) -> None:
        # New values twelve times a second swing at most six times; Fourier transform by NumPy.
        frequencies = np.fft.rfftfreq(2400, 1 / 240)
        smooth = np.abs(np.fft.rfft(row(12.0, 0.0) * np.hanning(2400))) ** 2
        self.assertGreater(smooth[frequencies <= 12.0].sum() / smooth.sum(), 0.99)
        self.assertGreater(smooth[frequencies <= 6.0].sum() / smooth.sum(), 0.9)
        rough = np.abs(np.fft.rfft(row(12.0, 1.0) * np.hanning(2400))) ** 2
        fine = frequencies > 6.0
        self.assertGreater(rough[fine].sum() / rough.sum(), 3 * smooth[fine].sum() / smooth.sum())

    def test_it_is_a_function_of_time_and_seed_alone(self) -> None:
        np.testing.assert_array_equal(row(12.0, 0.3), row(12.0, 0.3))
        for other in (row(12.0, 0.3, seed=2), row(12.0, 0.3, channel=1)):
            self.assertLess(abs(float(np.corrcoef(row(12.0, 0.3), other)[0, 1])), 0.35)
        # The bytes of the movement may never change: saved wrinkles would look different.
        known = [round(jitter_at(Fraction(n, 30), 12.0, 0.0, 1, 0, False), 12) for n in (-7, 0, 5)]
        self.assertEqual(known, KNOWN)

    def test_stepped_jumps_and_rests(self) -> None:
        values = row(30.0, 0.0, stepped=True)
        self.assertEqual(len(set(values.tolist())), 300)
        self.assertTrue(all(len(set(values[n : n + 8].tolist())) == 1 for n in range(0, 2400, 8)))

    def test_gliding_has_no_jumps(self) -> None:
        self.assertLess(float(np.abs(np.diff(row(12.0, 0.0))).max()), 0.25)
