"""Layers by hand: masks on the picture, mattes, groups, words, strokes, time."""

from fractions import Fraction
from pathlib import Path
from unittest import mock

import cv2
import numpy as np
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox, QPlainTextEdit

from tests.core.picture.outlines import bounds
from tests.ui.window_case import LEFT, WindowCase, demo_clip, drag, type_into, wait_for
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.mask_forms import MaskForm
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import FillSource, GroupSource, WordsSource
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.edits import lane_edits, layer_edits, matte_edits, wrinkle_edits
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.motion.values import parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.demo.extras import kite_fish
from wrinkle.files import archive
from wrinkle.media.video_file import write_video
from wrinkle.ui.bench.lists.effect_list import EffectList

FRAME = Fraction(1, 30)
STROKES = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 160">
<g fill="none" stroke="#fff" stroke-width="12"><path id="one" d="M10 30C40 10 60 60 85 30"/>
<path id="two" d="M10 90h70"/><path id="three" d="M10 130L80 140"/></g></svg>"""


class LayersCase(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk.document.edit("no turn", lambda w: layer_edits.remove_layer(w, "turn"))
        self.result = self.bench.result

    def card(self, layer: str):
        if self.desk.looking.layer != layer:
            self.desk.looking.select_layer(layer)
        card = next(card for card in self.bench.stack.cards if card.layer_id == layer)
        for section in card.sections.values():
            section.heading.setChecked(True)
        return card

    def layer(self, name: str):
        return self.desk.document.state.layer(name)

    def row(self, layer: str, key: str):
        card = self.card(layer)
        rows = [*card.rows, *(row for box in card.masks.boxes for row in box.rows)]
        return next(row for row in rows if row.ref.key == key)

    def with_mask(self, form: MaskForm = MaskForm.ELLIPSE):
        """A mask on the outgoing clip, edited on the picture."""
        self.desk.looking.set_playhead(-8)
        self.card("outgoing").masks.add(form)
        return self.result.paths.handles(self.result.area)

    def outline(self, time: Fraction | None = None):
        setting = path_ref("outgoing", "m1").of(self.desk.document.state)
        return parts(setting.at(self.desk.looking.time if time is None else time))


class NewLayersByHand(LayersCase):
    def test_a_treatment_begins_with_its_effects_even_where_there_is_no_layer(self) -> None:
        self.desk.document.edit("bare", lambda w: layer_edits.with_layers(w, ()))
        self.bench.stack.treat_button.click()
        listed = next(x for x in self.window.findChildren(EffectList) if x.isVisible())
        with mock.patch.object(
            QApplication, "keyboardModifiers", return_value=Qt.KeyboardModifier.ControlModifier
        ):
            for kind in ("glow", "colour_wash:radial"):
                listed.tiles.point_at(kind)
                listed.tiles.take()
                self.assertTrue(listed.isVisible())
        listed.tiles.point_at(next(x.key for x in listed.entries("late gold")))
        listed.tiles.take()
        (layer,) = self.desk.document.state.layers
        self.assertEqual(layer.name, "Glow")
        glow, wash, lut = layer.effects
        self.assertEqual(wash.values["form"].rest, "radial")
        self.assertEqual((lut.kind, lut.asset), ("lut", "late_gold.cube"))
        self.assertEqual([x.value for x in glow.values["amount"].track.keys], [0.0, 150.0])
        self.assertEqual(self.desk.steps.undo_label, "effect added")
        for name in ("overlap", "other-half", "bands", "parts", "in-turn"):
            self.act(f"bench.{name}")
        self.assertTrue(self.faults)
        self.assertTrue(all(fault.endswith(".") for fault in self.faults))


class MasksOnThePicture(LayersCase):
    def test_a_mask_is_drawn_point_by_point_and_closed_on_its_first_point(self) -> None:
        self.desk.looking.set_playhead(-6)
        card = self.card("outgoing")
        drawn = card.masks.add_button.menu().actions()[-1]
        self.assertIn("Draw", drawn.text())
        drawn.trigger()
        area = self.result.area
        corners = [area.topLeft() + QPointF(x, y) for x, y in ((40, 40), (120, 40), (80, 150))]
        for spot in [*corners, corners[0]]:
            QTest.mouseClick(self.result, LEFT, pos=spot.toPoint())
        mask = self.layer("outgoing").mask("m1")
        knots = paths.knots(parts(mask.path.rest))
        self.assertEqual(len(knots), 3)
        for knot, spot in zip(knots, corners, strict=True):
            seen = area.topLeft() + QPointF(knot.x * area.width(), knot.y * area.height())
            self.assertLess((seen - spot).manhattanLength(), 2.0)
        # It is edited at once, and a double click between two points adds one.
        self.assertEqual(self.desk.looking.mode.outline, path_ref("outgoing", "m1"))
        middle = ((corners[0] + corners[1]) / 2).toPoint()
        QTest.mouseDClick(self.result, LEFT, pos=middle)
        self.assertEqual(len(paths.knots(self.outline())), 4)
        QTest.mouseDClick(self.result, LEFT, pos=middle)
        self.assertFalse(paths.knots(self.outline())[1].corner)
        self.result.setFocus()
        self.desk.looking.mode.select_outline(path_ref("outgoing", "m1"), 1)
        QTest.keyClick(self.result, Qt.Key.Key_Delete)
        self.assertEqual(len(paths.knots(self.outline())), 3)

    def test_points_handles_and_the_whole_path_are_dragged(self) -> None:
        handles = self.with_mask()
        before, width = self.outline(), self.result.area.width()
        point = handles.points()[1]
        drag(self.result, point, point + QPointF(20, 0))
        moved = paths.knots(self.outline())[1]
        self.assertAlmostEqual(moved.x - paths.knots(before)[1].x, 20 / width, delta=0.01)
        self.assertEqual(self.desk.looking.mode.point, 1)
        handles = self.result.paths.handles(self.result.area)
        grip = handles.handles_of(1)[1][1]
        drag(self.result, grip, grip + QPointF(10, 10))
        knot = paths.knots(self.outline())[1]
        self.assertAlmostEqual(knot.in_x, -knot.out_x)
        self.assertAlmostEqual(knot.in_y, -knot.out_y)
        inside = handles.pivot() + QPointF(15, 25)
        start = self.outline()
        drag(self.result, inside, inside + QPointF(0, 30))
        shift = np.subtract(self.outline(), start).reshape(-1, 6)
        self.assertLess(float(np.ptp(shift[:, 1])), 1e-4)
        self.assertGreater(float(shift[0, 1]), 0.05)
        # One gesture is one step, and a press beside the path leaves it.
        self.desk.steps.undo()
        self.assertEqual(self.outline(), start)
        QTest.mouseClick(self.result, LEFT, pos=self.result.area.topLeft().toPoint() + QPoint(2, 2))
        self.assertIsNone(self.desk.looking.mode.outline)

    def test_a_path_is_turned_by_its_handle(self) -> None:
        handles = self.with_mask(MaskForm.EDGE)
        pivot, grip = handles.pivot(), handles.turn_handle()
        length = pivot.y() - grip.y()
        drag(self.result, grip, pivot + QPointF(length, 0))
        left, top, right, bottom = bounds(self.outline())
        # A straight upright edge turned by 90° lies level: nothing is cut left or right.
        self.assertLess(left, 0.0)
        self.assertGreater(right, 1.0)
        # It turns about the middle of what is seen of it, a quarter of the width to the left.
        self.assertAlmostEqual(min(abs(top - 0.5), abs(bottom - 0.5)), 0.25 * 9 / 16, delta=0.03)

    def test_the_frame_by_frame_work_is_arrow_drag_arrow_drag(self) -> None:
        self.with_mask()
        self.card("outgoing").masks.keyed.click()
        for step in range(5):
            self.key(Qt.Key.Key_Right)
            handles = self.result.paths.handles(self.result.area)
            spot = handles.pivot() + QPointF(0, 30)
            drag(self.result, spot, spot + QPointF(6, 0))
            self.assertEqual(self.desk.looking.playhead, -7 + step)
        track = path_ref("outgoing", "m1").of(self.desk.document.state).track
        self.assertEqual([key.time for key in track.keys], [n * FRAME for n in range(-8, -2)])
        lefts = [bounds(key.value)[0] for key in track.keys]
        self.assertEqual(lefts, sorted(lefts))
        self.assertGreater(lefts[-1] - lefts[0], 4 * 6 / self.result.area.width())
        ghosts = self.result.paths.handles(self.result.area).ghosts()
        self.assertEqual([away for away, _ in ghosts], [-2, -1, 1, 2])
        # Backwards the path goes along as well.
        self.desk.looking.set_playhead(-8)
        self.key(Qt.Key.Key_Left)
        track = path_ref("outgoing", "m1").of(self.desk.document.state).track
        self.assertEqual(track.keys[0].time, -9 * FRAME)

    def test_it_is_inverted_feathered_and_switched_off(self) -> None:
        self.with_mask()
        inverted = self.row("outgoing", "masks.m1.inverted").field
        inverted.setCurrentIndex(inverted.findData(True))
        inverted.activated.emit(inverted.currentIndex())
        self.row("outgoing", "masks.m1.feather").field.committed.emit(12.0)
        mask = self.layer("outgoing").mask("m1")
        self.assertEqual((mask.inverted.rest, mask.feather.rest), (True, 12.0))
        self.all_ready()
        picture = self.bench.renderer.picture(-8)
        self.assertEqual(picture.pixelColor(picture.width() // 2, picture.height() // 2).alpha(), 0)
        self.assertEqual(picture.pixelColor(2, 2).alpha(), 255)
        box = self.card("outgoing").masks.boxes[0]
        box.act_button.click()
        self.assertFalse(self.layer("outgoing").mask("m1").shown)

    def test_a_path_follows_the_picture_and_a_corrected_frame_is_kept(self) -> None:
        self.try_clip("outgoing", moving_clip(self.folder))
        frame = (Size(320, 240), FrameRate.of(30))
        self.desk.document.edit("frame", lambda w: wrinkle_edits.set_frame(w, *frame))
        self.desk.tried.set_cut("outgoing", Fraction(20, 30))
        self.desk.looking.set_playhead(-10)
        self.card("outgoing").masks.add(MaskForm.ELLIPSE)
        ref = path_ref("outgoing", "m1")
        square = paths.rectangle(60 / 320, 60 / 240, 140 / 320, 140 / 240)
        self.desk.document.edit(
            "start", lambda w: lane_edits.set_value(w, ref, self.desk.looking.time, square)
        )
        tools = self.card("outgoing").masks.boxes[0].tools
        worker = self.bench.stack.worker
        tools["Follow ▸"].click()
        wait_for(lambda: not worker.busy, "followed")
        self.assertEqual(self.faults, [])
        mask = self.layer("outgoing").mask("m1")
        self.assertEqual(len(mask.confidence), 9)
        left, top, _, _ = bounds(self.outline(-FRAME))
        # The square runs 6 pixels to the right and 3 down on each frame: known truth.
        self.assertAlmostEqual(left * 320, 60 + 9 * 6, delta=3)
        self.assertAlmostEqual(top * 240, 60 + 9 * 3, delta=3)
        self.desk.looking.set_playhead(-5)
        wrong = paths.moved(self.outline(), 0.01, 0.0)
        handles = self.result.paths.handles(self.result.area)
        self.desk.document.edit("corrected", lambda w: handles.with_outline(wrong))
        self.desk.looking.set_playhead(-10)
        self.card("outgoing").masks.boxes[0].tools["Follow ▸"].click()
        wait_for(lambda: not worker.busy, "followed again")
        np.testing.assert_allclose(self.outline(-5 * FRAME), wrong, atol=1e-4)
        later = bounds(self.outline(-FRAME))[0] * 320
        self.assertAlmostEqual(later, left * 320 + 3.2, delta=2.5)

    def test_a_subject_is_cut_out_painted_and_saved_with_the_wrinkle(self) -> None:
        self.try_clip("outgoing", moving_clip(self.folder))
        frame = (Size(320, 240), FrameRate.of(30))
        self.desk.document.edit("frame", lambda w: wrinkle_edits.set_frame(w, *frame))
        self.desk.tried.set_cut("outgoing", Fraction(20, 30))
        self.desk.looking.set_playhead(-4)
        self.card("outgoing").masks.add(MaskForm.ELLIPSE)
        ref = path_ref("outgoing", "m1")
        rough = paths.rectangle(80 / 320, 60 / 240, 196 / 320, 180 / 240)
        self.desk.document.edit(
            "rough", lambda w: lane_edits.set_value(w, ref, self.desk.looking.time, rough)
        )
        box = self.card("outgoing").masks.boxes[0]
        box.tools["Cut out"].click()
        wait_for(lambda: not self.bench.stack.worker.busy, "cut out")
        self.assertEqual(self.faults, [])
        mask = self.layer("outgoing").mask("m1")
        self.assertEqual(len(mask.painted), 12)
        self.assertGreater(self.covered(96 + 40, 78 + 40), 0.9)
        self.assertLess(self.covered(30, 200), 0.05)
        box.paint_button.click()
        area = self.result.area
        spot = area.topLeft() + QPointF(30 / 320 * area.width(), 200 / 240 * area.height())
        drag(self.result, spot, spot + QPointF(8, 0))
        self.assertGreater(self.covered(32, 200), 0.7)
        path = self.folder / "cut.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        self.assertEqual(len(archive.read(path).assets), 12)

    def covered(self, x: int, y: int) -> float:
        """The painted coverage at a pixel of the clip on this frame."""
        mask = self.layer("outgoing").mask("m1")
        picture = self.desk.material().pictures[mask.painted_at(self.desk.looking.time)]
        image = picture.image(0, picture.size)
        row, column = y * image.size.height // 240, x * image.size.width // 320
        return float(image.pixels[row, column, 0])


def moving_clip(folder: Path) -> Path:
    """A bright textured square that runs over a dark ground: known truth for following."""
    dice = np.random.default_rng(4)
    ground = cv2.GaussianBlur(dice.integers(0, 110, (240, 320, 3), np.uint8), (0, 0), 1.5)
    ground[..., 0] //= 3
    square = cv2.GaussianBlur(dice.integers(90, 255, (80, 80, 3), np.uint8), (0, 0), 1.5)
    square[..., 2] //= 3

    def frames():
        for number in range(32):
            frame = ground.copy()
            top, left = 60 + 3 * (number - 10), 60 + 6 * (number - 10)
            rows, columns = slice(max(top, 0), top + 80), slice(max(left, 0), left + 80)
            part = frame[rows, columns]
            part[:] = square[-part.shape[0] :, : part.shape[1]]
            yield frame

    path = folder / "moving.mp4"
    write_video(path, frames(), Size(320, 240), FrameRate.of(30), crf=12)
    return path


class MattesAndGroups(LayersCase):
    def test_a_matte_is_chosen_shown_in_words_and_survives_a_new_order(self) -> None:
        self.bench.stack.new.add("Ink", FillSource())
        card = self.card("outgoing")
        rows = {row.field.accessibleName(): row for row in card.matte.rows}
        box = rows["Cut by"].field
        box.setCurrentIndex(box.findText("Ink"))
        box.activated.emit(box.currentIndex())
        rows["Matte"].field.click()
        self.assertEqual(
            self.layer("outgoing").matte, Matte("ink", MatteBy.COVERAGE, inverted=True)
        )
        self.assertIn("cut by Ink (inverted alpha)", card.about.text())
        self.assertEqual(len(self.bench.stack.ground.threads), 1)
        self.card("ink")
        self.key(Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
        self.key(Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(self.desk.document.state.layers[0].id, "ink")
        self.assertEqual(self.layer("outgoing").matte.layer, "ink")
        # A circle is refused with a sentence, and a matte in use is not lost without asking.
        box = self.card("ink").matte.rows[0].field
        box.setCurrentIndex(box.findText("Outgoing"))
        box.activated.emit(box.currentIndex())
        self.assertIn("cannot be made from itself", self.faults[-1])
        remove = self.window.menus.actions["bench.remove"]
        with mock.patch("wrinkle.ui.bench.stack.layer_actions.ask") as asked:
            asked.return_value = QMessageBox.StandardButton.Cancel
            remove.trigger()
            self.assertIn("'Ink' cuts Outgoing", asked.call_args[0][2])
            self.assertIsNotNone(self.layer("outgoing").matte)
            asked.return_value = QMessageBox.StandardButton.Yes
            remove.trigger()
        self.assertIsNone(self.layer("outgoing").matte)

    def test_layers_are_grouped_dragged_in_and_out_and_the_group_is_dissolved(self) -> None:
        self.bench.stack.new.add("A", FillSource())
        self.key(Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
        group = self.layer("a").group
        self.assertIsInstance(self.layer(group).source, GroupSource)
        # What is added while the group is entered goes into it.
        self.card(group)
        self.bench.stack.new.add("B", FillSource())
        self.assertEqual(self.layer("b").group, group)
        self.assertEqual([card.layer_id for card in self.bench.stack.cards][:3], [group, "b", "a"])
        self.desk.looking.select_layer("outgoing")
        self.pull("incoming", under=group, right=60)
        self.assertEqual(self.layer("incoming").group, group)
        self.pull("incoming", under="a", right=2)
        self.assertIsNone(self.layer("incoming").group)
        self.desk.looking.select_layer(group)
        self.act("bench.dissolve")
        self.assertEqual(self.layer("a").group, None)
        self.assertNotIn(group, [x.id for x in self.desk.document.state.layers])

    def pull(self, layer: str, under: str, right: int) -> None:
        """Drags a card under another one, ``right`` pixels from the stack's left edge."""
        self.app.processEvents()
        cards = {card.layer_id: card for card in self.bench.stack.cards}
        card, goal = cards[layer], cards[under]
        start = QPoint(card.width() - 60, 14)
        end = card.mapFromParent(QPoint(right, goal.geometry().bottom() + 1))
        drag(card, QPointF(start), QPointF(end))
        self.app.processEvents()

    def test_what_one_layer_has_is_pasted_to_another_mirrored(self) -> None:
        self.desk.looking.select_layer("outgoing")
        position = SettingRef("outgoing", "position")
        self.desk.document.edit(
            "x", lambda w: lane_edits.set_value(w, position, Fraction(0), (0.4, 0.0))
        )
        self.act("bench.copy-layer")
        self.desk.looking.select_layer("incoming")
        self.act("bench.paste-place-left_right")
        self.assertEqual(self.layer("incoming").placement.position.rest, (-0.4, 0.0))
        names = [action.text() for action in self.bench.stack.new.menu().actions()]
        self.assertLess({"Rectangle", "Ellipse", "Polygon", "Words", "Noise"}, set(names))


class FurtherLayers(LayersCase):
    def test_strokes_from_a_drawing_become_a_staggered_reveal(self) -> None:
        path = self.folder / "strokes.svg"
        path.write_text(STROKES)
        mime = QMimeData()
        mime.setUrls([QUrl.fromLocalFile(str(path))])
        self.result.dropEvent(
            QDropEvent(
                QPointF(50, 50),
                Qt.DropAction.CopyAction,
                mime,
                LEFT,
                Qt.KeyboardModifier.NoModifier,
            )
        )
        group = self.desk.looking.layer
        self.assertEqual(self.layer(group).name, "strokes")
        strokes = within(self.desk.document.state.layers, group)
        self.assertEqual([x.name for x in strokes], ["one", "two", "three"])
        saved = self.folder / "strokes.wrinkle"
        self.assertTrue(self.desk.document.save(saved))
        self.assertEqual(archive.read(saved).wrinkle, self.desk.document.state)
        for place, stroke in enumerate(strokes):
            self.desk.looking.set_playhead(3 * place)
            row = self.row(stroke.id, "source.draw_to")
            QTest.mouseClick(row.lane_button, LEFT)
            row.field.committed.emit(0.0)
            self.desk.looking.set_playhead(3 * place + 4)
            row.field.committed.emit(100.0)
        matte = Matte(group, MatteBy.COVERAGE)
        self.desk.document.edit("matte", lambda w: matte_edits.set_matte(w, "incoming", matte))
        ref = SettingRef(group, "visible")
        self.desk.document.edit(
            "hidden", lambda w: lane_edits.set_value(w, ref, Fraction(0), False)
        )
        self.desk.document.edit(
            "under", lambda w: layer_edits.change_layer(w, "outgoing", span=Span())
        )
        self.all_ready()
        plain = [self.mean(frame) for frame in (0, 4, 7, 11)]
        self.assertEqual(len({round(value) for value in plain}), 4)

    def mean(self, frame: int) -> float:
        picture = self.bench.renderer.picture(frame)
        bits = picture.constBits()
        return float(np.frombuffer(bits.asarray(picture.sizeInBytes()), np.uint8).mean() * 10)

    def test_a_title_is_typed_outlined_and_put_behind_a_cut_out(self) -> None:
        self.bench.stack.new.add("Title", WordsSource())
        card = self.card("title")
        words = card.findChild(QPlainTextEdit)
        words.setFocus()
        words.selectAll()
        QTest.keyClicks(words, "KITES")
        self.assertEqual(self.layer("title").source.text, "KITES")
        self.bench.setFocus()
        words.left.emit()
        self.assertEqual(self.desk.steps.undo_label, "words")
        self.row("title", "source.stroke_width").field.committed.emit(1.5)
        self.row("title", "source.size").field.committed.emit(30.0)
        source = self.layer("title").source
        self.assertEqual((source.stroke_width.rest, source.size.rest), (1.5, 30.0))
        # The words lie over the middle; a fish that is cut out of its picture covers them there.
        kite_fish(self.folder / "fish.png")
        self.bench.stack.new.add_picture(self.folder / "fish.png")
        self.row("fish", "fit").field.committed.emit("whole")
        self.row("fish", "edge_cover").field.committed.emit("bare")
        behind = self.middle()
        self.assertNotEqual(behind, "#ffffff")
        self.act("bench.back")
        order = [x.id for x in self.desk.document.state.layers]
        self.assertEqual(order, ["outgoing", "incoming", "fish", "title"])
        self.assertEqual(self.middle(), "#ffffff")

    def middle(self) -> str:
        """The colour in the middle of the result, on a letter of the title."""
        self.all_ready()
        picture = self.bench.renderer.picture(-3)
        row = picture.height() // 2
        columns = range(picture.width() * 3 // 10, picture.width() * 7 // 10)
        seen = [picture.pixelColor(x, row).name() for x in columns]
        return "#ffffff" if "#ffffff" in seen else seen[len(seen) // 2]

    def test_pictures_words_and_drawings_are_pasted(self) -> None:
        board = QApplication.clipboard()
        mime = QMimeData()
        mime.setText("From elsewhere")
        board.setMimeData(mime)
        self.act("bench.paste")
        layer = self.layer(self.desk.looking.layer)
        self.assertEqual(layer.source, WordsSource("From elsewhere"))
        picture = self.bench.grab().toImage().copy(0, 0, 20, 20)
        board.setImage(picture)
        self.act("bench.paste")
        self.assertEqual(self.layer(self.desk.looking.layer).source.asset, "pasted.png")

    def test_a_further_clip_gets_a_slot_of_its_own(self) -> None:
        self.bench.stack.new.add_file(demo_clip("tail"))
        wait_for(lambda: self.desk.looking.layer == "tail", "the further clip")
        layer = self.layer(self.desk.looking.layer)
        self.assertEqual((layer.name, layer.source.slot), ("tail", "third"))
        self.assertEqual([slot.key for slot in self.desk.document.state.slots][2:], ["third"])
        card = next(card for card in self.bench.stack.cards if card.layer_id == layer.id)
        self.assertTrue(card.about.text().startswith("third clip"), card.about.text())
        self.all_ready()
        dialog = self.window.use()
        self.addCleanup(dialog.done, 0)
        self.assertIn("third", dialog.picks)

    def test_a_broken_drawing_is_refused_with_a_sentence(self) -> None:
        for text, said in (("<svg", "cannot be read as an SVG"), ("<svg/>", "holds no path")):
            path = self.folder / "bad.svg"
            path.write_text(text)
            self.bench.stack.new.add_file(path)
            self.assertIn(said, self.faults[-1])


class TimeByHand(LayersCase):
    def test_a_layer_is_split_frozen_and_its_ends_are_dragged(self) -> None:
        self.desk.looking.select_layer("outgoing")
        self.desk.looking.set_playhead(-6)
        self.key(Qt.Key.Key_S)
        later = self.desk.looking.layer
        self.assertEqual(self.layer(later).span.start, -6 * FRAME)
        self.desk.looking.set_playhead(-3)
        self.key(Qt.Key.Key_Z)
        still = self.layer(self.desk.looking.layer)
        self.assertEqual((still.span.start, still.timing.freeze), (-3 * FRAME, -3 * FRAME))
        bar = self.bench.timeline.span
        self.desk.looking.select_layer("incoming")
        rect, cell = bar.bar(), bar.axis.cell
        drag(bar, QPointF(rect.left(), 8), QPointF(rect.left() - 4 * cell, 8))
        self.assertEqual(self.layer("incoming").span.start, -4 * FRAME)
        rect = bar.bar()
        drag(bar, QPointF(rect.right(), 8), QPointF(rect.right() - 2 * cell, 8))
        self.assertEqual(self.layer("incoming").span.end, 10 * FRAME)
        middle = bar.bar().center()
        drag(bar, middle, middle + QPointF(-2 * cell, 0))
        span = self.layer("incoming").span
        self.assertEqual((span.start, span.end), (-6 * FRAME, 8 * FRAME))

    def test_speed_reverse_blink_and_the_rest_are_set_in_the_card(self) -> None:
        time = self.card("incoming").sections["Time"]
        section = time.rows.itemAt(0).widget()
        section.plain["Direction"].field.click()
        section.plain["Blink"].field.click()
        section.plain["Hidden for"].field.committed.emit(1.0)
        section.plain["Slide"].field.committed.emit(5.0)
        section.plain["In between"].field.click()
        self.row("incoming", "timing.speed").field.committed.emit(50.0)
        self.row("incoming", "timing.sound").field.committed.emit("runs along")
        timing = self.layer("incoming").timing
        self.assertEqual(timing.sound.rest, "runs along")
        self.assertTrue(timing.reverse and timing.frame_blending)
        self.assertEqual((timing.blink.shown, timing.blink.hidden), (2, 1))
        self.assertEqual((timing.slide, timing.speed.rest), (5 * FRAME, 50.0))
        section.plain["Hidden for"].field.committed.emit(0.0)
        self.assertIn("1 to 1000", self.faults[-1])
        type_into(section.plain["From frame"].field, "99999999")
        self.assertIn("one frame of the window at least", self.faults[-1])
