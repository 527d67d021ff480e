"""The bar at the top: the file, the five places, undo and redo."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QLineF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QAction,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDropEvent,
    QFont,
    QPainter,
    QPaintEvent,
)
from PyQt6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from wrinkle.ui import text_size
from wrinkle.ui.shared.drops import accept_files
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.panel import as_panel
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.seam import seam_pen
from wrinkle.ui.text_size import Extent
from wrinkle.ui.theme import HEADING, active

_HEIGHT = 44
_LINGER_MS = 500


class _PlaceWord(QToolButton):
    """A place's name; the current one is underlined by stitches.

    What is dragged over it for a moment leads to the place, so that it can be dropped there.
    """

    def __init__(self) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self._lingering = QTimer(self)
        self._lingering.setSingleShot(True)
        self._lingering.setInterval(_LINGER_MS)
        self._lingering.timeout.connect(self.click)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)
        if event is not None and event.isAccepted() and not self.isChecked():
            self._lingering.start()

    def dragLeaveEvent(self, event: QDragLeaveEvent | None) -> None:
        self._lingering.stop()

    def dropEvent(self, event: QDropEvent | None) -> None:
        self._lingering.stop()

    def sizeHint(self) -> QSize:
        return QSize(
            self.fontMetrics().horizontalAdvance(self.text()) + 28, text_size.scaled(_HEIGHT - 8)
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = active()
        font = QFont(self.font())
        font.setPixelSize(text_size.scaled(HEADING))
        if self.isChecked():
            font.setWeight(QFont.Weight.DemiBold)
        painter.setFont(font)
        painter.setPen(theme.colour("ink" if self.isChecked() or self.underMouse() else "quiet"))
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self.text())
        if self.isChecked():
            width = painter.fontMetrics().horizontalAdvance(self.text())
            left, foot = (self.width() - width) / 2, self.height() - 3
            painter.setPen(seam_pen())
            painter.drawLine(QLineF(left, foot, left + width, foot))
        if self.hasFocus():
            painter.setPen(theme.colour("ink"))
            painter.drawRoundedRect(self.rect().adjusted(1, 1, -2, -2), 4, 4)


class CheckBadge(QToolButton):
    """How many checks are open, as a patch with stitches around it; it leads to them."""

    def __init__(self) -> None:
        super().__init__()
        self._count: int | None = None
        self.show_count(None)

    @property
    def count(self) -> int | None:
        """What it shows; None while nothing is known."""
        return self._count

    def show_count(self, count: int | None) -> None:
        """Shows how many are open; None while nothing is known."""
        if count == self._count and self.text():
            return
        self._count = count
        self.setText("–" if count is None else str(count))
        words = "Nothing is measured yet" if count is None else "No check is open"
        if count:
            words = f"{count} check{'s are' if count > 1 else ' is'} open; look at them"
        self.setToolTip(tip(words))
        self.setAccessibleName(words)
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(
            max(30, self.fontMetrics().horizontalAdvance(self.text()) + 18), text_size.scaled(24)
        )

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = active()
        patch = QRectF(self.rect()).adjusted(2, 2, -2, -2)
        open_ = bool(self._count)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("seam" if open_ else "panel"))
        painter.drawRoundedRect(patch, 3, 3)
        pen = seam_pen(1.0)
        pen.setDashPattern([3.0, 2.0])
        pen.setColor(theme.colour("panel" if open_ else "rule"))
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(patch.adjusted(2, 2, -2, -2), 2, 2)
        font = QFont(self.font())
        font.setWeight(QFont.Weight.DemiBold)
        painter.setFont(font)
        painter.setPen(theme.colour("panel" if open_ else "quiet"))
        painter.drawText(patch, Qt.AlignmentFlag.AlignCenter, self.text())
        if self.hasFocus():
            painter.setPen(theme.colour("ink"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4)


class PlaceBar(QWidget):
    """Shows where one is, and leads elsewhere.

    Args:
        places: what they are called, by their key.
        undo, redo: are buttons here.

    Attributes:
        places: the words of the bar, by the place's key.

    Signals:
        placeChosen: the place's key.
        checksWanted: the open checks are to be seen.
    """

    placeChosen = pyqtSignal(str)
    checksWanted = pyqtSignal()

    def __init__(self, places: Mapping[str, str], undo: QAction, redo: QAction) -> None:
        super().__init__()
        as_panel(self)
        text_size.keep(self, Extent.HEIGHT, _HEIGHT)
        self._title = ElidedLabel()
        self._title.setObjectName("heading")
        self._title.setMinimumWidth(80)
        text_size.keep(self._title, Extent.MOST_WIDTH, 260)
        self._mark = PlainLabel()
        self._mark.setObjectName("quiet")
        self.places: dict[str, _PlaceWord] = {}
        layout = QHBoxLayout(self)
        layout.setContentsMargins(16, 0, 12, 0)
        layout.setSpacing(8)
        layout.addWidget(self._title)
        layout.addWidget(self._mark)
        layout.addStretch(1)
        for number, (key, name) in enumerate(places.items(), 1):
            word = _PlaceWord()
            word.setText(name)
            word.setAccessibleName(name)
            word.setCheckable(True)
            word.setToolTip(tip(f"Ctrl+{number}"))
            word.clicked.connect(lambda checked, key=key: self.placeChosen.emit(key))
            self.places[key] = word
            layout.addWidget(word)
        layout.addStretch(1)
        for action in (undo, redo):
            button = QToolButton()
            button.setDefaultAction(action)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
            layout.addWidget(button)
        self.badge = CheckBadge()
        self.badge.clicked.connect(self.checksWanted)
        layout.addWidget(self.badge)

    def show_place(self, key: str) -> None:
        """Underlines a place."""
        for place, word in self.places.items():
            word.setChecked(place == key)

    def show_file(self, name: str, unsaved: bool) -> None:
        """Shows the wrinkle's name and whether it is saved."""
        self._title.setText(name)
        self._mark.setText("• unsaved" if unsaved else "")
