"""Beats and onsets, of drums that are made up: when they were put there is the truth."""

import unittest

import numpy as np

from wrinkle.core.sound.beats import beats_of
from wrinkle.core.sound.heard import Fixed
from wrinkle.core.sound.onsets import strongest
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS, Voice, made
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples


def drum(kind: str, dice: np.random.Generator) -> np.ndarray:
    time = np.arange(round(0.18 * SAMPLE_RATE)) / SAMPLE_RATE
    noise = dice.standard_normal(len(time))
    if kind == "kick":
        fall = 50.0 * time + 2.0 * (1.0 - np.exp(-30.0 * time))
        return np.sin(2.0 * np.pi * fall) * np.exp(-22.0 * time) * 0.9
    if kind == "snare":
        ring = np.sin(2.0 * np.pi * 190.0 * time) * np.exp(-25.0 * time) * 0.3
        return noise * np.exp(-28.0 * time) * 0.4 + ring
    return np.diff(noise, prepend=0.0) * np.exp(-90.0 * time) * 0.18


def drums(tempo: float, swung: bool, seed: int = 1) -> tuple[Samples, np.ndarray]:
    """Twenty seconds over noise: kick and snare in turns, hats on the eighths; and the beats."""
    dice = np.random.default_rng(seed)
    found = dice.standard_normal(21 * SAMPLE_RATE) * 0.05
    beats = np.arange(0.13 * seed, 19.5, 60.0 / tempo)
    for number, beat in enumerate(beats):
        off = 60.0 / tempo * (2 / 3 if swung else 1 / 2)
        for kind, at in (
            (("kick", "snare")[number % 2], beat), ("hat", beat), ("hat", beat + off),
        ):  # fmt: skip
            start = round(at * SAMPLE_RATE)
            hit = drum(kind, dice)
            found[start : start + len(hit)] += hit[: len(found) - start]
    return np.stack([found, found], 1)[: 20 * SAMPLE_RATE].astype(np.float32) * 0.6, beats


class Tracked(unittest.TestCase):
    def test_straight_and_swung_from_sixty_to_a_hundred_and_eighty(self) -> None:
        for number, tempo in enumerate((60.0, 77.0, 100.0, 128.0, 147.0, 180.0)):
            samples, beats = drums(tempo, bool(number % 2), 1 + number % 3)
            with self.subTest(tempo=tempo):
                found = beats_of(Fixed(samples), len(samples))
                self.assertAlmostEqual(found.tempo / tempo, 1.0, delta=0.01)
                times = np.array(found.times)
                away = [float(np.abs(times - beat).min()) for beat in beats[1:-1]]
                self.assertLess(max(away), 0.02)
                self.assertLess(abs(len(times) - len(beats)), 3)

    def test_silence_and_what_is_too_short_have_none(self) -> None:
        for count in (0, 1_000, 20 * SAMPLE_RATE):
            found = beats_of(Fixed(np.zeros((count, 2), np.float32)), count)
            self.assertEqual((found.tempo, found.times), (0.0, ()))


class Hits(unittest.TestCase):
    def test_the_strongest_onset_is_found_within_two_thousandths(self) -> None:
        dice = np.random.default_rng(5)
        for key in ("hit", "tick", "drop"):
            count = SAMPLE_RATE // 2
            voice = Voice(count, 1.0, np.random.default_rng(1), np.zeros(1))
            wave = made(MADE_SOUNDS[key], voice)
            for at in (0.25, 0.7):
                samples = dice.standard_normal((3 * SAMPLE_RATE // 2, 2)) * 0.002
                start = round(at * SAMPLE_RATE)
                samples[start : start + count] += wave[:, np.newaxis]
                with self.subTest(key, at=at):
                    found = strongest(Fixed(samples.astype(np.float32)), len(samples))
                    self.assertAlmostEqual(found / SAMPLE_RATE, at, delta=0.002)
        self.assertEqual(strongest(Fixed(np.zeros((9_000, 2), np.float32)), 9_000), 0)
