"""Large text in a small window: no word is cut, and no control lies where it cannot be seen."""

from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QLabel,
    QLineEdit,
    QMenuBar,
    QWidget,
)

from tests.ui.window_case import WindowCase, settle
from wrinkle.library.samples import DEMO_PIECE
from wrinkle.ui import text_size
from wrinkle.ui.help.steps import STEPS
from wrinkle.ui.places import PLACES
from wrinkle.ui.shared.elided_label import ElidedLabel

_ARROW = 24
"""What a box of choices needs beside its words."""


def words_of(widget: QWidget) -> tuple[str, int]:
    """What it says in one line, and what room that takes beside its own margins."""
    metrics = widget.fontMetrics()
    if isinstance(widget, QLabel) and not isinstance(widget, ElidedLabel):
        lines = [] if widget.wordWrap() else widget.text().splitlines()
        longest = max(lines, key=metrics.horizontalAdvance, default="")
        return longest, metrics.horizontalAdvance(longest)
    if isinstance(widget, QAbstractButton) and widget.text():
        return widget.text(), widget.minimumSizeHint().width()
    if isinstance(widget, QComboBox):
        return widget.currentText(), metrics.horizontalAdvance(widget.currentText()) + _ARROW
    if isinstance(widget, QLineEdit):
        text = widget.text() or widget.placeholderText()
        return text, metrics.horizontalAdvance(text)
    return "", 0


class WordsFit(WindowCase):
    def tearDown(self) -> None:
        self.text(text_size.AS_DRAWN)

    def text(self, per_cent: int) -> None:
        self.window.preferences.text = per_cent
        self.window.apply_look()
        settle()

    def cut_words(self) -> list[str]:
        found = []
        for widget in self.window.findChildren(QWidget):
            # Parts of Qt's own widgets, and what is scrolled out of sight.
            if not widget.isVisible() or widget.objectName().startswith("qt_"):
                continue
            if isinstance(widget.parent(), QComboBox | QMenuBar):
                continue
            seen = widget.visibleRegion().boundingRect()
            text, needed = words_of(widget)
            if not text or seen.isEmpty():
                continue
            if needed > widget.width() + 1 or seen.width() < widget.width():
                name = f"{type(widget).__name__} “{text}” in {type(widget.parent()).__name__}"
                found.append(f"{name}: {needed} of {widget.width()}, {seen.width()} seen")
        return found

    def test_at_150_per_cent_in_1024_by_700(self) -> None:
        self.desk.piece.show_copy(DEMO_PIECE)
        self.window.resize(1024, 700)
        self.text(150)
        self.assertEqual(QApplication.font().pixelSize(), 20)
        for key in PLACES:
            with self.subTest(place=key):
                self.window.places.go_to(key)
                settle()
                settle()
                self.assertEqual((self.window.width(), self.window.height()), (1024, 700))
                self.assertEqual(self.cut_words(), [])

    def test_with_the_guide_over_the_bench(self) -> None:
        self.window.resize(1024, 700)
        self.text(150)
        self.window.head.first_steps.begin(0)
        for step in range(len(STEPS)):
            self.window.head.first_steps.show_step(step)
            settle()
            self.assertEqual(self.window.width(), 1024)
            self.assertEqual(self.cut_words(), [])
        self.window.head.first_steps.end()

    def test_what_is_large_is_small_again(self) -> None:
        bar = self.window.head.bar.height()
        self.text(150)
        self.assertEqual(self.window.head.bar.height(), round(bar * 1.5))
        self.text(80)
        self.assertEqual(self.window.head.bar.height(), round(bar * 0.8))
