"""A rendered frame on neutral grey, and all frames of the window side by side."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cache

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QImage,
    QMouseEvent,
    QNativeGestureEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PyQt6.QtWidgets import QGestureEvent, QPinchGesture, QSizePolicy, QWidget

from wrinkle.core.picture.image import Size
from wrinkle.ui.shared.colour_picking import mean_colour, picking_of
from wrinkle.ui.shared.held_space import HeldSpace
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.shared.zoom import Zoom
from wrinkle.ui.theme import SURROUND, small_font

PictureOf = Callable[[int], QImage | None]
"""Gives the picture of a frame, if there is one."""
_LABEL = 16
_GAP = 5
_NUMBERS = QColor("#FFFFFF")
_A_NOTCH = 1.2
"""How much larger a notch of the wheel makes it."""
_PIXELS = 8.0
_CHEQUER = 8
"""Points to a side."""


class PictureView(QWidget):
    """One frame: as large as it fits, or zoomed and moved.

    The wheel and a pinch zoom about the pointer; the middle button, or Space held, moves it.

    Attributes:
        zoom: how large it is seen.

    Signals:
        pointed: a pixel of the frame is under the pointer (frame, x, y), or none (None).
        pointerMoved: it was moved over the view, wherever.
        spaceTaken: Space was held to move the picture; what the key does as well was not meant.
    """

    pointed = pyqtSignal(object)
    pointerMoved = pyqtSignal()
    spaceTaken = pyqtSignal()

    def __init__(self, picture: PictureOf, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._picture = picture
        self._frame = 0
        self._shape = Size(9, 16)
        self._moved_from: QPointF | None = None
        self._space_taken = False
        self._awaited = True
        self._picked: tuple[QPointF, QPointF] | None = None
        """The corners of the square whose colour is taken."""
        self.zoom = Zoom()
        self.zoom.changed.connect(self.update)
        self.setMinimumSize(120, 120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Result")
        self.setMouseTracking(True)
        self.grabGesture(Qt.GestureType.PinchGesture)

    def share_zoom(self, zoom: Zoom) -> None:
        """Is zoomed together with another view."""
        self.zoom.changed.disconnect(self.update)
        self.zoom = zoom
        zoom.changed.connect(self.update)
        self.update()

    @property
    def frame(self) -> int:
        """The frame that is shown."""
        return self._frame

    @property
    def shape(self) -> Size:
        """The size of the frame in pixels, as far as it is known."""
        return self._shape

    @property
    def room(self) -> QRectF:
        """Where a picture can be."""
        return QRectF(self.rect()).adjusted(4, 4, -4, -4)

    @property
    def area(self) -> QRectF:
        """Where the whole frame is; a part of it may be out of sight."""
        return self.zoom.area(self.room, self.shape)

    def show_frame(self, frame: int, shape: Size) -> None:
        """Shows a frame of a picture of that shape."""
        self._frame, self._shape = frame, shape
        self.update()

    def frame_came(self, frame: int) -> None:
        """Another picture of a frame can be shown."""
        if frame == self._frame:
            self.update()

    def pixel_at(self, spot: QPointF) -> tuple[int, int] | None:
        """The pixel of the frame under a spot; None beside it."""
        area, shape = self.area, self.shape
        if not area.contains(spot):
            return None
        x = int((spot.x() - area.left()) / area.width() * shape.width)
        y = int((spot.y() - area.top()) / area.height() * shape.height)
        return min(x, shape.width - 1), min(y, shape.height - 1)

    def expect(self, awaited: bool) -> None:
        """Whether a picture is being made while there is none, or there is nothing to show."""
        if awaited != self._awaited:
            self._awaited = awaited
            self.update()

    def colour_at(self, x: int, y: int) -> QColor | None:
        """The colour that is shown for a pixel of the frame; None where there is none yet."""
        picture = self._picture(self._frame)
        if picture is None:
            return None
        across = min(x * picture.width() // self.shape.width, picture.width() - 1)
        down = min(y * picture.height() // self.shape.height, picture.height() - 1)
        return picture.pixelColor(across, down)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), SURROUND)
        area, picture = self.area, self._picture(self._frame)
        if picture is None:
            if self._awaited:
                painter.fillRect(area, SURROUND.darker(112))
                painter.setPen(_NUMBERS)
                painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "rendering…")
            return
        if picture.hasAlphaChannel():
            draw_chequers(painter, area.intersected(QRectF(self.rect())))
        # From eight times on one wants to see pixels, and not what lies between them.
        smooth = area.width() < _PIXELS * picture.width()
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
        painter.drawImage(area, picture)
        self._paint_picked(painter)

    # Zooming and moving

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None:
            return
        steps = event.angleDelta().y() / 120.0
        self.zoom.zoom_about(event.position(), _A_NOTCH**steps, self.room, self.shape)
        self._tell(event.position())
        event.accept()

    def event(self, event: QEvent | None) -> bool:
        """Pinches, of a touchpad or a touch screen."""
        if isinstance(event, QNativeGestureEvent):
            if event.gestureType() == Qt.NativeGestureType.ZoomNativeGesture:
                self.zoom.zoom_about(event.position(), 1.0 + event.value(), self.room, self.shape)
                return True
        elif isinstance(event, QGestureEvent):
            pinch = event.gesture(Qt.GestureType.PinchGesture)
            if isinstance(pinch, QPinchGesture):
                spot = QPointF(self.mapFromGlobal(pinch.centerPoint().toPoint()))
                self.zoom.zoom_about(spot, pinch.scaleFactor(), self.room, self.shape)
                return True
        return super().event(event)

    def begins_moving(self, event: QMouseEvent) -> bool:
        """Whether a press begins to move the picture; to be asked before it means anything else."""
        space = self._space_held()
        middle = event.button() == Qt.MouseButton.MiddleButton
        if not middle and not (space and event.button() == Qt.MouseButton.LeftButton):
            return False
        self._moved_from, self._space_taken = event.position(), not middle
        self.setCursor(Qt.CursorShape.ClosedHandCursor)
        return True

    def moves(self, event: QMouseEvent) -> bool:
        """Moves the picture, if that has begun; gives whether it has."""
        self._tell(event.position())
        self.pointerMoved.emit()
        if self._moved_from is None:
            return False
        way, self._moved_from = event.position() - self._moved_from, event.position()
        self.zoom.move(way, self.room, self.shape)
        if self._space_taken:
            self._space_taken = False
            self.spaceTaken.emit()
        return True

    def ends_moving(self) -> bool:
        """The picture stays where it is; gives whether it was moved."""
        moved, self._moved_from = self._moved_from is not None, None
        if moved:
            self.unsetCursor()
        return moved

    # Taking a colour

    def begins_picking(self, event: QMouseEvent) -> bool:
        """Whether a press begins to take a colour; to be asked before it means anything else."""
        picking = picking_of(self)
        left = event.button() == Qt.MouseButton.LeftButton
        if picking is None or not picking.active or not left:
            return False
        self._picked = (event.position(), event.position())
        return True

    def picks(self, event: QMouseEvent) -> bool:
        """Draws the square whose mean is taken; gives whether one is."""
        if self._picked is None:
            return False
        start, _ = self._picked
        way = event.position() - start
        side = max(abs(way.x()), abs(way.y()))
        across, down = (1.0 if x >= 0.0 else -1.0 for x in (way.x(), way.y()))
        self._picked = (start, start + QPointF(across * side, down * side))
        self.update()
        return True

    def ends_picking(self) -> bool:
        """Takes the colour; gives whether one was taken."""
        if self._picked is None:
            return False
        (start, end), self._picked = self._picked, None
        picking, picture = picking_of(self), self._picture(self._frame)
        self.update()
        if picking is None or picture is None:
            return True
        area = self.area
        scale = QPointF(picture.width() / area.width(), picture.height() / area.height())
        spots = [
            QPoint(int((x.x() - area.left()) * scale.x()), int((x.y() - area.top()) * scale.y()))
            for x in (start, end)
        ]
        part = QRect(*spots).normalized().intersected(picture.rect())
        picking.take(None if part.isEmpty() else mean_colour(picture, part))
        return True

    def _paint_picked(self, painter: QPainter) -> None:
        if self._picked is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            for colour, width in ((QColor(0, 0, 0, 150), 3.0), (_NUMBERS, 1.2)):
                painter.setPen(QPen(colour, width))
                painter.drawRect(QRectF(*self._picked).normalized())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not (self.begins_picking(event) or self.begins_moving(event)):
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or not (self.picks(event) or self.moves(event)):
            super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if not self.ends_picking() and not self.ends_moving():
            super().mouseReleaseEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        super().leaveEvent(event)
        self.pointed.emit(None)

    def _tell(self, spot: QPointF) -> None:
        pixel = self.pixel_at(spot)
        self.pointed.emit(None if pixel is None else (self._frame, *pixel))

    def _space_held(self) -> bool:
        window = self.window()
        held = window.findChild(HeldSpace) if window is not None else None
        return held is not None and held.down


class ContactView(QWidget):
    """Every frame of the window at once.

    Signals:
        picked: a frame was clicked.
    """

    picked = pyqtSignal(int)

    def __init__(self, picture: PictureOf, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._picture = picture
        self._frames = range(0)
        self._frame = 0
        self._shape = Size(9, 16)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Contact sheet")

    def show_frames(self, frames: range, frame: int, shape: Size) -> None:
        """Shows the window's frames, one of them marked."""
        self._frames, self._frame, self._shape = frames, frame, shape
        self.update()

    def cells(self) -> list[tuple[int, QRectF]]:
        """Where each frame stands."""
        count = max(1, len(self._frames))
        ratio = self._shape.width / self._shape.height
        best, columns = 0.0, 1
        for tried in range(1, count + 1):
            rows = math.ceil(count / tried)
            height = (self.height() - _GAP) / rows - _GAP - _LABEL
            width = min((self.width() - _GAP) / tried - _GAP, height * ratio)
            if width > best:
                best, columns = width, tried
        width, height = best, best / ratio
        left = (self.width() - columns * (width + _GAP) + _GAP) / 2
        return [
            (
                frame,
                QRectF(
                    left + place % columns * (width + _GAP),
                    _GAP + place // columns * (height + _GAP + _LABEL) + _LABEL,
                    width,
                    height,
                ),
            )
            for place, frame in enumerate(self._frames)
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), SURROUND)
        painter.setFont(small_font(self.font(), bold=True))
        for frame, area in self.cells():
            picture = self._picture(frame)
            if picture is None:
                painter.fillRect(area, SURROUND.darker(112))
            else:
                painter.drawImage(area, picture)
            painter.setPen(_NUMBERS)
            label = QRectF(area.left(), area.top() - _LABEL, area.width(), _LABEL)
            painter.drawText(label, Qt.AlignmentFlag.AlignCenter, frame_label(frame))
            if frame == self._frame:
                painter.drawRect(area.adjusted(-1, -1, 1, 1))
            if frame == 0:
                draw_seam(painter, area.left() - _GAP / 2, label.top(), area.bottom())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            for frame, area in self.cells():
                if area.contains(event.position()):
                    self.picked.emit(frame)


def fitted(area: QRectF, shape: Size) -> QRectF:
    """The largest rectangle of that shape in the middle of ``area``, on whole pixels."""
    factor = max(0.01, min(area.width() / shape.width, area.height() / shape.height))
    result = QRectF(0, 0, round(shape.width * factor), round(shape.height * factor))
    result.moveCenter(QPointF(round(area.center().x()), round(area.center().y())))
    return result


def frame_label(frame: int) -> str:
    """A frame's number with its sign; the cut is 0."""
    return f"{frame:+d}".replace("-", "−") if frame else "0"


def draw_chequers(painter: QPainter, area: QRectF) -> None:
    """The ground under a picture that has bare parts."""
    painter.save()
    painter.setBrushOrigin(area.topLeft())
    painter.fillRect(area, QBrush(_chequers()))
    painter.restore()


@cache
def _chequers() -> QImage:
    """Two by two of them, which are repeated."""
    tile = QImage(2 * _CHEQUER, 2 * _CHEQUER, QImage.Format.Format_RGB32)
    tile.fill(QColor("#8A8A8A"))
    painter = QPainter(tile)
    for place in (0, _CHEQUER):
        painter.fillRect(place, place, _CHEQUER, _CHEQUER, QColor("#666666"))
    painter.end()
    return tile
