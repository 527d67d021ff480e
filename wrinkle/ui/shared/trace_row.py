"""A trace drawn along the frames, with its limits and the frames beyond them marked."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from wrinkle.core.measure.trace import Trace, TraceLine
from wrinkle.ui.shared.frame_axis import FrameAxis
from wrinkle.ui.shared.frame_canvas import FrameCanvas
from wrinkle.ui.shared.frame_table import Column, FrameModel
from wrinkle.ui.shared.plain_text import PlainLabel, tip
from wrinkle.ui.text_size import Extent, keep
from wrinkle.ui.theme import active, make_small, small_font

_HEIGHT = 64
_TOP, _FOOT = 8.0, 9.0
_MARK = 3.0
_MOST_VALUES = 3
"""Lines for which there is room."""
_ROOM = 1.15
"""What is above a line that is higher than the drawing."""


class TraceCanvas(FrameCanvas):
    """Draws the lines of one trace."""

    def __init__(self, trace: Trace, parent: QWidget | None = None) -> None:
        model = FrameModel(trace.label, (), lambda frame: frame)
        super().__init__(f"Trace of {trace.label}", model, scrubs=True, parent=parent)
        self._trace = trace
        self._lines: Sequence[TraceLine] = ()
        self._stale = False
        self.setMinimumHeight(_HEIGHT)

    def show_lines(self, lines: Sequence[TraceLine], frames: range, stale: bool = False) -> None:
        """Shows what was measured; ``stale`` where it is being measured anew."""
        self._lines, self._stale = lines, stale
        self.set_frames(frames)
        self.update()
        if self.model is not None:
            self.model.show_rows(frames if lines else range(0), self._columns())

    def _columns(self) -> list[Column]:
        """The frame, each line's value, and whether it is beyond a limit."""
        first, beyond = self.frames.start, set(self.beyond)

        def value(line: TraceLine) -> Callable[[int], str]:
            digits = self._trace.digits
            return lambda frame: f"{line.values[frame - first]:.{digits}f}".replace("nan", "")

        unit = f" ({self._trace.unit})" if self._trace.unit else ""
        return [
            Column("Frame", str),
            *(Column(f"{x.label or self._trace.label}{unit}", value(x)) for x in self._lines),
            *((Column("Beyond the limit", lambda x: "yes" if x in beyond else ""),)
              if self._trace.limits else ()),
        ]  # fmt: skip

    @property
    def beyond(self) -> tuple[int, ...]:
        """The frames that are marked."""
        return self._trace.beyond(self._lines, self.frames.start)

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
        if axis.first <= self.playhead < axis.end:
            column = QRectF(axis.x(self.playhead), 0, axis.cell, self.height())
            painter.fillRect(column, theme.colour("selected", 0.6))
        for number, line in enumerate(self._lines):
            self._paint_line(painter, axis, line, number, top)
        for limit in self._trace.limits:
            self._paint_limit(painter, axis, limit.value, limit.label, top)
        for frame in self.beyond:
            mark = QRectF(axis.x(frame) + 0.5, foot + 2, max(1.0, axis.cell - 1), _MARK)
            painter.fillRect(mark, theme.colour("seam"))
        self.paint_seam(painter)
        if self._stale:
            painter.fillRect(self.rect(), theme.colour("panel", 0.45))

    def _paint_line(
        self, painter: QPainter, axis: FrameAxis, line: TraceLine, number: int, top: float
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


class TraceRow(QWidget):
    """A trace with its name and its value on the frame that is looked at.

    Args:
        trace: what is shown.
        head: the width of the name's column.
    """

    def __init__(self, trace: Trace, head: int) -> None:
        super().__init__()
        self.trace = trace
        self._lines: Sequence[TraceLine] = ()
        self._frames = range(-1, 1)
        self._playhead = 0
        self.canvas = TraceCanvas(trace)
        name = PlainLabel(trace.label)
        name.setStyleSheet("font-weight: 600;")
        name.setToolTip(tip(trace.about))
        self.value = PlainLabel()
        self.value.setObjectName("quiet")
        make_small(self.value)
        beside = QWidget()
        keep(beside, Extent.WIDTH, head)
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

    def show_lines(
        self, lines: Sequence[TraceLine] | None, frames: range, stale: bool = False
    ) -> None:
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
            f"{line.label} {number_words(self.trace, float(line.values[at]))}".strip()
            for line in self._lines
            if 0 <= at < len(line.values)
        ]
        nothing = "nothing to measure" if not self._lines else ""
        self.value.setText("\n".join(words[:_MOST_VALUES]) or nothing)
        self.value.setToolTip(tip("\n".join(words)))


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


def number_words(trace: Trace, value: float) -> str:
    """A measured value as it is told."""
    return "–" if math.isnan(value) else f"{value:.{trace.digits}f} {trace.unit}"
