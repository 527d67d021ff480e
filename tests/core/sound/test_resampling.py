"""Sound at other speeds, against the sines that it is made of and SciPy's resampler."""

import unittest
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray
from scipy import signal

from wrinkle.core.sound.heard import CLICKLESS, Fixed
from wrinkle.core.sound.resampling import Resampled
from wrinkle.core.sound.stretching import stretched
from wrinkle.core.sound.warping import Warped
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples


class Sine:
    """For ever."""

    def __init__(self, hertz: float) -> None:
        self.hertz = hertz

    def samples(self, start: int, count: int) -> Samples:
        seconds = (start + np.arange(count)) / SAMPLE_RATE
        wave = np.sin(2.0 * np.pi * self.hertz * seconds)
        return np.stack([wave, wave], 1).astype(np.float32)


def loudest(found: Samples) -> tuple[float, float]:
    """The level of the loudest sine, in dB of full scale, and its pitch."""
    window = np.blackman(len(found))
    spectrum = np.abs(np.fft.rfft(found[:, 0] * window)) * 2.0 / window.sum()
    level = 20.0 * np.log10(max(float(spectrum.max()), 1e-12))
    return level, int(spectrum.argmax()) * SAMPLE_RATE / len(found)


SWING = range(-2_000, 46_000)


def swung(samples: NDArray[np.float64], most: float = 2.5) -> NDArray[np.float64]:
    """From true speed to so many times it in the middle, and back; where it should be at no end."""
    share = np.clip((samples - SWING.start) / len(SWING), 0.0, 1.0)
    # The area under 1 - cos is x - sin.
    more = share - np.sin(2.0 * np.pi * share) / (2.0 * np.pi)
    return samples + (most - 1.0) / 2.0 * len(SWING) * more


class AtSpeedsThatChange(unittest.TestCase):
    def test_each_sample_lies_at_its_own_time_and_outside_as_it_was(self) -> None:
        found = Warped(Sine(900.0), 0, SWING, swung).samples(-4_000, 60_000)[:, 0]
        samples = np.arange(-4_000.0, 56_000.0)
        inside = (samples >= SWING.start + CLICKLESS) & (samples < SWING.stop - CLICKLESS)
        for there, places in ((inside, swung(samples)), (samples < SWING.start, samples)):
            wanted = np.sin(2.0 * np.pi * 900.0 * places / SAMPLE_RATE)
            np.testing.assert_allclose(found[there], wanted[there], atol=1e-4)
        # It leaps where the stretch ends, and glides over it.
        self.assertLess(float(np.abs(np.diff(found)).max()), 0.35)

    def test_what_the_speed_cannot_hold_does_not_come_back_as_something_else(self) -> None:
        for hertz, most in ((15_000.0, 3.0), (9_000.0, 12.0)):
            run = Warped(Sine(hertz), 0, SWING, lambda x, most=most: swung(x, most))  # type: ignore[misc]
            samples = np.arange(SWING.start, SWING.stop, dtype=np.float64)
            speeds = np.diff(swung(np.append(samples, SWING.stop), most))
            found = run.samples(SWING.start, len(SWING))[:, 0]
            beyond = speeds * hertz > 24_500.0
            self.assertGreater(int(beyond.sum()), 8_000)
            self.assertLess(20 * np.log10(float(np.abs(found[beyond]).max())), -80.0)

    def test_what_stands_still_or_flies_is_silent(self) -> None:
        for speed in (0.0, 30.0):
            run = Warped(Sine(900.0), 0, SWING, lambda x, speed=speed: x * speed)  # type: ignore[misc]
            self.assertEqual(float(np.abs(run.samples(5_000, 20_000)).max()), 0.0)

    def test_the_pitch_can_be_kept(self) -> None:
        found = Warped(Sine(700.0), 0, SWING, swung, pitch_kept=True).samples(0, 40_000)
        level, pitch = loudest(found)
        self.assertAlmostEqual(pitch / 700.0, 1.0, delta=0.004)
        self.assertAlmostEqual(level, 0.0, delta=1.5)
        # Something short is heard when its place comes; what is shorter than a gap may be left out.
        burst = np.zeros((4 * SAMPLE_RATE, 2), np.float32)
        burst[27_000:33_000] = np.random.default_rng(2).standard_normal((6_000, 2))
        heard = Warped(Fixed(burst), 0, SWING, swung, pitch_kept=True).samples(0, SAMPLE_RATE)
        power = (heard.astype(float) ** 2).sum(axis=1)
        middle = float((power * np.arange(SAMPLE_RATE)).sum() / power.sum())
        wanted = int(np.searchsorted(swung(np.arange(0.0, SAMPLE_RATE)), 30_000))
        self.assertAlmostEqual(middle / SAMPLE_RATE, wanted / SAMPLE_RATE, delta=0.01)


class AtSpeeds(unittest.TestCase):
    def test_a_sine_comes_out_where_it_belongs_or_not_at_all(self) -> None:
        for speed in (Fraction(2), Fraction(1, 2), Fraction(-1), Fraction(-37, 100), Fraction(4)):
            for hertz in (500.0, 5_000.0, 15_000.0, 20_000.0):
                with self.subTest(speed=speed, hertz=hertz):
                    run = Resampled(Sine(hertz), Fraction(1, 3), speed)
                    level, pitch = loudest(run.samples(900, 24_000))
                    if hertz * abs(speed) < 20_000.0:
                        # Between two lines of a spectrum this window loses 1.1 dB.
                        self.assertAlmostEqual(level, 0.0, delta=1.2)
                        self.assertAlmostEqual(pitch, float(hertz * abs(speed)), delta=2.0)
                    elif hertz * abs(speed) > 24_000.0:
                        # Fifteen kilohertz at twice the speed came back as eighteen once.
                        self.assertLess(level, -90.0)

    def test_each_sample_lies_at_its_own_time(self) -> None:
        for speed in (Fraction(3, 2), Fraction(-5), Fraction(123457, 100003), Fraction(1)):
            for origin in (Fraction(1001, 30000), Fraction(7, 11)):
                places = float(origin) + (7_000 + np.arange(9_000)) * float(speed) / SAMPLE_RATE
                found = Resampled(Sine(900.0), origin, speed).samples(7_000, 9_000)
                wanted = np.sin(2.0 * np.pi * 900.0 * places)
                np.testing.assert_allclose(found[:, 0], wanted, atol=1e-5)

    def test_it_is_what_scipy_makes_of_noise(self) -> None:
        dice = np.random.default_rng(1)
        content = signal.sosfiltfilt(
            signal.butter(8, 8_000, fs=SAMPLE_RATE, output="sos"), dice.standard_normal(48_000)
        )
        source = Fixed(np.stack([content, content], 1).astype(np.float32))
        found = Resampled(source, Fraction(0), Fraction(3, 2)).samples(4_000, 20_000)[:, 0]
        wanted = signal.resample(content, 32_000)[4_000:24_000]
        self.assertLess(float(np.abs(found - wanted).max() / np.abs(wanted).max()), 2e-3)

    def test_it_is_the_same_in_any_stretches(self) -> None:
        for run in (
            Resampled(Sine(440.0), Fraction(1, 3), Fraction(2, 3)),
            Resampled(Sine(440.0), Fraction(1, 3), Fraction(9)),
            stretched(Sine(440.0), 16_000, Fraction(3, 2)),
            Warped(Sine(440.0), 0, SWING, swung),
            Warped(Sine(440.0), 0, SWING, swung, pitch_kept=True),
        ):
            whole = run.samples(-5_000, 30_000)
            parts = [run.samples(n, 777) for n in range(-5_000, 25_000, 777)]
            np.testing.assert_array_equal(np.concatenate(parts)[:30_000], whole)


class AtTheSamePitch(unittest.TestCase):
    def test_the_pitch_stays_and_so_does_the_level(self) -> None:
        for speed in (Fraction(1, 4), Fraction(9, 10), Fraction(2), Fraction(4)):
            for hertz in (110.0, 1_000.0):
                with self.subTest(speed=speed, hertz=hertz):
                    found = stretched(Sine(hertz), 16_000, speed).samples(1_000, 240_000)
                    level, pitch = loudest(found)
                    self.assertAlmostEqual(pitch / hertz, 1.0, delta=0.002)
                    self.assertAlmostEqual(level, 0.0, delta=0.5)

    def test_what_happens_happens_when_the_speed_says(self) -> None:
        clicks = np.zeros((4 * SAMPLE_RATE, 2), np.float32)
        clicks[SAMPLE_RATE] = 1.0
        for speed in (Fraction(1), Fraction(2), Fraction(3, 4)):
            found = stretched(Fixed(clicks), 0, speed).samples(0, 3 * SAMPLE_RATE)[:, 0]
            at = int(np.abs(found).argmax()) / SAMPLE_RATE
            self.assertAlmostEqual(at, 1.0 / float(speed), delta=0.02)
