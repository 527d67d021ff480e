"""The main job by hand: open the demo, change the motion, look, save, use it elsewhere."""

from fractions import Fraction
from unittest import mock

from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QApplication,
    QColorDialog,
    QComboBox,
    QFileDialog,
    QInputDialog,
    QMessageBox,
)

from tests.ui.window_case import LEFT, WindowCase, demo_clip, drag, settle, type_into, wait_for
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import FillSource
from wrinkle.core.design.edits import lane_edits, wrinkle_edits
from wrinkle.core.motion.easing import Bezier
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import IncomingHalf, Side
from wrinkle.core.picture.image import Size
from wrinkle.files import archive
from wrinkle.library import shipped
from wrinkle.media.clip import Clip
from wrinkle.ui.bench.dialogs.copy_dialog import CopyDialog
from wrinkle.ui.bench.dialogs.retime_dialog import RetimeDialog
from wrinkle.ui.bench.lanes.lane_geometry import twin_of
from wrinkle.ui.bench.lanes.pin_bar import PinBar
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.shared.plain_text import PlainLabel

TURN = SettingRef("turn", "rotation")
FRAME = Fraction(1, 30)
CONTROL = Qt.KeyboardModifier.ControlModifier


class Lanes(WindowCase):
    def lane(self):
        return self.bench.timeline.rows[0].canvas

    def keys(self):
        return TURN.of(self.desk.document.state).track.keys

    def spot(self, index: int, side: Side) -> QPointF:
        """Where a pin's head is."""
        wanted = PinChoice(TURN, index, side)
        pins = self.lane().geometry_now.pins()
        return next(pin.spot for pin in pins if pin.choice == wanted)

    def test_a_pin_is_dragged_and_undo_takes_it_back_in_one_step(self) -> None:
        before = self.desk.document.state
        lane, cell = self.lane(), self.lane().axis.cell
        start = self.spot(0, Side.OUTGOING)
        drag(lane, start, start + QPointF(4 * cell, 0))
        self.assertEqual(self.keys()[0].time, -8 * FRAME)
        self.assertEqual(self.keys()[0].value, 0.0)
        top = self.spot(1, Side.OUTGOING)
        drag(lane, top, top + QPointF(0, 12))
        self.assertLess(self.keys()[1].value, 90.0)
        self.assertEqual(self.keys()[1].time, 0)
        self.key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.keys()[1].value, 90.0)
        self.key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.desk.document.state, before)
        self.assertIsNone(self.desk.steps.undo_label)
        self.key(Qt.Key.Key_Z, CONTROL | Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.keys()[0].time, -8 * FRAME)

    def test_the_bar_of_a_pin_leaves_out_what_does_not_fit_and_pushes_nothing(self) -> None:
        bar = self.bench.timeline.findChild(PinBar)
        for width, spared in ((1280, False), (1024, True)):
            self.desk.looking.select_pin(None)
            self.window.resize(width, 700)
            QApplication.processEvents()
            before = self.bench.timeline.width()
            self.desk.looking.select_pin(PinChoice(TURN, 0, Side.OUTGOING))
            QApplication.processEvents()
            self.assertEqual(self.bench.timeline.width(), before)
            self.assertEqual((bar.typed.isVisible(), bar.feel.isVisible()), (not spared, True))
            room = bar.typed.fontMetrics().horizontalAdvance(bar.typed.text())
            self.assertTrue(spared or bar.typed.width() > room + 12, "the whole word is seen")

    def test_a_pin_of_the_mirrored_half_moves_its_original(self) -> None:
        lane, cell = self.lane(), self.lane().axis.cell
        start = self.spot(0, Side.INCOMING)
        drag(lane, start, start - QPointF(3 * cell, 0))
        self.assertEqual(self.keys()[0].time, -9 * FRAME)
        low = self.spot(1, Side.INCOMING)
        drag(lane, low, low - QPointF(0, 10))
        self.assertGreater(self.keys()[1].value, 0.0)
        self.assertLess(self.keys()[1].value, 90.0)

    def test_a_mirrored_half_is_seen_to_follow_and_its_twin_is_told(self) -> None:
        timeline, looking = self.bench.timeline, self.desk.looking
        row = timeline.rows[0]
        bar = timeline.findChildren(PinBar)[0]
        high = [timeline.strip.height(), row.y(), bar.height()]
        geometry = row.canvas.geometry_now
        assert geometry is not None
        first = min(geometry.pins(), key=lambda pin: pin.time)
        followers = [pin for pin in geometry.pins() if geometry.follows(pin)]
        self.assertTrue(followers)
        self.assertTrue(all(pin.choice.side is Side.INCOMING for pin in followers))
        self.assertIn(twin_of(first.choice), [pin.choice for pin in followers])
        looking.select_pin(first.choice)
        settle()
        frame = self.desk.document.state.frame_rate.nearest_frame(first.time)
        said = bar.findChildren(PlainLabel)[1].text()
        self.assertEqual(said, f"Rotation pin, twin at +{-frame}")
        # Nothing jumps when a pin is selected.
        self.assertEqual([timeline.strip.height(), row.y(), bar.height()], high)
        # The window was put together before it had its style; what it holds is whole in it.
        self.assertGreaterEqual(bar.feel.height(), bar.feel.sizeHint().height())
        self.desk.document.edit("own", lambda w: lane_edits.set_incoming(
            w, SettingRef("turn", "rotation"), IncomingHalf.OWN))  # fmt: skip
        self.assertEqual(bar.findChildren(PlainLabel)[1].text(), "Rotation pin")

    def test_lanes_share_the_height_and_are_titled_by_effect_and_setting(self) -> None:
        rows = self.bench.timeline.rows
        self.assertEqual(rows[0].canvas.height(), 110)
        self.desk.document.open_copy(archive.read(shipped()["lens_rush"]))
        rush = next(x for x in self.desk.document.state.layers if x.name == "Rush")
        self.desk.looking.select_layer(rush.id)
        settle()
        rows = self.bench.timeline.rows
        titles = [row.title.text() for row in rows]
        self.assertEqual(len(set(titles)), len(titles))
        self.assertIn("Contour smear · length", titles)
        whole = [row for row in rows if row.visibleRegion().boundingRect() == row.rect()]
        self.assertGreaterEqual(len(whole), 3, "three lanes at 1280 × 800")

    def test_escape_gives_a_drag_up(self) -> None:
        before = self.desk.document.state
        lane, start = self.lane(), self.spot(0, Side.OUTGOING)
        QTest.mousePress(lane, LEFT, pos=start.toPoint())
        QTest.mouseMove(lane, (start + QPointF(80, 0)).toPoint())
        self.assertNotEqual(self.desk.document.state, before)
        lane.setFocus()
        QTest.keyClick(lane, Qt.Key.Key_Escape)
        self.assertEqual(self.desk.document.state, before)

    def test_an_ease_is_dragged_chosen_and_typed(self) -> None:
        lane = self.lane()
        QTest.mouseClick(lane, LEFT, pos=self.spot(0, Side.OUTGOING).toPoint())
        bar = self.bench.timeline.findChild(PinBar)
        first = lane.geometry_now.handles(self.desk.looking.pin)[0].spot
        drag(lane, first, first - QPointF(60, 0))
        ease = self.keys()[0].ease
        self.assertIsInstance(ease, Bezier)
        self.assertLess(ease.x1, FEELS["rush"].x1)
        self.assertEqual(ease.x2, FEELS["rush"].x2)
        bar.feel.setCurrentText("snap")
        bar.feel.activated.emit(bar.feel.currentIndex())
        self.assertEqual(self.keys()[0].ease, FEELS["snap"])
        bar.typed.setFocus()
        bar.typed.selectAll()
        QTest.keyClicks(bar.typed, "cubic-bezier(.1, 0, .2, 1.4)")
        QTest.keyClick(bar.typed, Qt.Key.Key_Return)
        self.assertEqual(self.keys()[0].ease, Bezier(0.1, 0.0, 0.2, 1.4))
        QTest.keyClicks(bar.typed, "quick")
        QTest.keyClick(bar.typed, Qt.Key.Key_Return)
        self.assertIn("is not an ease", self.faults[-1])
        self.assertEqual(self.keys()[0].ease, Bezier(0.1, 0.0, 0.2, 1.4))

    def test_a_pin_is_typed_set_and_removed(self) -> None:
        bar = self.bench.timeline.findChild(PinBar)
        QTest.mouseClick(self.lane(), LEFT, pos=self.spot(1, Side.OUTGOING).toPoint())
        type_into(bar.value, "360/2 + 30")
        self.assertEqual(self.keys()[1].value, 210.0)
        self.desk.looking.set_playhead(-6)
        self.key(Qt.Key.Key_K)
        self.assertEqual([key.time for key in self.keys()], [-12 * FRAME, -6 * FRAME, 0])
        self.key(Qt.Key.Key_Period)
        self.assertEqual(self.desk.looking.playhead, 0)
        self.key(Qt.Key.Key_Comma)
        self.assertEqual(self.desk.looking.playhead, -6)
        lane = self.lane()
        QTest.mouseClick(lane, LEFT, pos=self.spot(1, Side.OUTGOING).toPoint())
        QTest.keyClick(lane, Qt.Key.Key_Delete)
        self.assertEqual(len(self.keys()), 2)
        axis = lane.axis
        QTest.mouseDClick(lane, LEFT, pos=QPointF(axis.x(-9) + axis.cell / 2, 4).toPoint())
        self.assertEqual(self.keys()[1].time, -9 * FRAME)

    def test_the_incoming_half_is_released_and_made_again(self) -> None:
        box = self.bench.timeline.rows[0].half
        box.setCurrentIndex(box.findData(IncomingHalf.OWN))
        box.activated.emit(box.currentIndex())
        self.assertEqual([key.value for key in self.keys()], [0.0, 90.0, -90.0, 0.0])
        box.setCurrentIndex(box.findData(IncomingHalf.RETURN))
        box.activated.emit(box.currentIndex())
        self.assertEqual(TURN.of(self.desk.document.state).at(FRAME * 0), 90.0)

    def test_a_band_over_several_lanes_catches_the_pins_of_all(self) -> None:
        scale = SettingRef("turn", "scale")
        for frame in (-6, 6):
            time = frame * FRAME
            self.desk.document.edit("pin", lambda w, t=time: lane_edits.make_lane(w, scale, t))
            self.desk.document.edit(
                "pin", lambda w, t=time: lane_edits.set_value(w, scale, t, (120.0, 120.0))
            )
        self.app.processEvents()
        lane, below = (row.canvas for row in self.bench.timeline.rows)
        seam = lane.axis.x(0)
        QTest.mousePress(lane, LEFT, pos=QPoint(2, 2))
        QTest.mouseMove(lane, QPoint(int(seam) - 20, lane.height() + below.height() - 2))
        self.assertIsNotNone(below.band)
        QTest.mouseRelease(
            lane, LEFT, pos=QPoint(int(seam) - 20, lane.height() + below.height() - 2)
        )
        self.assertIsNone(below.band)
        caught = {(pin.ref.key, pin.index) for pin in self.desk.looking.pins}
        self.assertEqual(caught, {("rotation", 0), ("scale", 0)})

    def test_several_pins_are_banded_dragged_scaled_copied_and_removed(self) -> None:
        actions, lane = self.window.menus.actions, self.lane()
        for frame, value in ((-8, 10.0), (-4, 30.0)):
            time = frame * FRAME
            self.desk.document.edit(
                "pin", lambda w, t=time, v=value: lane_edits.set_value(w, TURN, t, v)
            )
        cell = lane.axis.cell
        first, second = self.spot(1, Side.OUTGOING), self.spot(2, Side.OUTGOING)
        corner = QPointF(first.x() - cell / 2, 2)
        drag(lane, corner, QPointF(second.x() + cell / 2, lane.height() - 2))
        self.assertEqual({pin.index for pin in self.desk.looking.pins}, {1, 2})
        drag(lane, first, first + QPointF(2 * cell, 0))
        self.assertEqual([k.time / FRAME for k in self.keys()], [-12, -6, -2, 0])
        self.key(Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
        self.assertEqual([k.time / FRAME for k in self.keys()], [-12, -7, -3, 0])
        with mock.patch.object(QInputDialog, "getText", return_value=("50", True)):
            actions["bench.scale-value"].trigger()
        self.assertEqual([k.value for k in self.keys()], [0.0, 5.0, 15.0, 90.0])
        actions["bench.reverse-pins"].trigger()
        self.assertEqual([k.value for k in self.keys()], [0.0, 15.0, 5.0, 90.0])
        self.key(Qt.Key.Key_C, CONTROL)
        self.desk.looking.set_playhead(-10)
        self.key(Qt.Key.Key_V, CONTROL)
        self.assertEqual([k.time / FRAME for k in self.keys()], [-12, -10, -7, -6, -3, 0])
        self.key(Qt.Key.Key_A, CONTROL)
        self.assertEqual(len(self.desk.looking.pins), 12)
        actions["bench.nudge-on"].trigger()
        self.assertIn("up to the cut only", self.faults[-1])
        self.desk.steps.undo()
        self.key(Qt.Key.Key_A, CONTROL)
        with mock.patch.object(QInputDialog, "getText", return_value=("50", True)):
            actions["bench.scale-time"].trigger()
        self.assertEqual([k.time / FRAME for k in self.keys()], [-6, -3, -1, 0])
        actions["bench.remove-pins"].trigger()
        self.assertEqual(self.desk.document.state.layer("turn").lanes(), ())

    def test_shift_and_drag_scales_the_lane_about_the_seam(self) -> None:
        lane, cell = self.lane(), self.lane().axis.cell
        start = self.spot(0, Side.OUTGOING)
        shift = Qt.KeyboardModifier.ShiftModifier
        QTest.mousePress(lane, LEFT, shift, start.toPoint())
        end = start + QPointF(6 * cell, 0)
        place = lane.mapToGlobal(end)
        move = QMouseEvent(QMouseEvent.Type.MouseMove, end, place, LEFT, LEFT, shift)
        QApplication.sendEvent(lane, move)
        QTest.mouseRelease(lane, LEFT, shift, end.toPoint())
        self.assertEqual([k.time / FRAME for k in self.keys()], [-6, 0])

    def test_retiming_is_shown_before_it_is_applied(self) -> None:
        dialog = RetimeDialog(self.desk, self.window)
        dialog.show()
        dialog.rate_box.setCurrentText("60")
        self.assertIn("24 frames at 30 become 48 at 60", dialog.message.text())
        self.assertIn("pins on -12, 0 go to -24, 0", dialog.message.text())
        type_into(dialog.factor, "50")
        self.assertIn("become 24 at 60", dialog.message.text())
        type_into(dialog.phase, "90")
        type_into(dialog.lead, "0")
        self.assertIn("The lead must be above 0", dialog.message.text())
        type_into(dialog.lead, "12")
        before = self.desk.document.state
        dialog.accept()
        after = self.desk.document.state
        self.assertEqual((after.frames, after.shutter_phase), (range(-12, 12), 90.0))
        self.assertEqual(self.keys()[0].time, -after.lead)
        self.desk.steps.undo()
        self.assertEqual(self.desk.document.state, before)

    def test_a_layer_is_duplicated_with_a_difference(self) -> None:
        dialog = CopyDialog(self.desk, self.window)
        dialog.show()
        type_into(dialog.shift, "4")
        dialog.accept()
        self.assertEqual(self.desk.looking.layer, "turn-copy")
        copied = self.desk.document.state.layer("turn-copy")
        self.assertEqual(copied.placement.scale.rest, (104.0, 104.0))
        self.assertEqual(copied.lanes(), ("rotation",))

    def test_both_sides_are_made_to_meet_at_the_cut(self) -> None:
        row = self.bench.timeline.rows[0]
        self.assertFalse(row.meet.isVisible())
        row.half.setCurrentIndex(row.half.findData(IncomingHalf.OWN))
        row.half.activated.emit(row.half.currentIndex())
        self.desk.document.edit("ease", lambda w: lane_edits.set_ease(w, TURN, 2, FEELS["spring"]))
        self.assertTrue(row.meet.isVisible())
        self.key(Qt.Key.Key_V)
        self.assertTrue(self.desk.looking.speed_shown)
        QTest.mouseClick(row.meet, LEFT)
        track = TURN.of(self.desk.document.state).track
        speeds = [track.speed_at(Fraction(0), 0.0, side) for side in Side]
        self.assertAlmostEqual(speeds[0], speeds[1], delta=1e-9)
        self.assertFalse(row.meet.isVisible())

    def test_a_feel_of_ones_own_is_kept_and_chosen(self) -> None:
        bar = self.bench.timeline.findChild(PinBar)
        QTest.mouseClick(self.lane(), LEFT, pos=self.spot(0, Side.OUTGOING).toPoint())
        type_into(bar.typed, "0 1 3 8 23 64 180")
        self.assertAlmostEqual(self.keys()[0].ease.at(5 / 6), 64 / 180)
        with (
            mock.patch("platformdirs.user_data_path", return_value=self.folder / "data"),
            mock.patch.object(QInputDialog, "getText", return_value=("Half turn", True)),
        ):
            bar.keep_button.click()
            self.assertEqual(bar.feel.currentText(), "half turn")
            self.desk.steps.undo()
            self.assertEqual(bar.feel.currentText(), "rush")
            type_into(bar.typed, "half turn")
            self.assertAlmostEqual(self.keys()[0].ease.at(5 / 6), 64 / 180)
            with mock.patch.object(QInputDialog, "getText", return_value=("Rush", True)):
                bar.keep_button.click()
            self.assertIn("cannot be the name", self.faults[-1])


class Stack(WindowCase):
    def card(self, layer: str):
        return next(card for card in self.bench.stack.cards if card.layer_id == layer)

    def row(self, key: str):
        return next(row for row in self.card(self.desk.looking.layer).rows if row.ref.key == key)

    def unfold(self, section: str) -> None:
        QTest.mouseClick(self.card(self.desk.looking.layer).sections[section].heading, LEFT)

    def test_a_setting_is_typed_dragged_and_made_a_lane(self) -> None:
        scale = self.row("scale").field
        type_into(scale, "100*1.5")
        layer = self.desk.document.state.layer("turn")
        self.assertEqual(layer.placement.scale.rest, (150.0, 150.0))
        type_into(scale, "120, 80")
        self.assertEqual(self.desk.document.state.layer("turn").placement.scale.rest, (120.0, 80.0))
        type_into(scale, "wide")
        self.assertIn("'wide' is not a number", self.faults[-1])
        QTest.keyClick(scale, Qt.Key.Key_Escape)
        skew = self.row("skew").field
        drag(skew, QPointF(10, 10), QPointF(40, 10))
        self.assertEqual(self.desk.document.state.layer("turn").placement.skew.rest, 10.0)
        self.assertEqual(self.desk.steps.undo_label, "skew")
        QTest.mouseClick(self.row("skew").lane_button, LEFT)
        self.assertEqual(self.desk.document.state.layer("turn").lanes(), ("rotation", "skew"))
        self.assertEqual(len(self.bench.timeline.rows), 2)
        QTest.mouseClick(self.row("skew").lane_button, LEFT)
        self.assertEqual(self.desk.document.state.layer("turn").lanes(), ("rotation",))

    def test_jitter_and_formula_are_given_in_the_card(self) -> None:
        QTest.mouseClick(self.row("position").jitter_button, LEFT)
        jitter = self.desk.document.state.layer("turn").placement.position.jitter
        # A treatment is at rest at both ends; the amount is the same on both sides of the cut.
        self.assertEqual([x.value for x in jitter.amount.track.keys], [0.0, 0.03])
        row = self.row("position")
        type_into(row.amount.field, "6")
        type_into(row.jitter.fields["rate"], "24")
        jitter = self.desk.document.state.layer("turn").placement.position.jitter
        self.assertEqual((jitter.rate, jitter.amount.track.keys[-1].value), (24.0, 0.06))
        self.assertEqual(self.bench.timeline.rows[0].ref.key, "position.jitter")
        type_into(row.jitter.fields["rate"], "999")
        self.assertIn("rate of jitter must be within", self.faults[-1])
        QTest.mouseClick(self.row("position").jitter_button, LEFT)
        self.assertIsNone(self.desk.document.state.layer("turn").placement.position.jitter)
        skew = self.row("skew").field
        type_into(skew, "= 10 * sin(p * pi)")
        setting = self.desk.document.state.layer("turn").placement.skew
        self.assertEqual(setting.formula, "10 * sin(p * pi)")
        self.assertEqual(skew.text(), "= 10 * sin(p * pi)")
        type_into(skew, "= wobble")
        self.assertIn("'wobble' is not a number", self.faults[-1])
        self.assertEqual(skew.text(), "= wobble", "what was typed stays to be mended")
        self.assertTrue(skew.property("fault"))
        self.assertEqual(skew.toolTip(), self.faults[-1])
        type_into(skew, "5")
        setting = self.desk.document.state.layer("turn").placement.skew
        self.assertEqual((setting.formula, setting.rest), (None, 5.0))
        self.assertFalse(skew.property("fault"))
        self.assertIn("Leans the picture", skew.toolTip())

    def test_choices_yes_or_no_and_colours_become_lanes(self) -> None:
        self.unfold("Picture")
        cover = self.row("edge_cover")
        QTest.mouseClick(cover.lane_button, LEFT)
        self.desk.looking.set_playhead(4)
        box = self.row("edge_cover").field
        box.setCurrentIndex(box.findData("bare"))
        box.activated.emit(box.currentIndex())
        track = self.desk.document.state.layer("turn").edge_cover.track
        self.assertEqual([key.value for key in track.keys], ["mirror", "bare"])
        row = next(x for x in self.bench.timeline.rows if x.ref.key == "edge_cover")
        pins = row.canvas.geometry_now.pins()
        drag(row.canvas, pins[1].spot, QPointF(pins[1].spot.x(), row.canvas.height() - 2))
        self.assertEqual(self.covers(), ["mirror", "bare"])
        drag(row.canvas, pins[1].spot, QPointF(pins[1].spot.x(), 2))
        self.assertEqual(self.covers(), ["mirror", "stretch"])
        self.assertFalse(self.row("edge_cover").jitter_button.isVisible())
        QTest.mouseClick(self.row("visible").lane_button, LEFT)
        QTest.mouseClick(self.card("turn").eye, LEFT)
        self.assertEqual(self.desk.document.state.layer("turn").visible.at(FRAME * 4), False)
        self.bench.stack.new.add("Fill", FillSource())
        colour = self.row("source.colour")
        QTest.mouseClick(colour.lane_button, LEFT)
        self.desk.looking.set_playhead(0)
        with mock.patch.object(QColorDialog, "getColor", return_value=QColor("#ff0000")):
            QTest.mouseClick(self.row("source.colour").field, LEFT)
        track = self.desk.document.state.layer("fill").source.colour.track
        self.assertEqual(track.keys[0].value, (1.0, 0.0, 0.0))
        middle = self.desk.document.state.layer("fill").source.colour.at(FRAME * 2)
        self.assertEqual(middle, (1.0, 0.5, 0.5), "half-way in linear light")
        self.assertEqual(self.row("source.colour").field.text(), "#ff0000")
        self.all_ready()

    def covers(self) -> list[object]:
        track = self.desk.document.state.layer("turn").edge_cover.track
        return [key.value for key in track.keys]

    def test_a_parent_is_chosen_and_a_circle_refused(self) -> None:
        actions = self.window.menus.actions
        actions["bench.add-treatment"].trigger()
        self.unfold("Depth and parent")
        box = self.card("treatment").findChild(QComboBox, "parent")
        box.setCurrentIndex(box.findData("turn"))
        box.activated.emit(box.currentIndex())
        self.assertEqual(self.desk.document.state.layer("treatment").parent, "turn")
        self.desk.looking.select_layer("turn")
        box = self.card("turn").findChild(QComboBox, "parent")
        box.setCurrentIndex(box.findData("treatment"))
        box.activated.emit(box.currentIndex())
        self.assertIn("A layer cannot follow itself", self.faults[-1])
        self.assertEqual(box.currentText(), "none")

    def test_layers_are_selected_hidden_reordered_added_and_removed(self) -> None:
        QTest.mouseClick(self.card("incoming"), LEFT, pos=self.card("incoming").rect().center())
        self.assertEqual(self.desk.looking.layer, "incoming")
        self.assertTrue(self.card("incoming").rows)
        self.assertFalse(self.card("turn").rows)
        QTest.mouseClick(self.card("incoming").eye, LEFT)
        self.assertFalse(self.desk.document.state.layer("incoming").visible.rest)
        card = self.card("turn")
        below = QPointF(20, self.card("outgoing").geometry().bottom() - card.y() + 20)
        drag(card, QPointF(20, 10), below)
        self.assertEqual(
            [x.id for x in self.desk.document.state.layers], ["turn", "outgoing", "incoming"]
        )
        actions = self.window.menus.actions
        actions["bench.add-treatment"].trigger()
        self.assertEqual(self.desk.looking.layer, "treatment")
        actions["bench.remove"].trigger()
        self.assertEqual(len(self.desk.document.state.layers), 3)
        for _ in range(3):
            actions["bench.remove"].trigger()
        self.assertEqual((self.desk.document.state.layers, self.desk.looking.layer), ((), ""))
        for _ in range(6):
            self.desk.steps.undo()
        self.assertEqual(len(self.desk.document.state.layers), 3)

    def test_a_picture_becomes_a_layer_and_goes_with_the_file(self) -> None:
        picture = self.folder / "sail.png"
        self.bench.result.grab().save(str(picture))
        self.bench.stack.new.add_picture(picture)
        self.assertEqual(self.desk.document.state.assets(), ("sail.png",))
        path = self.folder / "with.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        self.assertEqual(archive.read(path).assets["sail.png"], picture.read_bytes())
        broken = self.folder / "broken.png"
        broken.write_text("no picture")
        self.bench.stack.new.add_picture(broken)
        self.assertIn("broken.png cannot be read as a picture", self.faults[-1])
        self.assertEqual(len(self.desk.document.state.layers), 4)


class OnThePicture(WindowCase):
    def placement(self):
        return self.desk.document.state.layer(self.desk.looking.layer).placement

    def test_the_layer_is_moved_scaled_and_turned_by_its_handles(self) -> None:
        self.desk.looking.select_layer("outgoing")
        self.desk.looking.set_playhead(-6)
        view = self.bench.result
        handles = view.handles()
        width = handles.area.width()
        inside = handles.anchor() + QPointF(20, 30)
        drag(view, inside, inside + QPointF(width / 4, 0))
        self.assertAlmostEqual(self.placement().position.rest[0], 0.25, delta=0.01)
        self.assertEqual(self.desk.steps.undo_label, "position on the picture")
        handles = view.handles()
        drag(view, handles.anchor() + QPointF(20, 30), handles.area.center() + QPointF(24, 33))
        self.assertEqual(self.placement().position.rest, (0.0, 0.0), "snapped to the middle")
        handles = view.handles()
        corner, anchor = handles.corners()[1], handles.anchor()
        drag(view, corner, anchor + (corner - anchor) * 0.6)
        self.assertAlmostEqual(self.placement().scale.rest[0], 60.0, delta=1.0)
        handles = view.handles()
        turn, anchor = handles.turn_handle(), handles.anchor()
        drag(view, turn, anchor + QPointF(anchor.y() - turn.y(), 0))
        self.assertEqual(self.placement().rotation.rest, 90.0)

    def test_the_way_of_a_layer_is_drawn_and_its_pins_are_dragged(self) -> None:
        ref = SettingRef("turn", "position")
        self.desk.document.edit("lane", lambda w: lane_edits.make_lane(w, ref, -12 * FRAME))
        self.desk.document.edit(
            "pin", lambda w: lane_edits.set_value(w, ref, 0 * FRAME, (0.3, 0.1))
        )
        self.desk.looking.set_playhead(-12)
        view = self.bench.result
        handles = view.handles()
        self.assertEqual(len(handles.path()), 24)
        pin = handles.path_pins()[1][1]
        drag(view, pin, pin - QPointF(handles.area.width() * 0.2, 0))
        value = ref.of(self.desk.document.state).track.keys[1].value
        self.assertAlmostEqual(value[0], 0.1, delta=0.02)
        self.assertAlmostEqual(value[1], 0.1, delta=0.02)
        self.assertEqual(ref.of(self.desk.document.state).track.keys[0].value, (0.0, 0.0))

    def test_escape_gives_a_drag_on_the_picture_up(self) -> None:
        before, view = self.desk.document.state, self.bench.result
        inside = view.handles().anchor() + QPointF(20, 30)
        QTest.mousePress(view, LEFT, pos=inside.toPoint())
        QTest.mouseMove(view, (inside + QPointF(30, 30)).toPoint())
        self.assertNotEqual(self.desk.document.state, before)
        view.setFocus()
        QTest.keyClick(view, Qt.Key.Key_Escape)
        self.assertEqual(self.desk.document.state, before)


class Looking(WindowCase):
    def test_every_frame_is_rendered_and_the_playhead_shows_it(self) -> None:
        self.all_ready()
        self.desk.looking.set_playhead(-12)
        rest = self.shown_picture()
        self.key(Qt.Key.Key_0)
        self.assertEqual(self.desk.looking.playhead, 0)
        self.assertNotEqual(self.shown_picture(), rest)
        strip = self.bench.timeline.strip
        spot = QPointF(strip.axis.x(-12) + 3, 40)
        QTest.mouseClick(strip, LEFT, pos=spot.toPoint())
        self.assertEqual(self.desk.looking.playhead, -12)
        self.assertEqual(self.shown_picture(), rest)
        self.key(Qt.Key.Key_Right)
        self.key(Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.desk.looking.playhead, -6)
        self.key(Qt.Key.Key_End)
        self.key(Qt.Key.Key_Right)
        self.assertEqual(self.desk.looking.playhead, 11)

    def test_the_loop_plays_every_frame_and_the_pre_roll(self) -> None:
        self.all_ready()
        shown = []
        self.bench.player.frameDue.connect(shown.append)
        self.key(Qt.Key.Key_Space)
        wait_for(lambda: {-18, -1, 0, 17} <= set(shown), "a whole loop")
        self.assertGreater(len(set(shown)), 20)
        self.key(Qt.Key.Key_Space)
        self.assertFalse(self.bench.player.playing)
        QTest.mouseClick(self.bench.transport.buttons["speed-25"], LEFT)
        self.assertEqual(self.bench.player.speed, 0.25)

    def test_the_plain_cut_and_no_motion_blur_are_shown_for_comparison(self) -> None:
        self.desk.looking.set_playhead(-1)
        self.all_ready()
        with_blur = self.shown_picture()
        document = self.desk.document.state
        self.key(Qt.Key.Key_M)
        self.all_ready()
        without = self.shown_picture()
        self.assertNotEqual(without, with_blur)
        self.bench.setFocus()
        QTest.keyPress(self.bench, Qt.Key.Key_B)
        wait_for(lambda: self.bench.renderer.is_ready(-1), "the plain frame")
        self.assertNotIn(self.shown_picture(), (with_blur, without))
        QTest.keyRelease(self.bench, Qt.Key.Key_B)
        self.key(Qt.Key.Key_M)
        self.all_ready()
        self.assertEqual(self.shown_picture(), with_blur)
        self.assertEqual(self.desk.document.state, document)

    def test_the_contact_sheet_leads_to_a_frame(self) -> None:
        self.key(Qt.Key.Key_G)
        sheet = self.bench.sheet
        self.assertTrue(sheet.isVisible())
        spot = next(area.center() for frame, area in sheet.cells() if frame == 5)
        QTest.mouseClick(sheet, LEFT, pos=spot.toPoint())
        self.assertEqual(self.desk.looking.playhead, 5)

    def test_the_cut_slides_within_its_clip(self) -> None:
        strip = self.bench.outgoing.strip
        before = self.desk.tried.clips["outgoing"].cut
        start = QPointF(strip.x_of(before), 20)
        drag(strip, start, start - QPointF(strip.width() / 4, 0))
        after = self.desk.tried.clips["outgoing"].cut
        self.assertLess(after, before)
        self.assertEqual(after % FRAME, 0)
        strip.setFocus()
        QTest.keyClick(strip, Qt.Key.Key_Right)
        self.assertEqual(self.desk.tried.clips["outgoing"].cut, after + FRAME)
        self.desk.steps.undo()
        self.desk.steps.undo()
        self.assertEqual(self.desk.tried.clips["outgoing"].cut, before)

    def test_lead_and_tail_are_typed_in_frames(self) -> None:
        fields = self.bench.timeline.lengths
        type_into(fields.lead, "6")
        self.assertEqual(self.desk.document.state.frames, range(-6, 12))
        type_into(fields.tail, "0")
        self.assertIn("The tail must be above 0", self.faults[-1])
        self.assertEqual(self.desk.document.state.frames, range(-6, 12))


class WholeJob(WindowCase):
    def test_save_reopen_and_use_on_a_wide_60_fps_pair(self) -> None:
        path = self.folder / "turned.wrinkle"
        asked = mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(path), ""))
        with asked:
            self.act("file.save-as")
        self.assertFalse(self.desk.document.unsaved)
        self.act("file.new")
        self.assertEqual(self.desk.document.state.name, "Untitled")
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(str(path), "")):
            self.act("file.open")
        self.assertEqual(self.desk.document.state.name, "Smooth turn")
        dialog = self.window.use()
        dialog.show()
        wide = Size(192, 108)
        dialog.set_clip("outgoing", demo_clip("dunes", wide, 60))
        dialog.set_clip("incoming", demo_clip("finale", wide, 60))
        wait_for(dialog.render_button.isEnabled, "both clips")
        dialog.around.set_value(0.5)
        video = self.folder / "used.mp4"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(video), "")):
            QTest.mouseClick(dialog.render_button, LEFT)
        wait_for(lambda: "is written: 108 frames" in dialog.message.text(), "the video is written")
        cut_clips = [dialog.clips[slot] for slot in ("outgoing", "incoming")]
        dialog.close()
        clip = Clip(video)
        self.addCleanup(clip.close)
        facts = clip.facts
        self.assertEqual((facts.size, facts.rate.label, facts.frame_count), (wide, "60", 108))
        # The window begins after 30 plain frames and has 24 before the cut.
        at_cut = clip.bytes8(54, wide).astype(int)
        for tried in cut_clips:
            plain = tried.source.bytes8(tried.source.index_at(tried.cut), wide).astype(int)
            self.assertGreater(float(abs(at_cut - plain).mean()), 12.0)
        outgoing = cut_clips[0]
        start = outgoing.cut - Fraction(54, 60)
        first = outgoing.source.bytes8(outgoing.source.index_at(start), wide).astype(int)
        self.assertLess(float(abs(clip.bytes8(0, wide) - first).mean()), 6.0)

    def test_a_rendering_is_cancelled_and_leaves_nothing(self) -> None:
        dialog = self.window.use()
        dialog.show()
        dialog.set_clip("outgoing", demo_clip("box_kite"))
        dialog.set_clip("incoming", demo_clip("pier"))
        wait_for(dialog.render_button.isEnabled, "both clips")
        dialog.around.set_value(20.0)
        dialog.render_to(self.folder / "long.mp4")
        wait_for(lambda: dialog.progress.value() > 1, "some frames are written")
        QTest.mouseClick(dialog.cancel_button, LEFT)
        wait_for(lambda: "Cancelled" in dialog.message.text(), "it is cancelled")
        self.assertEqual(list(self.folder.glob("*.mp4")) + list(self.folder.glob(".long*")), [])
        dialog.size_box.setCurrentText("101x100")
        self.assertIn("both sides must be even", dialog.message.text())
        self.assertFalse(dialog.render_button.isEnabled())
        dialog.size_box.setCurrentText("0x0")
        self.assertIn("0×0 is not possible", dialog.message.text())
        dialog.close()

    def test_bad_files_are_told_and_the_open_document_is_untouched(self) -> None:
        before = (self.desk.document.state, self.desk.tried.clips)
        bad = self.folder / "bad.mp4"
        bad.write_text("just words")
        self.desk.tried.try_clip("outgoing", bad)
        wait_for(lambda: bool(self.faults), "the fault")
        self.assertIn("bad.mp4 cannot be read as a video", self.faults[-1])
        wrong = self.folder / "wrong.wrinkle"
        wrong.write_bytes(b"PK damaged")
        self.assertFalse(self.window.router.open(wrong))
        self.assertIn("wrong.wrinkle cannot be opened", self.faults[-1])
        self.assertEqual((self.desk.document.state, self.desk.tried.clips), before)
        self.assertEqual(self.window.status.said, self.faults[-1])

    def test_unsaved_work_is_asked_for(self) -> None:
        self.desk.document.edit("name", lambda w: wrinkle_edits.rename(w, "Other"))
        self.assertTrue(self.desk.document.unsaved)
        buttons = QMessageBox.StandardButton
        with mock.patch.object(QMessageBox, "exec", return_value=buttons.Cancel):
            self.act("file.new")
            self.assertEqual(self.desk.document.state.name, "Other")
        with mock.patch.object(QMessageBox, "exec", return_value=buttons.Discard):
            self.act("file.new")
        self.assertEqual(self.desk.document.state.name, "Untitled")
