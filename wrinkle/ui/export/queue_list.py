"""The queue as a list: what waits, what is being written, and what came of the rest."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QDesktopServices, QGuiApplication
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wrinkle.files.presence import is_there
from wrinkle.library.exports import ExportItem, State
from wrinkle.media.output.formats import FORMATS
from wrinkle.ui.export.queue import ExportQueue
from wrinkle.ui.shared.elided_label import ElidedLabel
from wrinkle.ui.shared.plain_text import PlainLabel, tip

_WORDS = {
    State.WAITING: "waits",
    State.WRITING: "is being written",
    State.DONE: "done",
    State.FAILED: "failed",
    State.CANCELLED: "cancelled",
}


class QueueRow(QFrame):
    """One item with what can be done about it."""

    def __init__(self, queue: ExportQueue, item: ExportItem) -> None:
        super().__init__()
        self._queue, self.item = queue, item
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setObjectName("ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.name, self.place = ElidedLabel(), ElidedLabel()
        self.name.setObjectName("heading")
        self.place.setObjectName("quiet")
        self.told = PlainLabel()
        self.told.setObjectName("quiet")
        self.told.setWordWrap(True)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(14)
        acts = (
            ("up", "Up", "Earlier in the queue", lambda: queue.move(item.id, -1)),
            ("down", "Down", "Later in the queue", lambda: queue.move(item.id, 1)),
            ("cancel", "Cancel", "Do not write it", lambda: queue.cancel(item.id)),
            ("again", "Again", "Write it once more", lambda: queue.again(item.id)),
            ("folder", "Folder", "Shows it in its folder", lambda: _open(self._path.parent)),
            ("play", "Play", "Opens it in the usual program", lambda: _open(self._path)),
            ("copy", "Copy path", "Puts its path on the clipboard", lambda: _copy(self._path)),
            ("remove", "Remove", "Takes it off the list; the file stays",
             lambda: queue.remove(item.id)),
        )  # fmt: skip
        self.buttons: dict[str, QToolButton] = {}
        foot = QHBoxLayout()
        foot.setSpacing(2)
        for key, word, about, act in acts:
            button = self.buttons[key] = QToolButton()
            button.setText(word)
            button.setToolTip(tip(about))
            button.clicked.connect(lambda checked=False, act=act: act())
            foot.addWidget(button)
        foot.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 10, 6)
        column.setSpacing(3)
        for widget in (self.name, self.place, self.bar, self.told):
            column.addWidget(widget)
        column.addLayout(foot)
        self.show_item(item)

    @property
    def _path(self) -> Path:
        return Path(self.item.path)

    def show_item(self, item: ExportItem) -> None:
        """Shows how far it is."""
        self.item = item
        self.name.setText(f"{item.title} · {_WORDS[item.state]}")
        form = FORMATS[item.form].label if item.form in FORMATS else item.form
        width, height = item.size
        self.place.setText(f"{self._path.name} · {form} · {width}×{height}, {item.rate}")
        self.place.setToolTip(tip(item.path))
        writing, done = item.state is State.WRITING, item.state is State.DONE
        self.told.setObjectName("fault" if item.state is State.FAILED else "quiet")
        self.told.style().polish(self.told)  # type: ignore[union-attr]
        if not writing:
            self.told.setText(item.told)
        self.told.setVisible(writing or bool(item.told))
        self.bar.setVisible(writing)
        shown = {
            "up": item.state is State.WAITING,
            "down": item.state is State.WAITING,
            "cancel": not item.ended,
            "again": item.state in (State.FAILED, State.CANCELLED),
            "folder": done,
            "play": done,
            "copy": done,
            "remove": not writing,
        }
        for key, visible in shown.items():
            self.buttons[key].setVisible(visible)

    def show_far(self, done: int, total: int, pace: float, left: float) -> None:
        """Shows how much of it is written."""
        self.bar.setMaximum(total)
        self.bar.setValue(done)
        self.told.setText(f"{done} of {total} frames, {pace:.1f} a second, {left:.0f} s left")


class QueueList(QScrollArea):
    """All items, in their order."""

    def __init__(self, queue: ExportQueue) -> None:
        super().__init__()
        self.setAccessibleName("Queue")
        self._queue = queue
        self.rows: dict[str, QueueRow] = {}
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        ground = QWidget()
        ground.setObjectName("panel")
        self._column = QVBoxLayout(ground)
        self._column.setContentsMargins(0, 0, 6, 0)
        self._column.setSpacing(6)
        self.empty = PlainLabel(
            "Nothing is in the queue. What is added on the left is written here, one after the "
            "other, while you work elsewhere."
        )
        self.empty.setObjectName("quiet")
        self.empty.setWordWrap(True)
        self._column.addWidget(self.empty)
        self._column.addStretch(1)
        self.setWidget(ground)
        queue.changed.connect(self.refresh)
        queue.progressed.connect(self._far)
        self.refresh()

    def refresh(self) -> None:
        """Shows the items; rows are made anew only where there are others."""
        items = self._queue.items
        wanted = [item.id for item in items]
        if wanted != list(self.rows):
            for key in [key for key in self.rows if key not in wanted]:
                row = self.rows.pop(key)
                self._column.removeWidget(row)
                row.hide()
                row.deleteLater()
            kept = self.rows
            self.rows = {x.id: kept.get(x.id) or QueueRow(self._queue, x) for x in items}
            for place, row in enumerate(self.rows.values()):
                self._column.insertWidget(place + 1, row)
        for item in items:
            self.rows[item.id].show_item(item)
        self.empty.setVisible(not items)

    def _far(self, done: int, total: int, pace: float, left: float) -> None:
        for row in self.rows.values():
            if row.item.state is State.WRITING:
                row.show_far(done, total, pace, left)


def _open(path: Path) -> None:
    if is_there(path):
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(path)))


def _copy(path: Path) -> None:
    clipboard = QGuiApplication.clipboard()
    if clipboard is not None:
        clipboard.setText(str(path))
