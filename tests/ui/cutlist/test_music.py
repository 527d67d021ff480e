"""Music under a piece, by the dialog: chosen, heard, listened to, and cuts put on its beats."""

from fractions import Fraction
from pathlib import Path

import numpy as np
from PyQt6.QtTest import QTest

from tests.core.sound.test_beats import drums
from tests.media.sounds import write_sound
from tests.ui.cutlist.test_cutlist import PieceCase
from tests.ui.window_case import LEFT, type_into, wait_for
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.timeline.files import read_piece
from wrinkle.ui.cutlist.piece_looking import Row


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

    def test_what_is_no_music_is_said_and_silence_has_no_beats(self) -> None:
        (self.folder / "words.mp3").write_text("words")
        self.cutlist.music.take(self.folder / "words.mp3")
        wait_for(lambda: bool(self.faults), "it is said")
        self.assertIn("words.mp3 cannot be read as a sound", self.faults[-1])
        self.cutlist.music.snap(6)
        self.assertIn("No beats are known yet", self.faults[-1])
        silent = self.folder / "silent.flac"
        write_sound(silent, "flac", SAMPLE_RATE, samples=np.zeros(6 * SAMPLE_RATE))
        self.with_music(silent)
        dialog = self.cutlist.show_music()
        self.assertEqual(dialog.tempo.text(), "No beats in it.")
        self.assertFalse(dialog.snap_all.isEnabled())
        dialog.close()
