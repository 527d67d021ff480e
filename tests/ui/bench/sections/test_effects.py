"""Effects by hand: chosen by look, set, compared, and read from files."""

from fractions import Fraction
from unittest import mock

from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QInputDialog

from tests.media.test_cdl import NODE, SEVERAL
from tests.ui.bench.stack.test_layers import LayersCase
from tests.ui.window_case import LEFT, drag, wait_for
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits import lane_edits, layer_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import parts
from wrinkle.core.picture import paths
from wrinkle.core.picture.channels import LUMA
from wrinkle.demo.extras import late_gold
from wrinkle.files import archive
from wrinkle.ui.shared.colour_field import shown_colour


class EffectsByHand(LayersCase):
    colours_after = 0

    def test_an_effect_is_searched_added_set_reordered_switched_off_and_taken_out(self) -> None:
        section = self.card("outgoing").effects
        listed = section.choose()
        listed.tiles.search.setText("glitch strips")
        found = listed.tiles.list
        self.assertEqual([found.item(i).text() for i in range(found.count())], ["Slices\nBreak"])
        listed.tiles.search.setText("nothing like it")
        self.assertIn("No effect is found", listed.about.text())
        listed.tiles.search.setText("gaussian")
        wait_for(lambda: not listed.tiles.list.item(0).icon().isNull(), "a thumbnail")
        listed.take_button.click()
        self.card("outgoing").effects.add("channel_split")
        uses = self.layer("outgoing").effects
        self.assertEqual([use.kind for use in uses], ["gaussian_blur", "channel_split"])
        card = self.card("outgoing")
        first, second = card.effects.boxes
        row = next(r for r in first.settings.rows if r.ref.key.endswith(".radius"))
        row.field.committed.emit(12.0)
        track = self.layer("outgoing").effects[0].values["radius"].track
        # The outgoing clip is at rest where the window begins, and treated at the cut.
        self.assertEqual([key.value for key in track.keys], [0.0, 12.0])
        self.assertEqual(self.bench.timeline.rows[0].title.text(), "Gaussian blur · radius")
        self.app.processEvents()
        goal = second.mapFromGlobal(first.mapToGlobal(QPoint(30, 2)))
        drag(second, QPointF(30, 10), QPointF(goal))
        self.assertEqual(
            [use.kind for use in self.layer("outgoing").effects],
            ["channel_split", "gaussian_blur"],
        )
        section = self.card("outgoing").effects
        box = section.boxes[1]
        section.cost_button.click()
        wait_for(lambda: section.cost_button.isEnabled(), "the costs")
        self.assertRegex(box.cost.text(), r"^\d+ ms$")
        with mock.patch(
            "wrinkle.ui.bench.sections.effect_costs.render",
            side_effect=InputError("kite.mp4 is gone."),
        ):
            section.cost_button.click()
            wait_for(lambda: section.cost_button.isEnabled(), "the end of measuring")
        self.assertEqual(self.faults, ["kite.mp4 is gone."])
        self.all_ready()
        blurred = self.bench.renderer.picture(-8)
        box.act_button.click()
        self.assertFalse(self.layer("outgoing").effects[1].shown)
        self.all_ready()
        self.assertNotEqual(self.bench.renderer.picture(-8), blurred)
        path = self.folder / "effects.wrinkle"
        self.assertTrue(self.desk.document.save(path))
        self.assertEqual(archive.read(path).wrinkle, self.desk.document.state)
        self.card("outgoing").effects.boxes[0].remove_button.click()
        self.assertEqual(len(self.layer("outgoing").effects), 1)

    def test_a_look_is_kept_applied_and_copied_to_another_layer(self) -> None:
        self.with_own_data()
        section = self.card("outgoing").effects
        section.add("tone")
        section.add("vignette")
        with mock.patch.object(QInputDialog, "getText", return_value=("Dusk", True)):
            section.keep_look()
            section.keep_look()
            self.assertIn("There is a look 'Dusk' already", self.faults[-1])
        self.desk.clipboard.copy_chain("outgoing")
        other = self.card("incoming").effects
        menu = other.looks_button.menu()
        other.fill_looks(menu)
        names = [action.text() for action in menu.actions() if action.text()]
        self.assertEqual(names[0], "Dusk")
        menu.actions()[0].trigger()
        self.assertEqual([u.kind for u in self.layer("incoming").effects], ["tone", "vignette"])
        other.fill_looks(menu)
        next(a for a in menu.actions() if a.text().startswith("Paste")).trigger()
        self.assertEqual(len(self.layer("incoming").effects), 4)

    def test_a_lut_is_read_and_goes_with_the_file_and_a_map_is_linked(self) -> None:
        section = self.card("incoming").effects
        section.add("lut")
        section.add("displace")
        lut, displace = self.card("incoming").effects.boxes
        self.assertEqual(lut.settings.wanting.text(), "It does nothing without a LUT.")
        self.assertEqual(
            displace.settings.wanting.text(), "It does nothing without a layer to look at."
        )
        path = self.folder / "late_gold.cube"
        late_gold(path)
        lut.settings.source.take_file(path)
        bad = self.folder / "bad.cube"
        bad.write_text("LUT_3D_SIZE 2\n0 0 0\n")
        lut.settings.source.take_file(bad)
        self.assertIn("holds 1 colours, not the 8", self.faults[-1])
        box = displace.settings.link_row.field
        box.setCurrentIndex(box.findText("Outgoing"))
        box.activated.emit(box.currentIndex())
        uses = self.layer("incoming").effects
        self.assertEqual((uses[0].asset, uses[1].layer), ("late_gold.cube", "outgoing"))
        self.assertEqual((lut.settings.wanting.text(), displace.settings.wanting.text()), ("", ""))
        lowest = self.card("outgoing").effects
        lowest.add("colour_match")
        self.assertIn("nothing without something below", lowest.boxes[-1].settings.wanting.text())
        higher = self.card("incoming").effects
        higher.add("colour_match")
        self.assertEqual(len(higher.boxes), 3)
        self.assertEqual(higher.boxes[-1].settings.wanting.text(), "")
        self.assertTrue(self.desk.document.save(self.folder / "gold.wrinkle"))
        self.assertTrue(self.desk.document.open(self.folder / "gold.wrinkle"))
        self.all_ready()
        self.desk.document.edit("gone", lambda w: layer_edits.remove_layer(w, "outgoing"))
        self.assertIsNone(self.layer("incoming").effects[1].layer)

    def test_the_settings_of_an_effect_fold_and_stay_folded(self) -> None:
        for kind in ("glow", "tone"):
            self.card("outgoing").effects.add(kind)
        glow, tone = self.card("outgoing").effects.boxes
        height = glow.height()
        QTest.mouseClick(glow.fold_button, LEFT)
        self.app.processEvents()
        self.assertFalse(glow.settings.isVisible())
        self.assertLess(glow.height(), height / 3)
        self.assertTrue(tone.settings.isVisible())
        self.card("incoming")
        glow, tone = self.card("outgoing").effects.boxes
        self.assertIsNone(glow.settings)
        self.assertIsNotNone(tone.settings)
        QTest.mouseClick(glow.fold_button, LEFT)
        self.assertEqual(
            len(glow.settings.rows), len(self.layer("outgoing").effects[0].addresses())
        )
        QTest.mouseClick(glow.fold_button, LEFT)
        glow.remove_button.click()
        self.card("outgoing").effects.add("sharpen")
        first = self.card("outgoing").effects.boxes[-1]
        self.assertEqual(first.use_id, glow.use_id)
        self.assertIsNotNone(first.settings, "another effect of that id begins unfolded")

    def test_a_curve_is_drawn_point_by_point(self) -> None:
        section = self.card("outgoing").effects
        section.add("curves")
        row = self.card("outgoing").effects.boxes[0].settings.rows[0]
        field = row.field
        self.app.processEvents()
        start = field.spot(0.75, 0.84)
        drag(field, start, field.spot(0.75, 0.6))
        points = paths.knots(field.value)
        self.assertAlmostEqual(points[2].y, 0.6, delta=0.02)
        QTest.mouseDClick(field, LEFT, pos=field.spot(0.5, 0.9).toPoint())
        self.assertEqual(len(paths.knots(field.value)), 5)
        QTest.mouseClick(field, Qt.MouseButton.RightButton, pos=field.spot(0.5, 0.9).toPoint())
        self.assertEqual(len(paths.knots(field.value)), 4)
        self.all_ready()
        self.assertAlmostEqual(float(field.histogram.max()), 1.0)
        # It is a lane from the straight curve, whose pins have as many points as the drawn one.
        QTest.mouseDClick(field, LEFT, pos=field.spot(0.5, 0.9).toPoint())
        first, last = self.layer("outgoing").effects[0].values["all"].track.keys
        self.assertEqual([len(paths.knots(x.value)) for x in (first, last)], [5, 5])
        self.assertTrue(all(knot.x == knot.y for knot in paths.knots(first.value)))

    def test_holding_e_shows_the_wrinkle_without_its_effects(self) -> None:
        self.card("outgoing").effects.add("exposure")
        QTest.keyPress(self.window, Qt.Key.Key_E)
        self.assertEqual(self.desk.looking.shown_wrinkle().layer("outgoing").effects, ())
        QTest.keyRelease(self.window, Qt.Key.Key_E)
        self.assertEqual(len(self.desk.looking.shown_wrinkle().layer("outgoing").effects), 1)

    def boxes(self, *kinds: str):
        """Effects added to the incoming clip, and their boxes."""
        self.desk.looking.set_playhead(2)
        for kind in kinds:
            self.card("incoming").effects.add(kind)
        return self.card("incoming").effects.boxes

    def values(self, place: int = 0):
        """The values of an effect of the incoming clip at the playhead."""
        use, time = self.layer("incoming").effects[place], self.desk.looking.time
        return {spec.key: use.setting(spec.key).at(time) for spec in use.effect.settings}

    def test_favourites_stand_first_alone_on_demand_and_the_next_time(self) -> None:
        self.with_own_data()
        listed = self.card("outgoing").effects.choose()
        listed.only.click()
        self.assertIn("no favourites yet", listed.about.text())
        listed.only.click()
        listed.tiles.search.setText("slices")
        listed.favourite.click()
        listed.tiles.search.setText("")
        self.assertEqual(listed.tiles.list.item(0).data(Qt.ItemDataRole.UserRole).key, "slices")
        listed.reject()
        again = self.card("outgoing").effects.choose()
        again.only.click()
        self.assertEqual([entry.key for entry in again.entries("")], ["slices"])
        again.favourite.click()
        self.assertEqual(again.entries(""), [])
        (self.folder / "data" / "choices.json").write_text("{")
        again.only.click()
        again.tiles.list.setCurrentRow(3)
        again.favourite.click()
        self.assertIn("choices.json cannot be read", self.faults[-1])
        again.reject()

    def test_before_there_is_a_clip_the_list_shows_the_demo(self) -> None:
        self.desk.document.edit("bare", lambda w: layer_edits.with_layers(w, w.layers[:1]))
        self.desk.document.edit("gone", lambda w: lane_edits.set_value(
            w, SettingRef("outgoing", "opacity"), Fraction(0), 0.0))  # fmt: skip
        self.desk.looking.set_playhead(5)
        listed = self.card("outgoing").effects.choose()
        wait_for(lambda: not listed.tiles.list.item(0).icon().isNull(), "a thumbnail")
        picture = listed.tiles.list.item(0).icon().pixmap(54, 96).toImage()
        self.assertEqual(picture.pixelColor(27, 48).alpha(), 255)
        listed.reject()

    def test_a_pad_is_pulled_to_a_hue_and_an_amount_in_one_step(self) -> None:
        (box,) = self.boxes("three_way")
        pad = box.settings.pads.pads[1]
        self.app.processEvents()
        drag(pad, pad.spot(0.0, 0.0), pad.spot(90.0, 50.0))
        self.assertAlmostEqual(self.values()["middle_hue"], 90.0, delta=3.0)
        self.assertAlmostEqual(self.values()["middle_amount"], 50.0, delta=3.0)
        self.assertEqual(self.desk.steps.undo_label, "middle")
        QTest.keyClick(pad, Qt.Key.Key_Right)
        self.assertLess(self.values()["middle_hue"], 88.0)
        QTest.mousePress(pad, LEFT, pos=pad.spot(200.0, 90.0).toPoint())
        QTest.keyClick(pad, Qt.Key.Key_Escape)
        self.assertLess(self.values()["middle_hue"], 88.0)
        QTest.mouseRelease(pad, LEFT)
        QTest.keyClick(pad, Qt.Key.Key_Delete)
        self.assertEqual(self.values()["middle_amount"], 0.0)
        self.desk.steps.undo()
        self.assertGreater(pad.value[1], 40.0)

    def test_a_range_of_hues_is_made_carried_along_widened_and_undone(self) -> None:
        (box,) = self.boxes("hue_shift")
        strip = box.settings.hues.strip
        self.app.processEvents()
        y = strip.height() / 2
        drag(strip, QPointF(strip.place(120.0), y), QPointF(strip.place(200.0), y))
        self.assertAlmostEqual(self.values()["around"], 200.0, delta=4.0)
        self.assertEqual(self.values()["range"], 30.0)
        drag(strip, QPointF(strip.place(230.0), y), QPointF(strip.place(260.0), y))
        self.assertAlmostEqual(self.values()["range"], 60.0, delta=5.0)
        QTest.mouseDClick(strip, LEFT, pos=QPointF(strip.place(10.0), y).toPoint())
        self.assertEqual(self.values()["range"], 180.0)

    def test_a_tone_map_takes_the_palette_of_a_clip(self) -> None:
        (box,) = self.boxes("tone_map")
        before = self.values()
        wait_for(lambda: len(self.desk.clip_colours.found) > 0, "the colours of the clips")
        menu = box.settings.source.menu()
        menu.aboutToShow.emit()
        plain, sets = menu.actions()[:3], menu.actions()[4:]
        for action in plain:
            action.trigger()
            wait_for(lambda before=before: self.values() != before, "the palette")
            taken = self.values()
            luma = [float(LUMA @ parts(taken[key])) for key in ("dark", "middle", "light")]
            self.assertEqual(luma, sorted(luma))
            before = taken
        self.assertEqual(self.desk.steps.undo_label, "palette of a clip")
        # Whole sets, from both clips: each is one step, dark to light.
        self.assertGreater(len(sets), 0)
        for action in sets:
            action.trigger()
            taken = [shown_colour(self.values()[x]).name() for x in ("dark", "middle", "light")]
            self.assertEqual(" · ".join(taken), action.text())
        self.assertEqual(self.desk.steps.undo_label, "set of colours")
        self.assertEqual(self.faults, [])

    def test_colour_decisions_are_read_and_what_does_not_fit_is_told(self) -> None:
        (box,) = self.boxes("cdl")
        path = self.folder / "grade.cc"
        path.write_text(NODE.format(name="dawn"))
        box.settings.source.take_decision(path)
        self.assertEqual(self.values()["slope"], (0.625, 0.45, 0.5))
        self.assertEqual(self.values()["saturation"], 70.0)
        self.assertEqual(self.desk.steps.undo_label, "colour decision dawn")
        path.write_text(SEVERAL)
        with mock.patch.object(QInputDialog, "getItem", return_value=("decision 2", True)):
            box.settings.source.take_decision(path)
        self.assertEqual(self.values()["saturation"], 140.0)
        self.assertEqual(self.faults, [])
        path.write_text(NODE.format(name="noon").replace("1.25", "3.5"))
        box.settings.source.take_decision(path)
        self.assertIn("slope of 'noon' lie", self.faults[-1])
        self.assertEqual(self.values()["slope"][0], 1.0)
        path.write_text("nothing")
        box.settings.source.take_decision(path)
        self.assertIn("grade.cc is no list", self.faults[-1])

    def test_luts_are_chosen_by_look_from_a_folder(self) -> None:
        self.with_own_data()
        folder = self.folder / "tables" / "warm"
        folder.mkdir(parents=True)
        late_gold(folder / "own_gold.cube")
        (folder / "broken.cube").write_text("LUT_3D_SIZE 2\n0 0 0\n")
        (box,) = self.boxes("lut")
        listed = box.settings.source.choose_lut()
        self.assertEqual(len(listed.entries("")), 2)
        listed.take_folder(self.folder / "tables")
        self.assertEqual([e.label for e in listed.entries("own")], ["Own gold\nwarm"])
        listed.tiles.search.setText("broken")
        wait_for(lambda: "holds 1 colours" in listed.about.text(), "the fault of a table")
        listed.take_button.click()
        listed.tiles.search.setText("own gold")
        wait_for(lambda: not listed.tiles.list.item(0).icon().isNull(), "a thumbnail")
        listed.take_button.click()
        self.assertEqual(self.layer("incoming").effects[0].asset, "own_gold.cube")
        empty = self.folder / "empty"
        empty.mkdir()
        listed = box.settings.source.choose_lut()
        listed.take_folder(empty)
        self.assertIn("no .cube file in empty", listed.about.text())
        listed.reject()

    def test_a_line_splits_the_picture_into_before_and_after(self) -> None:
        self.boxes("exposure")
        self.desk.looking.set_playhead(0)
        self.all_ready()
        self.assertIsNone(self.result.split_line)
        self.key(Qt.Key.Key_E, Qt.KeyboardModifier.ShiftModifier)
        self.assertTrue(self.bench.transport.buttons["before-after"].isChecked())
        wait_for(lambda: self.result.split_line is not None, "the line")
        self.all_ready()
        line, area = self.result.split_line, self.result.area

        def seen(x: float) -> int:
            return self.result.grab().toImage().pixelColor(int(x), int(area.center().y())).value()

        plain, bright = seen(line - 12), seen(line + 12)
        self.assertGreater(bright, plain)
        wanted = area.left() + 0.9 * area.width()
        drag(self.result, QPointF(line, area.top() + 40), QPointF(wanted, area.top() + 40))
        self.assertAlmostEqual(self.result.split_line, wanted, delta=1.5)
        self.assertLess(seen(line + 12), bright)
        self.bench.transport.buttons["before-after"].click()
        self.all_ready()
        self.assertIsNone(self.result.split_line)
