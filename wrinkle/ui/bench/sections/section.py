"""A part of a card that can be folded away."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from wrinkle.ui.shared.plain_text import tip


class Section(QWidget):
    """A heading with what belongs under it; a click on the heading folds or unfolds it.

    Its rows are made when it is open for the first time, so that a card unfolds at once.

    Args:
        title: the heading.
        is_open: whether it is open at first.
        fill: makes the rows of the section that it is given.

    Signals:
        toggled: whether it is open now.
    """

    toggled = pyqtSignal(bool)

    def __init__(self, title: str, is_open: bool, fill: Callable[[Section], None]) -> None:
        super().__init__()
        self.title = title
        self._fill: Callable[[Section], None] | None = fill
        self.heading = QPushButton()
        self.heading.setObjectName("fold")
        self.heading.setCheckable(True)
        self.heading.setChecked(is_open)
        self.heading.toggled.connect(self._fold)
        self._body = QWidget()
        self.rows = QVBoxLayout(self._body)
        self.rows.setContentsMargins(0, 0, 0, 4)
        self.rows.setSpacing(4)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        layout.addWidget(self.heading)
        layout.addWidget(self._body)
        self._note = ""
        self._show()

    def set_note(self, note: str) -> None:
        """A word beside the title, such as how many there are."""
        if note != self._note:
            self._note = note
            self._show()

    def hold(self, *parts: QWidget) -> None:
        """Takes what its rows will be made of: it ends with the section, if it never opens too."""
        for part in parts:
            part.setParent(self._body)

    def _fold(self, is_open: bool) -> None:
        self._show()
        self.toggled.emit(is_open)

    def _show(self) -> None:
        is_open = self.heading.isChecked()
        if is_open and self._fill is not None:
            fill, self._fill = self._fill, None
            fill(self)
        self._body.setVisible(is_open)
        note = f"  {self._note}" if self._note else ""
        # A minus folds, a plus unfolds: both are in the shipped font.
        self.heading.setText(f"{'−' if is_open else '+'}  {self.title}{note}")
        self.heading.setToolTip(tip("Fold" if is_open else "Unfold"))
