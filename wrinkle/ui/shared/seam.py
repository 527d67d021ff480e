"""The seam: the cut drawn as a stitched line."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, Qt
from PyQt6.QtGui import QPainter, QPen

from wrinkle.ui.theme import active


def seam_pen(width: float = 2.0) -> QPen:
    """Six-pixel stitches in thread red."""
    pen = QPen(active().colour("seam"), width)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    pen.setDashPattern([6.0 / width, 4.0 / width])
    return pen


def draw_seam(painter: QPainter, x: float, top: float, bottom: float) -> None:
    """Stitches downwards at ``x``."""
    painter.setPen(seam_pen())
    painter.drawLine(QLineF(x, top, x, bottom))
