"""Made sounds, told apart by SciPy's spectra; where they stand, and what becomes of them."""

import unittest
from fractions import Fraction

import numpy as np
from msgspec.structs import replace
from scipy import signal

from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import sound_edits
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.sound.motion import movement
from wrinkle.core.synthesis.made_sounds import (
    AIR,
    CRACKLE,
    DROP,
    FLUTTER,
    HIT,
    HUSH,
    MADE_SOUNDS,
    RISE,
    TICK,
    Voice,
    made,
)
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate
from wrinkle.files import archive
from wrinkle.library import shipped

SWELL = np.sin(np.linspace(0.0, np.pi, 60)) ** 2


def sound(kind: str, seconds: float = 0.8, pitch: float = 1.0, seed: int = 1) -> np.ndarray:
    count = round(seconds * SAMPLE_RATE)
    return made(MADE_SOUNDS[kind], Voice(count, pitch, np.random.default_rng(seed), SWELL))


def with_sound(kind: str, **fields: object) -> Wrinkle:
    wrinkle, new = sound_edits.add_sound(plain_cut(), kind)
    plain = {key: fields.pop(key) for key in ("hit",) if key in fields}
    wrinkle = sound_edits.change_sound(wrinkle, new, **plain)
    return sound_edits.rest_at(wrinkle, new, **fields)


def middle(samples: np.ndarray) -> float:
    """The centre of the power spectrum, in hertz."""
    hertz, power = signal.welch(samples, SAMPLE_RATE, nperseg=min(4096, len(samples)))
    return float((hertz * power).sum() / power.sum())


class MadeSounds(unittest.TestCase):
    def test_each_is_whole_loud_and_the_same_each_time(self) -> None:
        self.assertEqual(len({x.number for x in MADE_SOUNDS.values()}), len(MADE_SOUNDS))
        self.assertFalse(sound(HUSH).any(), "it is none itself")
        for kind in [key for key, one in MADE_SOUNDS.items() if not one.hushes]:
            with self.subTest(kind):
                found = sound(kind)
                self.assertEqual(found.shape, (38_400,))
                self.assertAlmostEqual(float(np.abs(found).max()), 1.0, places=6)
                np.testing.assert_array_equal(found, sound(kind))
                self.assertEqual(len(sound(kind, 0.01)), 480)

    def test_their_spectra_are_what_they_are_called(self) -> None:
        for pitch in (0.5, 1.0, 2.0):
            hertz, power = signal.periodogram(sound(TICK, pitch=pitch), SAMPLE_RATE)
            self.assertAlmostEqual(hertz[power.argmax()], 2600.0 * pitch, delta=80.0)
        self.assertLess(middle(sound(HIT)), 400.0)
        self.assertGreater(middle(sound(CRACKLE)), 1500.0)
        drop = sound(DROP)
        self.assertGreater(middle(drop[:8_000]), 1.8 * middle(drop[16_000:24_000]))
        rise = sound(RISE)
        self.assertGreater(middle(rise[-8_000:]), 2.0 * middle(rise[8_000:16_000]))
        self.assertGreater(np.abs(rise[-4_000:]).mean(), 8 * np.abs(rise[4_000:8_000]).mean())
        beat = np.abs(signal.hilbert(sound(FLUTTER, 1.0)))
        hertz, power = signal.periodogram(signal.detrend(beat), SAMPLE_RATE)
        audible = (hertz > 8) & (hertz < 40)
        self.assertAlmostEqual(hertz[audible][power[audible].argmax()], 17.0, delta=1.0)

    def test_air_is_as_loud_and_as_high_as_the_motion_is_fast(self) -> None:
        air = sound(AIR)
        loud = np.abs(air).reshape(60, -1).mean(1)
        self.assertGreater(float(np.corrcoef(loud, SWELL)[0, 1]), 0.9)
        self.assertGreater(middle(air[16_000:22_000]), 1.5 * middle(air[4_000:8_000]))
        turn = archive.read(shipped()["half_turn"]).wrinkle
        speeds = movement(turn, turn.layers, -turn.lead, turn.lead + turn.tail, 61).speeds
        # Half a turn is fastest at the cut, and at rest at both ends.
        self.assertIn(int(speeds.argmax()), range(29, 32))
        self.assertLess(max(speeds[0], speeds[-1]), 0.2)
        plain = plain_cut()
        still = movement(plain, plain.layers, Fraction(-1, 2), Fraction(1), 51).speeds
        self.assertEqual(int(still.argmax()), 25)


class Placed(unittest.TestCase):
    def test_the_hit_falls_where_it_is_wanted(self) -> None:
        for kind, begins in ((HIT, 0.2), (RISE, -0.2), (AIR, 0.0)):
            wrinkle = with_sound(kind, hit=Fraction(1, 5), length=0.4)
            span = WrinkleSounds(wrinkle).span
            self.assertAlmostEqual(span.start / SAMPLE_RATE, begins, places=4)
            self.assertEqual(len(span), round(0.4 * SAMPLE_RATE))
        # 20 dB are a factor of ten; outside there is silence.
        quiet = WrinkleSounds(with_sound(TICK, level=-20.0))
        whole = quiet.samples(0, len(quiet.span))
        self.assertAlmostEqual(float(np.abs(whole).max()), 0.1, places=5)
        self.assertEqual(float(np.abs(quiet.samples(-900, 900)).max()), 0.0)
        np.testing.assert_array_equal(quiet.part(700).sound.samples(0, 500), whole[:500])
        self.assertEqual(len(WrinkleSounds(plain_cut()).span), 0)
        both, _ = sound_edits.add_sound(with_sound(HIT, level=12.0), HIT)
        heard = Mix((WrinkleSounds(both).part(0),), range(9_000))
        self.assertEqual(float(np.abs(heard.samples(0, 9_000)).max()), 1.0)

    def test_hits_stretch_with_their_side_and_air_with_the_window(self) -> None:
        wrinkle, air = sound_edits.add_sound(plain_cut(), AIR)
        for hit in (-6, 6):
            wrinkle, new = sound_edits.add_sound(wrinkle, TICK)
            wrinkle = sound_edits.change_sound(wrinkle, new, hit=Fraction(hit, 30))
        lead, tail = wrinkle.lead * 2, wrinkle.tail / 2
        for rate in (30, 60):
            longer = retime(wrinkle, Retiming(FrameRate.of(rate), lead, tail, stretch=True))
            self.assertEqual([x.hit * 30 for x in longer.sounds], [0, -12, 3])
            lengths = {x.id: x.length for x in longer.sounds}
            self.assertAlmostEqual(lengths[air].rest, float(lead + tail))
            self.assertEqual(lengths["tick"], wrinkle.sounds[1].length)
        kept = retime(wrinkle, Retiming(FrameRate.of(60), lead, tail))
        self.assertEqual(kept.sounds, wrinkle.sounds)

    def test_what_cannot_be_is_one_sentence(self) -> None:
        for fields, words in (
            ({"level": 40.0}, "Hit: Level must be within -60 and 12 dB"),
            ({"pitch": 900.0}, "Hit: Pitch"),
            ({"length": 0.0}, "Hit: Length"),
            ({"hit": Fraction(90)}, "hit of Hit"),
            ({"level": float("nan")}, "finite"),
        ):
            with self.subTest(words), self.assertRaisesRegex(InputError, words):
                with_sound(HIT, **fields)
        with self.assertRaisesRegex(InputError, "sounds"):
            one = with_sound(HIT).sounds[0]
            many = tuple(replace(one, id=f"hit-{n}") for n in range(65))
            replace(plain_cut(), sounds=many)

    def test_the_two_pieces_that_want_sounds_have_them(self) -> None:
        for name, kinds in (
            ("porthole", {AIR, HIT, TICK}),
            ("broken_title", {CRACKLE, TICK, FLUTTER, DROP}),
        ):
            wrinkle = archive.read(shipped()[name]).wrinkle
            self.assertEqual({x.made for x in wrinkle.sounds}, kinds)
            sounds = WrinkleSounds(wrinkle)
            heard = sounds.samples(sounds.span.start, len(sounds.span))
            self.assertLess(float(np.abs(heard).max()), 1.0)
            first, end = (round(x * SAMPLE_RATE) for x in (-wrinkle.lead, wrinkle.tail))
            self.assertLessEqual(first, sounds.span.start)
            self.assertLessEqual(sounds.span.stop, end + SAMPLE_RATE // 4)
