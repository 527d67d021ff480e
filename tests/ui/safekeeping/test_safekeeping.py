"""Work that survives: a killed program, saved versions, files of others, errors of our own."""

import errno
import os
import shutil
import subprocess
import sys
import threading
from fractions import Fraction
from unittest import mock

import numpy as np
from msgspec.structs import replace
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QPushButton

from tests.ui.window_case import LEFT, WindowCase, demo_clip, settle, wait_for
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits, wrinkle_edits
from wrinkle.core.errors import InputError
from wrinkle.files import archive
from wrinkle.files import whole as files
from wrinkle.library.autosaves import Autosave, left_work
from wrinkle.library.versions import versions
from wrinkle.ui.safekeeping.beside import WrinkleBeside
from wrinkle.ui.safekeeping.safekeeping import Safekeeping
from wrinkle.ui.safekeeping.unforeseen import Unforeseen
from wrinkle.ui.safekeeping.versions_dialog import VersionsDialog

TURN = SettingRef("outgoing", "rotation")


class SafekeepingCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        state = mock.patch("platformdirs.user_state_path", return_value=self.folder / "state")
        state.start()
        self.addCleanup(state.stop)
        self.kept = self.folder / "kept"

    def keeper(self) -> Safekeeping:
        keeper = Safekeeping.of(self.desk, self.window.files, self.kept)
        self.addCleanup(keeper.end)
        return keeper

    def turn(self, angle: float) -> None:
        self.desk.document.edit(
            f"turn {angle}", lambda w: lane_edits.set_value(w, TURN, Fraction(0), angle)
        )


class AfterACrash(SafekeepingCase):
    def test_what_a_killed_program_kept_comes_back_with_its_steps(self) -> None:
        clip = demo_clip("pier")
        words = [sys.executable, "-m", "tests.ui.safekeeping.killed", str(self.kept), str(clip)]
        with subprocess.Popen(words, stdout=subprocess.PIPE, text=True) as running:
            # Killed in the midst of edits, some of which are kept and the last of which is not yet.
            seen = set[int]()
            while len(seen) < 3:
                done = int(running.stdout.readline())
                seen |= {x.stat().st_mtime_ns for x in self.kept.glob("*/index.json")}
            kept = len(list(self.kept.glob("*/states/*")))
            self.assertEqual(left_work(self.kept), [], "it runs still")
            running.kill()
        (left,) = left_work(self.kept)
        self.assertEqual((left.name, left.path), ("Half done", None))
        keeper = self.keeper()
        dialog = keeper.offer([left], self.window)
        row = dialog.rows[left.folder]
        self.assertFalse(row.picture.pixmap().isNull())
        QTest.mouseClick(row.findChildren(QPushButton)[0], LEFT)
        wait_for(lambda: not self.desk.tried.reading("incoming"), "the clip")
        wrinkle = self.desk.document.state
        turned = TURN.of(wrinkle).rest
        # How much is lost in seconds is measured by ``python -m fuzz.kills``.
        self.assertGreater(kept, 2)
        self.assertTrue(kept - 2 <= turned <= done + 1, (kept, turned, done))
        self.assertEqual(wrinkle.name, "Half done")
        self.assertTrue(self.desk.document.unsaved)
        self.assertEqual((self.desk.looking.layer, self.desk.looking.playhead), ("outgoing", -1))
        tried = self.desk.tried.clips["incoming"]
        self.assertEqual((tried.source.path, tried.cut), (clip, Fraction(1, 3)))
        self.act("edit.undo")
        self.assertEqual(TURN.of(self.desk.document.state).rest, turned - 1.0)
        self.turn(99.0)
        self.act("edit.undo")
        self.act("edit.undo")
        self.assertEqual(TURN.of(self.desk.document.state).rest, turned - 2.0)
        self.assertFalse(left.folder.exists())
        self.assertEqual(len(list(self.kept.iterdir())), 1, "it is kept with this window's now")

    def test_versions_to_compare_with_come_back_with_it(self) -> None:
        kept = self.desk.looking.kept
        keeper = self.keeper()
        first = self.desk.document.state
        kept.keep("calm", first)
        self.turn(20.0)
        kept.keep("more", self.desk.document.state)
        kept.choose(0)
        versions = kept.all
        keeper.let_go()
        kept.forget_all()
        (left,) = left_work(self.kept)
        beside = left.read(self.desk.document.kind.codec).beside
        other = WrinkleBeside(
            self.desk.document, self.desk.tried, self.desk.looking, self.desk.shown
        )
        other.restore(beside)
        self.assertEqual((kept.all, kept.place), (versions, 0))
        # What cannot be read is left out, and hinders nothing.
        broken = {**beside, "versions": [{"word": "torn", "wrinkle": "{"}], "compared": 0}
        other.restore(broken)
        self.assertEqual((kept.all, kept.place), ((), -1))

    def test_what_is_saved_or_given_up_is_not_kept(self) -> None:
        keeper = self.keeper()
        self.turn(5.0)
        wait_for(lambda: any(self.kept.glob("*/index.json")), "the work is kept")
        self.desk.document.save(self.folder / "a.wrinkle")
        wait_for(lambda: not any(self.kept.iterdir()), "nothing is kept")
        self.turn(6.0)
        keeper.end()
        self.assertEqual(list(self.kept.iterdir()), [])

    def test_it_is_thrown_away_by_a_second_press(self) -> None:
        keeper = self.keeper()
        self.turn(5.0)
        keeper.let_go()
        (left,) = left_work(self.kept)
        dialog = keeper.offer([left], self.window)
        away = dialog.rows[left.folder].findChildren(QPushButton)[1]
        QTest.mouseClick(away, LEFT)
        self.assertTrue(left.folder.exists())
        QTest.mouseClick(away, LEFT)
        self.assertFalse(left.folder.exists())
        self.assertFalse(dialog.isVisible())

    def test_a_full_disk_is_told_and_work_is_kept_as_soon_as_there_is_room(self) -> None:
        self.keeper()
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        full = OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        with mock.patch.object(files, "_unnamed", side_effect=full):
            with mock.patch.object(
                Autosave, "keep", autospec=True, side_effect=Autosave.keep
            ) as tried:
                for number, angle in enumerate((1.0, 2.0)):
                    self.turn(angle)
                    wait_for(lambda n=number: tried.call_count > n, "it is tried")
                wait_for(lambda: bool(self.faults), "it is told")
                settle()
            said = [fault for fault in self.faults if "The unsaved wrinkle cannot be kept" in fault]
            self.assertEqual(len(set(said)), 1, self.faults)
            self.assertIn("No space left", said[0])
            self.assertFalse(self.desk.document.save(self.folder / "a.wrinkle"))
        self.assertTrue(self.desk.document.unsaved)
        # Without another edit.
        wait_for(lambda: any(self.kept.glob("*/index.json")), "the work is kept again")
        wait_for(lambda: "The unsaved wrinkle is kept again." in told, "it is told")

    def test_what_is_brought_back_stays_until_it_is_kept_anew(self) -> None:
        first = self.keeper()
        self.turn(5.0)
        first.let_go()
        (left,) = left_work(self.kept)
        self.desk.document.start_new()
        keeper = self.keeper()
        full = OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        with mock.patch.object(files, "_unnamed", side_effect=full):
            dialog = keeper.offer([left], self.window)
            QTest.mouseClick(dialog.rows[left.folder].findChildren(QPushButton)[0], LEFT)
            wait_for(lambda: any("cannot be kept" in x for x in self.faults), "it is told")
            self.assertEqual(TURN.of(self.desk.document.state).rest, 5.0)
            self.assertTrue((left.folder / "index.json").exists(), "the only copy")
        wait_for(lambda: not left.folder.exists(), "it is kept anew, and the old one removed")
        self.assertEqual(len(list(self.kept.glob("*/index.json"))), 1)


class Files(SafekeepingCase):
    def test_the_last_five_versions_can_be_taken_back(self) -> None:
        keeper = self.keeper()
        path = self.folder / "a.wrinkle"
        for angle in range(1, 8):
            self.turn(float(angle))
            self.desk.document.save(path)
        wait_for(lambda: len(list((self.folder / "state").rglob("*.wrinkle"))) == 5, "versions")
        wait_for(lambda: len(list((self.folder / "state").rglob("*.png"))) == 5, "pictures")
        keeper.end()
        self.act("file.versions")
        dialog = self.window.findChild(VersionsDialog)
        self.assertEqual(len(dialog.rows), 5)
        self.assertFalse(dialog.rows[4].picture.pixmap().isNull())
        take = next(x for x in dialog.rows[4].findChildren(QPushButton) if x.text() == "Take back")
        QTest.mouseClick(take, LEFT)
        self.assertEqual(TURN.of(self.desk.document.state).rest, 3.0)
        self.act("edit.undo")
        self.assertEqual(TURN.of(self.desk.document.state).rest, 7.0)

    def test_a_file_that_another_program_changed_is_not_written_over_unasked(self) -> None:
        path = self.folder / "a.wrinkle"
        self.desk.document.save(path)
        self.turn(5.0)
        bundle = self.desk.document.bundle()
        theirs = Bundle(wrinkle_edits.rename(bundle.wrinkle, "Theirs"), bundle.assets)
        archive.write(path, theirs)
        cancel = QMessageBox.StandardButton.Cancel
        question = "wrinkle.ui.files.document_file.ask"
        with mock.patch(question, return_value=cancel) as asked:
            self.assertFalse(self.window.file.save())
        self.assertIn("a.wrinkle was written by another program", asked.call_args.args[2])
        self.assertEqual(archive.read(path).wrinkle.name, "Theirs")
        with mock.patch(
            "wrinkle.ui.files.document_file.ask", return_value=QMessageBox.StandardButton.Save
        ):
            self.assertTrue(self.window.file.save())
        with mock.patch(question) as asked:
            self.assertTrue(self.window.file.save())
        asked.assert_not_called()

    def test_a_save_that_fails_keeps_the_window_open_and_a_foreign_value_is_no_step(self) -> None:
        self.turn(5.0)
        self.desk.document.save(self.folder / "a.wrinkle")
        before = self.desk.document.state
        layer = before.layers[0]
        for value in (np.float64(3.0), np.float32(3.0)):
            placed = replace(layer.placement, rotation=Setting(value))
            foreign = replace(before, layers=(replace(layer, placement=placed),), dials=())
            self.assertFalse(self.desk.document.edit("x", lambda w, foreign=foreign: foreign))
            self.assertIs(self.desk.document.state, before)
            self.assertIn("That cannot be kept in a wrinkle", self.faults[-1])
        self.turn(6.0)
        save = QMessageBox.StandardButton.Save
        for fault in (TypeError("no place in the file"), PermissionError(13, "Permission denied")):
            with (
                mock.patch("wrinkle.ui.files.document_file.ask", return_value=save),
                mock.patch.object(archive, "write_whole", side_effect=fault),
                self.assertLogs("wrinkle") if isinstance(fault, TypeError) else mock.MagicMock(),
            ):
                self.assertFalse(self.window.close())
            self.assertTrue(self.window.isVisible())
            self.assertIn("a.wrinkle cannot be saved", self.faults[-1])

    def test_a_picture_that_cannot_be_drawn_hinders_neither_version_nor_keeping(self) -> None:
        def fall() -> bytes:
            raise InputError("Frame 3 of a.mp4 cannot be read.")

        self.keeper()
        path = self.folder / "a.wrinkle"
        with mock.patch.object(WrinkleBeside, "picture", return_value=fall):
            self.turn(5.0)
            wait_for(lambda: any(self.kept.glob("*/index.json")), "the work is kept")
            self.desk.document.save(path)
            wait_for(lambda: len(versions(path)) == 1, "the version is kept")
        self.assertEqual(versions(path)[0].picture, b"")
        self.assertEqual(self.faults, [])


class Caches(SafekeepingCase):
    def test_they_are_emptied_from_the_menu(self) -> None:
        cache = self.folder / "cache"
        (cache / "compiled").mkdir(parents=True)
        (cache / "compiled" / "a").write_bytes(bytes(3 << 20))
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        with mock.patch("wrinkle.library.caches.cache_folder", return_value=cache):
            self.act("file.caches")
            wait_for(lambda: "that freed 3 MiB" in told[-1], "the caches are empty")
        self.assertEqual(list(cache.iterdir()), [])
        self.all_ready()


class Errors(SafekeepingCase):
    def test_an_error_that_nobody_foresaw_is_told_and_its_details_can_be_copied(self) -> None:
        keeper, unforeseen = self.keeper(), Unforeseen()
        unforeseen.told.connect(self.desk.messages.faulted)
        unforeseen.details.connect(self.window.status.offer_details)
        unforeseen.details.connect(keeper.now)
        unforeseen.begin()
        self.addCleanup(unforeseen.end)
        self.turn(5.0)

        def fail() -> None:
            raise ZeroDivisionError("in a thread")

        thread = threading.Thread(target=fail)
        thread.start()
        thread.join()
        wait_for(lambda: bool(self.faults), "the error is told")
        self.assertIn("Something went wrong inside Wrinkle (ZeroDivisionError)", self.faults[-1])
        self.assertTrue(any(self.kept.glob("*/index.json")), "kept at once")
        button = self.window.statusBar().findChild(QPushButton)
        QTest.mouseClick(button, LEFT)
        copied = QApplication.clipboard().text()
        self.assertIn('raise ZeroDivisionError("in a thread")', copied)
        self.assertFalse(button.isVisible())


class Media(SafekeepingCase):
    def test_a_clip_that_disappears_is_told_on_its_frames_and_choosing_it_again_mends_it(
        self,
    ) -> None:
        path = self.folder / "gone.mp4"
        shutil.copy(demo_clip("box_kite"), path)
        self.try_clip("outgoing", path)
        self.all_ready()
        path.unlink()
        self.desk.workers.pool.close()
        self.desk.workers.store.clear()
        self.turn(33.0)
        pictures = self.bench.renderer
        wait_for(lambda: pictures.all_ready, "all frames are tried")
        self.assertIn("gone.mp4 cannot be opened: there is no such file", pictures.fault(-5))
        self.assertTrue(pictures.is_ready(5), "the other clip's frames are there")
        self.assertTrue(any("gone.mp4" in x for x in self.faults))
        shutil.copy(demo_clip("box_kite"), path)
        self.try_clip("outgoing", path)
        wait_for(lambda: pictures.is_ready(-5), "the frames are back")
        self.assertIsNone(pictures.fault(-5))
