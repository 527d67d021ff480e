"""A field for a colour: shows it, and opens the desktop's colour chooser."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QIcon, QPainter, QPixmap
from PyQt6.QtWidgets import QColorDialog, QMenu, QSizePolicy, QToolButton, QWidget

from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.transfer import decode, encode
from wrinkle.ui.shared.colour_picking import picking_of
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.theme import active


def shown_colour(linear: Value) -> QColor:
    """The colour on the screen of linear red, green and blue."""
    encoded = np.clip(encode(np.array([parts(linear)], np.float32)), 0.0, 1.0)[0]
    return QColor.fromRgbF(*(float(part) for part in encoded))


def linear_colour(colour: QColor) -> Value:
    """Linear red, green and blue of a colour on the screen."""
    encoded = np.array([[colour.redF(), colour.greenF(), colour.blueF()]], np.float32)
    return tuple(round(float(part), 6) for part in decode(encoded)[0])


class ColourField(QToolButton):
    """Shows a colour; says which one a person chose.

    Signals:
        committed: the chosen colour, linear.
    """

    committed = pyqtSignal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._value: Value = (1.0, 1.0, 1.0)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.setIconSize(QSize(28, 14))
        self.setObjectName("colour")
        self.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.clicked.connect(self._choose)
        menu = QMenu(self)
        menu.aboutToShow.connect(lambda: self.fill(menu))
        hang_menu(self, menu)
        self.setPopupMode(QToolButton.ToolButtonPopupMode.MenuButtonPopup)

    @property
    def value(self) -> Value:
        """The colour that is shown, linear."""
        return self._value

    def set_value(self, value: Value) -> None:
        """Shows a colour."""
        self._value = value
        swatch = QPixmap(self.iconSize())
        swatch.fill(active().colour("quiet"))
        painter = QPainter(swatch)
        painter.fillRect(swatch.rect().adjusted(1, 1, -1, -1), shown_colour(value))
        painter.end()
        self.setIcon(QIcon(swatch))
        self.setText(self.text_of(value))

    def text_of(self, value: Value) -> str:
        """A colour as it is written."""
        return shown_colour(value).name()

    def fill(self, menu: QMenu) -> None:
        """Where else a colour can be had from: the pictures, and what the clips offer."""
        menu.clear()
        picking = picking_of(self)
        if picking is None:
            return
        menu.addAction("From the picture…", lambda: picking.begin(self._take))
        offers = picking.offers()
        if offers:
            menu.addSection("From the clips")
        for colour in offers:
            swatch = QPixmap(28, 14)
            swatch.fill(colour)
            menu.addAction(QIcon(swatch), colour.name(), lambda x=colour: self._take(x))

    def _take(self, colour: QColor) -> None:
        self.committed.emit(linear_colour(colour))

    def _choose(self) -> None:
        chosen = QColorDialog.getColor(shown_colour(self._value), self, "Choose a colour")
        if chosen.isValid():
            self._take(chosen)
