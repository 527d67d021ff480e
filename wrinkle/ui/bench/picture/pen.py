"""A path that is being drawn on the picture, point by point."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF
from PyQt6.QtGui import QPainterPath

from wrinkle.core.picture.paths import Knot

_CLOSES = 9.0
_LEAST_HANDLE = 3.0


class Pen:
    """Collects points on the screen; a drag after a press gives the point handles."""

    def __init__(self) -> None:
        self.knots: list[Knot] = []
        self.pointer: QPointF | None = None

    def press(self, spot: QPointF) -> bool:
        """A point here; gives whether it closes the path instead."""
        if self.closes(spot):
            return True
        self.knots.append(Knot(spot.x(), spot.y()))
        return False

    def pull(self, spot: QPointF) -> None:
        """Handles for the last point, towards the pointer and away from it."""
        last = self.knots[-1]
        x, y = spot.x() - last.x, spot.y() - last.y
        if abs(x) + abs(y) > _LEAST_HANDLE:
            self.knots[-1] = Knot(last.x, last.y, -x, -y, x, y)

    def closes(self, spot: QPointF) -> bool:
        """Whether a press here meets the first point."""
        if len(self.knots) < 3:
            return False
        first = QPointF(self.knots[0].x, self.knots[0].y)
        return QLineF(first, spot).length() <= _CLOSES

    def path(self) -> QPainterPath:
        """What is drawn so far, with a line to the pointer."""
        path = QPainterPath()
        if self.knots:
            path.moveTo(self.knots[0].x, self.knots[0].y)
        for start, end in zip(self.knots, self.knots[1:], strict=False):
            path.cubicTo(
                start.x + start.out_x,
                start.y + start.out_y,
                end.x + end.in_x,
                end.y + end.in_y,
                end.x,
                end.y,
            )
        if self.knots and self.pointer is not None:
            path.lineTo(self.pointer)
        return path
