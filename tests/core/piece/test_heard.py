"""What is heard of a piece, against waves whose values are known."""

import unittest
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import Heard
from wrinkle.core.piece.media import Media
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.core.time.rate import FrameRate


@dataclass
class Wave:
    """A sine of so many hertz for three seconds, half as loud at the right."""

    hertz: float

    def at(self, seconds: np.ndarray) -> np.ndarray:
        wave = np.sin(2.0 * np.pi * self.hertz * seconds) * ((seconds >= 0) & (seconds < 3))
        return np.stack((wave, wave / 2), 1)

    def samples(self, start: int, count: int) -> Samples:
        return self.at((start + np.arange(count)) / SAMPLE_RATE).astype(np.float32)


WAVES = {"a": Wave(440.0), "b": Wave(100.0)}


def piece() -> Piece:
    """The second seconds of two files, one after the other, at 30 frames a second."""
    media = [Media(name, name, Fraction(3)) for name in ("a", "b")]
    found = edits.add_clips(Piece(rate=FrameRate.of(30)), 0, media)
    for clip in found.clips:
        found = edits.trim(found, clip.id, 30, -30)
    return found


class HeardPiece(unittest.TestCase):
    def test_each_clip_sounds_while_it_is_seen(self) -> None:
        heard = Heard(piece(), WAVES)
        self.assertEqual(heard.count, 2 * SAMPLE_RATE)
        found = heard.samples(0, heard.count)
        seconds = np.arange(SAMPLE_RATE) / SAMPLE_RATE + 1.0
        inside = slice(400, -400)
        for place, name in ((0, "a"), (SAMPLE_RATE, "b")):
            part = found[place : place + SAMPLE_RATE]
            np.testing.assert_allclose(part[inside], WAVES[name].at(seconds)[inside], atol=1e-4)
        # The same in stretches, silent outside, and no click where it begins.
        parts = [heard.samples(n, 7_000) for n in range(0, heard.count, 7_000)]
        np.testing.assert_array_equal(np.concatenate(parts)[: heard.count], found)
        self.assertEqual(float(np.abs(heard.samples(-500, 500)).max()), 0.0)
        self.assertLess(float(np.abs(np.diff(found[:, 0])).max()), 0.09)

    def test_speed_direction_level_and_what_stands(self) -> None:
        seconds = np.arange(SAMPLE_RATE // 2) / SAMPLE_RATE
        inside = slice(400, -400)
        fast = Heard(edits.set_speed(piece(), "clip", Fraction(2), reverse=False), WAVES)
        wanted = WAVES["a"].at(1.0 + seconds * 2)
        found = fast.samples(0, SAMPLE_RATE // 2)
        np.testing.assert_allclose(found[inside], wanted[inside], atol=2e-3)
        back = Heard(edits.set_speed(piece(), "clip", Fraction(1), reverse=True), WAVES)
        wanted = WAVES["a"].at(2.0 - 1 / SAMPLE_RATE - seconds)
        found = back.samples(0, SAMPLE_RATE // 2)
        np.testing.assert_allclose(found[inside], wanted[inside], atol=2e-3)
        # 6.02 dB are a factor of two.
        quiet = Heard(edits.change(piece(), "clip", level=-20.0 * np.log10(2.0)), WAVES)
        plain = Heard(piece(), WAVES).samples(2_000, 4_000)
        np.testing.assert_allclose(quiet.samples(2_000, 4_000), plain / 2, atol=1e-5)
        stands = Heard(edits.change(piece(), "clip", frozen=True), WAVES)
        self.assertEqual(float(np.abs(stands.samples(0, SAMPLE_RATE)).max()), 0.0)
        self.assertEqual(len(Heard(Piece(), {}).samples(0, 10)), 10)
