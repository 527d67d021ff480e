"""Widgets beside each other that go on in a further line where there is no room: no word is cut."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QWidget


class FlowRow(QLayout):
    """As high as its lines are; each widget has the width that it asks for, or more.

    Args:
        spacing: between two, in points.
        grows: takes what is left of its line; None for nobody.
    """

    def __init__(self, spacing: int = 6, grows: QWidget | None = None) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self._grows = grows
        self.setSpacing(spacing)
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem | None) -> None:
        """Qt hands a widget or a layout over."""
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        """How many there are."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """One of them."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Takes one out."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """It takes no more height than it needs."""
        return Qt.Orientation.Horizontal

    def hasHeightForWidth(self) -> bool:
        """The narrower, the higher."""
        return True

    def heightForWidth(self, width: int) -> int:
        """How high it is in a width."""
        sides = self.contentsMargins()
        inner = width - sides.left() - sides.right()
        return self._placed(QRect(0, 0, inner, 0), False) + sides.top() + sides.bottom()

    def setGeometry(self, area: QRect) -> None:
        """Places all of them."""
        super().setGeometry(area)
        self._placed(area.marginsRemoved(self.contentsMargins()), True)

    def sizeHint(self) -> QSize:
        """All in one line."""
        sizes = [item.sizeHint() for item in self._shown()]
        width = sum(x.width() for x in sizes) + self.spacing() * max(len(sizes) - 1, 0)
        return self._with_margins(width, max((x.height() for x in sizes), default=0))

    def minimumSize(self) -> QSize:
        """The widest one alone."""
        sizes = [item.minimumSize() for item in self._shown()]
        widest = max((x.width() for x in sizes), default=0)
        return self._with_margins(widest, max((x.height() for x in sizes), default=0))

    def _with_margins(self, width: int, height: int) -> QSize:
        sides = self.contentsMargins()
        return QSize(width + sides.left() + sides.right(), height + sides.top() + sides.bottom())

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _placed(self, area: QRect, place: bool) -> int:
        """Lays them out; gives how high they are."""
        y = area.top()
        for line in self._lines(area.width()):
            high = max(item.sizeHint().height() for item in line)
            if place:
                self._place_line(line, QRect(area.left(), y, area.width(), high))
            y += high + self.spacing()
        return max(y - area.top() - self.spacing(), 0)

    def _lines(self, width: int) -> list[list[QLayoutItem]]:
        lines: list[list[QLayoutItem]] = []
        used = 0
        for item in self._shown():
            wanted = item.sizeHint().width()
            if lines and used + self.spacing() + wanted <= width:
                lines[-1].append(item)
                used += self.spacing() + wanted
            else:
                lines.append([item])
                used = wanted
        return lines

    def _place_line(self, line: list[QLayoutItem], area: QRect) -> None:
        wanted = sum(item.sizeHint().width() for item in line) + self.spacing() * (len(line) - 1)
        left, x = max(area.width() - wanted, 0), area.left()
        for item in line:
            size = item.sizeHint()
            width = min(size.width(), area.width())
            if item.widget() is self._grows and self._grows is not None:
                width += left
            high = min(size.height(), area.height())
            down = (area.height() - high) // 2
            item.setGeometry(QRect(QPoint(x, area.top() + down), QSize(width, high)))
            x += width + self.spacing()
