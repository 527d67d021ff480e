"""The guide is walked to its end in the real window: by hand, and by keys alone."""

from unittest import mock

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QInputDialog, QWidget

from tests.ui.window_case import LEFT, WindowCase, drag, settle, type_into, wait_for
from wrinkle.ui.help.steps import STEPS
from wrinkle.ui.preferences import Preferences

K = Qt.Key
CTRL = Qt.KeyboardModifier.ControlModifier


class FirstSteps(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()
        self.window.activateWindow()
        self.guide = self.window.head.first_steps
        self.act("help.first-steps")
        wait_for(lambda: self.guide.target() is not None, "the first mark")
        wait_for(lambda: len(self.desk.tried.clips) == 2, "the clips")
        wait_for(lambda: self.guide.ready, "the guide")

    def reach(self, step: int, part: int) -> QWidget | None:
        """Waits for a part of a step; gives what is marked."""
        wait_for(
            lambda: (self.guide.number, self.guide.part_number) == (step, part), f"{step}, {part}"
        )
        where = self.guide.part.where  # type: ignore[union-attr]
        if where:
            wait_for(lambda: self.guide.mark.around is self.guide.target(), "the mark")
            wait_for(lambda: self.guide.target() is not None, f"a mark on {where}")
            self.assertTrue(self.guide.mark.isVisible())
        return self.guide.target()

    def named(self) -> mock._patch:  # type: ignore[type-arg]
        return mock.patch.object(QInputDialog, "getText", return_value=("Spool", True))

    def ended(self) -> None:
        wait_for(lambda: self.guide.number == len(STEPS), "all steps done")
        uses = [clip.entry for clip in self.desk.piece.state.clips]
        self.assertIn("Spool", [use.wrinkle.name for use in uses if use is not None])
        self.assertIn("eight steps are done", self.guide.title.text())

    def test_by_hand(self) -> None:
        strip = self.reach(0, 0)
        drag(strip, QPointF(60, 20), QPointF(90, 20))
        self.reach(1, 0)
        self.act("bench.add-treatment")
        type_into(self.reach(1, 1), "90")  # type: ignore[arg-type]
        QTest.mouseClick(self.reach(1, 2), LEFT)
        self.reach(2, 0)
        self.key(K.Key_V)
        self.reach(2, 1)
        geometry = self.bench.timeline.rows[0].canvas.geometry_now
        QTest.mouseClick(
            self.bench.timeline.rows[0].canvas, LEFT, pos=geometry.pins()[0].spot.toPoint()
        )
        self.pick(self.reach(2, 2), "snap")
        self.pick(self.reach(3, 0), "bare")
        self.pick(self.reach(3, 1), "mirror")
        type_into(self.reach(4, 0), "300")  # type: ignore[arg-type]
        QTest.mouseClick(self.reach(5, 0), LEFT)
        QTest.mouseClick(self.reach(5, 1), LEFT)
        self.reach(6, 0)
        with self.named():
            self.act("file.rename")
        self.reach(6, 1)
        self.act("file.keep")
        QTest.mouseClick(self.reach(7, 0), LEFT)
        field = self.reach(7, 1)
        QTest.mouseClick(field, LEFT)
        QTest.keyClicks(field, "Spool")
        tiles = self.window.places.place("cutlist").shelf.tiles
        wait_for(lambda: len(tiles.found) == 1, "the wrinkle found")
        tiles.setFocus()
        QTest.keyClick(tiles, K.Key_Return)
        self.ended()

    def pick(self, box: QWidget | None, word: str) -> None:
        assert isinstance(box, QComboBox)
        box.setCurrentIndex(box.findText(word))
        box.activated.emit(box.currentIndex())
        settle()

    def type(self, *keys: Qt.Key, with_: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier,
             ) -> None:  # fmt: skip
        for key in keys:
            settle()
            QTest.keyClick(QApplication.focusWidget() or self.window, key, with_)

    def led(self, step: int, part: int) -> None:
        """By Tab to the button that leads there, and pressed with Space."""
        self.reach(step, part)
        self.lead()
        wait_for(lambda: self.holds_focus(self.guide.target()), "the focus where it is marked")

    def holds_focus(self, widget: QWidget | None) -> bool:
        focus = QApplication.focusWidget()
        return widget is not None and focus is not None and focus in (
            widget, widget.focusProxy(), *widget.findChildren(QWidget)
        )  # fmt: skip

    def lead(self) -> None:
        for _ in range(300):
            if self.guide.lead_there.hasFocus():
                break
            self.type(K.Key_Tab)
        self.assertTrue(self.guide.lead_there.hasFocus(), "Tab leads to the guide")
        self.type(K.Key_Space)

    def find(self, words: str) -> None:
        """A command by its words."""
        self.type(K.Key_Slash)
        settle()
        QTest.keyClicks(QApplication.focusWidget(), words)
        self.type(K.Key_Return)
        # A desktop does so when a dialog closes.
        self.window.activateWindow()
        settle()

    def choose(self, word: str) -> None:
        """One of the choices of the box that has the focus."""
        box = QApplication.focusWidget()
        assert isinstance(box, QComboBox)
        for key in (K.Key_Home, *[K.Key_Down] * box.count()):
            self.type(key)
            if box.currentText() == word:
                break
        self.type(K.Key_Return)

    def test_by_keys_alone(self) -> None:
        self.led(0, 0)
        self.type(K.Key_Right)
        self.reach(1, 0)
        self.find("add a treatment")
        self.led(1, 1)
        QTest.keyClicks(QApplication.focusWidget(), "90")
        self.type(K.Key_Return)
        self.led(1, 2)
        self.type(K.Key_Space)
        self.reach(2, 0)
        self.type(K.Key_V)
        self.reach(2, 1)
        self.type(K.Key_Comma, K.Key_Comma)
        self.led(2, 2)
        self.choose("snap")
        self.led(3, 0)
        self.choose("bare")
        self.led(3, 1)
        self.choose("mirror")
        self.led(4, 0)
        QTest.keyClicks(QApplication.focusWidget(), "300")
        self.type(K.Key_Return)
        self.led(5, 0)
        self.type(K.Key_Space)
        self.reach(5, 1)
        self.type(K.Key_Space)
        self.reach(6, 0)
        with self.named():
            self.type(K.Key_F2)
        self.reach(6, 1)
        self.find("keep in the collection")
        self.reach(7, 0)
        self.type(K.Key_1, with_=CTRL)
        self.led(7, 1)
        QTest.keyClicks(QApplication.focusWidget(), "Spool")
        tiles = self.window.places.place("cutlist").shelf.tiles
        wait_for(lambda: len(tiles.found) == 1, "the wrinkle found")
        self.type(K.Key_Tab)
        for _ in range(20):
            if tiles.hasFocus():
                break
            self.type(K.Key_Tab)
        self.type(K.Key_Return)
        self.ended()

    def test_who_is_new_is_asked(self) -> None:
        self.guide.leave.click()
        self.assertFalse(self.guide.isVisible())
        self.guide.offer()
        self.assertEqual((self.guide.title.text(), self.guide.running), ("New here?", False))
        self.assertIn("First steps", self.guide.words.text())
        self.guide.begin_button.click()
        self.assertTrue(self.guide.running)
        self.assertFalse(self.guide.begin_button.isVisible())

    def test_left_it_is_taken_up_where_it_was(self) -> None:
        self.act("bench.add-treatment")
        self.guide.show_step(4)
        self.guide.leave.click()
        self.assertFalse(self.guide.running)
        self.assertFalse(self.guide.mark.isVisible())
        self.assertEqual(Preferences(self.folder / "preferences").first_step, 4)
        self.act("help.first-steps")
        self.assertEqual(self.guide.number, 4)
        self.guide.back.click()
        self.assertEqual(self.guide.number, 3)
        self.desk.document.start_new()
        self.guide.leave.click()
        self.act("help.first-steps")
        self.assertEqual(self.guide.number, 1, "without a treatment its edges cannot be hidden")
