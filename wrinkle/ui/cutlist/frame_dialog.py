"""Asks for the frame size and the rate of a piece."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel

_SIZES = ("1080x1920", "1080x1080", "1080x1350", "1920x1080", "2160x3840")
_RATES = ("24", "25", "29.97", "30", "50", "59.94", "60")


class FrameDialog(QDialog):
    """Size and rate can be chosen or typed.

    Signals:
        chosen: a size and a rate.
    """

    chosen = pyqtSignal(object, object)

    def __init__(self, piece: Piece, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Frame size and rate of the piece")
        self.size_field = _choice(_SIZES, piece.size.label.replace("×", "x"), "Size")
        self.rate_field = _choice(_RATES, piece.rate.label, "Rate")
        self.fault = PlainLabel()
        self.fault.setObjectName("fault")
        self.fault.setWordWrap(True)
        form = PlainForm()
        form.add("Size", self.size_field)
        form.add("Frames a second", self.rate_field)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self._take)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        column.addLayout(form)
        column.addWidget(self.fault)
        column.addWidget(buttons)

    def _take(self) -> None:
        try:
            size = Size.parse(self.size_field.currentText())
            rate = FrameRate.parse(self.rate_field.currentText())
        except InputError as fault:
            self.fault.setText(str(fault))
            return
        self.chosen.emit(size, rate)
        self.accept()


def _choice(words: tuple[str, ...], now: str, name: str) -> QComboBox:
    field = QComboBox()
    field.setEditable(True)
    field.setAccessibleName(name)
    field.addItems(words if now in words else (now, *words))
    field.setCurrentText(now)
    return field
