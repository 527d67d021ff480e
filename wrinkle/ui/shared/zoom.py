"""How large a picture is seen, and which part of it."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QPointF, QRectF, pyqtSignal

from wrinkle.core.picture.image import Size

_MOST = 64.0
"""Points of the screen for a pixel."""
_LEAST = 0.5
"""Of the scale at which it fits."""
_SEEN = 48.0
"""Points of the picture that stay in sight, wherever it is moved."""


class Zoom(QObject):
    """A scale and a place; several views of one picture can share it.

    Signals:
        changed: another part is seen, or it is seen larger or smaller.
    """

    changed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._scale: float | None = None
        self._away = QPointF()
        """Of the picture's middle from that of the room."""

    @property
    def fits(self) -> bool:
        """Whether all of it is seen, as large as it fits."""
        return self._scale is None

    def scale_in(self, room: QRectF, shape: Size) -> float:
        """Points of the screen for one pixel of the frame."""
        fitting = max(0.01, min(room.width() / shape.width, room.height() / shape.height))
        return fitting if self._scale is None else self._scale

    def area(self, room: QRectF, shape: Size) -> QRectF:
        """Where the whole frame lies, on whole points as far as it is not much enlarged."""
        found = self._exact(room, shape)
        if self._scale is None:
            found.setSize(found.size().toSize().toSizeF())
            found.moveCenter(room.center() + self._away)
        found.moveTopLeft(QPointF(round(found.left()), round(found.top())))
        return found

    def _exact(self, room: QRectF, shape: Size) -> QRectF:
        """Where it would lie between the points: what is rounded does not add up."""
        scale = self.scale_in(room, shape)
        found = QRectF(0.0, 0.0, shape.width * scale, shape.height * scale)
        found.moveCenter(room.center() + self._away)
        return found

    def fit(self) -> None:
        """All of it, as large as it fits."""
        self._become(None, QPointF())

    def set_scale(self, scale: float, room: QRectF, shape: Size) -> None:
        """Another scale about the middle of the room."""
        self.zoom_about(room.center(), scale / self.scale_in(room, shape), room, shape)

    def zoom_about(self, spot: QPointF, factor: float, room: QRectF, shape: Size) -> None:
        """Larger or smaller by a factor; what is under a spot stays there."""
        fits = self._scale is None
        before = self.area(room, shape) if fits else self._exact(room, shape)
        old = before.width() / shape.width
        least = _LEAST * min(room.width() / shape.width, room.height() / shape.height)
        scale = min(max(self.scale_in(room, shape) * factor, min(least, old)), _MOST)
        share = QPointF(
            (spot.x() - before.left()) / before.width(),
            (spot.y() - before.top()) / before.height(),
        )
        width, height = shape.width * scale, shape.height * scale
        corner = spot - QPointF(share.x() * width, share.y() * height)
        middle = corner + QPointF(width / 2, height / 2)
        self._become(scale, self._within(middle - room.center(), scale, room, shape))

    def move(self, way: QPointF, room: QRectF, shape: Size) -> None:
        """Moves it by points of the screen."""
        scale = self.scale_in(room, shape)
        self._become(scale, self._within(self._away + way, scale, room, shape))

    def _within(self, away: QPointF, scale: float, room: QRectF, shape: Size) -> QPointF:
        across = (room.width() + shape.width * scale) / 2 - _SEEN
        down = (room.height() + shape.height * scale) / 2 - _SEEN
        return QPointF(min(max(away.x(), -across), across), min(max(away.y(), -down), down))

    def _become(self, scale: float | None, away: QPointF) -> None:
        if (scale, away) != (self._scale, self._away):
            self._scale, self._away = scale, away
            self.changed.emit()
