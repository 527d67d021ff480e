"""The small picture of a layer on its card."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.theme import SURROUND

_SIDE = 36
_CHECK = 4
_LIGHT = QColor("#8E8E8E")


class LayerPicture(QWidget):
    """What a layer shows at the playhead, over small checks where it is clear."""

    def __init__(self) -> None:
        super().__init__()
        self._picture: QImage | None = None
        self.setFixedSize(QSize(_SIDE, _SIDE))
        # The card is what is pressed and pulled.
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAccessibleName("The layer alone, at the playhead")

    def show_picture(self, picture: QImage | None) -> None:
        """Shows another picture, or none."""
        self._picture = picture
        self.update()

    @property
    def picture(self) -> QImage | None:
        """What is shown."""
        return self._picture

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._picture is None:
            painter.fillRect(self.rect(), SURROUND)
            return
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        room = QRectF(self.rect())
        share = min(room.width() / self._picture.width(), room.height() / self._picture.height())
        area = QRectF(0, 0, self._picture.width() * share, self._picture.height() * share)
        area.moveCenter(room.center())
        painter.setClipRect(area)
        painter.fillRect(area, SURROUND)
        for row in range(_SIDE // _CHECK + 1):
            for column in range(row % 2, _SIDE // _CHECK + 1, 2):
                check = QRectF(column * _CHECK, row * _CHECK, _CHECK, _CHECK)
                painter.fillRect(check, _LIGHT)
        painter.drawImage(area, self._picture)
