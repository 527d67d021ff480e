"""A stitched line around a widget: where the keys go, and where a guide points."""

from __future__ import annotations

from contextlib import suppress

from PyQt6.QtCore import QEvent, QObject, QPoint, QRect, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.theme import active

_STITCH = (3.0, 2.0)
_MOVES = (
    QEvent.Type.Move, QEvent.Type.Resize, QEvent.Type.Show, QEvent.Type.Hide,
    QEvent.Type.LayoutRequest,
)  # fmt: skip


class StitchedRing(QWidget):
    """Lies over a window, takes no mouse, and goes along with what it surrounds.

    Args:
        role: its colour in the theme.
        width: of the line, in points.
        out: how far outside the widget it runs, in points.
    """

    def __init__(self, role: str, width: float = 2.0, out: int = 1) -> None:
        super().__init__()
        self._role, self._width, self._out = role, width, out
        self._around: QWidget | None = None
        self._watched: list[QObject] = []
        self.setObjectName("ring")
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.hide()

    @property
    def around(self) -> QWidget | None:
        """What it surrounds; None for nothing."""
        return self._around

    def surround(self, widget: QWidget | None) -> None:
        """Lies around another widget, or around nothing."""
        self._let_go()
        self._around = widget
        if widget is None:
            self.hide()
            return
        window = widget.window()
        if self.parent() is not window:
            self.setParent(window)
        above: QWidget | None = widget
        while above is not None:
            above.installEventFilter(self)
            self._watched.append(above)
            above = above.parentWidget() if above is not window else None
        widget.destroyed.connect(self._lose)
        self._follow()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Only looks on."""
        if event is not None and event.type() in _MOVES:
            self._follow()
        return False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        half = self._width / 2
        room = QRectF(self.rect()).adjusted(half, half, -half, -half)
        theme = active()
        # A ground under the stitches, so that they are seen on pictures and on cloth.
        painter.setPen(QPen(theme.colour("panel"), self._width))
        painter.drawRoundedRect(room, 4.0, 4.0)
        pen = QPen(theme.colour(self._role), self._width)
        pen.setDashPattern(_STITCH)
        painter.setPen(pen)
        painter.drawRoundedRect(room, 4.0, 4.0)

    def _follow(self) -> None:
        widget = self._around
        if widget is None or not widget.isVisible():
            self.hide()
            return
        window = self.parentWidget() or widget
        area = _seen(widget).translated(widget.mapTo(window, QPoint(0, 0)))
        area = area.adjusted(-self._out, -self._out, self._out, self._out)
        area &= window.rect()
        if area.isEmpty():
            self.hide()
            return
        self.setGeometry(area)
        self.show()
        self.raise_()

    def _let_go(self) -> None:
        for one in self._watched:
            # What is gone cannot be watched any longer.
            with suppress(RuntimeError):
                one.removeEventFilter(self)
        self._watched.clear()

    def _lose(self) -> None:
        with suppress(RuntimeError):
            self._watched.clear()
            self._around = None
            self.hide()


def _seen(widget: QWidget) -> QRect:
    """The part of it that is scrolled into sight, in its own coordinates."""
    area, above = widget.rect(), widget.parentWidget()
    while above is not None:
        area &= above.rect().translated(-widget.mapTo(above, QPoint(0, 0)))
        above = None if above.isWindow() else above.parentWidget()
    return area
