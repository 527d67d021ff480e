"""Files in slots for sound: where their hit is, and what trimming, turning and stretching do."""

import unittest
from fractions import Fraction

import numpy as np

from recipes.stand_in_sounds import HITS
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.sounds import FileFit, FileUse
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import slot_edits, sound_edits
from wrinkle.core.errors import InputError
from wrinkle.core.reuse.hearing import hearing, in_slots
from wrinkle.core.reuse.use import Use
from wrinkle.core.sound.filed import SlotSound, hit_in, played, slot_sound
from wrinkle.core.sound.heard import Fixed
from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.mixing import PlacedSound, WrinkleSounds
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.files import archive
from wrinkle.library.stand_in_sounds import STAND_IN_SOUNDS
from wrinkle.media.assets import read_assets
from wrinkle.media.sound_file import SoundFile


def blow(at: float, seconds: float = 1.0, hertz: float = 500.0) -> SlotSound:
    """Soft noise with a tone that begins hard at a moment, and dies away."""
    count = round(seconds * SAMPLE_RATE)
    times = np.arange(count) / SAMPLE_RATE - at
    dice = np.random.default_rng(4)
    tone = np.sin(2 * np.pi * hertz * times) * np.exp(-np.maximum(times, 0) * 5) * (times >= 0)
    wave = 0.5 * tone + 0.003 * dice.standard_normal(count)
    return SlotSound(Fixed(np.stack([wave, wave], 1).astype(np.float32)), count)


def onset(samples: np.ndarray) -> float:
    """Where a wave first is loud, in seconds."""
    return float(np.argmax(np.abs(samples[:, 0]) > 0.1)) / SAMPLE_RATE


class Files(unittest.TestCase):
    def test_the_hits_of_what_ships_are_found(self) -> None:
        self.assertEqual(list(HITS), list(STAND_IN_SOUNDS))
        for name, path in STAND_IN_SOUNDS.items():
            filled = slot_sound(SoundFile.read(path))
            assert filled is not None
            # Where they were put when they were made.
            self.assertAlmostEqual(hit_in(filled, FileUse()) / SAMPLE_RATE, HITS[name], delta=0.002)

    def test_the_hit_falls_where_it_is_whatever_is_done_to_the_file(self) -> None:
        filled = blow(0.4)
        for use, pitch, length, lasts in (
            (FileUse(), 1.0, 0.5, 1.0),
            (FileUse(start=Fraction(1, 4), end=Fraction(3, 4)), 1.0, 0.5, 0.5),
            (FileUse(fit=FileFit.CUT), 1.0, 0.6, 0.6),
            (FileUse(fit=FileFit.STRETCHED), 1.0, 0.6, 0.6),
            (FileUse(fit=FileFit.STRETCHED), 1.0, 1.7, 1.7),
            (FileUse(), 1.5, 0.5, 1.0),
        ):
            with self.subTest(use=use, pitch=pitch):
                found = played(filled, use, pitch, length)
                self.assertAlmostEqual(len(found.samples) / SAMPLE_RATE, lasts, delta=0.001)
                heard = onset(found.samples)
                self.assertAlmostEqual(found.hit / SAMPLE_RATE, heard, delta=0.004)
        back = played(filled, FileUse(backwards=True), 1.0, 1.0)
        np.testing.assert_array_equal(back.samples[::-1], filled.sound.samples(0, filled.count))
        self.assertAlmostEqual(back.hit / SAMPLE_RATE, 0.6, delta=0.002)
        said = played(filled, FileUse(hit=Fraction(1, 2)), 1.0, 1.0)
        self.assertEqual(said.hit, SAMPLE_RATE // 2)

    def test_it_is_stretched_at_its_pitch_and_pitched_at_its_length(self) -> None:
        times = np.arange(SAMPLE_RATE) / SAMPLE_RATE
        tone = (0.5 * np.sin(2 * np.pi * 440.0 * times)).astype(np.float32)
        filled = SlotSound(Fixed(np.stack([tone, tone], 1)), SAMPLE_RATE)
        for use, pitch, length, wanted in (
            (FileUse(fit=FileFit.STRETCHED), 1.0, 1.6, 440.0),
            (FileUse(fit=FileFit.STRETCHED), 1.0, 0.6, 440.0),
            (FileUse(), 1.5, 1.0, 660.0),
            (FileUse(fit=FileFit.STRETCHED), 0.5, 1.3, 220.0),
        ):
            found = played(filled, use, pitch, length).samples[:, 0]
            inner = found[len(found) // 4 : -len(found) // 4]
            # By the phase of a long window, as an analyser tells it.
            spectrum = np.abs(np.fft.rfft(inner * np.hanning(len(inner)), 1 << 20))
            hertz = float(spectrum.argmax()) * SAMPLE_RATE / (1 << 20)
            self.assertAlmostEqual(hertz / wanted, 1.0, delta=0.002)

    def test_fades_are_heard(self) -> None:
        steady = SlotSound(Fixed(np.ones((SAMPLE_RATE, 2), np.float32)), SAMPLE_RATE)
        use = FileUse(hit=Fraction(0), rise=Fraction(1, 10), fall=Fraction(1, 5))
        found = played(steady, use, 1.0, 1.0).samples[:, 0]
        for seconds, wanted in ((0.05, 0.5), (0.5, 1.0), (0.9, 0.5)):
            self.assertAlmostEqual(float(found[round(seconds * SAMPLE_RATE)]), wanted, delta=0.001)
        self.assertLess(float(found[-1]), 0.001)


class InSlots(unittest.TestCase):
    def wrinkle(self) -> Wrinkle:
        return sound_edits.add_file(plain_cut(), "surge.flac")[0]

    def test_a_wrinkle_carries_its_file_and_a_use_fills_the_slot(self) -> None:
        content = STAND_IN_SOUNDS["surge"].read_bytes()
        bundle = Bundle(self.wrinkle(), {"surge.flac": content})
        again = archive.read_packed("again", archive.packed(bundle))
        self.assertEqual(again, bundle)
        carried = read_assets(again.assets, Store()).heard
        wrinkle = again.wrinkle
        own = WrinkleSounds(wrinkle, in_slots(wrinkle, {}, carried))
        loud = np.abs(own.samples(-SAMPLE_RATE, 2 * SAMPLE_RATE)).max(1)
        self.assertGreater(float(loud[SAMPLE_RATE : SAMPLE_RATE + 2_000].max()), 0.2)
        use = Use(wrinkle, {}, sounds={"sound": _Given(blow(0.4))})
        heard = hearing(use, wrinkle.frame_rate, range(-12, 12), Hears.WRINKLE, carried)
        # Its own onset falls on the cut, so that it begins 0.4 s before.
        found = heard.samples(-SAMPLE_RATE // 2, SAMPLE_RATE)
        self.assertAlmostEqual(onset(found), 0.5, delta=0.004)
        self.assertEqual(len(WrinkleSounds(wrinkle).span), 0, "nothing fills it")

    def test_a_sound_takes_its_slot_with_it_and_a_slot_that_is_filled_stays(self) -> None:
        wrinkle = self.wrinkle()
        with self.assertRaisesRegex(InputError, "The sound 'File' fills this slot"):
            slot_edits.remove_slot(wrinkle, "sound")
        self.assertEqual(sound_edits.remove_sound(wrinkle, "file"), plain_cut())

    def test_the_hit_is_moved_over_a_wave_that_stays(self) -> None:
        wrinkle, filled = self.wrinkle(), blow(0.4)
        placed = PlacedSound(wrinkle, wrinkle.sounds[0], filled)
        moment = placed.file_time(Fraction(1, 10))
        self.assertAlmostEqual(float(moment), 0.5, delta=0.003)
        moved = sound_edits.change_file(wrinkle, "file", hit=moment)
        moved = sound_edits.change_sound(moved, "file", hit=Fraction(1, 10))
        there = PlacedSound(moved, moved.sounds[0], filled)
        self.assertAlmostEqual(there.span.start, placed.span.start, delta=2)

    def test_times_that_cannot_be_are_one_sentence(self) -> None:
        for fields, words in (
            ({"start": Fraction(-1)}, "The start within a file"),
            ({"end": Fraction(1), "start": Fraction(2)}, "end after it begins"),
        ):
            with self.assertRaisesRegex(InputError, words):
                sound_edits.change_file(self.wrinkle(), "file", **fields)


class _Given:
    """Something that sounds, and has a length."""

    def __init__(self, filled: SlotSound) -> None:
        self.duration = Fraction(filled.count, SAMPLE_RATE)
        self.sounds = 1
        self._filled = filled

    def sound(self, track: int = 0) -> Fixed:
        assert isinstance(self._filled.sound, Fixed)
        return self._filled.sound
