"""A use is heard as the same use in a piece is: one road, twice."""

import unittest
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from msgspec.structs import replace as replaced

from tests.core.piece.test_heard import Wave, sine
from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle, plain_cut
from wrinkle.core.design.edits import sound_edits, time_edits
from wrinkle.core.motion.sound_run import SoundRun
from wrinkle.core.motion.track import Keyframe, Track
from wrinkle.core.piece import dressing, edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.heard import piece_heard
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.hearing import hearing
from wrinkle.core.reuse.use import Choices, Use
from wrinkle.core.sound.heard import Fixed
from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.joins import JOINS, SoundJoin
from wrinkle.core.synthesis.made_sounds import HUSH, TICK
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.core.time.rate import FrameRate

RATE = FrameRate.of(30)


@dataclass
class Source:
    """Three seconds of something that sounds."""

    wave: Wave | Fixed
    duration: Fraction = Fraction(3)
    sounds: int = 1

    def sound(self, track: int = 0) -> Wave | Fixed | None:
        return self.wave if track == 0 else None


A, B = Source(sine(440.0)), Source(sine(100.0))


def sounding(*kinds: str) -> Wrinkle:
    wrinkle = plain_cut()
    for kind in kinds:
        wrinkle, _ = sound_edits.add_sound(wrinkle, kind)
    return wrinkle


def use_of(wrinkle: Wrinkle, choices: Choices = Choices()) -> Use:  # noqa: B008 - it is frozen
    fillings = {OUTGOING.key: Filling(A, Fraction(2)), INCOMING.key: Filling(B, Fraction(1))}
    return Use(wrinkle, fillings, choices)  # type: ignore[arg-type]


class Hearing(unittest.TestCase):
    def test_it_is_what_is_heard_of_it_in_a_piece(self) -> None:
        media = [Media(name, name, Fraction(3)) for name in "ab"]
        piece = edits.add_clips(Piece(rate=RATE), 0, media)
        for clip in piece.clips:
            piece = edits.trim(piece, clip.id, 30, -30)
        ramped = replaced(library.find("speed_ramp").wrinkle, sounds=(), dials=())
        cases = [(kind, sounding(TICK, HUSH)) for kind in JOINS]
        for kind, wrinkle in (*cases, ("crossfade", ramped), ("late", ramped)):
            choices = Choices(join=SoundJoin(kind, 5))
            dressed = dressing.on_every(piece, PieceUse(Bundle(wrinkle), choices))
            there = piece_heard(dressed, {"a": A, "b": B}).from_(SAMPLE_RATE)
            frames = range(-20, 20)
            here = hearing(use_of(wrinkle, choices), RATE, frames)
            self.assertEqual(here.span, range(-32_000, 32_000))
            with self.subTest(kind):
                inside = here.samples(-30_000, 60_000), there.samples(-30_000, 60_000)
                np.testing.assert_allclose(*inside, atol=1e-6)

    def test_no_join_clicks(self) -> None:
        # A wave that is cut off leaps within a sample; a sine of 440 Hz bends by 0.003 at most.
        plain = plain_cut()
        for kind in JOINS:
            for frames in (1, 5):
                choices = Choices(join=SoundJoin(kind, frames))
                mix = hearing(use_of(plain, choices), RATE, range(-20, 20), Hears.CLIPS)
                bends = np.abs(np.diff(mix.unlimited(-30_000, 60_000), 2, axis=0))
                self.assertLess(float(bends.max()), 0.02, (kind, frames))

    def test_what_is_heard_of_it_is_chosen(self) -> None:
        use = use_of(sounding(TICK))
        parts = {x: hearing(use, RATE, range(-9, 9), x) for x in Hears}
        self.assertEqual([len(parts[x].parts) for x in Hears], [3, 2, 1, 0])
        found = {x: mix.samples(0, 4_000) for x, mix in parts.items()}
        summed = np.clip(found[Hears.CLIPS] + found[Hears.WRINKLE], -1, 1)
        np.testing.assert_allclose(found[Hears.BOTH], summed, atol=1e-6)
        # At the ends of what is asked for nothing fades: it goes on.
        first = hearing(use, RATE, range(-9, 9), Hears.CLIPS).samples(-9 * 1_600, 100)
        wanted = A.wave.samples(2 * SAMPLE_RATE - 9 * 1_600, 100)
        np.testing.assert_allclose(first, wanted, atol=1e-6)

    def test_a_clips_sound_runs_along_with_its_pictures_where_it_shall(self) -> None:
        # Fast into the cut and slow before it; a click of the clip is heard when its picture shows.
        track = Track(
            (
                Keyframe(Fraction(-10, 30), 100.0),
                Keyframe(Fraction(-6, 30), 40.0),
                Keyframe(Fraction(0), 250.0),
            )
        )
        at = Fraction(2) - Fraction(1, 5)
        content = np.zeros((3 * SAMPLE_RATE, 2), np.float32)
        content[int(at * SAMPLE_RATE)] = 1.0
        going = Source(Fixed(content))
        ramped, worked_out = Setting(100.0, track), Setting(100.0, formula="40 + 900 * t * t")
        cases = [(ramped, run) for run in SoundRun] + [(worked_out, SoundRun.ALONG)]
        for speed, run in cases:
            wrinkle = plain_cut()
            wrinkle = time_edits.set_timing(
                wrinkle, OUTGOING.key, speed=speed, sound=Setting(run.value)
            )
            fillings = {OUTGOING.key: Filling(going, Fraction(2))}
            mix = hearing(Use(wrinkle, fillings), RATE, range(-12, 1))  # type: ignore[arg-type]
            found = mix.samples(-19_200, 19_200)[:, 0]
            heard = (int(np.abs(found).argmax()) - 19_200) / SAMPLE_RATE
            with self.subTest(run, speed=speed.formula):
                if run is SoundRun.AS_IT_WAS:
                    self.assertAlmostEqual(heard, float(at) - 2.0, delta=1e-4)
                    continue
                layer = wrinkle.layer(OUTGOING.key)
                time = Fraction(heard).limit_denominator(SAMPLE_RATE)
                shown = layer.timing.clip_time(time, wrinkle.clock(layer, time))
                # Grains are moved to where they go on best.
                delta = 1e-4 if run is SoundRun.ALONG else 0.0125
                self.assertAlmostEqual(float(shown), float(at) - 2.0, delta=delta)
                self.assertGreater(abs(heard - float(at) + 2.0), 0.03, "not where it was")

    def test_hush_turns_the_clips_down_while_it_lasts(self) -> None:
        wrinkle = sounding(HUSH)
        (hush,) = wrinkle.sounds
        self.assertAlmostEqual(hush.length.rest, float(wrinkle.lead + wrinkle.tail))
        wrinkle = sound_edits.rest_at(wrinkle, hush.id, level=-12.0, length=0.4)
        found = hearing(use_of(wrinkle), RATE, range(-20, 20))
        plain = hearing(use_of(replaced(wrinkle, sounds=())), RATE, range(-20, 20))
        loud, usual = (x.samples(-32_000, 64_000).astype(float) for x in (found, plain))
        gains = np.array([
            np.sqrt((loud[n : n + 480] ** 2).sum() / (usual[n : n + 480] ** 2).sum())
            for n in range(0, 64_000 - 480, 480)
        ])  # fmt: skip
        middle = gains[(32_000 - 2_000) // 480]
        self.assertAlmostEqual(20.0 * np.log10(middle), -12.0, delta=0.05)
        self.assertTrue(np.allclose(gains[: (32_000 - 9_600) // 480 - 1], 1.0))
        self.assertTrue(np.allclose(gains[(32_000 + 9_600) // 480 + 1 :], 1.0))
        # It comes within 60 ms, goes within 150, and never at a step.
        self.assertLess(float(np.abs(np.diff(gains)).max()), 0.2)
        self.assertEqual(found.parts[0].dips[0].span, range(-9_600, 9_600))

    def test_without_clips_that_sound_only_the_wrinkle_is_heard(self) -> None:
        use = Use(sounding(TICK, HUSH), {})
        self.assertEqual(len(hearing(use, RATE, range(-9, 9)).parts), 1)
        self.assertEqual(hearing(Use(sounding(HUSH), {}), RATE, range(-9, 9)).parts, ())
