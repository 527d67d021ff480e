"""Cuts on beats: as near as they lie, and no further than clips and wrinkles reach."""

import unittest
from dataclasses import replace
from fractions import Fraction

import numpy as np

from tests.core.piece.test_heard import WAVES, Wave, piece, sine
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.errors import InputError
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.beating import beat_frames, counted, snapped, with_bed
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound.beats import Beats
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate

TUNE = Media("tune", "tune.mp3", Fraction(3))
BEATS = Beats(120.0, tuple(n / 2 for n in range(7)))


def three(spare: int = 10) -> Piece:
    """Three clips of a second, with so many frames to spare on all sides."""
    media = [Media(name, name, 1 + Fraction(2 * spare, 30)) for name in "abc"]
    found = edits.add_clips(Piece(rate=FrameRate.of(30)), 0, media)
    for clip in found.clips if spare else ():
        found = edits.trim(found, clip.id, spare, -spare)
    return replace(found, bed=Bed(TUNE))


class OnBeats(unittest.TestCase):
    def test_beats_lie_where_the_music_does_and_are_corrected(self) -> None:
        found = replace(three(), bed=Bed(TUNE, at=Fraction(1, 3), start=Fraction(1)))
        self.assertEqual(beat_frames(found, BEATS), (10, 25, 40, 55, 70))
        half = with_bed(found, pace=Fraction(1, 2))
        self.assertEqual(beat_frames(half, BEATS), (10, 40, 70))
        self.assertEqual(beat_frames(with_bed(half, other=True), BEATS), (25, 55))
        twice = with_bed(found, pace=Fraction(2), moved=Fraction(1, 10))
        assert twice.bed is not None
        self.assertEqual(counted(twice.bed, BEATS).tempo, 240.0)
        self.assertEqual(beat_frames(twice, BEATS)[:5:2], (13, 28, 43))
        self.assertEqual(beat_frames(replace(found, bed=None), BEATS), ())

    def test_cuts_move_to_the_nearest_beat_within_reach(self) -> None:
        found, told = snapped(three(), (4, 33, 52, 80), 5)
        self.assertEqual([(x.cut, x.by) for x in told], [(1, 3)])
        self.assertEqual(found.starts, (0, 33, 60, 90))
        found, told = snapped(three(), (33, 52), 8)
        self.assertEqual([(x.cut, x.by) for x in told], [(1, 3), (2, -8)])
        self.assertEqual(found.starts, (0, 33, 52, 90))
        _, told = snapped(three(), (33, 52), 8, {three().clips[2].id})
        self.assertEqual([(x.cut, x.by) for x in told], [(2, -8)])

    def test_never_beyond_what_is_there(self) -> None:
        found, told = snapped(three(spare=0), (33,), 8)
        self.assertEqual((found.starts, told[0].by), ((0, 30, 60, 90), 0))
        self.assertIn("only 0 frames to spare", told[0].kept)
        use = PieceUse(Bundle(replace_lengths(8)))
        dressed = dressing.on_every(three(spare=10), use)
        reach = use.reach(dressed.rate)
        found, told = snapped(dressed, (33, 58), 8)
        for move in told:
            if move.by:
                after = found.clips[move.cut - 1].spare(found.rate)[1]
                before = found.clips[move.cut].spare(found.rate)[0]
                self.assertGreaterEqual(after, min(reach.after, 10))
                self.assertGreaterEqual(before, min(reach.before, 10))


def replace_lengths(frames: int):  # type: ignore[no-untyped-def]
    from msgspec.structs import replace as replaced

    cut = plain_cut()
    rate = cut.frame_rate
    return replaced(cut, lead=rate.seconds(frames), tail=rate.seconds(frames))


class Music(unittest.TestCase):
    def test_it_is_heard_under_all_of_it_with_its_level_and_ends(self) -> None:
        tune = sine(50.0)
        bed = Bed(TUNE, Fraction(1, 2), Fraction(1), -6.0206, Fraction(0), Fraction(1, 2), 0.0)
        found = replace(piece(), bed=bed)
        alone = piece_heard(found, {"tune": tune}).samples(0, 2 * SAMPLE_RATE)
        self.assertFalse(alone[: SAMPLE_RATE // 2].any())
        seconds = np.arange(SAMPLE_RATE // 2) / SAMPLE_RATE + 1.25
        wanted = tune.at(seconds)[:, 0] / 2
        found_there = alone[3 * SAMPLE_RATE // 4 :][: SAMPLE_RATE // 2, 0]
        np.testing.assert_allclose(found_there, wanted, atol=1e-4)
        # It falls over its last half second, evenly, and is gone at the end.
        last = np.abs(alone[-SAMPLE_RATE // 4 : -SAMPLE_RATE // 4 + 960, 0]).max()
        self.assertAlmostEqual(float(last), 0.25, delta=0.02)

    def test_it_gives_way_to_what_else_is_heard_and_comes_back(self) -> None:
        words = Wave(lambda t: np.sin(2 * np.pi * 440.0 * t) * 0.5 * ((t > 1.4) & (t < 1.7)))
        tune = Wave(lambda t: np.full_like(t, 0.1))
        found = replace(piece(), bed=Bed(TUNE, level=0.0, fall=Fraction(0), gives_way=12.0))
        both = piece_heard(found, {"a": words, "tune": tune}).samples(0, 2 * SAMPLE_RATE)[:, 0]
        said = piece_heard(piece(), {"a": words}).samples(0, 2 * SAMPLE_RATE)[:, 0]
        music = (both - said).reshape(-1, 480).mean(axis=1)
        self.assertAlmostEqual(float(music[15]), 0.1, delta=0.002)
        self.assertAlmostEqual(float(music[55]), 0.1 * 10 ** (-12 / 20), delta=0.002)
        self.assertAlmostEqual(float(music[-20]), 0.1, delta=0.002)
        # Never at a step: it takes a tenth of a second, and more to come back.
        self.assertLess(float(np.abs(np.diff(music[5:-5])).max()), 0.02)

    def test_what_cannot_be_is_one_sentence(self) -> None:
        for fields, said in (
            ({"start": Fraction(4)}, "lasts 3 seconds; it cannot begin at 4"),
            ({"level": 99.0}, "level of tune.mp3 must be within -60 and 12 dB, not 99"),
            ({"at": Fraction(-1)}, "before the piece"),
            ({"fall": Fraction(61)}, "rise and fall"),
            ({"gives_way": -1.0}, "give way by 0 to 40"),
            ({"pace": Fraction(3)}, "half as many"),
        ):
            with self.subTest(said), self.assertRaisesRegex(InputError, said):
                with_bed(three(), **fields)
        with self.assertRaisesRegex(InputError, "no music"):
            with_bed(piece(), level=0.0)
        self.assertEqual(len(piece_heard(three(), WAVES).samples(0, 10)), 10)
