"""Preferences: each choice counts at once and comes back; keys that collide are said."""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.ui.window_case import WindowCase, settle
from wrinkle.core.picture.image import Size
from wrinkle.ui import less_motion, text_size, theme
from wrinkle.ui.dialogs.key_sheet import KeySheet
from wrinkle.ui.dialogs.preferring.preferences_dialog import PreferencesDialog
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.theme import ThemeChoice


class Preferring(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.act("edit.preferences")
        dialog = self.window.findChild(PreferencesDialog)
        assert dialog is not None
        self.dialog = dialog
        self.pages = dialog.pages

    def tearDown(self) -> None:
        less_motion.choose(self.app, False)
        text_size.choose(self.app, text_size.AS_DRAWN)
        theme.apply(self.app, ThemeChoice.LINEN)

    def again(self) -> Preferences:
        """As the next start finds them."""
        return Preferences(self.folder / "preferences")

    def test_the_look_is_seen_at_once_and_kept(self) -> None:
        look = self.pages["Look"]
        look.theme.setCurrentIndex(look.theme.findData(ThemeChoice.CHALK))
        look.theme.activated.emit(look.theme.currentIndex())
        look.text.setValue(130)
        look.less_motion.click()
        self.assertIs(theme.active(), theme.CHALK)
        self.assertEqual(QApplication.font().pixelSize(), 17)
        self.assertFalse(less_motion.moves(self.window))
        found = self.again()
        self.assertEqual(
            (found.theme, found.text, found.less_motion), (ThemeChoice.CHALK, 130, True)
        )

    def test_new_ones_begin_with_the_chosen_frame(self) -> None:
        page = self.pages["New documents"]
        page.follows.click()
        page.size_box.setCurrentText("1920×1080")
        page.rate_box.setCurrentText("25")
        page.rate_box.activated.emit(0)
        before = self.desk.document.state
        self.assertEqual(self.desk.document.state, before, "what is open keeps its own")
        self.desk.document.start_new()
        self.desk.piece.start_new()
        state = self.desk.document.state
        self.assertEqual(
            (tuple(state.reference_size), state.frame_rate.label), ((1920, 1080), "25")
        )
        self.assertEqual(self.desk.piece.state.size, Size(1920, 1080))
        self.assertFalse(self.desk.document.frame_follows)
        page.rate_box.setCurrentText("much")
        page.rate_box.activated.emit(0)
        self.assertIn("much", page.fault.text())
        self.assertEqual(self.again().new_frame.rate.label, "25")  # type: ignore[union-attr]

    def test_versions_and_recent_files_are_kept(self) -> None:
        files = self.pages["Files"]
        files.versions.setValue(9)
        path = self.folder / "mine.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        self.assertEqual((self.again().versions, self.again().recent), (9, (path,)))
        menu = self.window.menus.menus["Open a recent file"]
        menu.aboutToShow.emit()
        self.assertEqual([x.text() for x in menu.actions()], ["mine.wrinkle"])
        files.forget.click()
        self.assertEqual(self.again().recent, ())

    def choose(self, words: str) -> None:
        self.pages["Keys"].search.setText(words)

    def press(self, keys: str) -> None:
        page = self.pages["Keys"]
        page.pressed.setKeySequence(QKeySequence(keys))

    def test_a_key_is_changed_and_a_collision_is_said(self) -> None:
        keys, actions = self.pages["Keys"], self.window.menus.actions
        self.dialog.show_page("Keys")
        self.choose("Set a pin here")
        self.press("S")
        self.assertIn("“Split here”", keys.words.text())
        self.press("B")
        self.assertIn("held", keys.words.text())
        self.assertFalse(keys.take.isEnabled())
        self.press("Ctrl+K")
        self.assertIn("free", keys.words.text())
        keys.take.click()
        self.assertEqual(actions["bench.pin-here"].shortcut().toString(), "Ctrl+K")
        self.press("S")
        keys.take.click()
        self.assertEqual(actions["bench.split"].shortcut().toString(), "")
        self.assertEqual(actions["piece.split"].shortcut().toString(), "S", "of another place")
        self.dialog.close()
        self.desk.looking.select_layer("turn")
        pins = len(self.desk.document.state.layer("turn").placement.rotation.track.keys)  # type: ignore[union-attr]
        self.desk.looking.set_playhead(-6)
        self.bench.setFocus()
        QTest.keyClick(self.bench, Qt.Key.Key_S)
        track = self.desk.document.state.layer("turn").placement.rotation.track
        self.assertEqual(len(track.keys), pins + 1)  # type: ignore[union-attr]
        self.assertEqual(dict(self.again().keys)["bench.split"], ())
        self.act("edit.preferences")
        page = self.window.findChildren(PreferencesDialog)[-1].pages["Keys"]
        page.all_own.click()
        self.assertEqual(actions["bench.split"].shortcut().toString(), "S")
        self.assertEqual(dict(self.again().keys), {})

    def test_the_sheet_of_keys_fits_a_small_window_and_is_searched(self) -> None:
        self.dialog.close()
        self.window.resize(1024, 700)
        self.act("help.keys")
        sheet = self.window.findChild(KeySheet)
        assert sheet is not None
        settle()
        self.assertLessEqual(sheet.width(), 1024)
        self.assertLessEqual(sheet.height(), 700)
        for bar in (sheet.sheet.horizontalScrollBar(), sheet.sheet.verticalScrollBar()):
            self.assertEqual(bar.maximum(), 0)  # type: ignore[union-attr]
        self.assertIn("Next pin", sheet.sheet.toPlainText())
        QTest.keyClicks(sheet.field, "nudge")
        text = sheet.sheet.toPlainText()
        self.assertIn("Alt+Left", text)
        self.assertNotIn("Next pin", text)
