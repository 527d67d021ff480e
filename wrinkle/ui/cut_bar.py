"""A line over the Bench while the wrinkle of a cut of the piece is open on it: the way back."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.theme import active

_HEIGHT = 34


class CutBar(QWidget):
    """Names the cut.

    Signals:
        backWanted: what was changed is to be taken back to the piece.
        leftWanted: the cut stays as it was; the wrinkle stays open by itself.
    """

    backWanted = pyqtSignal()
    leftWanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(_HEIGHT)
        self.words = ElidedLabel()
        self.back = QPushButton("Take it back to the Cut list")
        self.leave = QPushButton("Leave the cut as it was")
        self.back.clicked.connect(self.backWanted)
        self.leave.clicked.connect(self.leftWanted)
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
