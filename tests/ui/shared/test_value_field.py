import unittest

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QVBoxLayout, QWidget

from tests.ui.window_case import LEFT, application, drag, type_into
from wrinkle.ui.shared.value_field import FieldFormat, ValueField


class Fields(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.home = QWidget()
        self.addCleanup(self.home.deleteLater)
        layout = QVBoxLayout(self.home)
        self.field = ValueField(FieldFormat(100.0, " %", 2, 0.01, linked=True))
        self.other = QLineEdit()
        layout.addWidget(self.field)
        layout.addWidget(self.other)
        self.home.show()
        self.home.activateWindow()
        QTest.qWaitForWindowActive(self.home)
        self.other.setFocus()
        self.said: list[tuple[str, object]] = []
        for name in ("changing", "committed", "faulted", "formulaTyped"):
            signal = getattr(self.field, name)
            signal.connect(lambda value, name=name: self.said.append((name, value)))
        self.field.abandoned.connect(lambda: self.said.append(("abandoned", None)))

    def test_values_are_written_with_unit_and_without_needless_digits(self) -> None:
        for value, text in (
            (0.5, "50 %"), (-0.12345, "−12.35 %"), (0.0, "0 %"), (-1e-9, "0 %"),
            ((1.0, 1.0), "100 %"), ((1.0, 0.5), "100, 50 %"),
        ):  # fmt: skip
            self.field.set_value(value)
            self.assertEqual(self.field.text(), text)

    def test_typing_takes_numbers_arithmetic_pairs_and_formulas(self) -> None:
        self.field.set_value((1.0, 1.0))
        for typed, value in (("50", (0.5, 0.5)), ("10*2 %, -5", (0.2, -0.05))):
            type_into(self.field, typed)
            self.assertEqual(self.said.pop(), ("committed", value))
            self.field.set_value(value)
        type_into(self.field, "= sin(t), 1")
        self.assertEqual(self.said.pop(), ("formulaTyped", "sin(t), 1"))
        self.field.set_formula("sin(t), 1")
        self.assertEqual(self.field.text(), "= sin(t), 1")

    def test_what_is_wrong_is_marked_until_it_is_mended(self) -> None:
        self.field.set_value((1.0, 1.0))
        for typed in ("wide", "1, 2, 3", ""):
            type_into(self.field, typed)
            self.assertEqual(self.said.pop()[0], "faulted")
            self.assertTrue(self.field.property("fault"))
        QTest.keyClick(self.field, Qt.Key.Key_Escape)
        self.assertFalse(self.field.property("fault"))
        self.assertEqual(self.field.text(), "100 %")

    def test_leaving_the_field_takes_what_was_typed(self) -> None:
        self.field.set_value(0.5)
        QTest.mouseClick(self.field, LEFT)
        QTest.keyClicks(self.field, "25")
        self.other.setFocus()
        self.assertEqual(self.said, [("committed", 0.25)])

    def test_a_sideways_drag_steps_coarse_with_shift_and_fine_with_ctrl(self) -> None:
        self.field.set_value(0.5)
        self.field.changing.connect(self.field.set_value)
        drag(self.field, QPointF(10, 8), QPointF(40, 8))
        self.assertEqual(self.said[-1][0], "committed")
        self.assertAlmostEqual(self.said[-1][1], 0.6)
        for key, value in (
            (Qt.KeyboardModifier.ShiftModifier, 1.5), (Qt.KeyboardModifier.ControlModifier, 0.51)
        ):  # fmt: skip
            self.other.setFocus()
            self.field.set_value(0.5)
            QTest.mousePress(self.field, LEFT, key, QPointF(10, 8).toPoint())
            spot = QPointF(40, 8)
            place = self.field.mapToGlobal(spot)
            move = QMouseEvent(QMouseEvent.Type.MouseMove, spot, place, LEFT, LEFT, key)
            QApplication.sendEvent(self.field, move)
            self.assertAlmostEqual(self.said[-1][1], value)
            QTest.mouseRelease(self.field, LEFT, key, spot.toPoint())

    def test_escape_gives_a_drag_up(self) -> None:
        self.field.set_value(0.5)
        QTest.mousePress(self.field, LEFT, pos=QPointF(10, 8).toPoint())
        QTest.mouseMove(self.field, QPointF(40, 8).toPoint())
        QTest.keyClick(self.field, Qt.Key.Key_Escape)
        self.assertEqual(self.said[-1], ("abandoned", None))
        QTest.mouseRelease(self.field, LEFT, pos=QPointF(40, 8).toPoint())
        self.assertEqual(self.said[-1], ("abandoned", None))
