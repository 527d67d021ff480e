"""Pieces that are kept: every field comes back, and what older versions kept is taken over."""

import tempfile
import unittest
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import msgspec
from opentimelineio import adapters

from tests.timeline.test_files import shapes, timeline
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.history import History
from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices
from wrinkle.core.sound.joins import SoundJoin
from wrinkle.core.time.rate import FrameRate
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.library.autosaves import Autosave, Work, left_work
from wrinkle.timeline.files import read_piece, write_piece
from wrinkle.timeline.kept_piece import PieceCodec
from wrinkle.timeline.older_pieces import take_over_older
from wrinkle.timeline.piece_file import PieceFile


def dressed() -> Piece:
    """Every field of a piece at another value than its usual one."""
    media = Media("/a/kite.mp4", "kite.mp4", Fraction(10_000_000_000_001, 3), Size(64, 36))
    still = Media("/a/card.png", "card.png", Fraction(3600), None, still=True)
    bundle = read(shipped()["sea_fog"])
    choices = Choices(
        Fraction(1, 3), Fraction(2, 7), {"line": "So far"},
        {"a": 1.5, "b": True, "c": (0.1, 0.2, 0.3), "d": "word", "e": Fraction(7, 9)},
        Direction.LEFT_RIGHT, 60.0, 140.0, SoundJoin("late", 3),
    )  # fmt: skip
    use = PieceUse(bundle, choices, {"fog": still})
    clips = (
        PieceClip("one", "Kite", media, Fraction(1, 7), Fraction(8, 3)),
        PieceClip("two", "Kite back", media, Fraction(1), Fraction(2), Fraction(3, 2), True, False,
                  Fit.WHOLE, (0.25, 0.75), -6.5, use, True, 1, True,
                  Fraction(1, 3), Fraction(2, 7)),
        PieceClip("three", "Card", still, Fraction(0), Fraction(5), frozen=True,
                  entry=replace(use, choices=Choices())),
    )  # fmt: skip
    markers = (Marker(Fraction(1, 3), "here"),)
    bed = Bed(
        Media("/a/tune.mp3", "tune.mp3", Fraction(187, 3)), Fraction(1, 2), Fraction(7, 5), -11.0,
        Fraction(1, 4), Fraction(3, 2), 6.5, Fraction(2), True, Fraction(-1, 50),
    )  # fmt: skip
    return Piece("Kept", Size(1920, 1080), FrameRate.of(30000, 1001), clips, markers, bed, -16.5)


class KeptPieces(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder, self.kept = Path(folder.name), Path(folder.name) / "kept"

    def test_every_step_comes_back_and_a_step_is_small(self) -> None:
        first = dressed()
        second = replace(first, title="Changed")
        file = PieceFile(ours=False, root="{}", after=("x",), unseen=("sounds",))
        history = History.starting(first).then(second, "title", 1)
        autosave = Autosave(PieceCodec(), self.kept)
        work = Work(history, first, file, Path("/a/five.otio"))
        autosave.keep(work)
        (folder,) = self.kept.iterdir()
        self.assertLess(max(x.stat().st_size for x in (folder / "states").iterdir()), 4000)
        parts = {x.name for x in (folder / "parts").iterdir()}
        third = replace(second, title="Once more")
        autosave.keep(replace(work, history=history.then(third, "again", 2)))
        self.assertEqual({x.name for x in (folder / "parts").iterdir()}, parts, "all are shared")
        autosave.let_go()
        (left,) = left_work(self.kept)
        found = left.read(PieceCodec())
        self.assertEqual(found.history.states, (first, second, third))
        self.assertEqual((found.saved, found.rest, found.path), (first, file, work.path))
        ones = [x.clips[1].entry.bundle for x in found.history.states if x.clips[1].entry]
        self.assertIs(ones[0], ones[2], "a wrinkle that states share is made once")

    def test_what_a_timeline_of_others_held_comes_back(self) -> None:
        path = self.folder / "theirs.otio"
        for name, items in shapes():
            with self.subTest(name):
                adapters.write_to_file(timeline(items()), str(path))
                piece, file = read_piece(path)
                autosave = Autosave(PieceCodec(), self.kept)
                autosave.keep(Work(History.starting(piece), piece, file, path))
                autosave.let_go()
                (left,) = left_work(self.kept)
                found = left.read(PieceCodec())
                kept = replace(file, unseen=tuple(file.unseen))
                self.assertEqual((found.history.current, found.rest), (piece, kept))
                left.remove()

    def test_what_an_older_version_kept_is_taken_over_with_its_clips(self) -> None:
        older = self.folder / "pieces" / "a"
        older.mkdir(parents=True)
        media = Media(str(self.folder / "kite.mp4"), "kite.mp4", Fraction(4), Size(64, 36))
        clips = (PieceClip("one", "Kite", media, Fraction(0), Fraction(2)),)
        bundle = Bundle(read(shipped()["plain_push"]).wrinkle)
        clips += (replace(clips[0], id="two", entry=PieceUse(bundle)),)
        # Addresses were kept as they stood in the file: relative to it.
        write_piece(self.folder / "five.otio", Piece("Five", clips=clips), PieceFile())
        (self.folder / "five.otio").rename(older / "piece.otio")
        index = {"title": "Five", "when": "2026-01-01T00:00:00Z",
                 "path": str(self.folder / "five.otio")}  # fmt: skip
        (older / "index.json").write_bytes(msgspec.json.encode(index))
        take_over_older(self.folder / "pieces", self.kept)
        self.assertFalse(older.exists())
        (left,) = left_work(self.kept)
        found = left.read(PieceCodec()).history.current
        self.assertEqual([clip.media.path for clip in found.clips], [media.path] * 2)
        self.assertEqual(found.clips[1].entry.wrinkle.name, "Plain push")
