"""A button says, shows and does what its action does, wherever the action is done from."""

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMenu

from tests.ui.window_case import LEFT, WindowCase


class Buttons(WindowCase):
    def test_a_button_says_what_it_does_and_its_key(self) -> None:
        transport = self.bench.transport
        for name, button in transport.buttons.items():
            with self.subTest(name):
                action = self.window.menus.actions[f"bench.{name}"]
                self.assertIs(button.defaultAction(), action)
                self.assertEqual(button.toolTip(), action.toolTip())
        loop = transport.buttons["loop"]
        self.assertEqual((loop.text(), loop.isChecked()), ("Loop", False))
        self.assertIn("Plays the window in a loop", loop.toolTip())
        self.assertIn("(Space)", loop.toolTip())
        checks = self.window.places.place("checks")
        self.assertIn("(Ctrl+Return)", checks.mending.mend_button.toolTip())

    def test_key_menu_and_button_show_the_same_state(self) -> None:
        blur, sheet = (self.bench.transport.buttons[x] for x in ("blur", "sheet"))
        for act in (
            lambda: QTest.mouseClick(blur, LEFT),
            lambda: QTest.keyClick(self.window, Qt.Key.Key_M),
            lambda: self.desk.looking.show_motion_blur(False),
        ):
            before = blur.isChecked()
            act()
            self.assertNotEqual(blur.isChecked(), before)
            self.assertEqual(blur.isChecked(), self.desk.looking.motion_blur_shown)
        QTest.mouseClick(sheet, LEFT)
        self.assertTrue(sheet.isChecked())
        self.act("bench.sheet")
        self.assertFalse(sheet.isChecked())
        self.act("bench.loop")
        loop = self.bench.transport.buttons["loop"]
        self.assertEqual((loop.text(), loop.isChecked()), ("Stop", True))
        self.window.places.go_to("cutlist")
        self.assertEqual((loop.text(), loop.isChecked()), ("Loop", False))

    def test_a_button_of_what_cannot_be_done_says_why(self) -> None:
        self.window.places.go_to("cutlist")
        place = self.window.places.place("cutlist")
        place.watch.buttons["piece.play"].click()
        self.assertIn("Add clips first", self.window.status.said)
        self.assertFalse(place.watch.buttons["piece.play"].isChecked())
        self.with_own_data()
        self.window.places.go_to("collection")
        shelf = self.window.places.place("collection").wrinkles
        shelf.tiles.point_at("shipped/smooth_turn")
        shelf.panel.favourite.click()
        self.assertTrue(shelf.panel.favourite.isChecked())
        menu = shelf.panel.more.menu()
        assert isinstance(menu, QMenu)
        menu.aboutToShow.emit()
        entries = {x.text(): x for x in menu.actions()}
        rename = entries["Rename the wrinkle…"]
        self.assertFalse(rename.isEnabled())
        self.assertIn("What ships stays as it is", rename.toolTip())
        self.assertTrue(entries["Duplicate"].isEnabled())
        menu.aboutToHide.emit()
        self.assertTrue(rename.isEnabled(), "its key says why")

    def test_drawings_are_in_the_ink_of_the_theme(self) -> None:
        action = self.window.menus.actions["bench.pin-here"]
        linen = action.icon().cacheKey()
        self.act("theme.lampblack")
        self.assertNotEqual(action.icon().cacheKey(), linen)
        self.act("theme.linen")
        self.assertEqual(action.icon().cacheKey(), linen)
