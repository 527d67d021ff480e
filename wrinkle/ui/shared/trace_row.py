"""A trace drawn along the frames, with its limits and the frames beyond them marked."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from wrinkle.core.measure.trace import Line, Trace
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.shared.seam import draw_seam
from wrinkle.ui.theme import active, small_font

_HEIGHT = 64
_TOP, _FOOT = 8.0, 9.0
_MARK = 3.0
_MOST_VALUES = 3
"""Lines for which there is room."""
_ROOM = 1.15
"""What is above a line that is higher than the drawing."""


class TraceCanvas(QWidget):
    """Draws the lines of one trace.

    Signals:
        scrubbed: the frame under the pointer.
    """

    scrubbed = pyqtSignal(int)

    def __init__(self, trace: Trace, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._trace = trace
        self._lines: Sequence[Line] = ()
        self._frames = range(-1, 1)
        self._playhead = 0
        self._inset = (0.0, 0.0)
        self._stale = False
        self.setMinimumHeight(_HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(f"Trace of {trace.label}")

    def set_inset(self, left: float, right: float) -> None:
        """How far the axis stays from the widget's sides."""
        self._inset = (left, right)

    def show_lines(self, lines: Sequence[Line], frames: range, stale: bool = False) -> None:
        """Shows what was measured; ``stale`` where it is being measured anew."""
        self._lines, self._frames, self._stale = lines, frames, stale
        self.update()

    def show_playhead(self, frame: int) -> None:
        """Marks another frame."""
        self._playhead = frame
        self.update()

    @property
    def axis(self) -> FrameAxis:
        """Where the frames stand."""
        left, right = self._inset
        frames = self._frames
        return FrameAxis(frames.start, frames.stop, left, max(10.0, self.width() - left - right))

    @property
    def beyond(self) -> tuple[int, ...]:
        """The frames that are marked."""
        return self._trace.beyond(self._lines, self._frames.start)

    def _top(self) -> float:
        """The value at the top of the drawing."""
        values = [x for line in self._lines for x in line.values if not math.isnan(x)]
        most = max(values, default=0.0)
        return self._trace.full if most <= self._trace.full else most * _ROOM

    def _y(self, value: float, top: float) -> float:
        low = self._trace.low
        share = (value - low) / (top - low) if top > low else 0.0
        return self.height() - _FOOT - share * (self.height() - _TOP - _FOOT)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        axis, theme, top = self.axis, active(), self._top()
        painter.fillRect(self.rect(), theme.colour("panel"))
        foot = self._y(self._trace.low, top)
        painter.setPen(QPen(theme.colour("rule"), 1.0))
        painter.drawLine(QLineF(axis.x(axis.first), foot, axis.x(axis.end), foot))
        if axis.first <= self._playhead < axis.end:
            column = QRectF(axis.x(self._playhead), 0, axis.cell, self.height())
            painter.fillRect(column, theme.colour("selected", 0.6))
        for number, line in enumerate(self._lines):
            self._paint_line(painter, axis, line, number, top)
        for limit in self._trace.limits:
            self._paint_limit(painter, axis, limit.value, limit.label, top)
        for frame in self.beyond:
            mark = QRectF(axis.x(frame) + 0.5, foot + 2, max(1.0, axis.cell - 1), _MARK)
            painter.fillRect(mark, theme.colour("seam"))
        draw_seam(painter, axis.x(0), 0, self.height())
        if self._stale:
            painter.fillRect(self.rect(), theme.colour("panel", 0.45))

    def _paint_line(
        self, painter: QPainter, axis: FrameAxis, line: Line, number: int, top: float
    ) -> None:
        """The first line is a band in the colours of both sides, the others are lines."""
        theme, foot = active(), self._y(self._trace.low, top)
        for start, end, role in ((axis.first, 0, "outgoing"), (0, axis.end, "incoming")):
            for part in _runs(line.values[start - axis.first : end - axis.first], start):
                points = [
                    QPointF(axis.x(frame + 0.5), self._y(value, top)) for frame, value in part
                ]
                path = QPainterPath(points[0])
                for point in points[1:]:
                    path.lineTo(point)
                if number == 0:
                    band = QPainterPath(path)
                    band.lineTo(points[-1].x(), foot)
                    band.lineTo(points[0].x(), foot)
                    painter.fillPath(band, theme.colour(role, 0.28))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                pen = QPen(theme.colour(role if number == 0 else "ink"), 1.5)
                if number:
                    pen.setDashPattern([1.0, 1.0 + number])
                painter.setPen(pen)
                painter.drawPath(path)
                if len(points) == 1:
                    painter.drawEllipse(points[0], 1.0, 1.0)

    def _paint_limit(
        self, painter: QPainter, axis: FrameAxis, value: float, label: str, top: float
    ) -> None:
        theme, y = active(), self._y(value, top)
        painter.setPen(QPen(theme.colour("seam"), 1.0))
        painter.drawLine(QLineF(axis.x(axis.first), y, axis.x(axis.end), y))
        painter.setFont(small_font(self.font()))
        text = f"{label} {value:.3g}{self._trace.unit if self._trace.unit != '%' else ' %'}"
        width = painter.fontMetrics().horizontalAdvance(text)
        above = y - 14 >= 0
        area = QRectF(axis.x(axis.end) - width - 4, y - 14 if above else y + 1, width, 13)
        painter.fillRect(area, theme.colour("panel", 0.8))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, text)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.scrubbed.emit(self.axis.frame_under(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.scrubbed.emit(self.axis.frame_under(event.position().x()))


class TraceRow(QWidget):
    """A trace with its name and its value on the frame that is looked at.

    Args:
        trace: what is shown.
        head: the width of the name's column.
    """

    def __init__(self, trace: Trace, head: int) -> None:
        super().__init__()
        self.trace = trace
        self._lines: Sequence[Line] = ()
        self._frames = range(-1, 1)
        self._playhead = 0
        self.canvas = TraceCanvas(trace)
        name = PlainLabel(trace.label)
        name.setStyleSheet("font-weight: 600;")
        name.setToolTip(tip(trace.about))
        self.value = PlainLabel()
        self.value.setObjectName("quiet")
        self.value.setFont(small_font(self.font()))
        beside = QWidget()
        beside.setFixedWidth(head)
        column = QVBoxLayout(beside)
        column.setContentsMargins(12, 6, 8, 6)
        column.setSpacing(2)
        column.addWidget(name)
        column.addWidget(self.value)
        column.addStretch(1)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(beside)
        layout.addWidget(self.canvas, 1)

    def show_lines(self, lines: Sequence[Line] | None, frames: range, stale: bool = False) -> None:
        """Shows what was measured; None while nothing is known."""
        self._lines, self._frames = lines or (), frames
        self.canvas.show_lines(self._lines, frames, stale)
        self._show_value()

    def show_playhead(self, frame: int) -> None:
        """Shows the value of another frame."""
        self._playhead = frame
        self.canvas.show_playhead(frame)
        self._show_value()

    def _show_value(self) -> None:
        at = self._playhead - self._frames.start
        words = [
            f"{line.label} {self._number(float(line.values[at]))}".strip()
            for line in self._lines
            if 0 <= at < len(line.values)
        ]
        nothing = "nothing to measure" if not self._lines else ""
        self.value.setText("\n".join(words[:_MOST_VALUES]) or nothing)
        self.value.setToolTip(tip("\n".join(words)))

    def _number(self, value: float) -> str:
        if math.isnan(value):
            return "–"
        return f"{value:.{self.trace.digits}f} {self.trace.unit}"


def _runs(values: np.ndarray, first: int) -> list[list[tuple[int, float]]]:
    """Frames that follow each other and have a value, with it."""
    found: list[list[tuple[int, float]]] = []
    open_ = False
    for number, value in enumerate(values):
        if math.isnan(value):
            open_ = False
            continue
        if not open_:
            found.append([])
            open_ = True
        found[-1].append((first + number, float(value)))
    return found
