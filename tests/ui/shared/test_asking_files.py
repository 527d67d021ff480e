import tempfile
import unittest
from pathlib import Path
from unittest import mock

from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from tests.ui.window_case import application
from wrinkle.ui.shared.asking_files import Asking, FileEnding

ENDINGS = (FileEnding(".otio", "Timeline"), FileEnding(".otioz", "Timeline with its media"))
ASKED = "wrinkle.ui.shared.asking_files.ask"


class Goals(unittest.TestCase):
    def setUp(self) -> None:
        application()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder, self.asking, self.over = Path(folder.name), Asking(), QWidget()

    def goal(self, typed: str, chosen: str = ENDINGS[0].filter, name: str = "five") -> Path | None:
        answer = (str(self.folder / typed) if typed else "", chosen)
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=answer) as asked:
            found = self.asking.goal(self.over, "Save", "piece", name, ENDINGS)
        self.proposed = Path(asked.call_args.args[2])
        return found

    def test_a_name_gets_the_chosen_ending_once(self) -> None:
        for typed, chosen, wanted in (
            ("a", 0, "a.otio"), ("a", 1, "a.otioz"), ("a.otioz", 0, "a.otioz"),
            ("a.OTIO", 1, "a.OTIO"), ("v1.2", 0, "v1.2.otio"),
        ):  # fmt: skip
            with self.subTest(typed):
                self.assertEqual(self.goal(typed, ENDINGS[chosen].filter), self.folder / wanted)
        self.assertIsNone(self.goal(""))

    def test_the_proposal_is_a_name_and_no_way_to_another_folder(self) -> None:
        self.asking.remember("piece", str(self.folder))
        for name, wanted in (("a/../b", "a-..-b.otio"), ("  ", "untitled.otio"), (".x", "x.otio")):
            self.goal("a", name=name)
            self.assertEqual(self.proposed, self.folder / wanted)

    def test_what_is_there_under_the_full_name_is_asked_about(self) -> None:
        (self.folder / "a.otio").write_text("mine")
        for answer, wanted in (
            (QMessageBox.StandardButton.Cancel, None),
            (QMessageBox.StandardButton.Save, self.folder / "a.otio"),
        ):
            with mock.patch(ASKED, return_value=answer) as asked:
                self.assertEqual(self.goal("a"), wanted)
            self.assertIn("a.otio is there already", asked.call_args.args[2])
        # The dialog itself has asked about a name that was typed whole.
        with mock.patch(ASKED) as asked:
            self.assertEqual(self.goal("a.otio"), self.folder / "a.otio")
        asked.assert_not_called()

    def test_footage_that_is_open_is_no_goal(self) -> None:
        clip = self.folder / "clip.otio"
        clip.write_text("footage")
        (self.folder / "link.otio").symlink_to(clip)
        self.asking.footage = lambda: [clip]
        for typed in ("clip.otio", "link.otio"):
            with mock.patch(ASKED) as asked:
                self.assertIsNone(self.goal(typed))
            self.assertIn(f"{typed} is what would be read", asked.call_args.args[2])
        self.assertEqual(self.goal("other.otio"), self.folder / "other.otio")

    def test_each_kind_begins_where_it_was_used_last(self) -> None:
        first = self.asking.folder_of("piece")
        self.assertTrue(Path(first).is_dir())
        self.goal("a")
        self.assertEqual(self.asking.folder_of("piece"), str(self.folder))
        self.assertNotEqual(self.asking.folder_of("clip"), str(self.folder))
        path = str(self.folder / "sub" / "gone.mp4")
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(path, "")):
            self.asking.file(self.over, "Choose", "piece", "")
        self.assertTrue(Path(self.asking.folder_of("piece")).is_dir(), "a folder that is gone")
