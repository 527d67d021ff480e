"""Music under a piece, by the dialog: chosen, heard, listened to, and cuts put on its beats."""

from fractions import Fraction
from pathlib import Path

import numpy as np
from PyQt6.QtTest import QTest

from tests.core.sound.test_beats import drums
from tests.media.sounds import write_sound
from tests.ui.cutlist.test_cutlist import PieceCase
from tests.ui.window_case import LEFT, type_into, wait_for
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.piece import dressing
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.sound.joins import JOINS, SoundJoin
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.media.sound_file import SoundFile
from wrinkle.timeline.files import read_piece
from wrinkle.ui.cutlist.piece_looking import Row
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.dialogs.preferring.sound_page import SoundPage
from wrinkle.ui.preferences import Preferences


class Music(PieceCase):
    def setUp(self) -> None:
        super().setUp()
        samples, self.beats = drums(100.0, swung=False)
        self.tune = write_sound(
            self.folder / "tune.wav", "pcm_s16le", SAMPLE_RATE, samples=samples[:, 0]
        )

    def with_music(self, path: Path) -> None:
        self.cutlist.music.take(path)
        wait_for(lambda: self.cutlist.music.beats is not None, "it is listened to")

    def test_it_is_chosen_set_and_heard_and_taken_away(self) -> None:
        self.act("piece.music")
        dialog = self.cutlist.show_music()
        self.assertFalse(dialog.level.isEnabled())
        self.with_music(self.tune)
        self.assertEqual(dialog.file.text(), "tune.wav")
        self.assertIn("100.0 a minute", dialog.tempo.text())
        for field, typed in (
            (dialog.level, "-12"), (dialog.start, "0.5"), (dialog.gives_way, "0"),
            (dialog.fall, "0.25"), (dialog.at, "15"),
        ):  # fmt: skip
            type_into(field, typed)
        bed = self.piece.bed
        assert bed is not None
        self.assertEqual((bed.level, bed.gives_way), (-12.0, 0.0))
        self.assertEqual(
            (bed.start, bed.fall, bed.at), (Fraction(1, 2), Fraction(1, 4), Fraction(1, 2))
        )
        heard = self.cutlist.sound.heard
        assert heard is not None
        found = heard.samples(0, SAMPLE_RATE)
        self.assertFalse(found[: SAMPLE_RATE // 2].any())
        self.assertTrue(found[SAMPLE_RATE // 2 :].any())
        # As loud as is typed when it is written.
        wait_for(lambda: self.cutlist.music.loudness is not None, "it is measured")
        self.assertIn("LUFS", dialog.measured.text())
        QTest.mouseClick(dialog.made, LEFT)
        type_into(dialog.target, "-20")
        self.assertEqual(self.piece.loudness, -20.0)
        path = self.folder / "piece.otio"
        self.desk.piece.save(path)
        self.assertEqual(read_piece(path)[0].bed, self.piece.bed)
        dialog.remove_button.click()
        self.assertIsNone(self.piece.bed)
        self.act("edit.undo")
        self.assertEqual(self.piece.bed, bed)
        dialog.close()

    def test_cuts_are_put_on_beats_in_one_step_that_says_which(self) -> None:
        self.trimmed()
        told: list[str] = []
        self.desk.messages.told.connect(told.append)
        self.with_music(self.tune)
        dialog, music = self.cutlist.show_music(), self.cutlist.music
        rate = float(self.piece.rate.per_second)
        wanted = [
            round(beat * rate) for beat in self.beats if beat * rate <= self.piece.frame_count
        ]
        self.assertLessEqual(len(set(wanted) ^ set(music.frames)), 4)
        type_into(dialog.reach, "9")
        before = self.piece.starts
        dialog.snap_all.click()
        moved = [cut for cut in self.piece.starts[1:-1] if cut not in before]
        self.assertTrue(moved)
        self.assertTrue(set(moved) <= set(music.frames))
        self.assertRegex(told[-1], r"^Cuts moved: 1 by [+−]\d+")
        self.assertEqual(self.piece.starts[-1], before[-1])
        self.act("edit.undo")
        self.assertEqual(self.piece.starts, before)
        # One of them alone, and with half of the beats, and the others of those.
        self.cutlist.looking.go_to(Row.CUT, self.piece.clips[1].id)
        dialog.snap_one.click()
        self.assertNotEqual(self.piece.starts[1], before[1])
        self.assertEqual(self.piece.starts[2], before[2])
        every = music.frames
        dialog.half.click()
        self.assertEqual(music.frames, every[::2])
        dialog.other.click()
        self.assertEqual(music.frames, every[1::2])
        dialog.twice.click()
        self.assertEqual(music.frames, every)
        type_into(dialog.moved, "0.1")
        self.assertEqual(music.frames[0], every[0] + 3)
        dialog.close()

    def test_how_the_clips_meet_at_a_cut_is_chosen(self) -> None:
        use = PieceUse(Bundle(plain_cut()))
        self.desk.piece.edit("dress", lambda piece: dressing.on_every(piece, use))
        self.cutlist.looking.go_to(Row.CUT, self.piece.clips[1].id)
        field = self.cutlist.cut_panel.controls.join
        self.assertFalse(field.frames.isVisibleTo(field))
        field.kind.setCurrentIndex(field.kind.findData("late"))
        field.kind.activated.emit(field.kind.currentIndex())
        type_into(field.frames, "9")
        entry = self.piece.clips[1].entry
        assert entry is not None
        self.assertEqual(entry.choices.join, SoundJoin("late", 9))
        self.assertEqual(field.kind.toolTip(), JOINS["late"].about)
        path = self.folder / "joined.otio"
        self.desk.piece.save(path)
        read = read_piece(path)[0].clips[1].entry
        assert read is not None
        self.assertEqual(read.choices.join, SoundJoin("late", 9))
        self.act("edit.undo")
        again = self.piece.clips[1].entry
        assert again is not None
        self.assertEqual(again.choices.join.kind, "late")
        self.assertEqual(again.choices.join.frames, 6)

    def test_how_sound_is_played_is_chosen_and_kept(self) -> None:
        self.act("sound.settings")
        dialog = self.window.findChild(SoundPage)
        assert dialog is not None
        dialog.level.setValue(40)
        dialog.slow.click()
        self.act("sound.mute")
        self.assertEqual(self.desk.sound.factor, 0.0)
        self.act("sound.mute")
        self.assertAlmostEqual(self.desk.sound.factor, 0.16)
        dialog.close()
        other = Desk.made()
        self.addCleanup(other.workers.stop)
        Preferences(self.folder / "preferences").serve(other)
        self.assertEqual(
            (other.sound.level, other.sound.slow, other.sound.muted), (40.0, True, False)
        )

    def test_a_file_of_sound_that_is_dropped_becomes_music(self) -> None:
        count = len(self.piece.clips)
        self.drop(self.tune, self.order.viewport().rect().center())
        wait_for(lambda: self.piece.bed is not None, "it lies under the piece")
        self.assertEqual(len(self.piece.clips), count)
        self.assertEqual(self.faults, [])

    def test_music_goes_with_a_bundle(self) -> None:
        self.with_music(self.tune)
        bundle = self.folder / "all.otioz"
        self.desk.piece.save(bundle)
        self.tune.unlink()
        bed = read_piece(bundle)[0].bed
        assert bed is not None
        self.assertTrue(Path(bed.media.path).is_file())
        self.assertEqual(SoundFile.read(Path(bed.media.path)).duration, bed.media.duration)

    def test_what_is_no_music_is_said_and_silence_has_no_beats(self) -> None:
        (self.folder / "words.mp3").write_text("words")
        self.cutlist.music.take(self.folder / "words.mp3")
        wait_for(lambda: bool(self.faults), "it is said")
        self.assertIn("words.mp3 cannot be read as a sound", self.faults[-1])
        self.cutlist.music.take(self.path_of("pier"))
        wait_for(lambda: "no sound in it" in self.faults[-1], "a silent clip is no music")
        self.assertIsNone(self.piece.bed)
        self.cutlist.music.snap(6)
        self.assertIn("No beats are known yet", self.faults[-1])
        silent = self.folder / "silent.flac"
        write_sound(silent, "flac", SAMPLE_RATE, samples=np.zeros(6 * SAMPLE_RATE))
        self.with_music(silent)
        dialog = self.cutlist.show_music()
        self.assertEqual(dialog.tempo.text(), "No beats in it.")
        self.assertFalse(dialog.snap_all.isEnabled())
        dialog.close()
