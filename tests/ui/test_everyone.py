"""Walks all widgets of the window: each that takes keys has a name, and Tab leads to it."""

from collections.abc import Iterator

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QDialog,
    QGroupBox,
    QLabel,
    QWidget,
)

from tests.ui.window_case import WindowCase, settle
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui.places import PLACES

_DIALOGS = (
    "edit.preferences", "help.find", "help.keys", "help.manual", "bench.numbers",
    "bench.add-effect", "bench.details", "file.use", "bench.board",
)  # fmt: skip


def takes_keys(widget: QWidget) -> bool:
    return bool(widget.focusPolicy().value & Qt.FocusPolicy.TabFocus.value)


def part_of_another(widget: QWidget) -> bool:
    """What Qt makes within its own widgets has their name."""
    parent = widget.parent()
    return widget.objectName().startswith("qt_") or isinstance(parent, QComboBox)


def all_in(window: QWidget) -> Iterator[QWidget]:
    for widget in window.findChildren(QWidget):
        if widget.isVisible() and widget.window() is window and not part_of_another(widget):
            yield widget


def name_of(widget: QWidget, labels: dict[QWidget, str]) -> str:
    """As a screen reader finds it: its own, its text, or the label that it is the buddy of."""
    own = widget.accessibleName()
    if isinstance(widget, QAbstractButton | QLabel | QGroupBox):
        own = own or (widget.title() if isinstance(widget, QGroupBox) else widget.text())
    return own or labels.get(widget, "")


class Everyone(WindowCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk.piece.show_copy(DEMO_PIECE)
        self.desk.looking.select_layer("turn")
        self.act("bench.trace.brightness")
        self.act("bench.sound")
        self.window.activateWindow()
        settle()

    def check_names(self, window: QWidget) -> None:
        labels = {x.buddy(): x.text() for x in window.findChildren(QLabel) if x.buddy()}
        nameless = [
            f"{type(x).__name__} in {type(x.parent()).__name__}"
            for x in all_in(window)
            if (takes_keys(x) or x.toolTip()) and not isinstance(x, QLabel)
            and not name_of(x, labels)  # type: ignore[arg-type]
        ]  # fmt: skip
        self.assertEqual(nameless, [])

    def check_tab(self, window: QWidget) -> None:
        """Goes round once: no trap, and nothing is left out."""
        wanted = {x for x in all_in(window) if takes_keys(x) and x.isEnabled()}
        first = next(iter(wanted))
        first.setFocus(Qt.FocusReason.TabFocusReason)
        met: list[QWidget] = []
        for _ in range(3 * len(wanted) + 20):
            now = QApplication.focusWidget()
            assert now is not None
            met.append(now)
            QTest.keyClick(now, Qt.Key.Key_Tab)
            after = QApplication.focusWidget()
            self.assertIsNot(after, now, f"{type(now).__name__} {now.accessibleName()} is a trap")
            if after is first:
                break
        left = wanted - set(met)
        # What is scrolled to, or shown while another part has the focus, may have come and gone.
        left = {x for x in left if x.isVisible() and takes_keys(x)}
        self.assertEqual([f"{type(x).__name__} {x.accessibleName()}" for x in left], [])

    def test_all_places(self) -> None:
        for key in PLACES:
            with self.subTest(place=key):
                self.window.places.go_to(key)
                settle()
                self.check_names(self.window)
                self.check_tab(self.window)

    def test_dialogs(self) -> None:
        for name in _DIALOGS:
            with self.subTest(dialog=name):
                self.act(name)
                settle()
                dialog = next(x for x in self.window.findChildren(QDialog) if x.isVisible())
                dialog.activateWindow()
                settle()
                self.check_names(dialog)
                self.check_tab(dialog)
                dialog.close()
                settle()
                self.window.activateWindow()
