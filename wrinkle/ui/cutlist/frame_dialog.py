"""Asks for the frame size and the rate of a piece, and how long pictures are seen in it."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import STILL_LASTS
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.shared.plain_text import PlainForm, PlainLabel

_SIZES = ("1080x1920", "1080x1080", "1080x1350", "1920x1080", "2160x3840")
_SHORTEST = Fraction(1, 100)
_RATES = ("24", "25", "29.97", "30", "50", "59.94", "60")


class FrameDialog(QDialog):
    """Size and rate can be chosen or typed.

    Signals:
        chosen: a size and a rate.
        stillChosen: how long a picture is seen that is added from now on, in seconds.
    """

    chosen = pyqtSignal(object, object)
    stillChosen = pyqtSignal(object)

    def __init__(self, piece: Piece, still: Fraction, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Frame size and rate of the piece")
        self.size_field = _choice(_SIZES, piece.size.label.replace("×", "x"), "Size")
        self.rate_field = _choice(_RATES, piece.rate.label, "Rate")
        self.still_field = QLineEdit(f"{float(still):g}")
        self.still_field.setAccessibleName("Seconds of a new picture")
        self.fault = PlainLabel()
        self.fault.setObjectName("fault")
        self.fault.setWordWrap(True)
        form = PlainForm()
        form.add("Size", self.size_field)
        form.add("Frames a second", self.rate_field)
        form.add("Seconds of a new picture", self.still_field)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.accept_button = buttons.button(QDialogButtonBox.StandardButton.Ok)
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
            still = _seconds(self.still_field.text())
        except InputError as fault:
            self.fault.setText(str(fault))
            return
        self.chosen.emit(size, rate)
        self.stillChosen.emit(still)
        self.accept()


def _seconds(text: str) -> Fraction:
    try:
        found = Fraction(text.strip().replace(",", "."))
    except (ValueError, ZeroDivisionError):
        found = Fraction(0)
    if not _SHORTEST <= found <= STILL_LASTS:
        raise InputError(
            f"'{text}' is no number of seconds for a picture; write one such as 5 or 2.5."
        )
    return found


def _choice(words: tuple[str, ...], now: str, name: str) -> QComboBox:
    field = QComboBox()
    field.setEditable(True)
    field.setAccessibleName(name)
    field.addItems(words if now in words else (now, *words))
    field.setCurrentText(now)
    return field
