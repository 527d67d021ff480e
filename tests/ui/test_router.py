"""Open takes a wrinkle or a timeline anywhere, and what is open begins its steps anew."""

from pathlib import Path
from unittest import mock

from PyQt6.QtWidgets import QFileDialog

from tests.ui.window_case import WindowCase, demo_clip, wait_for
from wrinkle.core.piece.document import Piece
from wrinkle.timeline.files import write_piece
from wrinkle.timeline.piece_file import PieceFile


class Opening(WindowCase):
    def open(self, path: Path) -> None:
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(str(path), "")):
            self.act("file.open")

    def test_a_timeline_is_opened_from_the_bench_and_a_wrinkle_from_the_cut_list(self) -> None:
        timeline, wrinkle = self.folder / "five.otio", self.folder / "turn.wrinkle"
        write_piece(timeline, Piece("Five"), PieceFile())
        self.assertTrue(self.desk.document.save(wrinkle))
        self.open(timeline)
        self.assertIs(self.window.places.shown, self.window.places.place("cutlist"))
        self.assertEqual(self.desk.piece.name, "Five")
        self.open(wrinkle)
        self.assertIs(self.window.places.shown, self.bench)
        self.assertEqual(self.desk.document.path, wrinkle)
        self.assertEqual(self.faults, [])

    def test_what_is_neither_is_refused_by_its_ending(self) -> None:
        self.open(self.folder / "film.mov")
        self.assertEqual(
            self.window.status.said,
            "film.mov is no document of Wrinkle; those end in .wrinkle, .otio, .otioz, .edl.",
        )

    def test_undo_ends_where_the_document_was_opened(self) -> None:
        wrinkle = self.folder / "turn.wrinkle"
        self.try_clip("outgoing", demo_clip("dunes"))
        self.assertTrue(self.desk.document.save(wrinkle))
        self.open(wrinkle)
        clips = self.desk.tried.clips
        undo = self.window.menus.actions["edit.undo"]
        self.assertFalse(undo.isEnabled())
        self.assertEqual(undo.text(), "Undo")
        self.act("edit.undo")
        self.assertEqual(self.desk.tried.clips, clips)

    def test_a_clip_that_is_read_too_late_adds_no_layer_to_another_wrinkle(self) -> None:
        self.desk.tried.add_clip(demo_clip("tail"))
        self.desk.document.mark_saved()
        self.act("file.new")
        before = self.desk.document.state
        self.try_clip("incoming", demo_clip("dunes"))
        wait_for(lambda: not self.desk.tried.reading("incoming"), "what was asked for later")
        self.assertEqual(len(self.desk.document.state.layers), len(before.layers))
