"""What is heard of a piece, against waves whose values are known."""

import unittest
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.joins import SoundJoin
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.core.time.rate import FrameRate


@dataclass
class Wave:
    """Three seconds, half as loud at the right."""

    wave: Callable[[np.ndarray], np.ndarray]
    sounds: int = field(default=1)

    def sound(self, track: int = 0) -> "Wave | None":
        return self if track == 0 else None

    def at(self, seconds: np.ndarray) -> np.ndarray:
        wave = self.wave(seconds) * ((seconds >= 0) & (seconds < 3))
        return np.stack((wave, wave / 2), 1)

    def samples(self, start: int, count: int) -> Samples:
        return self.at((start + np.arange(count)) / SAMPLE_RATE).astype(np.float32)


def sine(hertz: float) -> Wave:
    return Wave(lambda seconds: np.sin(2.0 * np.pi * hertz * seconds))


def noise(seed: int) -> Wave:
    """White noise, the same at the same time."""
    values = np.random.default_rng(seed).standard_normal(3 * SAMPLE_RATE) * 0.2
    return Wave(lambda t: values[np.clip(np.rint(t * SAMPLE_RATE), 0, len(values) - 1).astype(int)])


WAVES = {"a": sine(440.0), "b": sine(100.0)}


def piece(rate: int = 30) -> Piece:
    """The second seconds of two files, one after the other."""
    media = [Media(name, name, Fraction(3)) for name in ("a", "b")]
    found = edits.add_clips(Piece(rate=FrameRate.of(rate)), 0, media)
    for clip in found.clips:
        found = edits.trim(found, clip.id, rate, -rate)
    return found


def joined(kind: str, frames: int = 6, waves: dict[str, Wave] = WAVES) -> Samples:
    """The whole piece with a wrinkle of twelve frames on either side of its cut."""
    use = PieceUse(Bundle(plain_cut()), Choices(join=SoundJoin(kind, frames)))
    heard = piece_heard(dressing.on_every(piece(), use), waves)
    return heard.samples(0, 2 * SAMPLE_RATE)


class HeardPiece(unittest.TestCase):
    def test_each_clip_sounds_while_it_is_seen(self) -> None:
        heard = piece_heard(piece(), WAVES)
        self.assertEqual(heard.span, range(2 * SAMPLE_RATE))
        found = heard.samples(0, 2 * SAMPLE_RATE)
        seconds = np.arange(SAMPLE_RATE) / SAMPLE_RATE + 1.0
        inside = slice(400, -400)
        for place, name in ((0, "a"), (SAMPLE_RATE, "b")):
            part = found[place : place + SAMPLE_RATE]
            np.testing.assert_allclose(part[inside], WAVES[name].at(seconds)[inside], atol=1e-4)
        # The same in stretches, silent outside, and no click where it begins.
        parts = [heard.samples(n, 7_000) for n in range(0, 2 * SAMPLE_RATE, 7_000)]
        np.testing.assert_array_equal(np.concatenate(parts)[: 2 * SAMPLE_RATE], found)
        self.assertEqual(float(np.abs(heard.samples(-500, 500)).max()), 0.0)
        self.assertLess(float(np.abs(np.diff(found[:, 0])).max()), 0.09)
        late = heard.from_(SAMPLE_RATE)
        np.testing.assert_array_equal(late.samples(-100, 5_000), found[SAMPLE_RATE - 100 :][:5_000])

    def test_speed_direction_level_and_what_stands(self) -> None:
        seconds = np.arange(SAMPLE_RATE // 2) / SAMPLE_RATE
        inside = slice(400, -400)
        fast = piece_heard(edits.set_speed(piece(), "clip", Fraction(2), reverse=False), WAVES)
        wanted = WAVES["a"].at(1.0 + seconds * 2)
        found = fast.samples(0, SAMPLE_RATE // 2)
        np.testing.assert_allclose(found[inside], wanted[inside], atol=1e-4)
        back = piece_heard(edits.set_speed(piece(), "clip", Fraction(1), reverse=True), WAVES)
        wanted = WAVES["a"].at(2.0 - 1 / SAMPLE_RATE - seconds)
        found = back.samples(0, SAMPLE_RATE // 2)
        np.testing.assert_allclose(found[inside], wanted[inside], atol=1e-4)
        # 6.02 dB are a factor of two.
        quiet = piece_heard(edits.change(piece(), "clip", level=-20.0 * np.log10(2.0)), WAVES)
        plain = piece_heard(piece(), WAVES).samples(2_000, 4_000)
        np.testing.assert_allclose(quiet.samples(2_000, 4_000), plain / 2, atol=1e-5)
        fades = {"rise": Fraction(1, 2), "fall": Fraction(1, 4)}
        found = piece_heard(edits.change(piece(), "clip", **fades), WAVES).samples(0, SAMPLE_RATE)
        whole = WAVES["a"].at(1.0 + np.arange(SAMPLE_RATE) / SAMPLE_RATE)
        shares = np.arange(SAMPLE_RATE) / SAMPLE_RATE
        gains = np.clip(np.minimum(shares / 0.5, (1.0 - shares) / 0.25), 0.0, 1.0)
        np.testing.assert_allclose(found, whole * gains[:, np.newaxis], atol=1e-3)
        for fields in ({"frozen": True}, {"track": 1}, {"muted": True}):
            silent = piece_heard(edits.change(piece(), "clip", **fields), WAVES)
            self.assertEqual(float(np.abs(silent.samples(0, SAMPLE_RATE)).max()), 0.0)
        self.assertFalse(piece_heard(piece(), WAVES, Hears.WRINKLE).parts)
        self.assertEqual(len(piece_heard(Piece(), {}).samples(0, 10)), 10)

    def test_the_pitch_stays_where_it_is_kept(self) -> None:
        for speed in (Fraction(1, 2), Fraction(3, 2)):
            for kept, hertz in ((False, 440.0 * speed), (True, 440.0)):
                changed = edits.set_speed(piece(), "clip", speed, reverse=False)
                heard: Mix = piece_heard(edits.change(changed, "clip", pitch_kept=kept), WAVES)
                part = heard.samples(2_400, 24_000)[:, 0] * np.hanning(24_000)
                peak = int(np.abs(np.fft.rfft(part, 480_000)).argmax()) / 10.0
                self.assertAlmostEqual(peak / hertz, 1.0, delta=0.002)


class Joins(unittest.TestCase):
    def changes_at(self, found: Samples) -> float:
        """The second at which 440 Hz give way to 100: each has its share of the power."""
        steps = found[:, 0].reshape(-1, 480)
        seconds = np.arange(480) / SAMPLE_RATE
        probes = np.exp(-2j * np.pi * np.outer(seconds, (440.0, 100.0)))
        power = np.abs(steps @ probes) ** 2
        return float((power[:, 0] > power[:, 1]).sum()) / 100.0

    def test_each_way_changes_when_it_says(self) -> None:
        frame = 1 / 30
        for kind, frames, wanted in (
            ("straight", 0, 1.0), ("outgoing", 0, 1.0 + 12 * frame),
            ("incoming", 0, 1.0 - 12 * frame), ("early", 9, 1.0 - 9 * frame),
            ("late", 3, 1.0 + 3 * frame), ("late", 240, 2.0), ("early", 240, 0.0),
        ):  # fmt: skip
            with self.subTest(kind, frames=frames):
                found = joined(kind, frames)
                self.assertAlmostEqual(self.changes_at(found), wanted, delta=0.015)
                # Nothing is doubled, and nothing clicks.
                self.assertLess(float(np.abs(found).max()), 1.01)
                self.assertLess(float(np.abs(np.diff(found[:, 0])).max()), 0.09)

    def test_a_crossfade_is_as_loud_all_along(self) -> None:
        found = joined("crossfade", waves={"a": noise(1), "b": noise(2)})
        power = [float((found[n : n + 9_600, 0] ** 2).mean()) for n in range(4_800, 86_000, 4_800)]
        # What 9,600 samples of noise stray by, twice: the mean of squares has a standard
        # deviation of its square root of 2 / N.
        stray = 10.0 * np.log10(1.0 + 4.0 * np.sqrt(2.0 / 9_600))
        levels = 10.0 * np.log10(np.array(power) / 0.04)
        self.assertLess(float(np.abs(levels).max()), 0.1 + stray)
        halves = joined("crossfade")[SAMPLE_RATE - 480 : SAMPLE_RATE + 480, 0]
        self.assertGreater(float(np.abs(np.fft.rfft(halves))[[2, 9]].min()), 100.0)

    def test_it_goes_no_further_than_the_clips(self) -> None:
        # Nothing of either clip lies beyond the cut: it stays straight.
        media = [Media(name, name, Fraction(1)) for name in ("a", "b")]
        short = edits.add_clips(Piece(rate=FrameRate.of(30)), 0, media)
        use = PieceUse(Bundle(plain_cut()), Choices(join=SoundJoin("crossfade")))
        found = piece_heard(dressing.on_every(short, use), WAVES).samples(0, 2 * SAMPLE_RATE)
        self.assertAlmostEqual(self.changes_at(found), 1.0, delta=0.015)
