"""Preferences: plain text, written whole, and a damaged file does no harm."""

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QByteArray

from tests.ui.window_case import application
from wrinkle.core.store import DEFAULT_BUDGET
from wrinkle.files.presence import is_there
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window


class Kept(unittest.TestCase):
    def test_what_was_chosen_comes_back(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "deep" / "config"
            chosen = Preferences(folder)
            chosen.theme, chosen.memory = ThemeChoice.LAMPBLACK, 512 << 20
            chosen.geometry = QByteArray(b"\0\1\xff")
            desk, other = Desk.made(), Desk.made()
            self.addCleanup(desk.workers.stop)
            self.addCleanup(other.workers.stop)
            chosen.keep_handles({"bench.lanes": QByteArray(b"\0\2\xfe")})
            chosen.serve(desk)
            desk.asking.remember("wrinkle", name)
            desk.piece.set_still(Fraction(2))
            found = Preferences(folder)
            found.serve(other)
            self.assertEqual(
                (found.theme, found.memory, found.geometry.data()),
                (ThemeChoice.LAMPBLACK, 512 << 20, b"\0\1\xff"),
            )
            self.assertEqual(found.handles("bench.lanes"), QByteArray(b"\0\2\xfe"))
            self.assertIsNone(found.handles("bench.stack"))
            self.assertEqual((other.asking.folder_of("wrinkle"), other.piece.still), (name, 2))
            self.assertEqual([x.name for x in folder.iterdir()], ["preferences.json"])

    def test_values_that_cannot_be_are_held_within_what_can(self) -> None:
        content = (
            b'{"text": 9999, "frame": "huge", "rate": "x", "versions": -4, "first_step": 99, '
            b'"keys": {"none": ["S"], "bench.split": ["Ctrl+Ctrl", ""]}, '
            b'"recent": ["\\u0000", "/nowhere/at/all.wrinkle"]}'
        )
        with tempfile.TemporaryDirectory() as name:
            (Path(name) / "preferences.json").write_bytes(content)
            found = Preferences(Path(name))
            self.assertEqual((found.fault, found.text, found.versions), ("", 150, 1))
            self.assertFalse(found.is_new)
            self.assertTrue(Preferences(Path(name) / "another").is_new)
            self.assertIsNone(found.new_frame)
            self.assertFalse(any(is_there(path) for path in found.recent))
            application()
            desk = Desk.made()
            self.addCleanup(desk.workers.stop)
            window = Window(desk, found)
            self.assertEqual(window.menus.actions["bench.freeze"].shortcut().toString(), "Z")
            window.menus.menus["Open a recent file"].aboutToShow.emit()
            window.take_first_steps()
            self.assertEqual(window.head.first_steps.number, 0)
            window.head.first_steps.end()
            desk.document.mark_saved()
            window.close()

    def test_a_damaged_or_hostile_file_counts_as_none(self) -> None:
        for content, fault in (
            (b"\xff\xfe", True), (b"[" * 100_000, True), (b'{"memory": "much"}', True),
            (b'{"theme": "none", "geometry": "???", "memory": -5, "unknown": 1}', False),
        ):  # fmt: skip
            with self.subTest(content[:20]), tempfile.TemporaryDirectory() as name:
                path = Path(name) / "preferences.json"
                path.write_bytes(content)
                found = Preferences(Path(name))
                self.assertEqual(found.theme, ThemeChoice.DESKTOP)
                self.assertIsNone(found.geometry)
                self.assertIn(found.memory, (DEFAULT_BUDGET, 128 << 20))
                self.assertEqual(bool(found.fault), fault)
                self.assertEqual(path.exists(), not fault)
                self.assertEqual(Preferences(Path(name)).fault, "", "it is told once")
