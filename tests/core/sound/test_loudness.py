"""Loudness, against the test signals of EBU Tech 3341 and 3342 and the package pyloudnorm.

Signals and tolerances are from the two documents; "from memory" where it is said.
"""

import unittest

import numpy as np
import pyloudnorm

from wrinkle.core.sound.heard import Fixed, Mix, MixPart, Ramp
from wrinkle.core.sound.levelling import Levelled, levelled
from wrinkle.core.sound.loudness import SILENCE, measured
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples


def heard(samples: Samples) -> Mix:
    """Samples as they are, to their very ends."""
    span = range(len(samples))
    begin, end = Ramp(range(0)), Ramp(range(len(samples), len(samples)))
    return Mix((MixPart(Fixed(samples), 0, span, rise=begin, fall=end),), span)


def tone(level: float, seconds: float, hertz: float = 1_000.0, phase: float = 0.0) -> Samples:
    """A sine on both sides, its peak at so many dBFS."""
    time = np.arange(round(seconds * SAMPLE_RATE)) / SAMPLE_RATE
    wave = 10.0 ** (level / 20.0) * np.sin(2.0 * np.pi * hertz * time + np.radians(phase))
    return np.stack([wave, wave], 1).astype(np.float32)


def murmur(seconds: float, seed: int = 3) -> Samples:
    """Noise that swells and falls, as music does."""
    dice = np.random.default_rng(seed)
    count = round(seconds * SAMPLE_RATE)
    swell = 0.02 + 0.2 * np.abs(np.sin(np.arange(count) / SAMPLE_RATE * 0.7)) ** 2
    noise = dice.standard_normal((count, 2)) * swell[:, np.newaxis]
    return np.clip(noise, -1, 1).astype(np.float32)


class Integrated(unittest.TestCase):
    def test_the_signals_of_ebu_tech_3341(self) -> None:
        # Table 1, cases 1 to 5, the long ones shortened: -23, -33, -23, -23, -23 LUFS, ±0.1.
        cases = (
            (-23.0, [(-23.0, 20)]),
            (-33.0, [(-33.0, 20)]),
            (-23.0, [(-36.0, 10), (-23.0, 20), (-36.0, 10)]),
            (-23.0, [(-72.0, 10), (-36.0, 10), (-23.0, 20), (-36.0, 10), (-72.0, 10)]),
            (-23.0, [(-26.0, 20), (-20.0, 20.1), (-26.0, 20)]),
        )
        for number, (wanted, parts) in enumerate(cases, 1):
            with self.subTest(case=number):
                signal = np.concatenate([tone(level, seconds) for level, seconds in parts])
                found = measured(heard(signal))
                self.assertAlmostEqual(found.integrated, wanted, delta=0.1)
                if number <= 2:
                    self.assertAlmostEqual(found.momentary, wanted, delta=0.1)
                    self.assertAlmostEqual(found.short, wanted, delta=0.1)

    def test_the_ranges_of_ebu_tech_3342(self) -> None:
        # Table 1, cases 1 to 3: 10, 5 and 20 LU, ±1.
        for wanted, levels in ((10.0, (-20, -30)), (5.0, (-20, -15)), (20.0, (-40, -20))):
            signal = np.concatenate([tone(level, 20) for level in levels])
            self.assertAlmostEqual(measured(heard(signal)).range, wanted, delta=1.0)

    def test_it_agrees_with_another_program(self) -> None:
        for seed in (1, 2):
            signal = murmur(12, seed)
            wanted = pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(signal.astype(float))
            self.assertAlmostEqual(measured(heard(signal)).integrated, wanted, delta=0.1)

    def test_silence_and_what_is_too_short(self) -> None:
        for samples in (np.zeros((0, 2), np.float32), np.zeros((90_000, 2), np.float32)):
            found = measured(heard(samples))
            self.assertEqual((found.integrated, found.range), (SILENCE, 0.0))
            self.assertEqual(found.peak, -np.inf)


class Peaks(unittest.TestCase):
    def test_the_true_peaks_of_ebu_tech_3341(self) -> None:
        # Cases 15 to 19: sines that have no sample at their peaks; +0.2 and -0.4 dB.
        for hertz, phase, peak, wanted in (
            (SAMPLE_RATE / 4, 0.0, 0.5, -6.0), (SAMPLE_RATE / 4, 45.0, 0.5, -6.0),
            (SAMPLE_RATE / 6, 60.0, 0.5, -6.0), (SAMPLE_RATE / 8, 67.5, 0.5, -6.0),
            (SAMPLE_RATE / 4, 45.0, 1.41, 3.0),
        ):  # fmt: skip
            with self.subTest(hertz=hertz, phase=phase):
                # The case of 3 dBTP is louder than a mix lets through: the source is measured.
                signal = tone(20.0 * np.log10(peak), 1.0, hertz, phase)
                # A sine that begins in its midst has other peaks than its own.
                swell = np.minimum(np.arange(len(signal)) / 4_800.0, 1.0)
                signal *= np.minimum(swell, swell[::-1])[:, np.newaxis].astype(np.float32)
                source = type("Source", (Fixed,), {"span": range(len(signal))})(signal)
                found = measured(source).peak
                self.assertTrue(wanted - 0.4 <= found <= wanted + 0.2, found)


class Levelling(unittest.TestCase):
    def test_a_target_is_met_and_no_peak_is_above_the_ceiling(self) -> None:
        for target in (-14.0, -23.0, -30.0):
            found, said = levelled(heard(murmur(12)), target)
            self.assertAlmostEqual(said.integrated, target, delta=0.1)
            self.assertLessEqual(said.peak, -1.0)
            content = found.samples(0, 12 * SAMPLE_RATE)
            other = pyloudnorm.Meter(SAMPLE_RATE).integrated_loudness(content.astype(float))
            self.assertAlmostEqual(other, target, delta=0.15)

    def test_what_is_below_the_ceiling_is_only_multiplied(self) -> None:
        signal = tone(-20.0, 2.0, 300.0)
        found = Levelled(heard(signal), 6.0).samples(0, len(signal))
        np.testing.assert_allclose(found, signal * 10.0**0.3, rtol=1e-5, atol=1e-7)

    def test_a_blow_is_turned_down_and_what_is_far_from_it_is_not(self) -> None:
        signal = np.full((4 * SAMPLE_RATE, 2), 0.25, np.float32)
        signal[96_000:96_300] = 2.0
        source = type("Source", (Fixed,), {"span": range(len(signal))})(signal)
        found = Levelled(source, 0.0).samples(0, len(signal))
        self.assertLess(float(np.abs(found).max()), 10.0 ** (-1.0 / 20.0))
        gains = found[:, 0] / signal[:, 0]
        np.testing.assert_allclose(gains[1_000:95_000], 1.0, rtol=1e-5)
        np.testing.assert_allclose(gains[140_000:190_000], 1.0, rtol=1e-5)
        # Down within ten thousandths of a second, up within a tenth, and never at a step.
        self.assertLess(float(np.abs(np.diff(gains)).max()), 0.01)
        self.assertAlmostEqual(float(gains[96_150]), 10.0 ** (-1.1 / 20.0) / 2.0, delta=0.05)

    def test_it_is_the_same_in_any_stretches(self) -> None:
        loud = Levelled(heard(murmur(6)), 14.0)
        whole = loud.samples(-1_000, 200_000)
        parts = [loud.samples(n, 3_333) for n in range(-1_000, 199_000, 3_333)]
        np.testing.assert_array_equal(np.concatenate(parts)[:200_000], whole)
        silent = heard(np.zeros((90_000, 2), np.float32))
        self.assertIs(levelled(silent)[0], silent)
