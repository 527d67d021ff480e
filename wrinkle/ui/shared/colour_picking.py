"""A colour is taken from a picture: of a pixel, or the mean of a square that is drawn on it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QObject, QRect, pyqtSignal
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtWidgets import QWidget

from wrinkle.core.picture.transfer import decode, encode
from wrinkle.ui.shared.qimages import pixels_of


class ColourPicking(QObject):
    """One in a window: who asks, and what the clips offer.

    Signals:
        begun: the next press on a picture takes a colour.
        ended: it was taken, or nobody wants it any more.
    """

    begun = pyqtSignal()
    ended = pyqtSignal()

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self._take: Callable[[QColor], None] | None = None
        self.offers: Callable[[], list[QColor]] = list
        """Gives the main colours of the clips."""

    @property
    def active(self) -> bool:
        """Whether a press on a picture takes a colour."""
        return self._take is not None

    def begin(self, take: Callable[[QColor], None]) -> None:
        """The next colour is given to who asks."""
        self._take = take
        self.begun.emit()

    def take(self, colour: QColor | None) -> None:
        """Gives it a colour; None gives up."""
        take, self._take = self._take, None
        if take is None:
            return
        self.ended.emit()
        if colour is not None:
            take(colour)


def picking_of(widget: QWidget) -> ColourPicking | None:
    """That of the window that a widget stands in."""
    window = widget.window()
    return window.findChild(ColourPicking) if window is not None else None


def mean_colour(picture: QImage, part: QRect) -> QColor:
    """The mean of a part of a picture, in linear light."""
    pixels = pixels_of(picture.copy(part.intersected(picture.rect())))
    light = decode(pixels.reshape(-1, 3).astype(np.float32) / np.float32(255.0)).mean(axis=0)
    encoded = np.clip(encode(np.array([light], np.float32)), 0.0, 1.0)[0]
    return QColor.fromRgbF(*(float(x) for x in encoded))
