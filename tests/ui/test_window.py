"""The window's frame: places, menus and keys, themes, files, first steps."""

import gc
import weakref
from collections import Counter
from unittest import mock

import numpy as np
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QFileDialog, QMessageBox

from tests.turning import QUARTER_TURN
from tests.ui.null_device import NullDevice
from tests.ui.window_case import LEFT, WindowCase, close_for_good, demo_clip, settle, wait_for
from wrinkle.core.design.document.wrinkle import plain_cut
from wrinkle.core.picture.image import Size
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui import theme
from wrinkle.ui.actions.menus import ORDER
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.dialogs.key_sheet import KeySheet
from wrinkle.ui.dialogs.preferring.preferences_dialog import PreferencesDialog
from wrinkle.ui.place import WrinkleWanted
from wrinkle.ui.places import PLACES
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.start import load_soon
from wrinkle.ui.theme import ThemeChoice
from wrinkle.ui.window import Window


class Frame(WindowCase):
    def test_the_five_places_are_reached(self) -> None:
        for place in PLACES.values():
            self.act(f"place.{place.key}")
            self.assertIs(self.window.places.currentWidget(), self.window.places.place(place.key))
            self.assertEqual(self.window.places.shown_key, place.key)
            takes = self.window.places.shown.takes()
            self.assertEqual(set(takes), set(place.takes), "it takes what it declares")

    def test_leaving_the_bench_stops_the_loop(self) -> None:
        self.key(Qt.Key.Key_Space)
        self.assertTrue(self.bench.player.playing)
        self.act("place.export")
        self.assertFalse(self.bench.player.playing)

    def test_no_key_is_given_twice_and_all_are_on_the_sheet(self) -> None:
        for place in (*PLACES, "bench"):
            self.window.places.go_to(place)
            keys = [
                shortcut.toString()
                for action in self.window.menus.actions.values()
                for shortcut in action.shortcuts()
                if action.isVisible()
            ]
            keys += [held.key for held in self.window.places.shown.held_keys()]
            twice = [key for key, count in Counter(keys).items() if count > 1]
            self.assertEqual(twice, [], place)
        self.act("help.keys")
        sheet = self.window.findChild(KeySheet)
        for word in ("Space", "Ctrl+1", "Home", "Plain cut"):
            self.assertIn(word, sheet.sheet.toPlainText())
        sheet.close()

    def test_own_keys_the_button_that_has_the_focus(self) -> None:
        button = self.bench.transport.buttons["blur"]
        button.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        button.setFocus()
        QTest.keyClick(button, Qt.Key.Key_Space)
        self.assertFalse(button.isChecked())
        self.assertFalse(self.bench.player.playing)

    def test_a_theme_is_chosen_and_kept(self) -> None:
        light = theme.active().ground
        self.window.set_theme(ThemeChoice.LAMPBLACK)
        self.assertNotEqual(theme.active().ground, light)
        kept = Preferences(self.folder / "preferences")
        self.assertIs(kept.theme, ThemeChoice.LAMPBLACK)
        app = QApplication.instance()
        self.assertEqual(app.font().family(), "Open Sans")
        self.window.set_theme(ThemeChoice.LINEN)
        self.assertEqual(theme.active().ground, light)

    def test_every_control_has_a_name_that_can_be_read_out(self) -> None:
        from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit

        nameless = [
            widget
            for kind in (QAbstractButton, QComboBox, QLineEdit)
            for widget in self.window.findChildren(kind)
            if widget.isVisible()
            and not widget.accessibleName()
            and not getattr(widget, "text", str)()
        ]
        self.assertEqual(nameless, [])

    def test_undo_names_its_step(self) -> None:
        undo = self.window.menus.actions["edit.undo"]
        self.assertFalse(undo.isEnabled())
        self.bench.stack.cards[0].eye.click()
        self.assertEqual(undo.text(), "Undo layer shown")
        self.assertEqual(undo.toolTip(), "Undo layer shown: Takes the last step back. (Ctrl+Z)")
        undo.trigger()
        self.assertEqual(self.window.menus.actions["edit.redo"].text(), "Redo layer shown")

    def test_the_status_line_says_where_one_is(self) -> None:
        self.desk.looking.set_playhead(-3)
        self.assertRegex(self.window.status.said, r"^Frame −3 · rotation 3\d\.\d+°$")
        self.desk.looking.set_playhead(0)
        self.assertEqual(self.window.status.said, "Frame 0 · rotation −90°")


class FirstSteps(WindowCase):
    def test_the_first_clip_of_an_untouched_wrinkle_says_the_frame(self) -> None:
        desk = Desk.made()
        self.addCleanup(desk.workers.stop)
        wide = demo_clip("dunes", Size(192, 108), 60)
        desk.tried.try_clip("incoming", wide)
        wait_for(lambda: "incoming" in desk.tried.clips, "the incoming clip")
        self.assertEqual(desk.document.state.frame_rate.label, "60")
        self.assertEqual(tuple(desk.document.state.reference_size), (192, 108))
        desk.tried.try_clip("outgoing", demo_clip("pier"))
        wait_for(lambda: "outgoing" in desk.tried.clips, "the outgoing clip")
        self.assertEqual(desk.document.state.frame_rate.label, "60")
        desk.steps.undo()
        desk.steps.undo()
        self.assertEqual(desk.document.state, plain_cut())

    def test_a_clip_is_dropped_on_its_side(self) -> None:
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(demo_clip("dunes")))])
        event = QDropEvent(
            QPointF(20, 20), Qt.DropAction.CopyAction, mime, LEFT, Qt.KeyboardModifier.NoModifier
        )
        self.bench.incoming.dropEvent(event)
        self.wait_for_clip("incoming", "dunes")
        self.assertEqual(self.desk.tried.clips["incoming"].source.name, "dunes")
        self.desk.steps.undo()
        self.assertEqual(self.desk.tried.clips["incoming"].source.name, "pier")

    def wait_for_clip(self, slot: str, name: str) -> None:
        wait_for(lambda: self.desk.tried.clips[slot].source.name == name, f"{name} in its slot")

    def test_a_clip_is_chosen_by_its_title(self) -> None:
        path = str(demo_clip("dunes"))
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(path, "")):
            self.bench.outgoing.choose()
        self.wait_for_clip("outgoing", "dunes")
        self.assertEqual(self.desk.tried.clips["outgoing"].source.name, "dunes")

    def test_a_missing_handle_is_said_under_the_clip(self) -> None:
        self.desk.tried.set_cut("outgoing", self.desk.document.state.frame_rate.seconds(5))
        caption = self.bench.outgoing.caption()
        self.assertIn("7 frames missing before the cut", caption)
        self.desk.steps.undo()
        self.assertIn("to spare", self.bench.outgoing.caption())

    def test_a_shipped_wrinkle_opens_on_the_clips_that_are_there(self) -> None:
        clips = self.desk.tried.clips
        self.window.router.pass_on(WrinkleWanted(shipped()["plain_push"], as_copy=True))
        self.assertEqual(self.desk.document.state.name, "Plain push")
        self.assertEqual(self.desk.tried.clips, clips)
        self.assertFalse(self.desk.document.unsaved)
        self.assertIsNone(self.desk.document.path)
        self.all_ready()

    def test_a_name_without_an_ending_gets_one(self) -> None:
        name = str(self.folder / "mine")
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(name, "")):
            self.assertTrue(self.window.file.save())
        self.assertTrue((self.folder / "mine.wrinkle").exists())
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=("", "")):
            self.assertFalse(self.window.file.save_as())

    def test_closing_asks_about_unsaved_work(self) -> None:
        self.bench.stack.cards[0].eye.click()
        buttons = QMessageBox.StandardButton
        with mock.patch.object(QMessageBox, "exec", return_value=buttons.Cancel):
            self.assertFalse(self.window.close())
        self.assertTrue(self.window.isVisible())

    def test_the_source_pictures_follow_the_playhead_on_their_own_side(self) -> None:
        view = self.bench.outgoing
        self.desk.looking.set_playhead(-12)
        early = self.picture_of(view)
        self.desk.looking.set_playhead(-1)
        late = self.picture_of(view)
        self.assertNotEqual(early, late)
        self.desk.looking.set_playhead(8)
        settle()
        self.assertEqual(self.picture_of(view), late, "after the cut the last frame stays")

    def picture_of(self, view) -> bytes:  # type: ignore[no-untyped-def]
        """The clip's picture, once it is read: until then its place is of one colour."""

        def grabbed() -> np.ndarray:
            image = view.picture.grab().toImage()
            bits = image.constBits().asarray(image.sizeInBytes())
            return np.frombuffer(bytes(bits), np.uint32)

        wait_for(lambda: len(np.unique(grabbed())) > 100, "a picture")
        return grabbed().tobytes()


class Places(WindowCase):
    def test_each_is_made_when_it_is_wanted_and_stands_in_the_menus_where_it_belongs(self) -> None:
        self.assertEqual(list(self.window.places), [self.bench])
        self.desk.piece.show_copy(DEMO_PIECE)
        self.act("place.cutlist")
        cut_list = self.window.places.place("cutlist")
        self.assertEqual(list(self.window.places), [self.bench, cut_list])
        self.assertIn("8 clips", cut_list.facts_label.text())
        self.assertTrue(cut_list.looking.current, "a cut is chosen at once")
        # Backwards, so that each comes before those that are there.
        self.act("place.export")
        self.act("place.checks")
        menus = self.window.menus
        entries = list(menus.entries)
        self.assertEqual(len(list(self.window.places)), len(PLACES), "who asks for all has all")
        shown = [name for name in ORDER if menus.menus[name].menuAction().isVisible()]  # type: ignore[union-attr]
        bar = [x.text() for x in self.window.menuBar().actions() if x.isVisible()]  # type: ignore[union-attr]
        self.assertEqual(bar, shown)
        for name in ORDER:
            stands = [x.objectName() for x in menus.menus[name].actions()]
            stands = [x for x in stands if x in menus.actions]
            wanted = [x.action.id for x in entries if x.action.menu == name and not x.action.under]
            self.assertEqual(stands, wanted, name)

    def test_keys_of_a_place_act_only_while_it_is_shown(self) -> None:
        self.with_own_data()
        self.desk.looking.select_layer("outgoing")
        self.desk.looking.set_playhead(-6)
        before = self.desk.document.state
        self.act("place.collection")
        tiles = self.window.places.place("collection").wrinkles.tiles
        tiles.setFocus()
        for key in (Qt.Key.Key_S, Qt.Key.Key_Space, Qt.Key.Key_K, Qt.Key.Key_Left):
            QTest.keyClick(tiles, key)
        QTest.keyPress(tiles, Qt.Key.Key_B)
        self.assertEqual(self.desk.document.state, before)
        self.assertFalse(self.bench.player.playing or self.desk.looking.plain_shown)
        self.assertEqual(self.desk.looking.playhead, -6)
        layer = next(x for x in self.window.menuBar().actions() if x.text() == "Layer")
        self.assertFalse(layer.isVisible())
        self.act("place.bench")
        self.assertTrue(layer.isVisible())
        self.key(Qt.Key.Key_S)
        self.assertEqual(len(self.desk.document.state.layers), len(before.layers) + 1)

    def test_a_broken_shipped_wrinkle_is_told_and_the_others_are_there(self) -> None:
        broken = self.folder / "broken"
        broken.mkdir()
        found = {"broken": broken, **shipped()}
        with mock.patch("wrinkle.library.shipped", return_value=found):
            menu = self.window.menus.menus["Open a shipped wrinkle"]
            menu.aboutToShow.emit()
        self.assertEqual(len(menu.actions()), len(found) - 1)
        self.assertIn("Plain push", [x.text() for x in menu.actions()])
        self.assertIn("broken cannot be opened", self.faults[-1])

    def test_while_it_plays_only_what_moves_with_the_playhead_is_shown_anew(self) -> None:
        self.all_ready()
        with (
            mock.patch.object(type(self.bench.stack), "refresh") as stack,
            mock.patch.object(type(self.bench.timeline), "refresh") as timeline,
        ):
            self.bench.player.play(-3)
            wait_for(lambda: self.desk.looking.playhead > 1, "some frames")
            self.assertFalse(stack.called or timeline.called)
            self.assertEqual(self.bench.timeline.strip.playhead, self.desk.looking.playhead)
        self.bench.player.stop()
        shown = self.bench.timeline.rows[0].canvas.playhead
        self.assertEqual(shown, self.desk.looking.playhead)
        self.assertIn("rotation", self.window.status.said)

    def test_nothing_of_a_closed_window_is_left(self) -> None:
        before = len(self.app.allWidgets())
        desk = Desk.made(output=NullDevice)
        desk.document.open_copy(read(QUARTER_TURN))
        window = Window(desk, Preferences(self.folder / "others"))
        window.show()
        window.places.make_all()
        settle()
        self.assertGreater(len(self.app.allWidgets()), before + 500)
        desk.workers.stop()
        close_for_good(window)
        self.assertEqual(len(self.app.allWidgets()), before)

    def test_what_was_loaded_is_not_looked_through_again_and_what_comes_later_is(self) -> None:
        self.with_own_data()
        self.addCleanup(gc.unfreeze)
        with mock.patch("wrinkle.core.picture.compiled.load"):
            load_soon(self.desk)
            wait_for(lambda: gc.get_freeze_count() > 0, "all is loaded")
        kept = gc.get_freeze_count()
        self.assertLess(len(gc.get_objects()), kept)
        ring = Counter[object]()
        ring["itself"] = ring
        gone = weakref.ref(ring)
        del ring
        gc.collect()
        self.assertIsNone(gone())

    def test_the_memory_for_pictures_is_chosen_and_kept(self) -> None:
        self.act("edit.preferences")
        dialog = self.window.findChild(PreferencesDialog)
        assert dialog is not None
        dialog.pages["Memory"].most.setValue(256)  # type: ignore[attr-defined]
        self.assertEqual(self.desk.workers.store.budget, 256 << 20)
        self.assertEqual(Preferences(self.folder / "preferences").memory, 256 << 20)
