"""The stack: small pictures on the cards, several open, and settings that are looked for."""

from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from tests.ui.window_case import LEFT, WindowCase, settle, type_into, wait_for
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits, lane_shapes, layer_edits
from wrinkle.ui.bench.stack.card import LayerCard
from wrinkle.ui.shared.qimages import pixels_of


class Cards(WindowCase):
    def card(self, layer: str) -> LayerCard:
        return next(x for x in self.bench.stack.cards if x.layer_id == layer)

    def colour(self, layer: str) -> np.ndarray:
        picture = self.card(layer).picture.picture
        assert picture is not None
        return pixels_of(picture).reshape(-1, 3).mean(axis=0)

    def test_each_has_a_picture_of_its_layer_alone_at_the_playhead(self) -> None:
        looking = self.desk.looking
        looking.set_playhead(-10)
        for layer in ("outgoing", "turn"):
            wait_for(
                lambda layer=layer: self.card(layer).picture.picture is not None, "small pictures"
            )
        # A treatment is seen on what lies below: here that is the outgoing clip, not turned yet.
        np.testing.assert_allclose(self.colour("turn"), self.colour("outgoing"), atol=12.0)
        before = self.colour("outgoing")
        # What is shown for comparison has other layers: nothing fails.
        looking.show_plain(True)
        self.bench.stack.refresh()
        looking.show_plain(False)
        looking.set_playhead(10)

        def other() -> bool:
            gone = self.card("outgoing").picture.picture is None
            return gone or bool(np.abs(self.colour("outgoing") - before).max() > 2.0)

        wait_for(other, "another frame")
        wait_for(lambda: self.card("incoming").picture.picture is not None, "the other clip")
        self.assertRegex(self.card("incoming").laid.text(), r"^100 %\nnormal$")
        ref = SettingRef("incoming", "opacity")
        self.desk.document.edit(
            "fainter", lambda w: lane_edits.set_value(w, ref, Fraction(1, 3), 40.0)
        )
        self.assertRegex(self.card("incoming").laid.text(), r"^40 %\nnormal$")

    def test_several_are_open_at_once_and_a_press_selects_one(self) -> None:
        looking = self.desk.looking
        looking.select_layer("turn")
        QTest.mouseClick(self.card("outgoing").fold_button, LEFT)
        self.assertEqual(looking.layer, "turn")
        self.assertTrue(self.card("outgoing").unfolded and self.card("turn").unfolded)
        # What is worked on in it is its own layer.
        row = next(x for x in self.card("outgoing").rows if x.ref.key == "rotation")
        type_into(row.field, "12")
        self.assertEqual(self.desk.document.state.layer("outgoing").placement.rotation.rest, 12.0)
        looking.select_layer("incoming")
        self.assertTrue(self.card("outgoing").unfolded, "it stays as it was opened by its button")
        self.assertFalse(self.card("turn").unfolded, "it was open because it was selected")
        for layer in ("incoming", "outgoing"):
            QTest.mouseClick(self.card(layer).fold_button, LEFT)
            self.assertFalse(self.card(layer).unfolded)
        QTest.mouseClick(self.card("incoming").fold_button, LEFT)
        self.assertTrue(self.card("incoming").unfolded)
        QTest.mouseClick(self.card("turn"), LEFT, pos=QPoint(80, 12))
        self.assertEqual(looking.layer, "turn")

    def test_settings_are_found_by_typing_and_only_what_moves_is_listed(self) -> None:
        stack = self.bench.stack
        type_into(stack.search, "turn rotation")
        self.assertEqual([x.ref for x in stack.found.rows], [SettingRef("turn", "rotation")])
        self.assertTrue(stack.found.isVisible())
        self.assertFalse(stack.cards_view.isVisible())
        type_into(stack.found.rows[0].field, "33")
        self.assertEqual(
            lane_edits.track_of(self.desk.document.state, SettingRef("turn", "rotation")).value_at(
                self.desk.looking.time, 0.0
            ),
            33.0,
        )
        type_into(stack.search, "zzz")
        self.assertEqual(stack.found.rows, [])
        self.assertIn("is called that", stack.found.note.text())
        QTest.keyClick(stack.search, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClick(stack.search, Qt.Key.Key_Delete)
        self.assertTrue(stack.cards_view.isVisible())
        stack.which.setCurrentIndex(1)
        stack.which.activated.emit(1)
        self.assertEqual([x.ref for x in stack.found.rows], [SettingRef("turn", "rotation")])
        # What is changed meanwhile is listed at once.
        ref = SettingRef("incoming", "opacity")
        self.desk.document.edit("a lane", lambda w: lane_shapes.begin_lane(w, ref, Fraction(0)))
        self.assertIn(ref, [x.ref for x in stack.found.rows])
        # What is dragged through the value that a new layer has stays where it is.
        stack.which.setCurrentIndex(2)
        stack.which.activated.emit(2)
        turned = SettingRef("incoming", "rotation")
        self.desk.document.edit(
            "turned", lambda w: lane_edits.set_value(w, turned, Fraction(0), 8.0)
        )
        rows = list(stack.found.rows)
        self.assertIn(turned, [x.ref for x in rows])
        for angle in (4.0, 0.0, -4.0):
            self.desk.document.preview(
                lambda w, angle=angle: lane_edits.set_value(w, turned, Fraction(0), angle)
            )
            self.assertEqual(stack.found.rows, rows)
        self.desk.document.abandon()
        heading = next(x for x in stack.found.headings if "Incoming" in x.text())
        QTest.mouseClick(heading, LEFT)
        self.assertEqual(self.desk.looking.layer, "incoming")
        self.assertTrue(stack.cards_view.isVisible() and self.card("incoming").unfolded)
        stack.which.setCurrentIndex(1)
        stack.which.activated.emit(1)
        self.desk.document.edit("nothing", lambda w: layer_edits.with_layers(w, ()))
        self.assertIn("Nothing moves", stack.found.note.text())

    def test_one_layer_is_shown_alone_by_a_key(self) -> None:
        looking = self.desk.looking
        looking.select_layer("turn")
        self.key(Qt.Key.Key_L)
        self.assertTrue(looking.layer_alone)
        looking.select_layer("incoming")
        settle()
        shown = looking.shown_wrinkle()
        self.assertEqual(
            [x.id for x in shown.layers if x.visible.rest], ["incoming"], "the selected one"
        )
        self.key(Qt.Key.Key_L)
        self.assertEqual(looking.shown_wrinkle(), self.desk.document.state)
