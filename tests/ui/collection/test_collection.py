"""Looks in the Collection: used on a layer, renamed, deleted, brought back, shared as files."""

from unittest import mock

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog, QInputDialog

from tests.ui.window_case import LEFT, WindowCase, wait_for
from wrinkle.core.design.edits import effect_edits
from wrinkle.demo.extras import late_gold
from wrinkle.library.looks import keep_look, own_looks, shipped_looks


class LooksInTheCollection(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.with_own_data()
        self.collection = self.window.places.place("collection")
        self.collection.show_shelf(1)
        self.page = self.collection.looks

    def keep_gold(self) -> None:
        """A look with a colour table, made on the outgoing clip."""
        late_gold(self.folder / "late_gold.cube")
        asset = self.desk.document.keep_file(self.folder / "late_gold.cube")
        self.desk.document.edit("lut", lambda w: effect_edits.add_effect(w, "outgoing", "lut")[0])
        self.desk.document.edit(
            "table", lambda w: effect_edits.change_effect(w, "outgoing", "e1", asset=asset)
        )
        keep_look(self.desk.document.look_of("Gold", "outgoing"))

    def listed(self) -> list[str]:
        tiles = self.page.tiles.list
        return [tiles.item(row).text().partition("\n")[0] for row in range(tiles.count())]

    def test_a_look_with_its_table_is_used_in_another_wrinkle(self) -> None:
        self.keep_gold()
        self.desk.document.mark_saved()
        self.desk.document.start_new()
        self.desk.looking.select_layer("incoming")
        self.window.places.go_to("collection")
        self.assertEqual(self.page.goal.text(), "on Incoming, the selected layer")
        self.assertEqual(self.listed(), ["Gold", *(one.name for one in shipped_looks())])
        self.page.tiles.search.setText("nothing of the kind")
        self.assertIn("No look is found by 'nothing", self.page.about.text())
        self.assertFalse(self.page.use_button.isEnabled())
        self.page.tiles.search.setText("lut")
        self.assertEqual(self.listed(), ["Gold"])
        self.assertEqual(self.page.about.text(), "Gold: LUT.")
        wait_for(lambda: not self.page.tiles.list.item(0).icon().isNull(), "a thumbnail")
        QTest.keyClick(self.page.tiles.search, Qt.Key.Key_Return)
        (use,) = self.desk.document.state.layer("incoming").effects
        self.assertEqual((use.kind, use.asset), ("lut", "late_gold.cube"))
        self.assertTrue(self.desk.document.save(self.folder / "gold.wrinkle"))
        self.assertTrue(self.desk.document.open(self.folder / "gold.wrinkle"))
        self.all_ready()

    def test_own_looks_are_renamed_deleted_and_brought_back(self) -> None:
        self.keep_gold()
        self.window.places.go_to("collection")
        self.page.tiles.point_at("Gold")
        with mock.patch.object(QInputDialog, "getText", return_value=("Salt print", True)):
            QTest.mouseClick(self.page.rename_button, LEFT)
        self.assertIn("There is a look 'Salt print' already", self.faults[-1])
        self.page.rename("Late sun")
        self.assertEqual(self.page.look.name, "Late sun")
        QTest.mouseClick(self.page.delete_button, LEFT)
        self.assertEqual(own_looks(), [])
        self.assertNotIn("Late sun", self.listed())
        QTest.mouseClick(self.page.back_button, LEFT)
        self.assertEqual(self.page.look.name, "Late sun")
        self.assertFalse(self.page.back_button.isEnabled())
        self.page.tiles.point_at("Salt print")
        self.assertFalse(self.page.rename_button.isEnabled())
        self.page.delete()
        self.assertIn("Salt print", self.listed(), "a shipped look stays")

    def test_a_look_goes_to_a_file_and_comes_back_under_a_free_name(self) -> None:
        self.keep_gold()
        self.window.places.go_to("collection")
        self.page.tiles.point_at("Gold")
        goal = str(self.folder / "mine")
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(goal, "")):
            QTest.mouseClick(self.page.export_button, LEFT)
        saved = self.folder / "mine.looks.json"
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(str(saved), "")):
            QTest.mouseClick(self.page.import_button, LEFT)
        self.assertEqual(self.page.look.name, "Gold 2")
        self.assertEqual(own_looks()[1].tables, own_looks()[0].tables)
        broken = self.folder / "broken.looks.json"
        broken.write_text("[{}]")
        self.page.read_from(broken)
        self.assertIn("The looks in broken.looks.json cannot be read", self.faults[-1])
        self.page.read_from(self.folder / "away.looks.json")
        self.assertIn("away.looks.json cannot be opened", self.faults[-1])

    def test_without_a_layer_it_says_what_to_do(self) -> None:
        self.desk.looking.select_layer("")
        self.window.places.go_to("collection")
        self.assertEqual(self.page.goal.text(), "no layer is selected")
        self.page.use()
        self.assertIn("Select a layer on the Bench first", self.faults[-1])
