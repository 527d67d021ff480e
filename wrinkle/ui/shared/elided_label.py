"""A label that cuts long text short and shows all of it in its tooltip."""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QFont, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy

from wrinkle.ui.shared.plain_text import PlainLabel, tip


class ElidedLabel(PlainLabel):
    """One line; takes the room it is given. By default the ends are what tells texts apart."""

    def __init__(
        self, text: str = "", mode: Qt.TextElideMode = Qt.TextElideMode.ElideMiddle
    ) -> None:
        super().__init__(text)
        self._mode = mode
        self._cut: tuple[tuple[str, int, QFont], str] | None = None
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def setText(self, text: str | None) -> None:
        super().setText(text)
        self.setToolTip(tip(text or ""))

    def minimumSizeHint(self) -> QSize:
        return QSize(24, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        room = self.contentsRect()
        wanted = (self.text(), room.width(), self.font())
        if self._cut is None or self._cut[0] != wanted:
            shown = self.fontMetrics().elidedText(self.text(), self._mode, room.width())
            self._cut = wanted, shown
        painter = QPainter(self)
        painter.setPen(self.palette().windowText().color())
        painter.drawText(room, self.alignment(), self._cut[1])
