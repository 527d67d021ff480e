"""A line over the Bench while the wrinkle of a cut of the piece is open on it: the way back."""

from __future__ import annotations

from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from wrinkle.ui.actions.menus import Menus
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active

_HEIGHT = 34


class CutBar(QWidget):
    """Names the cut, and offers the ways out of it.

    Args:
        menus: what its buttons stand for.
    """

    def __init__(self, menus: Menus) -> None:
        super().__init__()
        keep(self, Extent.HEIGHT, _HEIGHT)
        self.words = ElidedLabel()
        self.back = QPushButton("Take it back to the Cut list")
        self.leave = QPushButton("Leave the cut as it was")
        menus.bind("file.take-back", self.back)
        menus.bind("file.leave-cut", self.leave)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 3, 12, 5)
        row.addWidget(self.words, 1)
        row.addWidget(self.leave)
        row.addWidget(self.back)

    def show_cut(self, cut: str, piece: str) -> None:
        """Names the cut and its piece."""
        self.words.setText(f"The cut {cut} of {piece}")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), active().colour("selected"))
        painter.setPen(seam_pen())
        painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)
