"""What is drawn along frames, as tables: read, typed into, copied; and moved along by keys."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.ui.window_case import LEFT, WindowCase
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.ui.choosing.tables_dialog import TablesDialog

TURN = SettingRef("turn", "rotation")


class Tables(WindowCase):
    def tables(self) -> TablesDialog:
        self.act("bench.numbers")
        (dialog,) = self.window.findChildren(TablesDialog)
        self.addCleanup(dialog.close)
        return dialog

    def cells(self, dialog: TablesDialog) -> list[list[str]]:
        model = dialog.view.model()
        rows, columns = range(model.rowCount()), range(model.columnCount())
        return [[model.index(row, column).data() for column in columns] for row in rows]

    def test_the_pins_of_a_lane_are_listed_and_typed(self) -> None:
        self.desk.looking.select_layer("turn")
        dialog = self.tables()
        self.assertEqual(dialog.choice.currentText(), "Rotation")
        self.assertEqual(
            [row[:2] for row in self.cells(dialog)],
            [["-12", "0"], ["0", "90"], ["0", "-90"], ["12", "0"]],
        )
        model = dialog.view.model()
        self.assertTrue(model.setData(model.index(1, 1), "45 * 2.5"))
        # The other half is the mirrored one: it follows.
        self.assertEqual([row[1] for row in self.cells(dialog)][1:3], ["112.5", "-112.5"])
        self.assertTrue(model.setData(model.index(0, 0), "−10"))
        self.assertEqual([row[0] for row in self.cells(dialog)], ["-10", "0", "0", "10"])
        self.assertTrue(model.setData(model.index(0, 2), "brake"))
        self.assertEqual(self.cells(dialog)[0][2], "brake")
        before = self.desk.document.state
        for cell, text in ((model.index(0, 0), "soon"), (model.index(1, 1), "1e99")):
            self.assertFalse(model.setData(cell, text))
        self.assertIs(self.desk.document.state, before)
        for _ in range(3):
            self.act("edit.undo")
        self.assertEqual([row[0] for row in self.cells(dialog)], ["-12", "0", "0", "12"])

    def test_rows_lead_to_their_frames_and_are_copied(self) -> None:
        self.desk.looking.select_layer("turn")
        dialog = self.tables()
        dialog.view.selectRow(0)
        self.assertEqual(self.desk.looking.playhead, -12)
        QTest.keyClick(dialog.view, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(
            QApplication.clipboard().text(),
            f"Frame\tValue (°)\tEase to the next\n-12\t0\t{self.cells(dialog)[0][2]}\n",
        )
        dialog.choice.setCurrentIndex(dialog.choice.findText("Frames"))
        dialog.choice.activated.emit(dialog.choice.currentIndex())
        self.all_ready()
        self.assertEqual(self.cells(dialog)[0][:2], ["-12", "ready"])
        self.assertEqual(len(self.cells(dialog)), 24)

    def test_the_strip_is_moved_along_by_keys(self) -> None:
        strip = self.bench.timeline.strip
        QTest.mouseClick(strip, LEFT, pos=QPoint(int(strip.axis.x(3)) + 2, 30))
        self.assertEqual(self.desk.looking.playhead, 3)
        for key, keys, frame in (
            (Qt.Key.Key_Left, Qt.KeyboardModifier.NoModifier, 2),
            (Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier, -3),
            (Qt.Key.Key_End, Qt.KeyboardModifier.NoModifier, 11),
            (Qt.Key.Key_Right, Qt.KeyboardModifier.NoModifier, 11),
            (Qt.Key.Key_Home, Qt.KeyboardModifier.NoModifier, -12),
        ):
            QTest.keyClick(strip, key, keys)
            self.assertEqual(self.desk.looking.playhead, frame)

    def test_the_cuts_of_a_piece_and_traces_have_tables_too(self) -> None:
        self.act("bench.trace.brightness")
        self.assertIn("Brightness", [model.name for model in self.bench.timeline.models()])
        checks = self.window.places.place("checks")
        self.assertEqual(len({row.canvas.model.name for row in checks.traces.rows.values()}),
                         len(checks.traces.rows))  # fmt: skip
        self.assertEqual(self.window.places.place("cutlist").map.model.name, "Cuts")
