"""Sound tracks of other writers: heard where they lie, not twice, and kept as they are."""

import unittest
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import opentimelineio as otio
from opentimelineio.opentime import RationalTime, TimeRange

from tests.media.sounds import write_sound
from tests.media.test_sound import write_sounding
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.store import Store
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.kept_piece import PieceCodec


def seconds(value: float, rate: float = 30.0) -> RationalTime:
    return RationalTime(round(value * rate), rate)


class Others(unittest.TestCase):
    def setUp(self) -> None:
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.clip = write_sounding(self.folder / "clip.mp4", "aac", 48_000)
        steps = np.repeat(np.arange(1, 11) / 10.0, SAMPLE_RATE // 10)
        self.tone = write_sound(self.folder / "steps.wav", "pcm_s16le", SAMPLE_RATE, samples=steps)

    def written(self, *, effect: bool = False, own: bool = True) -> Path:
        """A timeline as another program would write it: a video track and two of sound."""
        timeline = otio.schema.Timeline("Other")
        video = otio.schema.Track("V1", kind="Video")
        for _ in range(2):
            video.append(self.item(self.clip, 0.0, 1.0))
        sound = otio.schema.Track("A1", kind="Audio")
        if own:
            sound.append(self.item(self.clip, 0.0, 1.0))
        else:
            sound.append(otio.schema.Gap(source_range=TimeRange(seconds(0), seconds(1))))
        further = otio.schema.Track("A2", kind="Audio")
        further.append(otio.schema.Gap(source_range=TimeRange(seconds(0), seconds(0.5))))
        one = self.item(self.tone, 0.3, 0.4)
        if effect:
            one.effects.append(otio.schema.LinearTimeWarp(time_scalar=2.0))
        further.append(one)
        timeline.tracks.extend([video, sound, further])
        path = self.folder / "other.otio"
        otio.adapters.write_to_file(timeline, str(path))
        return path

    def item(self, path: Path, start: float, length: float) -> otio.schema.Clip:
        whole = TimeRange(seconds(0), seconds(1))
        reference = otio.schema.ExternalReference(path.name, whole)
        return otio.schema.Clip(path.stem, reference, TimeRange(seconds(start), seconds(length)))

    def test_what_lies_there_is_heard_there_and_a_clips_own_sound_once(self) -> None:
        piece, file = read_piece(self.written())
        (one,) = piece.others
        self.assertEqual((one.at, one.start, one.length),
                         (Fraction(1, 2), Fraction(3, 10), Fraction(2, 5)))  # fmt: skip
        self.assertEqual(file.unseen, [])
        store = Store()
        film = opened_film(piece, ClipPool(store), store, Quality.PREVIEW)
        heard = film.heard.samples(0, 2 * SAMPLE_RATE)
        # The steps from the fourth on, each a tenth of a second long, at the right alone: the
        # clip's own tone is at the left.
        for place, step in ((0.55, 0.4), (0.65, 0.5), (0.85, 0.7)):
            self.assertAlmostEqual(float(heard[round(place * SAMPLE_RATE), 1]), step, delta=0.01)
        self.assertAlmostEqual(float(heard[round(0.95 * SAMPLE_RATE), 1]), 0.0, delta=0.01)
        # Once: twice it would be as loud as can be.
        self.assertLess(float(np.abs(heard[:, 0] - heard[:, 1]).max()), 0.6)

    def test_they_are_kept_saved_and_remembered(self) -> None:
        path = self.written()
        piece, file = read_piece(path)
        again = self.folder / "again.otio"
        write_piece(again, piece, file)
        self.assertEqual(read_piece(again)[0].others, piece.others)
        parts: dict[str, bytes] = {}

        def put(content: bytes) -> str:
            parts[str(len(parts))] = content
            return str(len(parts) - 1)

        codec = PieceCodec()
        self.assertEqual(codec.decode(codec.encode(piece, put), parts.__getitem__), piece)

    def test_what_is_not_understood_is_said(self) -> None:
        piece, file = read_piece(self.written(effect=True))
        self.assertEqual(piece.others, ())
        self.assertEqual(list(file.unseen), ["1 other track"])
        (self.folder / "steps.wav").unlink()
        piece, _ = read_piece(self.written(own=False))
        self.assertEqual(len(piece.others), 1)
        store = Store()
        film = opened_film(piece, ClipPool(store), store, Quality.PREVIEW, without_missing=True)
        self.assertEqual(len(film.heard.parts), 2)
