"""One kept state of a wrinkle in a list: its picture, what it is, and what can be done with it."""

from __future__ import annotations

from datetime import datetime

from PyQt6.QtCore import QLocale, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.theme import SURROUND

_PICTURE = 72


class KeptRow(QWidget):
    """A row; its buttons are added from left to right.

    Args:
        picture: PNG; empty for none.
        title: in one line.
        details: lines below it.
    """

    def __init__(self, picture: bytes, title: str, details: str) -> None:
        super().__init__()
        self.picture = PlainLabel()
        self.picture.setFixedSize(_PICTURE, _PICTURE)
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.picture.setStyleSheet(f"background: {SURROUND.name()}")
        pixmap = QPixmap()
        if pixmap.loadFromData(picture, "PNG"):
            keep, smooth = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode
            self.picture.setPixmap(
                pixmap.scaled(_PICTURE, _PICTURE, keep, smooth.SmoothTransformation)
            )
        self.title = ElidedLabel(title)
        self.title.setObjectName("heading")
        self.details = PlainLabel(details)
        self.details.setObjectName("quiet")
        self.details.setTextFormat(Qt.TextFormat.PlainText)
        self.details.setWordWrap(True)
        words = QVBoxLayout()
        words.addStretch(1)
        words.addWidget(self.title)
        words.addWidget(self.details)
        words.addStretch(1)
        self._line = QHBoxLayout(self)
        self._line.setContentsMargins(0, 4, 0, 4)
        self._line.addWidget(self.picture)
        self._line.addLayout(words, 1)

    def add_button(self, text: str) -> QPushButton:
        """A further button at the right."""
        button = QPushButton(text)
        self._line.addWidget(button)
        return button


def day_and_time(when: datetime) -> str:
    """A moment by the person's own clock."""
    here = when.astimezone()
    if here.date() == datetime.now().astimezone().date():
        return f"today, {here:%H:%M}"
    return f"{here.day} {QLocale().monthName(here.month)} {here.year}, {here:%H:%M}"
