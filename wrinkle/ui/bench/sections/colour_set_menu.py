"""Whole sets of colours from the clips, as entries of a menu."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QRect
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QMenu

from wrinkle.core.measure.colour_sets import Rgb

_CELL, _HEIGHT = 16, 14


def add_sets(
    menu: QMenu, sets: Sequence[Sequence[Rgb]], take: Callable[[Sequence[QColor]], object]
) -> None:
    """Offers each set as an entry; a sentence where there are no clips to take them from."""
    menu.addSection("Sets from the clips")
    if not sets:
        entry = menu.addAction("Choose two clips first; their colours come here.")
        if entry is not None:
            entry.setEnabled(False)
    for one in sets:
        colours = [QColor(*rgb) for rgb in one]
        words = " · ".join(x.name() for x in colours)
        menu.addAction(_swatches(colours), words, lambda x=colours: take(x))


def _swatches(colours: Sequence[QColor]) -> QIcon:
    picture = QPixmap(_CELL * len(colours), _HEIGHT)
    painter = QPainter(picture)
    for place, colour in enumerate(colours):
        painter.fillRect(QRect(place * _CELL, 0, _CELL, _HEIGHT), colour)
    painter.end()
    return QIcon(picture)
