"""The traces of what is examined, one below the other, along the same frames as the strip."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from wrinkle.core.examine.examined import Examined
from wrinkle.core.measure.traces import TRACES
from wrinkle.ui.shared.frame_table import FrameModel
from wrinkle.ui.shared.trace_row import TraceRow

HEAD = 148
"""How wide the names are."""
MARGIN = 12.0


class TraceList(QScrollArea):
    """A row for each trace that there is anything to measure of.

    Signals:
        scrubbed: the frame that is to be shown.
    """

    scrubbed = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Traces, frame by frame")
        self.rows = {key: TraceRow(trace, HEAD) for key, trace in TRACES.items()}
        ground = QWidget()
        ground.setObjectName("ground")
        column = QVBoxLayout(ground)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(1)
        for row in self.rows.values():
            row.canvas.set_inset(MARGIN, MARGIN)
            row.canvas.scrubbed.connect(self.scrubbed)
            column.addWidget(row)
        column.addStretch(1)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setWidget(ground)

    @property
    def models(self) -> list[FrameModel]:
        """What is shown, as tables."""
        return [x.canvas.model for x in self.rows.values() if x.canvas.model is not None]

    def show_examined(self, examined: Examined | None, frames: range) -> None:
        """Shows what was measured; nothing without it."""
        for key, row in self.rows.items():
            lines = examined.lines.get(key) if examined is not None else None
            row.show_lines(lines, frames)
            # What there is nothing to measure of, such as the loudness of no sound, takes no room.
            row.setVisible(bool(lines))

    def show_playhead(self, frame: int) -> None:
        """Marks the frame that is shown."""
        for row in self.rows.values():
            row.show_playhead(frame)

    def bring_into_view(self, key: str) -> None:
        """Scrolls to a trace, if it is there."""
        row = self.rows.get(key)
        if row is not None and not row.isHidden():
            self.ensureWidgetVisible(row, 0, 8)
