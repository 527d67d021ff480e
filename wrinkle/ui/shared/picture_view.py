"""A rendered frame on neutral grey, and all frames of the window side by side."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from wrinkle.core.picture.image import Size
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.theme import SURROUND, small_font

PictureOf = Callable[[int], QImage | None]
"""Gives the picture of a frame, if there is one."""
_LABEL = 16
_GAP = 5
_NUMBERS = QColor("#FFFFFF")


class PictureView(QWidget):
    """One frame, as large as it fits."""

    def __init__(self, picture: PictureOf, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._picture = picture
        self._frame = 0
        self._shape = Size(9, 16)
        self.setMinimumSize(120, 120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Result")

    def show_frame(self, frame: int, shape: Size) -> None:
        """Shows a frame of a picture of that shape."""
        self._frame, self._shape = frame, shape
        self.update()

    def frame_came(self, frame: int) -> None:
        """Another picture of a frame can be shown."""
        if frame == self._frame:
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), SURROUND)
        area = fitted(QRectF(self.rect()).adjusted(4, 4, -4, -4), self._shape)
        picture = self._picture(self._frame)
        if picture is None:
            painter.fillRect(area, SURROUND.darker(112))
            painter.setPen(_NUMBERS)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "rendering…")
            return
        if picture.hasAlphaChannel():
            draw_chequers(painter, area)
        painter.drawImage(area, picture)


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
    painter.fillRect(area, QColor("#8A8A8A"))
    side = 8
    rows, columns = math.ceil(area.height() / side), math.ceil(area.width() / side)
    painter.save()
    painter.setClipRect(area)
    for row in range(rows):
        for column in range(row % 2, columns, 2):
            spot = QRectF(area.left() + column * side, area.top() + row * side, side, side)
            painter.fillRect(spot, QColor("#666666"))
    painter.restore()
