"""Everything that is drawn can be reached, changed and given up by keys alone."""

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QFocusEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from tests.ui.window_case import WindowCase, settle
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits.lane_edits import track_of
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import parts
from wrinkle.library.samples import DEMO_PIECE

K = Qt.Key
SHIFT, ALT, CTRL = (
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.AltModifier,
    Qt.KeyboardModifier.ControlModifier,
)
NONE = Qt.KeyboardModifier.NoModifier
TURN = SettingRef("turn", "rotation")


class ByKeys(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.window.activateWindow()
        settle()

    def type(self, *keys: Qt.Key, with_: Qt.KeyboardModifier = NONE) -> None:
        """Where the keys go now."""
        for key in keys:
            settle()
            QTest.keyClick(QApplication.focusWidget() or self.window, key, with_)

    def tab_to(self, widget: QWidget) -> None:
        """Goes on by Tab until a widget has the focus."""
        for _ in range(300):
            if widget.hasFocus():
                return
            self.type(K.Key_Tab)
        self.fail(f"Tab does not lead to {widget.accessibleName()}")

    def times(self) -> list[int]:
        wrinkle = self.desk.document.state
        return [wrinkle.frame_rate.nearest_frame(x.time) for x in track_of(wrinkle, TURN).keys]

    def value(self, index: int) -> float:
        return parts(track_of(self.desk.document.state, TURN).keys[index].value)[0]

    def test_a_pin_is_found_moved_by_a_frame_and_given_a_value_in_ten_keys(self) -> None:
        looking, document = self.desk.looking, self.desk.document
        looking.select_layer("turn")
        looking.set_playhead(0)
        before, old = self.times(), self.value(0)
        self.type(K.Key_Comma, K.Key_Comma)
        pin = looking.pin
        assert pin is not None
        self.assertEqual(looking.playhead, before[pin.index])
        index = pin.index
        self.type(K.Key_Right, with_=ALT)
        self.assertEqual(self.times()[index], before[index] + 1)
        self.type(K.Key_P, K.Key_4, K.Key_5, K.Key_Return)
        self.assertEqual(self.value(index), 45.0)
        self.type(K.Key_Escape)
        self.type(K.Key_Up, with_=ALT)
        self.assertEqual(self.value(index), 45.0 + TURN.spec(document.state).step)
        for _ in range(3):
            self.desk.steps.undo()
        self.assertEqual((self.times(), self.value(0)), (before, old))

    def test_what_is_refused_says_which_key_would_work(self) -> None:
        self.desk.looking.select_layer("turn")
        self.desk.looking.select_pin(None)
        self.type(K.Key_Right, with_=ALT)
        self.assertIn("“Next pin” (.)", self.window.status.said)

    def test_a_pin_is_picked_up_carried_and_put_down_or_let_go(self) -> None:
        self.desk.looking.select_layer("turn")
        canvas = self.bench.timeline.rows[0].canvas
        self.tab_to(canvas)
        self.assertIs(self.window.focus_ring.around, canvas)
        state, before = self.desk.document.state, self.times()
        self.type(K.Key_PageUp)
        self.assertIsNotNone(self.desk.looking.pin)
        index = self.desk.looking.pin.index  # type: ignore[union-attr]
        value = self.value(index)
        self.type(K.Key_Space, K.Key_Left, K.Key_Down)
        self.assertTrue(self.desk.document.previewing)
        self.type(K.Key_Escape)
        self.assertEqual(self.desk.document.state, state)
        self.assertFalse(self.bench.player.playing, "Space is the lane's here")
        self.type(K.Key_Space, K.Key_Up, K.Key_Space)
        # Picked up where it follows, the other half's goes the other way.
        follows = self.desk.looking.pin.side is Side.INCOMING  # type: ignore[union-attr]
        step = TURN.spec(state).step * (-1 if follows else 1)
        self.assertEqual(self.value(index), value + step)
        self.assertEqual(self.times(), before)
        self.desk.steps.undo()
        self.assertEqual(self.desk.document.state, state)

    def test_pressed_with_the_mouse_a_lane_leaves_space_to_the_loop(self) -> None:
        self.desk.looking.select_layer("turn")
        canvas = self.bench.timeline.rows[0].canvas
        focus = QFocusEvent(QEvent.Type.FocusIn, Qt.FocusReason.MouseFocusReason)
        canvas.setFocus(Qt.FocusReason.MouseFocusReason)
        QApplication.sendEvent(canvas, focus)
        self.type(K.Key_Space)
        self.assertTrue(self.bench.player.playing)
        self.type(K.Key_Space)

    def test_the_layer_is_moved_on_the_picture_and_along_the_frames(self) -> None:
        self.desk.looking.select_layer("turn")
        result = self.bench.result
        self.tab_to(result)
        state = self.desk.document.state
        where = state.layer("turn").placement.position.at(self.desk.looking.time)
        self.type(K.Key_Space, K.Key_Right, K.Key_Space)
        now = self.desk.document.state.layer("turn").placement.position.at(self.desk.looking.time)
        width = self.desk.document.frame_size.width
        self.assertAlmostEqual((parts(now)[0] - parts(where)[0]) * width, 1.0, delta=0.06)
        self.desk.steps.undo()
        self.type(K.Key_PageDown, K.Key_PageDown, K.Key_Space, K.Key_Right, K.Key_Escape)
        self.assertEqual(self.desk.document.state, state)
        bar = self.bench.timeline.span
        self.tab_to(bar)
        self.type(K.Key_PageDown, K.Key_Space, K.Key_Left, K.Key_Left, K.Key_Space)
        self.assertNotEqual(self.desk.document.state.layer("turn"), state.layer("turn"))
        self.desk.steps.undo()

    def test_the_menus_are_opened_and_left(self) -> None:
        bar = self.window.menuBar()
        assert bar is not None
        self.type(K.Key_F10)
        self.assertEqual(bar.activeAction().text(), "File")  # type: ignore[union-attr]
        self.type(K.Key_Escape)
        self.assertIsNone(bar.activeAction())

    def test_layers_and_rows_of_the_piece_are_gone_through(self) -> None:
        layers = [x.id for x in self.desk.document.state.layers]
        self.desk.looking.select_layer(layers[0])
        self.type(K.Key_Up, with_=SHIFT)
        self.assertEqual(self.desk.looking.layer, layers[1])
        self.desk.piece.show_copy(DEMO_PIECE)
        self.act("place.cutlist")
        looking, piece = self.window.places.place("cutlist").looking, self.desk.piece.state
        first = [x.id for x in piece.clips]
        looking.step_row(-99)
        self.assertEqual(looking.clip, piece.clips[0])
        self.type(K.Key_Down, K.Key_Down, with_=SHIFT)
        self.assertEqual(looking.clip, piece.clips[1])
        length = piece.frames_of(piece.clips[1])
        self.type(K.Key_Left, with_=ALT)
        changed = self.desk.piece.state
        self.assertEqual(changed.frames_of(changed.clips[1]), length - 1)
        self.type(K.Key_Down, with_=CTRL)
        self.assertEqual([x.id for x in self.desk.piece.state.clips][1:3], [first[2], first[1]])
