"""The traces that are switched on, under the lanes, and the button that switches them."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QMenu, QToolButton, QVBoxLayout, QWidget

from wrinkle.core.measure.traces import TRACES
from wrinkle.ui.desk.parts import Measuring
from wrinkle.ui.shared.hanging_menu import hang_menu
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.trace_row import TraceCanvas, TraceRow


class TraceRows(QWidget):
    """What was measured of the frames of the window.

    Args:
        desk: what is measured, and which traces are wanted.
        head: the width of the names.
        inset: how far the axis stays from the sides.
    """

    def __init__(self, desk: Measuring, head: int, inset: float) -> None:
        super().__init__()
        self._desk = desk
        self._head, self._inset = head, inset
        self.rows: list[TraceRow] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(1)
        desk.looking.tracesChanged.connect(self.refresh)
        desk.looking.playheadChanged.connect(self._show_playhead)
        desk.examiner.changed.connect(self._show_lines)
        self.refresh()

    def refresh(self) -> None:
        """Shows the rows that are wanted."""
        wanted = [trace for key, trace in TRACES.items() if key in self._desk.looking.traces]
        for row in self.rows:
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        self.rows = [TraceRow(trace, self._head) for trace in wanted]
        for row in self.rows:
            row.canvas.set_inset(self._inset, self._inset)
            row.canvas.scrubbed.connect(self._desk.looking.set_playhead)
            self._column.addWidget(row)
        self.setVisible(bool(self.rows))
        self._show_lines()
        self._show_playhead(self._desk.looking.playhead)

    @property
    def canvases(self) -> list[TraceCanvas]:
        """What is drawn of each."""
        return [row.canvas for row in self.rows]

    def _show_lines(self) -> None:
        found = self._desk.examiner.found()
        frames = self._desk.document.state.frames
        stale = self._desk.examiner.measuring()
        for row in self.rows:
            # What was measured of a window of another length stands elsewhere.
            same = found is not None and found.subject.frames == frames
            lines = found.lines[row.trace.key] if found is not None and same else None
            row.show_lines(lines, frames, stale)

    def _show_playhead(self, frame: int) -> None:
        for row in self.rows:
            row.show_playhead(frame)


class TracesButton(QToolButton):
    """Which traces stand under the lanes."""

    def __init__(self, desk: Measuring) -> None:
        super().__init__()
        self._desk = desk
        self.setText("Traces")
        self.setToolTip("What is measured of each frame, under the lanes")
        menu = QMenu(self)
        menu.setToolTipsVisible(True)
        menu.aboutToShow.connect(partial(self._fill, menu))
        hang_menu(self, menu)

    def _fill(self, menu: QMenu) -> None:
        menu.clear()
        for key, trace in TRACES.items():
            action = menu.addAction(trace.label)
            if action is not None:
                action.setCheckable(True)
                action.setChecked(key in self._desk.looking.traces)
                action.setToolTip(tip(trace.about))
                action.toggled.connect(partial(self._desk.looking.show_trace, key))
