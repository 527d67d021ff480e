"""How much of the Bench the result has: a part, most of it, or the whole screen."""

from __future__ import annotations

from enum import Enum
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QPoint, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QBoxLayout, QFrame, QSplitter, QVBoxLayout, QWidget

from wrinkle.ui.bench.lanes.timeline import Timeline
from wrinkle.ui.bench.picture.result_view import ResultView
from wrinkle.ui.bench.picture.source_view import SourceView
from wrinkle.ui.bench.picture.transport import Transport
from wrinkle.ui.bench.stack.stack import Stack

_ASIDE = 112
_LINGERS_MS = 2500


class PictureSize(Enum):
    """Three, by one key."""

    BENCH = "bench"
    LARGE = "large"
    WHOLE = "whole screen"


class SizedParts(NamedTuple):
    """What has to make room."""

    bench: QWidget
    three: QBoxLayout
    upper: QBoxLayout
    left: QSplitter
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
        self._aside = QVBoxLayout()
        self._aside.setSpacing(4)
        parts.three.insertLayout(0, self._aside)
        self._foot = QFrame(parts.bench)
        self._foot.setObjectName("panel")
        self._foot.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
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
        self._size = size
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
        if PictureSize.WHOLE in (size, before):
            self.wholeScreen.emit(whole)
        self.changed.emit()

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
