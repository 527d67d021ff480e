"""Our own line drawings, in the ink of the theme."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QByteArray, QSize, Qt
from PyQt6.QtGui import QIcon, QPainter, QPixmap
from PyQt6.QtSvg import QSvgRenderer

from wrinkle.library import FOLDER

_SIZE = 18
_SHARPNESS = 2


@lru_cache(maxsize=64)
def icon(name: str, colour: str) -> QIcon:
    """The drawing ``name`` in a colour (``#rrggbb``)."""
    text = (FOLDER / "icons" / f"{name}.svg").read_text(encoding="utf-8")
    renderer = QSvgRenderer(QByteArray(text.replace("currentColor", colour).encode()))
    pixmap = QPixmap(QSize(_SIZE, _SIZE) * _SHARPNESS)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    renderer.render(painter)
    painter.end()
    pixmap.setDevicePixelRatio(_SHARPNESS)
    return QIcon(pixmap)


def application_icon() -> QIcon:
    """The window's icon."""
    return QIcon(str(FOLDER / "icons" / "wrinkle.svg"))
