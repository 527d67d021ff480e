import unittest
from unittest import mock

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QMenu, QToolButton

from tests.ui.window_case import application
from wrinkle.ui.shared.hanging_menu import hang_menu

UNDER = Qt.WidgetAttribute.WA_UnderMouse


class HangingMenu(unittest.TestCase):
    def test_a_button_is_at_rest_once_its_menu_is_closed_unless_the_pointer_is_on_it(self) -> None:
        application()
        button, menu = QToolButton(), QMenu()
        button.resize(40, 20)
        hang_menu(button, menu)
        self.assertIs(button.menu(), menu)
        for spot, lit in ((QPoint(5, 5), True), (QPoint(400, 300), False)):
            button.setAttribute(UNDER, True)
            with mock.patch(
                "wrinkle.ui.shared.hanging_menu.QCursor.pos", return_value=button.mapToGlobal(spot)
            ):
                menu.aboutToHide.emit()
            self.assertEqual(button.testAttribute(UNDER), lit)
