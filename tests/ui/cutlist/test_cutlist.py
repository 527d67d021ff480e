"""A whole piece dressed in the window, saved, opened again, and dressed by the command line."""

import json
import threading
from contextlib import closing, redirect_stdout
from dataclasses import replace
from fractions import Fraction
from io import StringIO
from pathlib import Path
from unittest import mock

import numpy as np
from msgspec.structs import replace as replaced
from opentimelineio.schema import Clip as OtherClip
from opentimelineio.schema import ExternalReference, Timeline, Track
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QMessageBox, QPushButton

from tests.media.test_sound import write_sounding
from tests.timeline.test_files import every_kind, span, timeline
from tests.ui.window_case import LEFT, WindowCase, demo_clip, drag, type_into, wait_for
from wrinkle.__main__ import main
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.library import shipped
from wrinkle.library.autosaves import left_work
from wrinkle.library.samples import DEMO_CLIPS
from wrinkle.media.clip import Clip
from wrinkle.media.output.output import Output
from wrinkle.media.still import write_png
from wrinkle.media.video_file import write_video
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.ui.cutlist.cuts_dialog import CutsDialog
from wrinkle.ui.cutlist.frame_dialog import FrameDialog
from wrinkle.ui.cutlist.piece_looking import Row
from wrinkle.ui.cutlist.running_order import centre_of
from wrinkle.ui.place import WorksOn
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.safekeeping.safekeeping import Safekeeping
from wrinkle.ui.safekeeping.versions_dialog import VersionsDialog
from wrinkle.ui.shared.plain_text import Buttons

NONE = Qt.KeyboardModifier.NoModifier


class PieceCase(WindowCase):
    """The Cut list with small clips in it."""

    names = ("box_kite", "pier", "tail")

    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()
        self.window.places.go_to("cutlist")
        self.cutlist = self.window.places.place("cutlist")
        self.order = self.cutlist.order
        self.add([self.path_of(name) for name in self.names])

    def path_of(self, name: str) -> Path:
        """A small clip of a scene."""
        return demo_clip(name)

    def add(self, paths: list[Path]) -> None:
        count = len(self.piece.clips) + len(paths)
        self.cutlist.intake.take_files(paths, len(self.piece.clips))
        wait_for(lambda: len(self.piece.clips) == count, "the clips")

    @property
    def piece(self) -> Piece:
        return self.desk.piece.state

    def trimmed(self, frames: int = 12) -> None:
        """Every clip has so many frames to spare on both sides."""

        def change(piece: Piece) -> Piece:
            for clip in piece.clips:
                piece = edits.trim(piece, clip.id, frames, -frames)
            return piece

        self.desk.piece.edit("trim", change)

    def click(self, row: Row, number: int, keys: Qt.KeyboardModifier = NONE) -> None:
        QTest.mouseClick(self.order.viewport(), LEFT, keys, centre_of(self.order, row, number))

    def drop(self, path: Path, at: QPoint) -> None:
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        action, buttons = Qt.DropAction.CopyAction, Qt.MouseButton.NoButton
        self.order.dropEvent(QDropEvent(QPointF(at), action, mime, buttons, NONE))

    def watched(self) -> None:
        wait_for(lambda: self.cutlist.watch.frames.all_ready, "all frames of the piece")

    def film(self) -> Film:
        return self.desk.piece.media.film(self.piece, self.piece.size, Quality.FINAL)

    def clip_named(self, name: str) -> PieceClip:
        return next(clip for clip in self.piece.clips if clip.name == name)


class Working(PieceCase):
    def test_clips_come_in_in_order_and_the_first_says_what_frame(self) -> None:
        self.assertEqual([x.name for x in self.piece.clips], list(self.names))
        self.assertEqual((self.piece.size, self.piece.rate.label), (Size(108, 192), "30"))
        wrong = self.folder / "no.mp4"
        wrong.write_bytes(b"nothing")
        self.cutlist.intake.take_files([wrong, demo_clip("dunes")], 1)
        wait_for(lambda: len(self.piece.clips) == 4, "the one that can be read")
        self.assertEqual(self.piece.clips[1].name, "dunes")
        self.assertIn("no.mp4", self.faults[-1])
        self.act("edit.undo")
        self.assertEqual(len(self.piece.clips), 3)
        # The Bench has an undo of its own.
        self.assertIsNone(self.desk.steps.undo_label)
        self.window.places.go_to("bench")
        self.assertFalse(self.window.menus.actions["edit.undo"].isEnabled())

    def test_rows_are_moved_trimmed_split_and_taken_out_by_hand(self) -> None:
        view = self.order.viewport()
        first, last = (QPointF(centre_of(self.order, Row.CLIP, n)) for n in (0, 2))
        drag(view, first - QPointF(100, 0), last + QPointF(-100, 20))
        self.assertEqual([x.name for x in self.piece.clips], ["pier", "tail", "box_kite"])
        bar = self.order.rows.bar(0)
        end = QPointF(bar.x(bar.length), bar.area.center().y())
        drag(view, end, end - QPointF(10 * bar.frame_width, 0))
        self.assertEqual(self.piece.starts[1], 50)
        self.assertEqual(self.cutlist.looking.clip.name, "pier")
        type_into(self.cutlist.clip_panel.length, "40")
        self.assertEqual(self.piece.starts[1], 40)
        type_into(self.cutlist.clip_panel.first, "00:00:00:10")
        self.assertEqual(self.piece.clips[0].start, Fraction(1, 3))
        type_into(self.cutlist.clip_panel.speed, "50")
        self.assertEqual(self.piece.starts[1], 60)
        type_into(self.cutlist.clip_panel.last, "nonsense")
        self.assertIn("'nonsense' is no time", self.faults[-1])
        self.cutlist.looking.set_playhead(20)
        self.act("piece.split")
        self.assertEqual(len(self.piece.clips), 4)
        self.click(Row.CLIP, 1)
        self.act("piece.remove")
        self.assertEqual(len(self.piece.clips), 3)
        while self.desk.piece.steps.undo_label is not None:
            self.act("edit.undo")
        self.assertEqual(self.piece.clips, ())

    def test_cuts_are_chosen_dressed_copied_and_undressed(self) -> None:
        self.trimmed()
        self.drop(shipped()["plain_push"], centre_of(self.order, Row.CUT, 1))
        self.assertEqual(self.piece.clips[1].entry.wrinkle.name, "Plain push")
        self.assertIsNone(self.piece.clips[2].entry)
        self.click(Row.CUT, 1)
        panel = self.cutlist.cut_panel
        self.assertEqual(panel.name.text(), "Plain push")
        type_into(panel.controls.lead, "4")
        self.assertEqual(self.piece.clips[1].entry.choices.lead, Fraction(4, 30))
        self.act("cut.copy")
        self.click(Row.CUT, 2, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(len(self.cutlist.looking.cuts), 2)
        self.act("cut.paste")
        self.assertIs(self.piece.clips[2].entry, self.piece.clips[1].entry)
        self.act("cut.alternate")
        directions = [x.entry.choices.direction for x in self.piece.clips[1:]]
        self.assertNotEqual(*directions)
        self.act("cut.same")
        self.assertEqual(*(x.entry.choices for x in self.piece.clips[1:]))
        tiles = self.cutlist.shelf.tiles
        tiles.point_at("shipped/half_turn")
        self.act("cut.every")
        self.assertEqual({x.entry.wrinkle.name for x in self.piece.clips[1:]}, {"Half turn"})
        self.act("cut.shuffle")
        self.act("cut.all-off")
        self.assertEqual([x.entry for x in self.piece.clips], [None] * 3)
        self.drop(shipped()["plain_push"], centre_of(self.order, Row.CLIP, 0))
        self.assertIn("Drop a wrinkle on a cut", self.faults[-1])

    def test_handles_that_are_too_short_are_said_and_nothing_is_refused(self) -> None:
        self.cutlist.dresser.put(shipped()["corner_split"], [self.piece.clips[1].id])
        fault = self.order.rows.faults[self.piece.clips[1].id][0]
        self.assertIn("its last picture is held", fault.sentence)
        self.assertEqual(fault.short, "13 frames missing after the cut")
        self.click(Row.CUT, 1)
        self.assertIn("13 are needed", self.cutlist.cut_panel.fault.text())
        self.watched()
        self.assertIn("1 cut to look at", self.window.status.said)
        # One press trims the clip by exactly that; what it costs is told before.
        count, panel = self.piece.frame_count, self.cutlist.cut_panel
        self.assertIn(f"{count - 28} frames then, 28 fewer", panel.room.toolTip())
        QTest.mouseClick(panel.room, Qt.MouseButton.LeftButton)
        self.assertEqual(self.piece.frame_count, count - 28)
        self.assertEqual(self.order.rows.faults, {})
        self.assertFalse(panel.room.isVisible())
        self.act("edit.undo")
        self.assertEqual(self.piece.frame_count, count)
        # For all cuts it is asked about.
        cuts = [clip.id for clip in self.piece.clips[1:]]
        self.cutlist.dresser.put(shipped()["corner_split"], cuts)
        for answer, left in ((Buttons.Cancel, count), (Buttons.Ok, count - 56)):
            with mock.patch("wrinkle.ui.cutlist.cutlist_actions.ask", return_value=answer) as asked:
                self.act("cut.room-all")
            self.assertIn("fewer", asked.call_args[0][2])
            self.assertEqual(self.piece.frame_count, left)
        told = [x.short for found in self.order.rows.faults.values() for x in found]
        self.assertFalse([short for short in told if "missing" in short])

    def test_what_is_looked_at_goes_along_to_the_other_places(self) -> None:
        self.trimmed()
        second = self.piece.clips[2].id
        self.cutlist.dresser.put(shipped()["plain_push"], [self.piece.clips[1].id])
        self.cutlist.dresser.put(shipped()["smooth_turn"], [second])
        self.click(Row.CUT, 2)
        # The Collection tries its wrinkles on the clips of that cut.
        self.window.head.bar.placeChosen.emit("collection")
        page = self.window.places.place("collection").wrinkles
        ground = page.strips._ground
        assert ground is not None
        named = {slot: filling.source.name for slot, filling in ground.fillings.items()}
        self.assertEqual(named, {"outgoing": "pier", "incoming": "tail"})
        # The Checks show the piece whose badge was seen, and the Bench opens that cut.
        self.window.places.go_to("cutlist")
        self.window.head.bar.placeChosen.emit("checks")
        self.assertIs(self.window.places.place("checks").works_on, WorksOn.PIECE)
        self.window.places.go_to("cutlist")
        self.act("place.bench")
        self.assertEqual(self.desk.open_cut.clip, second)
        self.assertEqual(self.desk.document.state.name, "Smooth turn")
        self.assertTrue(self.window.head.cut_bar.isVisible())
        self.act("place.checks")
        self.assertIs(self.window.places.place("checks").works_on, WorksOn.WRINKLE)
        # What is not saved on the Bench stays there, whatever cut is chosen.
        self.act("place.bench")
        self.desk.document.edit("other", lambda wrinkle: replaced(wrinkle, name="Mine"))
        self.window.places.go_to("cutlist")
        self.click(Row.CUT, 1)
        self.act("place.bench")
        self.assertEqual(self.desk.document.state.name, "Mine")

    def test_the_piece_plays_and_keys_go_from_cut_to_cut(self) -> None:
        self.trimmed()
        self.cutlist.dresser.put(shipped()["plain_push"], [self.piece.clips[1].id])
        looking, watch = self.cutlist.looking, self.cutlist.watch
        self.watched()
        for key, frame in (
            (Qt.Key.Key_Home, 0), (Qt.Key.Key_Down, 36), (Qt.Key.Key_Down, 72),
            (Qt.Key.Key_Up, 36), (Qt.Key.Key_Right, 37), (Qt.Key.Key_End, 107),
        ):  # fmt: skip
            self.cutlist.setFocus()
            QTest.keyClick(self.cutlist, key)
            self.assertEqual(looking.playhead, frame)
        self.cutlist.map.scrubbed.emit(3)
        seen: list[int] = []
        looking.playheadChanged.connect(seen.append)
        watch.toggle(whole=True)
        wait_for(lambda: len(seen) > 4, "it plays")
        self.assertTrue(all(frame > 3 for frame in seen))
        self.window.places.go_to("bench")
        self.assertFalse(watch.player.playing)

    def test_missing_files_are_said_and_found_again(self) -> None:
        self.trimmed()
        path = self.folder / "piece.otio"
        place = self.folder / "films"
        place.mkdir()
        moved = place / "pier.mp4"
        moved.write_bytes(demo_clip("pier").read_bytes())
        away = replace(self.piece.clips[1].media, path=str(self.folder / "gone" / "pier.mp4"))
        clips = [replace(x, media=away) if x.name == "pier" else x for x in self.piece.clips]
        self.desk.piece.start(self.piece.with_clips(*clips), PieceFile())
        self.desk.piece.save(path)
        self.desk.piece.open(path)
        wait_for(lambda: self.desk.piece.media.fault(away.path) != "", "the fault")
        self.assertIn("1 of 3 files are missing", self.window.status.said)
        self.watched()
        with mock.patch.object(QFileDialog, "getExistingDirectory", return_value=str(self.folder)):
            self.act("piece.missing")
        wait_for(lambda: self.clip_named("pier").media.path == str(moved), "it is found")
        self.assertEqual(self.desk.piece.media.fault(str(moved)), "")

    def test_frame_rate_and_the_time_of_new_pictures_are_chosen(self) -> None:
        self.act("piece.frame")
        dialog = self.cutlist.findChild(FrameDialog)
        dialog.size_field.setCurrentText("nothing")
        dialog.accept_button.click()
        self.assertIn("nothing", dialog.fault.text())
        dialog.size_field.setCurrentText("200x100")
        dialog.rate_field.setCurrentText("25")
        dialog.still_field.setText("2")
        dialog.accept_button.click()
        self.assertEqual((self.piece.size, self.piece.rate.label), (Size(200, 100), "25"))
        picture = self.folder / "card.png"
        write_png(picture, np.full((8, 6, 4), 200, np.uint8), opaque=True)
        self.add([picture])
        self.assertEqual(self.piece.frames_of(self.piece.clips[-1]), 50)
        self.assertTrue(self.piece.clips[-1].stands)
        self.assertEqual(Preferences(self.folder / "preferences").still, 2)
        self.cutlist.looking.go_to(Row.CLIP, self.piece.clips[-1].id)
        type_into(self.cutlist.clip_panel.length, "+25")
        self.assertEqual(self.piece.frames_of(self.piece.clips[-1]), 75)

    def test_the_sound_of_the_piece_is_heard_and_chosen(self) -> None:
        self.add([write_sounding(self.folder / "tone.mkv", "pcm_s16le", 48_000)])
        sound = self.cutlist.sound
        wait_for(lambda: sound.heard is not None, "the sound")
        heard = sound.heard
        assert heard is not None
        start = self.piece.starts[3] * 1600
        self.assertFalse(heard.samples(0, start).any())
        self.assertTrue(heard.samples(start, 48_000).any())
        panel = self.cutlist.clip_panel
        self.cutlist.looking.go_to(Row.CLIP, self.piece.clips[3].id)
        self.assertFalse(panel.pitch.isEnabled(), "it runs at its speed")
        type_into(panel.speed, "150")
        panel.pitch.click()
        self.assertTrue(self.piece.clips[3].pitch_kept)
        self.assertEqual((panel.track.isVisible(), panel.track.count()), (False, 1))
        faster = sound.heard
        assert faster is not None
        part = faster.samples(start + 24_000, 9_600)[:, 0]
        # A thousand hertz, as before.
        self.assertEqual(int(np.abs(np.fft.rfft(part)).argmax()) * 5, 1000)
        self.act("edit.undo")
        self.assertFalse(self.piece.clips[3].pitch_kept)
        # Without a device for sound it plays all the same.
        self.cutlist.watch.toggle(whole=True)
        first = self.cutlist.looking.playhead
        wait_for(lambda: self.cutlist.looking.playhead > first + 2, "the picture goes on")
        self.assertTrue(self.cutlist.watch.player.playing)

    def test_it_is_rendered_flattened_and_saved_with_its_media(self) -> None:
        self.trimmed()
        self.cutlist.dresser.put(shipped()["plain_push"], [self.piece.clips[1].id])
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        out, flat, packed = (self.folder / x for x in ("out.mp4", "flat.otio", "all.otioz"))
        for action, path in (("piece.render", out), ("piece.flatten", flat)):
            with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(path), "")):
                self.act(action)
            wait_for(path.exists, path.name)
            wait_for(lambda p=path: any(p.name in x for x in told), "it is told")
        self.assertEqual(Clip(out).facts.frame_count, self.piece.frame_count)
        self.assertTrue((self.folder / "flat windows" / "cut 001.mp4").exists())
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(packed), "")):
            self.act("file.save-as")
        count = self.piece.frame_count
        for path in (packed, flat):
            self.desk.piece.mark_saved()
            self.assertTrue(self.desk.piece.open(path))
            self.assertEqual(self.piece.frame_count, count)
            media = self.desk.piece.media
            wait_for(
                lambda m=media: all(x.media.path in m.sources for x in self.piece.clips), "all"
            )
        # An edit list is written and read, and saved as something else.
        cuts = self.folder / "cuts.edl"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(cuts), "")):
            self.act("piece.edit-list")
        self.assertIn("cuts.edl is written. An edit list holds no size", told[-1])
        names = [x.media.name for x in self.piece.clips]
        self.desk.piece.mark_saved()
        self.assertTrue(self.window.router.open(cuts))
        self.assertEqual([x.media.name for x in self.piece.clips], names)
        self.assertIsNone(self.desk.piece.path)
        self.assertIn("says neither size nor rate", told[-1])
        self.assertTrue(self.desk.piece.open(flat))
        # Who cancels finds no file.
        gone = self.folder / "gone.mp4"
        dialog = self.cutlist.output.write(gone, self.cutlist.output.render)
        dialog.cancel.click()
        wait_for(lambda: not any(x.name == "jobs-long" for x in threading.enumerate()), "the end")
        left = [x.name for x in self.folder.iterdir() if x.name.startswith((".", "gone"))]
        self.assertEqual(left, [])
        clip = Path(self.piece.clips[0].media.path)
        self.assertIsNone(self.cutlist.output.write(clip, self.cutlist.output.render))
        self.assertIn("is what would be read", self.faults[-1])

    def test_what_would_be_missing_is_asked_about_before_it_is_written(self) -> None:
        self.trimmed()
        first = self.piece.clips[0]
        gone = replace(first, media=replace(first.media, path=str(self.folder / "gone.mp4")))
        self.desk.piece.edit("gone", lambda x: x.with_clips(gone, *x.clips[1:]))
        packed, video = self.folder / "all.otioz", self.folder / "out.mp4"
        for action, asked_by, path in (
            ("file.save-as", "wrinkle.ui.files.document_file.ask", packed),
            ("piece.render", "wrinkle.ui.cutlist.piece_output.ask", video),
        ):
            for answer in (QMessageBox.StandardButton.Cancel, QMessageBox.StandardButton.Save):
                named = mock.patch.object(
                    QFileDialog, "getSaveFileName", return_value=(str(path), "")
                )
                with named, mock.patch(asked_by, return_value=answer) as asked:
                    self.act(action)
                self.assertIn(f"{gone.media.name} cannot be found", asked.call_args.args[2])
                if answer == QMessageBox.StandardButton.Cancel:
                    self.assertFalse(path.exists())
                else:
                    wait_for(path.exists, path.name)

    def test_a_clip_is_replaced_a_slot_filled_and_a_tile_dragged(self) -> None:
        self.trimmed()
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(shipped()["sea_fog"]))])
        at, copy = centre_of(self.order, Row.CUT, 1), Qt.DropAction.CopyAction
        buttons = Qt.MouseButton.LeftButton
        enter = QDragEnterEvent(at, copy, mime, buttons, NONE)
        self.order.dragEnterEvent(enter)
        self.assertTrue(enter.isAccepted())
        over = QDragMoveEvent(centre_of(self.order, Row.CLIP, 0), copy, mime, buttons, NONE)
        self.order.dragMoveEvent(over)
        self.assertFalse(over.isAccepted(), "a wrinkle belongs on a cut")
        self.drop(shipped()["sea_fog"], at)
        self.click(Row.CUT, 1)
        panel = self.cutlist.cut_panel
        (button,) = [x for x in panel.findChildren(QPushButton) if x.accessibleName() == "Fog"]
        paths = (str(demo_clip("dunes")), "")
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=paths):
            button.click()
        wait_for(lambda: "dunes" in str(self.piece.clips[1].entry.fillings), "the slot is filled")
        self.watched()
        clip = self.piece.clips[1]
        self.click(Row.CLIP, 1)
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=paths):
            self.cutlist.clip_panel.replace.click()
        wait_for(lambda: self.piece.clips[1].media.name == "dunes.mp4", "another file")
        self.assertEqual(replace(self.piece.clips[1], media=clip.media), clip, "all else is kept")
        # Of a timeline by somebody else nothing is changed by what is found out of its files.
        made = Track("shown", kind="Video")
        made.append(OtherClip("theirs", ExternalReference(str(demo_clip("tail"))), span(3, 20)))
        plain = Timeline("plain")
        plain.tracks.append(made)
        kept, again = self.folder / "plain.otio", self.folder / "again.otio"
        kept.write_text(plain.to_json_string())
        self.desk.piece.mark_saved()
        self.desk.piece.open(kept)
        wait_for(lambda: self.piece.clips[0].media.size is not None, "its file is read")
        self.desk.piece.save(again)
        self.assertEqual(json.loads(again.read_text()), json.loads(kept.read_text()))
        # It is shown with what it has, and told.
        path = self.folder / "theirs.otio"
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        path.write_text(timeline([*every_kind()]).to_json_string())
        self.desk.piece.mark_saved()
        self.drop(path, centre_of(self.order, Row.CLIP, 0))
        self.assertIn("Kept in it, and not shown: 1 further video track", told[-1])
        self.assertGreater(len(self.piece.clips), 40)
        wait_for(lambda: "files are missing" in self.window.status.said, "what is missing")

    def test_the_cuts_of_a_finished_video_become_clips(self) -> None:
        joined = self.folder / "joined.mp4"
        film = self.film()
        write_video(
            joined, (film.image(n).to_bytes8() for n in film.frames), film.size, self.piece.rate
        )
        cuts = [*self.piece.starts[1:-1]]
        self.desk.piece.start_new()
        self.desk.workers.read_clip(joined, self.cutlist.intake.find_cuts, self.faults.append)
        wait_for(lambda: self.cutlist.findChild(CutsDialog) is not None, "the dialog")
        dialog = self.cutlist.findChild(CutsDialog)
        wait_for(lambda: len(dialog.trace.scores) > 0, "the scores")
        self.assertEqual(dialog.trace.found, cuts)
        trace = dialog.trace
        foot = QPointF(trace.x_of(cuts[1]), trace.height() - 12)
        QTest.mouseClick(trace, LEFT, NONE, foot.toPoint())
        self.assertEqual(trace.current, cuts[1])
        dialog.refuse.click()
        self.assertEqual(trace.taken, cuts[:1])
        # Above the highest score nothing is a cut.
        drag(trace, QPointF(200, trace.y_of(trace.threshold)), QPointF(200, 2))
        self.assertEqual(trace.found, [])
        drag(trace, QPointF(200, trace.y_of(trace.threshold)), QPointF(200, trace.y_of(0.06)))
        dialog.take.click()
        self.assertEqual(self.piece.starts, (0, cuts[0], film.piece.frame_count))
        self.assertEqual(self.piece.size, film.size)

    def test_a_killed_program_leaves_the_piece_with_its_steps_to_the_next_start(self) -> None:
        place = self.folder / "kept"
        keeping = Safekeeping.of(self.desk, self.window.files, place)
        self.addCleanup(keeping.end)
        self.trimmed()
        self.cutlist.dresser.put(shipped()["ink_bloom"], [self.piece.clips[1].id])
        wait_for(lambda: any(place.glob("*/index.json")), "it is kept")
        self.assertEqual(left_work(place), [], "its program runs")
        keeping.let_go()
        steps = self.desk.piece.history
        self.desk.piece.mark_saved()
        self.desk.piece.start_new()
        self.assertIsNone(self.desk.piece.undo_label)
        (left,) = left_work(place)
        self.assertEqual((left.kind, left.name), ("piece", self.piece.title))
        again = Safekeeping.of(self.desk, self.window.files, place)
        self.addCleanup(again.end)
        dialog = again.offer([left], self.window)
        dialog.rows[left.folder].findChildren(QPushButton)[0].click()
        self.assertEqual(self.desk.piece.history, steps)
        self.assertTrue(self.desk.piece.unsaved)
        self.assertFalse(left.folder.exists())
        self.act("place.cutlist")
        self.act("edit.undo")
        self.assertIsNone(self.piece.clips[1].entry)

    def test_earlier_versions_of_the_piece_are_taken_back(self) -> None:
        with mock.patch("platformdirs.user_state_path", return_value=self.folder / "state"):
            keeping = Safekeeping.of(self.desk, self.window.files, self.folder / "kept")
            self.addCleanup(keeping.end)
            self.trimmed()
            path = self.folder / "five.otio"
            self.assertTrue(self.desk.piece.save(path))
            self.assertEqual(self.piece.title, "five", "what has no name gets that of its file")
            before = self.piece
            self.desk.piece.edit("fewer", lambda piece: edits.remove(piece, piece.clips[0].id))
            self.desk.piece.save(path)
            keeping.end()
            self.act("place.cutlist")
            self.act("file.versions")
            dialog = self.window.findChild(VersionsDialog)
            self.assertEqual(len(dialog.rows), 2)
            buttons = {x.text(): x for x in dialog.rows[1].findChildren(QPushButton)}
            self.assertEqual(list(buttons), ["Take back"], "a piece is not compared")
            buttons["Take back"].click()
            self.assertEqual(
                [(x.name, x.start, x.end) for x in self.piece.clips],
                [(x.name, x.start, x.end) for x in before.clips],
            )
            self.act("edit.undo")
            self.assertEqual(len(self.piece.clips), len(before.clips) - 1)


class AWholePiece(PieceCase):
    names = tuple(DEMO_CLIPS)

    def path_of(self, name: str) -> Path:
        """Small ones, which say what frame the piece has, and some in the size that ships."""
        return (
            demo_clip(name) if name in ("dunes", "box_kite", "tail", "pier") else DEMO_CLIPS[name]
        )

    def test_dressed_changed_on_the_bench_saved_and_dressed_by_the_command_line(self) -> None:
        self.trimmed()
        self.drop(shipped()["smooth_turn"], centre_of(self.order, Row.CUT, 1))
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(shipped()["smooth_turn"]))])
        beside = (QPointF(60, 20), Qt.DropAction.CopyAction, mime, Qt.MouseButton.NoButton, NONE)
        self.cutlist.dropEvent(QDropEvent(*beside))
        self.assertEqual(sum(x.entry is not None for x in self.piece.clips), 7)
        # One is changed there, one on the Bench.
        self.click(Row.CUT, 1)
        self.cutlist.cut_panel.controls.strength.committed.emit(60.0)
        self.click(Row.CUT, 2)
        self.act("cut.bench")
        self.assertIs(self.window.places.currentWidget(), self.bench)
        self.assertIn("pier" if self.names[1] == "pier" else self.names[1],
                      self.window.head.cut_bar.words.text())  # fmt: skip
        self.assert_same_as_on_the_bench(2)
        wrinkle = self.desk.document.state
        self.desk.document.edit("mine", lambda w: wrinkle_edits.rename(w, "Mine"))
        answer = QMessageBox.StandardButton.Yes
        with mock.patch("wrinkle.ui.files.taking_back.ask", return_value=answer) as asked:
            self.window.head.cut_bar.back.click()
        asked.assert_called_once()
        self.assertIs(self.window.places.currentWidget(), self.cutlist)
        self.assertEqual(self.piece.clips[2].entry.wrinkle.name, "Mine")
        self.assertEqual(self.piece.clips[3].entry.wrinkle.name, wrinkle.name)
        # Saved, opened again, and written by the command line: the same bytes as the window's.
        path = self.folder / "day.otio"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(path), "")):
            self.act("file.save")
        before = self.piece
        self.assertFalse(self.desk.piece.unsaved)
        # Another program writes it meanwhile: it is not written over unasked.
        written = path.read_text()
        path.write_text(written + " ")
        cancel = QMessageBox.StandardButton.Cancel
        with mock.patch("wrinkle.ui.files.document_file.ask", return_value=cancel) as asked:
            self.act("file.save")
        self.assertIn("day.otio was written by another program", asked.call_args.args[2])
        self.assertEqual(path.read_text(), written + " ")
        self.desk.piece.start_new()
        self.assertTrue(self.desk.piece.open(path))
        wait_for(lambda: len(self.desk.piece.media.sources) >= 8, "the files")
        same = [replace(new, id=old.id) for new, old in zip(self.piece.clips, before.clips)]  # noqa: B905
        self.assertEqual(tuple(same), before.clips)
        short, goal = self.folder / "short.otio", self.folder / "short.mp4"
        some = self.piece.with_clips(*self.piece.clips[:2])
        some = edits.trim(some, some.clips[0].id, 16, 0)
        self.desk.piece.start(edits.trim(some, some.clips[1].id, 0, -16), PieceFile())
        self.desk.piece.save(short)
        # The encoder itself may make other bytes of the same frames from one time to the next.
        with (
            redirect_stdout(StringIO()),
            mock.patch("wrinkle.cli.piece_writing.write_output", side_effect=_kept),
        ):
            self.assertEqual(main(["dress", str(short), "--output", str(goal)]), 0)
        film = self.film()
        self.assertEqual(len(_FRAMES), self.piece.frame_count)
        for number, pixels in enumerate(_FRAMES):
            self.assertEqual(pixels, film.image(number).to_bytes8().tobytes(), number)

    def assert_same_as_on_the_bench(self, number: int) -> None:
        film = self.film()
        shown = self.desk.shown(self.piece.size)
        window = film.cut(self.piece.clips[number].id)
        for frame in (-5, -1, 0, 4):
            bench = replace(shown, quality=window.quality).image(frame).to_bytes8()
            self.assertEqual(bench.tobytes(), window.image(frame).to_bytes8().tobytes())


_FRAMES: list[bytes] = []


def _kept(output: Output, jobs: Jobs, job: Job) -> int:
    """Keeps what an encoder would get."""
    with closing(jobs.in_order(output.shown.image, output.frames)) as pictures:
        _FRAMES[:] = [picture.to_bytes8().tobytes() for picture in pictures]
    return len(_FRAMES)
