"""The findings under each other, the worst first, each with its frames along the window."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QLineF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from wrinkle.ui.checks.item import Item
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.shared.seam import draw_seam, seam_pen
from wrinkle.ui.theme import active

_MOST = 200
"""Cards: of more the first ones are shown, and how many there are."""
_DOTS = 12


class FrameMarks(QWidget):
    """Where in the window the frames of a finding are."""

    def __init__(self, item: Item) -> None:
        super().__init__()
        self._item = item
        self.setFixedHeight(_DOTS)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        frames, theme = self._item.examined.subject.frames, active()
        axis = FrameAxis(frames.start, frames.stop, 2.0, self.width() - 4.0)
        middle = self.height() / 2.0
        painter.setPen(theme.colour("rule"))
        painter.drawLine(QLineF(axis.x(axis.first), middle, axis.x(axis.end), middle))
        for frame in self._item.finding.frames:
            mark = QRectF(axis.x(frame), middle - 3, max(2.0, axis.cell - 1), 6)
            painter.fillRect(mark, theme.colour("outgoing" if frame < 0 else "incoming"))
        draw_seam(painter, axis.x(0), 0, self.height())


class FindingCard(QFrame):
    """One finding.

    Signals:
        pressed: it was chosen.
    """

    pressed = pyqtSignal()

    def __init__(self, item: Item) -> None:
        super().__init__()
        self.item = item
        self._chosen = False
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        title = PlainLabel(item.check.label)
        title.setStyleSheet("font-weight: 600;")
        where = ElidedLabel(item.where)
        where.setObjectName("quiet")
        where.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.sentence = PlainLabel(item.finding.sentence)
        self.sentence.setWordWrap(True)
        self.setAccessibleName(item.finding.sentence)
        row = QHBoxLayout()
        row.addWidget(title)
        row.addWidget(where, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 8, 12, 8)
        column.setSpacing(4)
        column.addLayout(row)
        column.addWidget(self.sentence)
        if item.reason:
            for label in (title, self.sentence):
                label.setObjectName("quiet")
            reason = PlainLabel(f"Set aside: {item.reason}")
            reason.setWordWrap(True)
            column.addWidget(reason)
        elif item.finding.frames:
            column.addWidget(FrameMarks(item))

    def choose(self, chosen: bool) -> None:
        """Shows whether it is the chosen one."""
        self._chosen = chosen
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.pressed.emit()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme = active()
        if self._chosen:
            painter.fillRect(self.rect(), theme.colour("selected"))
            painter.setPen(seam_pen(3.0))
            painter.drawLine(QLineF(4.5, 6, 4.5, self.height() - 6))
        painter.setPen(theme.colour("rule"))
        painter.drawLine(QLineF(12, self.height() - 0.5, self.width() - 12, self.height() - 0.5))


class FindingList(QScrollArea):
    """All findings; one is chosen by the mouse, or by Up and Down.

    Signals:
        chosen: another one (Item), or None.
    """

    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("What was found")
        self.cards: list[FindingCard] = []
        self._current: Item | None = None
        self._ground = QWidget()
        self._ground.setObjectName("ground")
        self._column = QVBoxLayout(self._ground)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._more = PlainLabel()
        self._more.setObjectName("quiet")
        self._more.setMargin(12)
        self._column.addWidget(self._more)
        self._column.addStretch(1)
        self.setWidget(self._ground)

    @property
    def current(self) -> Item | None:
        """The chosen one."""
        return self._current

    def show_items(self, items: Sequence[Item]) -> None:
        """Shows findings; the chosen one stays, or the next one in its place is chosen."""
        place = next((n for n, x in enumerate(self.cards) if x.item.same(self._current)), 0)
        for card in self.cards:
            self._column.removeWidget(card)
            card.hide()
            card.deleteLater()
        self.cards = [FindingCard(item) for item in items[:_MOST]]
        for number, card in enumerate(self.cards):
            card.pressed.connect(lambda item=card.item: self.choose(item))
            self._column.insertWidget(number, card)
        left = len(items) - len(self.cards)
        self._more.setText(f"and {left} more; mend these first." if left else "")
        self._more.setVisible(bool(left))
        same = next((x.item for x in self.cards if x.item.same(self._current)), None)
        if same is None and self.cards:
            same = self.cards[min(place, len(self.cards) - 1)].item
        self._take(same)

    def choose(self, item: Item | None) -> None:
        """Chooses one."""
        self.setFocus()
        self._take(item)

    def _take(self, item: Item | None) -> None:
        self._current = item
        for card in self.cards:
            chosen = card.item.same(item)
            card.choose(chosen)
            if chosen:
                self.ensureWidgetVisible(card, 0, 8)
        self.chosen.emit(item)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}
        if event is None or event.key() not in steps or not self.cards:
            super().keyPressEvent(event)
            return
        items = [card.item for card in self.cards]
        at = next((n for n, x in enumerate(items) if x.same(self._current)), 0)
        self._take(items[min(max(at + steps[Qt.Key(event.key())], 0), len(items) - 1)])
