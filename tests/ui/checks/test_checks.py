"""The Checks place: what is found is shown, mended in one step, set aside, and counted."""

from unittest import mock

import numpy as np
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog

from tests.core.measure.broken import idle, kinked, turned
from tests.turning import QUARTER_TURN
from tests.ui.window_case import LEFT, WindowCase, demo_clip, settle, wait_for
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.edits import wrinkle_edits
from wrinkle.core.measure.registry import CHECKS
from wrinkle.core.measure.traces import TRACES
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.dressing import put_on
from wrinkle.core.piece.use import PieceUse
from wrinkle.files.archive import read
from wrinkle.library import shipped
from wrinkle.ui.desk.examiner import WRINKLE
from wrinkle.ui.place import WorksOn


class ChecksCase(WindowCase):
    measured_after = 20

    def setUp(self) -> None:
        super().setUp()
        self.checks = self.window.places.place("checks")
        self.panel, self.mending = self.checks.found, self.checks.mending
        self.examiner = self.desk.examiner

    def examine(self, *breaks: object) -> None:
        """Breaks the wrinkle, and waits until that is found."""
        for broken in breaks:
            self.desk.document.edit("break", broken)
        self.examined()

    def examined(self, key: str = WRINKLE) -> None:
        settle()
        wait_for(
            lambda: not self.examiner.measuring(key) and self.examiner.found(key) is not None,
            "measuring",
        )

    def found(self) -> list[str]:
        return [card.item.finding.check for card in self.panel.list.cards]

    def choose(self, check: str) -> None:
        """Clicks the card of a check, and waits for what its mend comes to."""
        card = next(x for x in self.panel.list.cards if x.item.finding.check == check)
        QTest.mouseClick(card, LEFT)
        wait_for(lambda: not self.checks.mender.working, "the mend is worked out")


class OfTheWrinkle(ChecksCase):
    def test_a_bare_corner_is_found_shown_mended_and_undone(self) -> None:
        self.examine(turned)
        self.window.places.go_to("checks")
        self.assertEqual((self.found(), self.window.head.bar.badge.count), (["bare"], 1))
        self.choose("bare")
        self.assertRegex(self.panel.list.current.finding.sentence, "the picture is bare in")
        self.assertEqual(self.checks.pictures.frame, -5)
        pictures = self.checks.pictures
        wait_for(lambda: pictures.before.is_ready(-5) and pictures.after.is_ready(-5), "both")
        before, after = pictures.before.frame(-5), pictures.after.frame(-5)
        self.assertLess(before.pixels[..., 3].min(), 10)
        self.assertGreater(after.pixels[..., 3].min(), 250)
        row = self.checks.traces.rows["bare"]
        self.assertIn(-5, row.canvas.beyond)
        self.assertRegex(row.value.text(), r"^\d+\.\d\d %$")
        self.act("checks.frame-on")
        self.assertEqual(self.checks.pictures.frame, -4)
        self.act("checks.play")
        self.assertIsNotNone(self.checks.pictures.sound.heard, "what the mend leaves is heard")
        self.act("checks.play")
        broken = self.desk.document.state
        QTest.mouseClick(self.mending.mend_button, LEFT)
        self.assertNotEqual(self.desk.document.state, broken)
        self.examined()
        self.assertEqual((self.found(), self.window.head.bar.badge.count), ([], 0))
        self.assertRegex(self.panel.empty.words.text(), "Nothing is wrong")
        # Each check is listed as passed, with what was measured against its limit.
        passed = self.panel.passed
        self.assertTrue(passed.isVisible())
        self.assertEqual([row.check.key for row in passed.rows], list(CHECKS))
        figures = {row.check.key: row.figure.text() for row in passed.rows}
        lines = self.examiner.found().lines["bare"]
        worst = max(float(np.nanmax(line.values)) for line in lines)
        limit = min(x.value for x in TRACES["bare"].limits)
        self.assertEqual(figures["bare"], f"{worst:.2f} of {limit:g} %")
        for button in (
            self.mending.mend_button,
            self.mending.all_button,
            self.mending.aside_button,
        ):
            self.assertFalse(button.isVisible())
        self.act("edit.undo")
        self.assertEqual(self.desk.document.state, broken)
        self.examined()
        place = self.mending.choice.findText("Mirror the edges")
        self.mending.choice.setCurrentIndex(place)
        self.mending.choice.activated.emit(place)
        wait_for(lambda: self.mending.mend_button.isEnabled(), "worked out")
        # It says what it sets before it is done, and afterwards.
        sets = "It sets Edge cover of Turned bare → mirror."
        self.assertEqual(self.checks.pictures.note.text(), sets)
        self.act("checks.mend")
        self.assertEqual(self.window.status.said, f"Mended. {sets}")
        turn = self.desk.document.state.layers[-1]
        self.assertEqual((turn.name, turn.edge_cover.rest), ("Turned", "mirror"))

    def test_a_mend_that_comes_late_keeps_what_was_edited_meanwhile(self) -> None:
        self.examine(idle, idle)
        self.window.places.go_to("checks")
        self.choose("effects")
        QTest.mouseClick(self.mending.all_button, LEFT)
        self.assertTrue(self.checks.mender.working)
        self.desk.document.edit("shutter", lambda w: wrinkle_edits.set_shutter(w, 33.0))
        idle_effects = sum(len(layer.effects) for layer in self.desk.document.state.layers)
        wait_for(lambda: not self.checks.mender.working, "worked out")
        found = self.desk.document.state
        self.assertEqual(found.shutter_angle, 33.0)
        self.assertLess(sum(len(layer.effects) for layer in found.layers), idle_effects)
        self.act("edit.undo")
        self.assertEqual(self.desk.document.state.shutter_angle, 33.0)
        # What was measured is looked at until it is measured anew, although nobody waits for it.
        examined = self.desk.examiner.found(WRINKLE)
        assert examined is not None
        examined.subject.given_up.set()
        self.checks.pictures.show_subject(examined.subject)
        self.checks.pictures.show_mended(found, "After", "")
        wait_for(lambda: self.checks.pictures.after.all_ready, "what the mend comes to")

    def test_all_of_a_kind_are_mended_or_one_is_set_aside_with_a_reason(self) -> None:
        self.examine(idle, idle, kinked)
        self.window.places.go_to("checks")
        self.assertEqual(self.found(), ["seam", "effects", "effects"])
        self.panel.list.setFocus()
        QTest.keyClick(self.panel.list, Qt.Key.Key_Down)
        self.assertIs(self.panel.list.current, self.panel.list.cards[1].item)
        before = self.desk.document.state
        self.choose("effects")
        QTest.mouseClick(self.mending.all_button, LEFT)
        wait_for(lambda: self.desk.document.state != before, "mended")
        mended = self.desk.document.state
        self.act("edit.undo")
        self.assertEqual(self.desk.document.state, before)
        self.act("edit.redo")
        self.examined()
        self.assertEqual((self.found(), self.desk.document.state), (["seam"], mended))
        self.choose("seam")
        with mock.patch.object(QInputDialog, "getText", return_value=("A jerk.", True)):
            QTest.mouseClick(self.mending.aside_button, LEFT)
        self.examined()
        self.assertEqual(self.window.head.bar.badge.count, 0)
        (aside,) = self.desk.document.state.set_aside
        self.assertEqual((aside.check, aside.reason), ("seam", "A jerk."))
        self.assertEqual(self.panel.list.current.reason, "A jerk.")
        path = self.folder / "jerk.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        self.assertEqual(read(path).wrinkle.set_aside, (aside,))
        QTest.mouseClick(self.mending.aside_button, LEFT)
        self.examined()
        self.assertEqual(self.window.head.bar.badge.count, 1)
        with mock.patch.object(QInputDialog, "getText", return_value=("  ", True)):
            self.mending.ask_reason()
        self.assertRegex(self.faults[-1], "Say why")

    def test_the_badge_leads_here_and_traces_stand_under_the_lanes(self) -> None:
        self.examine(turned)
        timeline = self.bench.timeline
        self.assertFalse(timeline.traces.isVisible())
        self.act("bench.trace.bare")
        (row,) = timeline.traces.rows
        self.assertTrue(row.isVisible())
        self.assertIn(-5, row.canvas.beyond)
        self.assertEqual(row.canvas.axis, timeline.rows[0].canvas.axis)
        QTest.mouseClick(row.canvas, LEFT, pos=QPoint(int(row.canvas.axis.x(-5.5)), 20))
        self.assertEqual(self.desk.looking.playhead, -6)
        self.act("bench.trace.bare")
        self.assertEqual(timeline.traces.rows, [])
        QTest.mouseClick(self.window.head.bar.badge, LEFT)
        self.assertIs(self.window.places.currentWidget(), self.checks)
        # Nothing to measure is said, and nothing that can be pressed does harm.
        self.desk.tried.show({})
        wait_for(lambda: not self.examiner.measuring(), "nothing to measure")
        self.assertRegex(self.panel.empty.words.text(), "Choose two clips on the Bench")
        self.assertIsNone(self.window.head.bar.badge.count)
        self.assertFalse(self.checks.pictures.isVisible() or self.checks.traces.isVisible())
        QTest.mouseClick(self.panel.bench_button, LEFT)
        self.assertIs(self.window.places.currentWidget(), self.bench)
        self.window.places.go_to("checks")
        self.checks.set_scope(WorksOn.PIECE)
        self.assertRegex(self.panel.empty.words.text(), "No cut of the piece is dressed yet")
        self.assertTrue(self.panel.cuts_button.isVisible())
        self.assertFalse(self.panel.bench_button.isVisible())
        for name in (
            "checks.mend",
            "checks.all",
            "checks.aside",
            "checks.play",
            "checks.frame-on",
        ):
            self.act(name)
        self.assertEqual(self.faults, [])


class OfThePiece(ChecksCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()
        piece = self.desk.piece
        piece.add_files(0, [demo_clip(name) for name in ("box_kite", "pier", "tail")])
        wait_for(lambda: len(piece.state.clips) == 3, "the clips")
        bundle = read(QUARTER_TURN)
        broken = PieceUse(Bundle(turned(bundle.wrinkle), bundle.assets))
        self.cuts = [clip.id for clip in piece.state.clips[1:]]
        piece.edit("dress", lambda x: put_on(x, self.cuts, broken))

    def all_examined(self) -> None:
        for cut in self.cuts:
            self.examined(cut)

    def test_all_cuts_are_listed_mended_together_and_undone_in_the_piece(self) -> None:
        self.window.places.go_to("cutlist")
        self.all_examined()
        self.assertEqual(self.window.head.bar.badge.count, 2)
        order = self.window.places.place("cutlist").order
        wait_for(lambda: len(order.rows.faults) == 2, "told in the running order")
        self.assertEqual({x.short for found in order.rows.faults.values() for x in found},
                         {"1 check open"})  # fmt: skip
        QTest.mouseClick(self.window.head.bar.badge, LEFT)
        self.assertIs(self.checks.works_on, WorksOn.PIECE)
        self.assertEqual(self.found(), ["bare", "bare"])
        self.assertEqual(
            sorted(card.item.where for card in self.panel.list.cards),
            ["cut 1 · box_kite → pier", "cut 2 · pier → tail"],
        )
        before = self.desk.piece.state
        self.choose("bare")
        QTest.mouseClick(self.mending.all_button, LEFT)
        wait_for(lambda: not self.checks.mender.working, "mended")
        self.all_examined()
        self.assertEqual(self.found(), [])
        self.act("edit.undo")
        self.assertEqual(self.desk.piece.state, before)
        self.all_examined()
        self.choose("bare")
        QTest.mouseClick(self.mending.mend_button, LEFT)
        changed = [
            a is not b for a, b in zip(self.desk.piece.state.clips, before.clips, strict=True)
        ]
        self.assertEqual(sum(changed), 1)
        self.act("edit.undo")
        self.all_examined()
        self.choose("bare")
        with mock.patch.object(QInputDialog, "getText", return_value=("Corners.", True)):
            self.mending.ask_reason()
        self.all_examined()
        # It is the same wrinkle on both cuts.
        self.assertEqual([card.item.reason for card in self.panel.list.cards], ["Corners."] * 2)
        self.assertEqual(self.window.head.bar.badge.count, 0)

    def test_room_is_made_for_a_cut_whose_clips_are_too_short(self) -> None:
        cuts = [clip.id for clip in self.desk.piece.state.clips[1:]]
        cutlist = self.window.places.place("cutlist")
        self.window.places.go_to("cutlist")
        cutlist.dresser.put(shipped()["corner_split"], cuts)

        def to_the_end(piece: Piece) -> Piece:
            clip = piece.clips[0]
            return edits.trim(piece, clip.id, 0, clip.spare(piece.rate)[1])

        self.desk.piece.edit("to its end", to_the_end)
        self.all_examined()
        QTest.mouseClick(self.window.head.bar.badge, LEFT)
        self.choose("handles")
        self.assertTrue(self.mending.room_button.isVisible())
        before = self.desk.piece.state.frame_count
        QTest.mouseClick(self.mending.room_button, LEFT)
        self.assertLess(self.desk.piece.state.frame_count, before)
        self.all_examined()
        where = {card.item.where for card in self.panel.list.cards
                 if card.item.finding.check == "handles"}  # fmt: skip
        self.assertNotIn("cut 1 · box_kite → pier", where)
