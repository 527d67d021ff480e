"""Music under a piece is a sound track of its timeline, and comes back from it."""

import tempfile
import unittest
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from opentimelineio import adapters, schema

from tests.media.clips import write_numbered
from tests.media.sounds import murmur, write_sound
from wrinkle.core.piece import edits
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.sound_file import SoundFile
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.piece_file import PieceFile


class BedTrack(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        clip = write_numbered(self.folder / "clip.mp4", 60)
        tune = self.folder / "tune.wav"
        write_sound(tune, "pcm_s16le", 48_000, samples=murmur(48_000, 4.0))
        media = Media(str(clip), clip.name, Fraction(2))
        self.bed = Bed(
            Media(str(tune), tune.name, SoundFile.read(tune).duration), Fraction(1, 2),
            Fraction(1), -9.0, Fraction(1, 10), Fraction(1, 3), 4.0, Fraction(1, 2), True,
            Fraction(1, 30),
        )  # fmt: skip
        piece = edits.add_clips(Piece(rate=FrameRate.of(30)), 0, [media])
        self.piece = replace(piece, bed=self.bed, loudness=-15.5)

    def test_it_comes_back_wherever_the_timeline_goes(self) -> None:
        file = PieceFile()
        for name in ("one.otio", "below/two.otio", "three.otio"):
            path = self.folder / name
            path.parent.mkdir(exist_ok=True)
            write_piece(path, self.piece, file)
            found, file = read_piece(path)
            self.assertEqual(found.bed, self.bed)
            self.assertEqual(found.loudness, -15.5)
            self.assertEqual(list(file.unseen), [])

    def test_others_find_a_sound_track_with_its_file(self) -> None:
        path = self.folder / "one.otio"
        write_piece(path, self.piece, PieceFile())
        timeline = adapters.read_from_file(str(path))
        (track,) = timeline.audio_tracks()
        gap, clip = track
        self.assertIsInstance(gap, schema.Gap)
        self.assertEqual(gap.duration().to_seconds(), 0.5)
        self.assertEqual(clip.media_reference.target_url, "tune.wav")
        self.assertEqual(clip.source_range.start_time.to_seconds(), 1.0)
        self.assertEqual(clip.duration().to_seconds(), 1.5)

    def test_without_music_there_is_no_track_and_damage_is_none(self) -> None:
        path = self.folder / "one.otio"
        write_piece(path, self.piece, PieceFile())
        text = path.read_text().replace('gives_way\\\\":4.0', 'gives_way\\\\":400.0')
        text = text.replace('\\"gives_way\\":4.0', '\\"gives_way\\":400.0')
        (self.folder / "odd.otio").write_text(text)
        self.assertIsNone(read_piece(self.folder / "odd.otio")[0].bed)
        found, file = read_piece(path)
        write_piece(self.folder / "none.otio", replace(found, bed=None, loudness=None), file)
        timeline = adapters.read_from_file(str(self.folder / "none.otio"))
        self.assertEqual(timeline.audio_tracks(), [])
        self.assertIsNone(read_piece(self.folder / "none.otio")[0].bed)
