"""The Export place: chosen, looked at, estimated, queued; held, cancelled, and taken up again."""

import re
import tempfile
from fractions import Fraction
from pathlib import Path
from unittest import mock

import av
import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QInputDialog

from tests.media.clips import write_numbered
from tests.ui.cutlist.test_cutlist import PieceCase
from tests.ui.window_case import type_into, wait_for
from wrinkle.core.errors import MediaError
from wrinkle.files import archive
from wrinkle.library import exports
from wrinkle.library.exports import State
from wrinkle.library.ready_choices import own_choices
from wrinkle.library.samples import SAMPLES
from wrinkle.media.output.estimating import Estimate
from wrinkle.timeline.files import read_piece
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.desktop_portal import DesktopPortal
from wrinkle.ui.export.queue import ExportQueue
from wrinkle.ui.shared.plain_text import Buttons


def decoded(path: Path) -> list[np.ndarray]:
    with av.open(str(path)) as container:
        return [frame.to_ndarray(format="rgb24") for frame in container.decode(video=0)]


class Exports(PieceCase):
    def setUp(self) -> None:
        kept = tempfile.TemporaryDirectory()
        self.addCleanup(kept.cleanup)
        # Before the window, which holds the queue from its start.
        state = mock.patch("platformdirs.user_state_path", return_value=Path(kept.name))
        state.start()
        self.addCleanup(state.stop)
        data = mock.patch("platformdirs.user_data_path", return_value=Path(kept.name) / "data")
        data.start()
        self.addCleanup(data.stop)
        super().setUp()
        self.trimmed()
        self.window.places.go_to("export")
        self.place = self.window.places.place("export")
        self.queue: ExportQueue = self.place.queue
        self.choosing = self.place.choosing
        self.choosing.size_field.setCurrentText("96x160")

    def choose(self, form: str) -> None:
        box = self.choosing.form
        box.setCurrentIndex(box.findData(form))
        box.activated.emit(box.currentIndex())

    def choose_what(self, key: str) -> None:
        box = self.choosing.what
        box.setCurrentIndex(box.findData(key))
        box.activated.emit(box.currentIndex())

    def states(self) -> list[State]:
        return [item.state for item in self.queue.items]

    def ended(self, *states: State) -> None:
        wait_for(lambda: self.states() == list(states), f"the queue comes to {states}")

    def test_three_are_queued_one_is_cancelled_and_two_are_written(self) -> None:
        first, gone, last = (self.folder / x for x in ("one.mp4", "two.mp4", "three.mkv"))
        self.assertTrue(self.place.add(first))
        self.assertTrue(self.place.add(gone))
        self.choosing.set_range(5, 15)
        self.choose("ffv1")
        self.assertTrue(self.place.add(last))
        # Moved to the front, it is written first.
        self.queue.move(self.queue.items[2].id, -2)
        self.place.list.rows[self.queue.items[2].id].buttons["cancel"].click()
        self.assertEqual(self.states(), [State.WAITING, State.WAITING, State.CANCELLED])
        far: list[int] = []
        self.queue.progressed.connect(lambda done, total, pace, left: far.append(done))
        self.act("export.run")
        self.assertTrue(self.queue.busy)
        self.assertIn("Writing", self.place.words())
        self.ended(State.DONE, State.DONE, State.CANCELLED)
        wait_for(lambda: not self.queue.runs, "it rests")
        self.assertGreater(len(far), 10)
        frames = decoded(first)
        self.assertEqual(len(frames), self.piece.frame_count)
        # The lossless range is the same part of it, but for what H.264 leaves out.
        found = decoded(last)
        self.assertEqual((len(found), found[0].shape), (10, (160, 96, 3)))
        away = [np.abs(found[4].astype(int) - one.astype(int)).mean() for one in frames]
        self.assertEqual((int(np.argmin(away)), min(away) < 4.0), (9, True))
        self.assertFalse(gone.exists())
        shown = self.place.list.rows[self.queue.items[0].id]
        self.assertTrue(shown.buttons["folder"].isVisibleTo(shown))
        self.act("export.clear")
        self.assertEqual(self.queue.items, ())
        self.assertEqual(list(exports.exports_folder().glob("*.otio")), [])

    def test_it_is_held_goes_on_and_what_is_edited_meanwhile_changes_nothing(self) -> None:
        goal = self.folder / "held.mp4"
        count = self.piece.frame_count
        self.place.add(goal)
        self.act("export.run")
        wait_for(lambda: self.queue.busy, "it begins")
        self.queue.pause()
        self.desk.piece.edit("less", lambda piece: piece.with_clips(*piece.clips[:1]))
        self.assertFalse(goal.exists())
        self.queue.start()
        self.ended(State.DONE)
        self.assertEqual(len(decoded(goal)), count)

    def test_a_window_that_closes_asks_first_and_a_half_written_file_is_never_there(self) -> None:
        goal = self.folder / "broken off.mp4"
        self.assertTrue(self.place.may_leave())
        self.place.add(goal)
        self.act("export.run")
        wait_for(lambda: self.queue.busy, "it begins")
        self.queue.pause()
        for answer, leaves in ((Buttons.Cancel, False), (Buttons.Close, True)):
            with mock.patch("wrinkle.ui.export.export.ask", return_value=answer) as asked:
                self.assertEqual(self.place.may_leave(), leaves)
            self.assertIn("offered again", asked.call_args[0][2])
        self.assertFalse(goal.exists())
        # Whoever kills the program in the midst of it finds it waiting at the next start.
        (kept,) = exports.load_queue()
        self.assertEqual(kept.state, State.WAITING)
        self.queue.start()
        self.ended(State.DONE)

    def test_a_fault_stops_one_item_only_and_it_can_be_tried_again(self) -> None:
        bad, good = self.folder / "bad.mp4", self.folder / "good.mp4"
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        self.place.add(bad)
        self.choosing.set_range(0, 4)
        self.place.add(good)
        real = exports.piece_path
        names = [item.piece for item in self.queue.items]
        with mock.patch.object(
            exports, "piece_path",
            side_effect=lambda name: real("none") if name == names[0] else real(name),
        ):  # fmt: skip
            self.act("export.run")
            self.ended(State.FAILED, State.DONE)
        self.assertRegex(told[-1], "no such file")
        self.place.list.rows[self.queue.items[0].id].buttons["again"].click()
        self.queue.start()
        self.ended(State.DONE, State.DONE)
        self.assertTrue(bad.exists())

    def test_what_was_not_finished_is_offered_again_at_the_next_start(self) -> None:
        self.place.add(self.folder / "later.mp4")
        self.choosing.set_range(0, 3)
        self.place.add(self.folder / "now.mp4")
        item = self.queue.items[0]
        self.queue._mark(item.id, State.WRITING, "")
        desk = Desk.made()
        self.addCleanup(desk.workers.stop)
        told: list[str] = []
        desk.messages.faulted.connect(told.append)
        # A second window beside this one neither writes what this one writes nor loses it.
        again = ExportQueue(desk.workers, desk.messages)
        self.assertEqual((again.load(), again.items), (0, ()))
        self.assertFalse(again.add(self.piece, item))
        self.assertRegex(told[-1], "Another window of Wrinkle has the queue")
        self.queue.close_down()
        again = ExportQueue(desk.workers, desk.messages)
        self.assertEqual(again.load(), 2)
        self.assertEqual([x.state for x in again.items], [State.WAITING] * 2)
        again.start()
        wait_for(lambda: all(x.state is State.DONE for x in again.items), "both are written")
        self.assertEqual(len(decoded(self.folder / "now.mp4")), 3)
        # A damaged list is said and set aside.
        (exports.exports_folder() / "queue.json").write_text("[{")
        again.close_down()
        self.assertEqual(ExportQueue(desk.workers, desk.messages).load(), 0)
        self.assertRegex(told[-1], "queue of exports cannot be read; it was set aside")

    def test_the_middle_frame_is_looked_at_and_time_and_size_are_estimated(self) -> None:
        self.choosing.refresh()
        wait_for(lambda: "MB" in self.place.estimate.text(), "the estimate")
        self.assertRegex(
            self.place.estimate.text(), r"^\d+ frames: about \d+\.\d MB, \d+ seconds\.$"
        )
        wait_for(lambda: self.place._picture is not None, "the picture")
        picture = self.place._picture
        assert picture is not None
        self.assertEqual((picture.width(), picture.height()), (96, 160))
        # Of what is heard alone there is no picture, and an estimate all the same.
        self.choose("wav")
        wait_for(lambda: self.place._picture is None, "no picture")
        wait_for(lambda: re.search(r"MB|Nothing is heard", self.place.estimate.text()), "told")
        for field in (self.choosing.size_field, self.choosing.amount):
            self.assertFalse(field.isVisibleTo(self.place))
        self.choose("h264")
        self.choosing.size_field.setCurrentText("97x160")
        wait_for(lambda: "even" in self.place.estimate.text(), "why not is said")
        self.assertIn("Use 98×160", self.place.estimate.text())

    def test_each_dressed_cut_and_the_wrinkle_on_the_bench_are_written(self) -> None:
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        self.choose_what("windows")
        self.assertFalse(self.place.add(self.folder / "none.mp4"))
        self.assertRegex(told[-1], "No cut of the piece is dressed")
        self.cutlist.dresser.put(_shipped("plain_push"), [self.piece.clips[1].id])
        type_into(self.choosing.around, "0.1")
        self.assertTrue(self.place.add(self.folder / "cuts.mp4"))
        for slot, path in SAMPLES.items():
            self.try_clip(slot, path)
        self.choose_what("bench")
        self.assertTrue(self.place.add(self.folder / "wrinkle.mp4"))
        self.choose_what("flat")
        self.assertEqual(self.choosing.suffix, ".otio")
        self.assertTrue(self.place.add(self.folder / "flat.otio"))
        self.act("export.run")
        self.ended(State.DONE, State.DONE, State.DONE)
        flat, _ = read_piece(self.folder / "flat.otio")
        self.assertEqual(flat.frame_count, self.piece.frame_count)
        self.assertTrue(all(clip.entry is None for clip in flat.clips))
        self.assertIn("cut 001.mp4", [clip.media.name for clip in flat.clips])
        # The wrinkle itself is written at once.
        self.choose_what("wrinkle")
        self.assertFalse(self.choosing.form.isVisibleTo(self.place))
        goal = self.folder / "own.wrinkle"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(goal), "")):
            self.act("export.add")
        self.assertEqual(archive.read(goal).wrinkle, self.desk.document.state)
        self.assertEqual(len(decoded(self.folder / "cuts.mp4")), 28 + 2 * 3)
        wrinkle = self.desk.document.state
        around = round(0.1 * 30)
        found = len(decoded(self.folder / "wrinkle.mp4"))
        self.assertEqual(found, len(wrinkle.frames) + 2 * around)
        # Clips may be cut at their very ends; something is left of each.
        self.desk.tried.set_cut("incoming", Fraction(1000))
        self.desk.tried.set_cut("outgoing", Fraction(0))
        self.choose_what("bench")
        self.assertTrue(self.place.add(self.folder / "at the ends.mp4"))
        ((piece, _),) = [self.choosing.items(self.folder / "again.mp4")]
        self.assertEqual([clip.length for clip in piece.clips], [piece.rate.seconds(1)] * 2)

    def test_own_choices_are_kept_and_several_are_written_at_once(self) -> None:
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        self.choosing.set_range(0, 6)
        ready = self.choosing.ready
        self.choose("vp9")
        self.choosing.size_field.setCurrentText("64x64")
        with mock.patch.object(QInputDialog, "getText", return_value=("Little", True)):
            ready.ask_keep()
            ready.ask_keep()
        self.assertRegex(told[-1], "There is a choice 'Little' already")
        self.choose("h264")
        self.choosing.size_field.setCurrentText("96x160")
        ready.box.activated.emit(ready.box.findText("Little"))
        self.assertEqual(self.choosing.form.currentData(), "vp9")
        self.assertEqual(self.choosing.size_field.currentText(), "64x64")
        # A window that is opened later has it too.
        self.assertEqual([x.name for x in own_choices()], ["Little"])
        ready.fill()
        shown = {x.text(): x for x in ready.menu.actions()}
        for name in ("Little", "Small to send"):
            shown[name].defaultWidget().click()
        self.assertFalse(self.choosing.form.isVisibleTo(self.place))
        wait_for(lambda: "in 2 files" in self.place.estimate.text(), "the estimate")
        self.assertTrue(self.place.add(self.folder / "both.mp4"))
        self.act("export.run")
        self.ended(State.DONE, State.DONE)
        small = decoded(self.folder / "both Small to send.mp4")
        little = decoded(self.folder / "both Little.webm")
        half = self.piece.size.scaled(0.5)
        self.assertEqual((len(small), small[0].shape[:2]), (6, (half.height, half.width)))
        self.assertEqual((len(little), little[0].shape[:2]), (6, (64, 64)))
        ready.forget("Little")
        self.assertEqual([x.name for x in ready.several], ["Small to send"])
        self.assertEqual(own_choices(), ())

    def test_what_is_bounded_on_the_map_is_written(self) -> None:
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        stretch, count = self.desk.stretch, self.piece.frame_count
        self.window.places.go_to("cutlist")
        map_ = self.cutlist.map

        def drag(end: str, frame: int) -> None:
            start = map_._tab(end).center().toPoint()
            goal = QPoint(round(map_.x_of(frame)), start.y())
            QTest.mousePress(map_, Qt.MouseButton.LeftButton, pos=start)
            QTest.mouseMove(map_, goal)
            QTest.mouseRelease(map_, Qt.MouseButton.LeftButton, pos=goal)

        playhead = self.cutlist.looking.playhead
        drag("first", 12)
        drag("last", 20)
        self.assertEqual((stretch.frames, self.cutlist.looking.playhead), (range(12, 20), playhead))
        # One end never passes the other.
        drag("first", 90)
        self.assertEqual(stretch.frames, range(19, 20))
        self.cutlist.looking.set_playhead(10)
        self.act("piece.from")
        self.cutlist.looking.set_playhead(16)
        self.act("piece.until")
        self.assertEqual(told[-1], "7 frames are exported, from 00:00:00:10 up to 00:00:00:17.")
        self.window.places.go_to("export")
        self.assertEqual(self.choosing.what.currentData(), "range")
        _, (item,) = self.choosing.items(self.folder / "x.mp4")
        self.assertEqual((item.first, item.end), (10, 17))
        # The fields and the map are one; a double press on a tab takes all of it again.
        self.choosing.first.committed.emit(4)
        self.assertEqual(stretch.frames, range(4, 17))
        place = map_._tab("last").center().toPoint()
        QTest.mouseDClick(map_, Qt.MouseButton.LeftButton, pos=place)
        self.assertEqual(
            (stretch.frames, self.choosing.what.currentData()), (range(count), "piece")
        )
        stretch.take(3, 9)
        self.desk.piece.edit("less", lambda piece: piece.with_clips(*piece.clips[:1]))
        self.assertEqual(stretch.frames, range(3, 9))
        self.desk.piece.start_new()
        self.assertTrue(stretch.is_all)

    def test_the_overlay_and_the_matte_of_the_wrinkle_are_written(self) -> None:
        for slot, path in SAMPLES.items():
            self.try_clip(slot, path)
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        self.choose("ffv1")
        self.choosing.bits.setCurrentIndex(0)
        for key in ("overlay", "matte", "bench"):
            self.choose_what(key)
            self.assertTrue(self.place.add(self.folder / f"{key}.mkv"), told)
        self.act("export.run")
        self.ended(State.DONE, State.DONE, State.DONE)
        with av.open(str(self.folder / "overlay.mkv")) as container:
            over = [x.to_ndarray(format="rgba") for x in container.decode(video=0)]
        # Half a second of plain clip before and after: nothing is added there.
        self.assertFalse(over[0][..., 3].any())
        self.assertTrue(over[len(over) // 2][..., 3].any())
        matte = decoded(self.folder / "matte.mkv")
        self.assertEqual((int(matte[0].max()), int(matte[-1].min())), (0, 255))
        self.assertEqual(len(matte), len(decoded(self.folder / "bench.mkv")))
        self.choose("h264")
        self.choose_what("overlay")
        self.assertFalse(self.place.add(self.folder / "no.mp4"))
        self.assertRegex(told[-1], "has no transparency; choose another format")

    def test_the_desktop_stays_awake_meanwhile_and_is_told_of_the_end(self) -> None:
        sent: list[tuple[str, str, list[object]]] = []
        self.place.portal = DesktopPortal(
            lambda place, interface, member, content: sent.append((place, member, content)),
            lambda: ":1.42",
        )
        self.choosing.set_range(0, 3)
        self.place.add(self.folder / "one.mp4")
        with mock.patch.object(self.place, "isActiveWindow", return_value=False):
            self.act("export.run")
            self.ended(State.DONE)
            wait_for(lambda: not self.queue.runs, "it rests")
        (_, first, asked), (request, second, _), (_, third, told) = sent
        self.assertEqual((first, second, third), ("Inhibit", "Close", "AddNotification"))
        # The request lies where the portal's documentation says that it does.
        token = asked[2]["handle_token"]
        self.assertEqual(request, f"/org/freedesktop/portal/desktop/request/1_42/{token}")
        self.assertEqual(told[1]["body"], "Written: one.mp4")
        # Who looks at the window need not be told.
        sent.clear()
        self.place.add(self.folder / "two.mp4")
        with mock.patch.object(self.place, "isActiveWindow", return_value=True):
            self.act("export.run")
            wait_for(lambda: not self.queue.runs, "it rests")
        self.assertEqual([member for _, member, _ in sent], ["Inhibit", "Close"])

    def test_other_machines_draw_where_one_is_named(self) -> None:
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        type_into(self.choosing.on, "nowhere")
        self.assertFalse(self.place.add(self.folder / "no.mp4"))
        self.assertRegex(told[-1], "'nowhere' is no address of a machine; write HOST:PORT")
        type_into(self.choosing.on, "127.0.0.1:1")
        self.assertTrue(self.place.add(self.folder / "elsewhere.mp4"))
        with mock.patch("wrinkle.cluster.drawing_elsewhere._ANSWERS_WITHIN", 0.5):
            self.act("export.run")
            self.ended(State.FAILED)
        self.assertIn("No scheduler answers at 127.0.0.1:1", self.queue.items[0].told)
        self.assertFalse((self.folder / "elsewhere.mp4").exists())

    def test_nothing_is_written_over_what_is_read_or_unasked_over_what_is_there(self) -> None:
        told: list[str] = []
        self.desk.messages.faulted.connect(told.append)
        self.assertFalse(self.place.add(Path(self.piece.clips[0].media.path)))
        self.assertRegex(told[-1], "is what would be read")
        there = write_numbered(self.folder / "there.mp4", 4)
        before = there.read_bytes()
        with mock.patch("wrinkle.ui.export.export.ask", return_value=Buttons.Cancel) as asked:
            self.assertFalse(self.place.add(there))
        self.assertEqual(asked.call_count, 1)
        self.assertEqual((there.read_bytes(), self.queue.items), (before, ()))
        # A free name is offered instead.
        with mock.patch("wrinkle.ui.export.export.ask", return_value=Buttons.Yes) as asked:
            self.assertTrue(self.place.add(there))
        self.assertIn("Write there 2.mp4", asked.call_args[0][5].values())
        self.assertEqual(Path(self.queue.items[0].path).name, "there 2.mp4")
        self.queue.remove(self.queue.items[0].id)
        # What has come to be there since it was chosen stays, however far the writing is.
        late = self.folder / "late.mp4"
        self.assertTrue(self.place.add(late))
        self.assertFalse(self.place.add(late))
        self.assertRegex(told[-1], "late.mp4 is in the queue already")
        self.queue.progressed.connect(lambda *far: late.write_bytes(b"mine"))
        self.act("export.run")
        self.ended(State.FAILED)
        self.assertIn("late.mp4 is there by now", self.queue.items[0].told)
        self.assertEqual(late.read_bytes(), b"mine")
        self.act("export.clear")
        self.place._expected = Estimate(1.0, 1e9)
        self.assertFalse(self.place.add(self.folder / "huge.mp4"))
        self.assertRegex(told[-1], "huge.mp4 would be about .* MB large, and there is room for")
        self.place._expected = None
        full = MediaError("out.mp4 cannot be written: No space left on device; make room.")
        with mock.patch("wrinkle.exporting.item_writing.write_output", side_effect=full):
            self.place.add(self.folder / "out.mp4")
            self.act("export.run")
            self.ended(State.FAILED)
        self.assertIn("No space left", self.queue.items[0].told)


def _shipped(name: str) -> Path:
    from wrinkle.library import shipped

    return shipped()[name]
