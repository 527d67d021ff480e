"""How much of the Bench the result has: a part, most of it, or the whole screen."""

from __future__ import annotations

from enum import Enum
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, QTimer, pyqtSignal
from PyQt6.QtWidgets import QBoxLayout, QFrame, QSplitter, QVBoxLayout, QWidget

from wrinkle.ui.bench.lanes.timeline import Timeline
from wrinkle.ui.bench.picture.result_view import ResultView
from wrinkle.ui.bench.picture.source_view import SourceView
from wrinkle.ui.bench.picture.transport import Transport
from wrinkle.ui.bench.stack.stack import Stack
from wrinkle.ui.shared.panel import as_panel

_ASIDE = 112
_NARROWEST, _LANES = 220, 560
"""Points: how narrow a column of its own may be, and what is left for the lanes."""
_COLUMN_SHARE = 0.42
"""Of what clips, lanes and result have together, at most."""
_LINGERS_MS = 2500


class PictureSize(Enum):
    """Three, by one key."""

    BENCH = "bench"
    LARGE = "large"
    WHOLE = "whole screen"


class ResultColumn(QWidget):
    """Where the result stands beside all else, where it is given the room."""

    def __init__(self) -> None:
        super().__init__()
        as_panel(self)
        self.setMinimumWidth(_NARROWEST)
        self.rows = QVBoxLayout(self)
        self.rows.setContentsMargins(0, 0, 0, 0)
        self.rows.setSpacing(0)


class SizedParts(NamedTuple):
    """What has to make room."""

    bench: QWidget
    three: QBoxLayout
    upper: QBoxLayout
    left: QSplitter
    columns: QSplitter
    column: ResultColumn
    outgoing: SourceView
    result: ResultView
    incoming: SourceView
    transport: Transport
    timeline: Timeline
    stack: Stack


class PictureSizes(QObject):
    """Makes room, and gives it back.

    Signals:
        changed: it is another size.
        wholeScreen: the window is to show nothing else, or all of it again.
    """

    changed = pyqtSignal()
    wholeScreen = pyqtSignal(bool)

    def __init__(self, parts: SizedParts) -> None:
        super().__init__(parts.bench)
        self._parts = parts
        self._size = PictureSize.BENCH
        self._heights: list[int] = []
        self._widths: list[int] = []
        self._in_column = False
        self._aside = QVBoxLayout()
        self._aside.setSpacing(4)
        parts.three.insertLayout(0, self._aside)
        self._foot = as_panel(QFrame(parts.bench))
        column = QVBoxLayout(self._foot)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self._foot.hide()
        self._lingering = QTimer(self)
        self._lingering.setSingleShot(True)
        self._lingering.setInterval(_LINGERS_MS)
        self._lingering.timeout.connect(self._hide_foot)
        parts.result.pointerMoved.connect(self._show_foot)
        parts.bench.installEventFilter(self)
        parts.columns.splitterMoved.connect(lambda: self.follow_handle())

    @property
    def size(self) -> PictureSize:
        """The size it has now."""
        return self._size

    @property
    def foot(self) -> QWidget:
        """What lies over the foot of a picture that has the whole screen."""
        return self._foot

    def step(self, by: int = 1) -> None:
        """The next size, or the one before."""
        sizes = list(PictureSize)
        self.show_size(sizes[(sizes.index(self._size) + by) % len(sizes)])

    def show_size(self, size: PictureSize) -> None:
        """Makes it so large."""
        if size is self._size:
            return
        parts, before = self._parts, self._size
        if before is PictureSize.BENCH:
            self._heights = parts.left.sizes()
            self._widths = parts.columns.sizes() if self._in_column else []
        self._size = size
        if self._in_column:
            self._share_columns([sum(self._widths), 0])
        small, whole = size is not PictureSize.BENCH, size is PictureSize.WHOLE
        self._fold_clips(small)
        for clip in (parts.outgoing, parts.incoming):
            clip.setVisible(not whole)
        parts.stack.setVisible(not whole)
        parts.timeline.fold(small)
        if whole:
            for widget in (parts.transport, parts.timeline):
                self._foot.layout().addWidget(widget)  # type: ignore[union-attr]
            self._show_foot()
        elif before is PictureSize.WHOLE:
            self._lingering.stop()
            self._foot.hide()
            parts.upper.addWidget(parts.transport)
            parts.left.addWidget(parts.timeline)
            for widget in (parts.transport, parts.timeline):
                widget.show()
        if not small and self._heights:
            parts.left.setSizes(self._heights)
            if self._widths:
                self._share_columns(self._widths)
        if PictureSize.WHOLE in (size, before):
            self.wholeScreen.emit(whole)
        self.changed.emit()

    @property
    def in_column(self) -> bool:
        """Whether the result stands in a column of its own."""
        return self._in_column

    def toggle_column(self) -> None:
        """Gives the result a column beside clips and lanes, as wide as it needs, or ends that."""
        parts = self._parts
        whole = sum(parts.columns.sizes())
        if self._in_column:
            self._share_columns([whole, 0])
            return
        self.show_size(PictureSize.BENCH)
        shape = parts.result.shape
        high = parts.columns.height() - parts.transport.sizeHint().height()
        wanted = max(high * shape.width // shape.height + 8, parts.transport.sizeHint().width())
        wide = min(wanted, round(whole * _COLUMN_SHARE))
        self._share_columns([whole - wide, wide])

    def follow_handle(self) -> None:
        """The result stands in its column as soon as that has some room, and no longer."""
        self._leave_lanes()
        used = self._parts.columns.sizes()[1] > 0
        if used is self._in_column:
            return
        self._in_column = used
        parts = self._parts
        if used:
            parts.column.rows.addWidget(parts.result, 1)
            parts.column.rows.addWidget(parts.transport)
        else:
            place = parts.three.indexOf(parts.incoming)
            parts.three.insertWidget(max(place, 1), parts.result, 4)
            parts.upper.addWidget(parts.transport)
        for widget in (parts.result, parts.transport):
            widget.show()
        self.changed.emit()

    def _leave_lanes(self) -> None:
        """A column takes nothing of what the lanes need, and goes where it is too narrow itself."""
        beside, column = self._parts.columns.sizes()
        lacking = _LANES - beside
        if column and lacking > 0:
            left = column - lacking
            self._parts.columns.setSizes(
                [beside + lacking, left] if left >= _NARROWEST else [beside + column, 0]
            )

    def _share_columns(self, widths: list[int]) -> None:
        self._parts.columns.setSizes(widths)
        self.follow_handle()

    def _fold_clips(self, small: bool) -> None:
        """The clips stand small over each other, or large on both sides."""
        parts = self._parts
        for clip in (parts.outgoing, parts.incoming):
            self._aside.removeWidget(clip)
            parts.three.removeWidget(clip)
            clip.setMaximumWidth(_ASIDE if small else 16_777_215)
        if small:
            self._aside.addWidget(parts.outgoing, 1)
            self._aside.addWidget(parts.incoming, 1)
        else:
            parts.three.insertWidget(parts.three.indexOf(parts.result), parts.outgoing, 3)
            parts.three.insertWidget(parts.three.indexOf(parts.result) + 1, parts.incoming, 3)

    # Over the whole screen

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The foot stays at the foot."""
        if event is not None and event.type() == QEvent.Type.Resize:
            self._place_foot()
            # The parts within have their new widths only afterwards.
            QTimer.singleShot(0, self.follow_handle)
        return super().eventFilter(watched, event)

    def _place_foot(self) -> None:
        bench, foot = self._parts.bench, self._foot
        high = foot.sizeHint().height()
        foot.setGeometry(0, bench.height() - high, bench.width(), high)

    def _show_foot(self) -> None:
        if self._size is PictureSize.WHOLE:
            self._foot.show()
            self._foot.raise_()
            self._place_foot()
            self._lingering.start()

    def _hide_foot(self) -> None:
        pointer = self._foot.mapFromGlobal(self._foot.cursor().pos() + QPoint(0, 0))
        if self._foot.rect().contains(pointer):
            self._lingering.start()
        else:
            self._foot.hide()
