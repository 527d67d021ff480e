"""Dials on the Bench: offered in a setting's row, tried over the stack, made in their dialog."""

from fractions import Fraction

from PyQt6.QtCore import QPointF
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QMenu, QWidget

from tests.media.clips import write_numbered
from tests.ui.window_case import LEFT, WindowCase, drag, type_into, wait_for
from wrinkle.core.design.document.dials import How
from wrinkle.core.design.document.ranged_dials import AmountDial, TimeDial
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slot_kinds import PICTURE, WORDS
from wrinkle.core.design.document.slots import Slot, Unfilled
from wrinkle.core.design.edits import effect_edits
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.reuse.use import filled
from wrinkle.ui.bench.dialogs.details_dialog import DetailsDialog
from wrinkle.ui.bench.sections.layer_row import LayerRow
from wrinkle.ui.bench.sections.source_section import SourceSection


class Dials(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.stack = self.bench.stack
        self.desk.looking.select_layer("turn")

    @property
    def dials(self):  # type: ignore[no-untyped-def]
        return self.desk.document.state.dials

    def row(self, key: str):  # type: ignore[no-untyped-def]
        card = next(card for card in self.stack.cards if card.unfolded)
        return next(row for row in card.findChildren(LayerRow) if row.ref.address.name == key)

    def press(self, key: str, words: str) -> None:
        """Presses a row's spool and takes an entry of its menu."""
        row = self.row(key)
        QTest.mouseClick(row.dial_button, LEFT)
        # Where there is nothing to choose, it is done at once.
        if any(menu.isVisible() for menu in row.findChildren(QMenu)):
            self.take(row, words)

    def take(self, widget: QWidget, words: str) -> None:
        menu = next(x for x in widget.findChildren(QMenu) if x.isVisible())
        action = next(x for x in menu.actions() if words in x.text())
        action.trigger()
        menu.close()

    def test_two_settings_on_one_dial_are_tried_and_taken_off(self) -> None:
        self.desk.document.edit("glow", lambda w: effect_edits.add_effect(w, "turn", "glow")[0])
        self.press("rotation", "Offer it as a dial of its own")
        self.press("amount", "Let the dial 'Rotation' drive it too")
        (dial,) = self.dials
        self.assertEqual([drive.how for drive in dial.drives], [How.TIMES, How.TIMES])
        self.assertEqual(self.row("rotation").driven.text(), "driven by Rotation")
        self.desk.looking.set_playhead(-2)
        self.all_ready()
        before = self.shown_picture()
        (shown,) = self.stack.dials.rows
        type_into(shown.field.field, "30")
        self.assertEqual(self.desk.trial.choices.dials, {dial.id: 30.0})
        wait_for(lambda: self.shown_picture() != before, "another picture")
        self.assertEqual(self.dials, (dial,))
        type_into(shown.field.field, "300")
        self.assertIn("from 0 to 200 %", self.faults[-1])
        self.stack.dials.controls.as_made.click()
        self.assertEqual(self.desk.trial.choices.dials, {})
        self.press("amount", "Take it off the dial 'Rotation'")
        self.press("rotation", "Take it off the dial 'Rotation'")
        self.assertEqual(self.dials, ())
        self.act("edit.undo")
        self.assertEqual(len(self.dials[0].drives), 1)

    def test_a_setting_that_is_set_is_not_typed_over(self) -> None:
        self.press("skew", "Offer it as a dial of its own")
        row = self.row("skew")
        self.assertFalse(row.field.isEnabled())
        self.assertEqual(row.driven.text(), "set by Skew")
        QTest.mouseClick(row.lane_button, LEFT)
        self.assertIn("Skew is set by the dial 'Skew' and cannot be animated", self.faults[-1])
        (shown,) = self.stack.dials.rows
        self.assertEqual(shown.about.text(), "amount · Turn · Skew (set)")
        type_into(shown.field.field, "20")
        shown.more_button.menu().actions()[1].trigger()
        self.assertEqual(self.row("skew").field.value, 20.0)
        self.assertEqual(self.dials[0].default, 20.0)

    def test_the_dialog_changes_what_a_dial_is(self) -> None:
        self.press("skew", "Offer it as a dial of its own")
        (dial,) = self.dials
        dialog = self.stack.dials.edit(dial.id)
        type_into(dialog.fields["name"], "Lean")
        type_into(dialog.fields["high"], "40")
        type_into(dialog.fields["low"], "90")
        self.assertIn("needs a lower end, a higher one", dialog.message.text())
        found = self.dials[0]
        assert isinstance(found, AmountDial)
        self.assertEqual((found.name, found.high, found.low < 40), ("Lean", 40.0, True))
        (how,) = dialog.hows
        how.setCurrentIndex(how.findData(How.PLUS))
        how.activated.emit(how.currentIndex())
        self.assertEqual(self.dials[0].drives[0].how, How.PLUS)
        self.assertTrue(self.row("skew").field.isEnabled())
        self.act("edit.undo")
        self.assertEqual(self.dials[0].drives[0].how, How.SET)
        self.stack.dials.rows[0].more_button.menu().actions()[-1].trigger()
        wait_for(lambda: not dialog.isVisible(), "the dialog closed with its dial")

    def test_what_is_of_the_whole_can_be_driven_and_swept(self) -> None:
        self.stack.dials.section.heading.click()
        menu = self.stack.dials.add_button.menu()
        menu.aboutToShow.emit()
        for words in ("Lead of the whole wrinkle", "Shutter angle of the whole wrinkle"):
            next(x for x in menu.actions() if x.text() == words).trigger()
        pace, blur = self.dials
        assert isinstance(pace, TimeDial)
        self.assertEqual((pace.default, pace.high), (Fraction(2, 5), Fraction(4, 5)))
        tried = []
        self.desk.trial.changed.connect(lambda: tried.append(self.desk.trial.choices.dials))
        self.stack.dials.rows[1].sweep_button.click()
        wait_for(lambda: not self.stack.dials.rows[1].sweep_button.isChecked(), "the sweep")
        values = [x[blur.id] for x in tried if blur.id in x]
        self.assertEqual((max(values), min(values)), (360.0, 0.0))
        # At the end it is as made again.
        self.assertEqual(tried[-1], {})

    def test_a_dial_is_named_by_its_effect_and_what_moves_is_offered_first(self) -> None:
        self.desk.document.edit("glow", lambda w: effect_edits.add_effect(w, "turn", "glow")[0])
        self.press("amount", "")
        self.assertEqual([dial.name for dial in self.dials], ["Glow"])
        self.act("edit.undo")
        self.press("radius", "")
        self.assertEqual([dial.name for dial in self.dials], ["Glow: radius"])
        self.stack.dials.section.heading.click()
        menu = self.stack.dials.add_button.menu()
        menu.aboutToShow.emit()
        first = menu.actions()[0]
        self.assertRegex(first.text(), "which moves$")
        first.trigger()
        self.assertEqual(len(self.dials), 2)
        self.assertTrue(SettingRef("turn", self.dials[1].drives[0].key).of(
            self.desk.document.state
        ).animated)  # fmt: skip

    def test_a_direction_and_a_strength_are_tried(self) -> None:
        self.desk.looking.set_playhead(-3)
        self.all_ready()
        before = self.shown_picture()
        dials = self.stack.dials
        dials.trying.heading.click()
        box = dials.controls.direction
        box.setCurrentIndex(box.findData(Direction.LEFT_RIGHT))
        box.activated.emit(box.currentIndex())
        wait_for(lambda: self.shown_picture() != before, "the mirrored picture")
        self.assertEqual(dials.trying.heading.text().split("  ")[-1], "not as made")
        field = dials.controls.strength
        spot = QPointF(20, 10)
        drag(field, spot, spot - QPointF(60, 0))
        self.assertLess(self.desk.trial.choices.strength, 100.0)
        self.assertFalse(self.desk.document.unsaved)


class Lengths(WindowCase):
    def test_a_layer_and_a_lane_keep_their_length(self) -> None:
        self.desk.looking.select_layer("turn")
        card = next(card for card in self.bench.stack.cards if card.unfolded)
        card.sections["Time"].heading.click()
        box = next(x for x in card.findChildren(QComboBox) if x.accessibleName() == "Length")
        box.activated.emit(box.findData(HeldAt.CUT))
        self.assertIs(self.desk.document.state.layer("turn").keeps, HeldAt.CUT)
        (lane,) = self.bench.timeline.rows
        menu = lane.length.menu()
        menu.aboutToShow.emit()
        next(x for x in menu.actions() if x.text().endswith("last frame")).trigger()
        track = self.desk.document.state.layer("turn").setting("rotation").track
        self.assertIs(track.keeps if track else None, HeldAt.LAST)
        self.assertIn("held at the last frame", lane.length.toolTip())
        self.act("edit.undo")
        self.assertEqual(lane.length.toolTip(), "It stretches with the wrinkle")


class FurtherSlots(WindowCase):
    def test_a_further_clip_is_slid_and_kept_as_the_stand_in(self) -> None:
        fog = write_numbered(self.folder / "fog.mp4", 60)
        self.bench.stack.new.add_file(fog)
        wait_for(lambda: "third" in self.desk.tried.clips, "the further clip")
        card = next(card for card in self.bench.stack.cards if card.unfolded)
        card.sections["Picture"].heading.setChecked(True)
        section = card.findChild(SourceSection)
        assert section is not None
        assert section.strip is not None
        section.strip.slid.emit(Fraction(1, 2))
        self.assertEqual(self.desk.tried.clips["third"].cut, Fraction(1, 2))
        assert section.keep_button is not None
        section.keep_button.click()
        wait_for(lambda: self.slot().stand_in == "fog.mp4", "the stand-in")
        slot = self.slot()
        self.assertEqual((slot.stand_in_cut, slot.unfilled), (Fraction(1, 2), Unfilled.STAND_IN))
        self.assertTrue(self.desk.document.save(self.folder / "fog.wrinkle"))
        self.desk.document.start_new()
        self.assertTrue(self.desk.document.open(self.folder / "fog.wrinkle"))
        # Nothing is tried in the slot where somebody else opens it.
        found = filled(self.desk.document.state, {}, self.desk.carried())["third"]
        self.assertEqual((found.source.name, found.cut), ("fog", Fraction(1, 2)))

    def slot(self) -> Slot:
        return self.desk.document.state.slot("third")


class Details(WindowCase):
    def test_kinds_directions_and_slots_are_said(self) -> None:
        self.act("bench.details")
        dialog = self.window.findChild(DetailsDialog)
        assert dialog is not None
        dialog.kinds["zoom"].click()
        type_into(dialog.about, "A turn for a loud cut.")
        dialog.directions[Direction.LEFT_RIGHT].click()
        type_into(dialog.direction_names[Direction.LEFT_RIGHT], "counter-clockwise")
        wrinkle = self.desk.document.state
        self.assertEqual(
            (wrinkle.tags, wrinkle.about), (("turn", "zoom"), "A turn for a loud cut.")
        )
        self.assertEqual([x.name for x in wrinkle.directions], ["counter-clockwise"])
        for kind in (PICTURE, WORDS):
            dialog.add_buttons[kind].click()
        card = self.folder / "card.png"
        self.bench.grab().save(str(card))
        dialog.set_stand_in("picture", card)
        slot = self.desk.document.state.slot("picture")
        self.assertEqual((slot.stand_in, slot.unfilled), ("card.png", Unfilled.STAND_IN))
        self.assertEqual(self.desk.document.bundle().assets["card.png"], card.read_bytes())
        type_into(dialog.name, " ")
        self.assertIn("A wrinkle needs a name", dialog.message.text())
        dialog.close()
