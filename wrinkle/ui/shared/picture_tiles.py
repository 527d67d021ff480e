"""Things to choose by looking: each is a moving thumbnail, made in the background."""

from __future__ import annotations

import threading
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from queue import Empty, SimpleQueue

from PyQt6.QtCore import QObject, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QIcon, QImage, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Image, from_bytes8
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.render.beneath import beneath
from wrinkle.core.render.compose import render
from wrinkle.ui.rendering import to_qimage
from wrinkle.ui.session import Session
from wrinkle.ui.theme import active

STEPS = 12
"""Of a thumbnail's movement, from rest (0) to its full look (the middle) and back."""
SMALL, LARGE = 96, 184
"""The longer side of a thumbnail in pixels: in a dialog, in a place of its own."""
_DEMO_SCENE = ("pier", 1.0)
_STEP_MS = 90


@dataclass(frozen=True, eq=False)
class Entry:
    """One thing to choose.

    Attributes:
        key: what is told when it is chosen.
        label: its name, and what else stands under its picture.
        about: one sentence on it.
        look: makes its picture from the layer's own and a step of the movement; raises InputError
            where it cannot be shown.
    """

    key: str
    label: str
    about: str
    look: Callable[[Image, int], Image]


class _Painter(QObject):
    """Makes the thumbnails on a thread, one after the other.

    Args:
        ground: makes the picture that they show the entries on.

    Signals:
        made: the key of an entry, the step, and the picture.
        failed: the key of an entry, and why it has no picture.
    """

    made = pyqtSignal(str, int, object)
    failed = pyqtSignal(str, str)

    def __init__(self, ground: Callable[[], Image]) -> None:
        super().__init__()
        self._ground = ground
        self._picture: Image | None = None
        self._orders: SimpleQueue[tuple[Entry, int] | None] = SimpleQueue()
        self._stopping = threading.Event()
        self._thread = threading.Thread(target=self._work, name="frames-thumbs", daemon=True)
        self._thread.start()

    def order(self, entry: Entry, step: int) -> None:
        """Asks for one picture."""
        self._orders.put((entry, step))

    def stop(self) -> None:
        """Ends the thread and waits for it."""
        self._stopping.set()
        self._orders.put(None)
        self._thread.join()

    def _work(self) -> None:
        while not self._stopping.is_set():
            try:
                order = self._orders.get(timeout=1.0)
            except Empty:
                continue
            if order is None:
                return
            entry, step = order
            try:
                if self._picture is None:
                    self._picture = self._ground()
                result = to_qimage(entry.look(self._picture, step))
            except InputError as fault:
                self.failed.emit(entry.key, str(fault))
                continue
            if not self._stopping.is_set():
                self.made.emit(entry.key, step, result)


class PictureTiles(QWidget):
    """A field for words, and what is found by them as pictures; the one pointed at moves.

    Args:
        title: what is listed.
        hint: what to search by.
        entries: gives what there is for some words, in order.
        side: of a thumbnail.

    Signals:
        pointed: another entry is pointed at, or none.
        taken: the key of an entry, by a double click or the Return key.
    """

    pointed = pyqtSignal()
    taken = pyqtSignal(str)

    def __init__(
        self, title: str, hint: str, entries: Callable[[str], list[Entry]], side: int = SMALL
    ) -> None:
        super().__init__()
        self._entries = entries
        self._painter: _Painter | None = None
        self._pictures: dict[tuple[str, int], QImage] = {}
        self._faults: dict[str, str] = {}
        self._step = 0
        self.search = QLineEdit()
        self.search.setPlaceholderText(hint)
        self.search.setAccessibleName(f"Search: {title.lower()}")
        self.search.textChanged.connect(lambda: self.fill())
        self.search.returnPressed.connect(self.take)
        self.list = QListWidget()
        self.list.setObjectName("tiles")
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setIconSize(QSize(side, side))
        self.list.setGridSize(QSize(side + 56, side + 52))
        self.list.setWordWrap(True)
        self.list.setMouseTracking(True)
        self.list.setAccessibleName(title)
        self.list.itemEntered.connect(self.list.setCurrentItem)
        self.list.currentItemChanged.connect(lambda now, before: self.pointed.emit())
        self.list.itemDoubleClicked.connect(lambda item: self.take())
        self.top = QHBoxLayout()
        self.top.addWidget(self.search, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(self.top)
        column.addWidget(self.list, 1)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._animate)

    def start(self, ground: Callable[[], Image]) -> None:
        """Shows all entries on a picture, which is made in the background."""
        self.stop()
        self._pictures.clear()
        self._faults.clear()
        self._painter = _Painter(ground)
        self._painter.made.connect(self._take_picture)
        self._painter.failed.connect(self._refuse)
        self._timer.start(_STEP_MS)
        self.fill()

    def stop(self) -> None:
        """Nothing moves any more; the thread is ended."""
        self._timer.stop()
        if self._painter is not None:
            self._painter.stop()
            self._painter = None

    @property
    def current(self) -> Entry | None:
        """The entry that is pointed at."""
        item = self.list.currentItem()
        return _entry_of(item) if item is not None else None

    @property
    def about(self) -> str:
        """What is to be said of the entry that is pointed at."""
        entry = self.current
        return self._faults.get(entry.key, entry.about) if entry is not None else ""

    def fill(self) -> None:
        """Shows what there is for the words in the field; what was pointed at stays so."""
        was = self.current.key if self.current is not None else ""
        entries = self._entries(self.search.text())
        self.list.clear()
        for entry in entries:
            item = QListWidgetItem(entry.label)
            item.setData(Qt.ItemDataRole.UserRole, entry)
            item.setToolTip(entry.about)
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            self._show(item, entry, STEPS // 2)
            self.list.addItem(item)
        if entries:
            self.list.setCurrentRow(0)
            self.point_at(was)
        else:
            self.pointed.emit()

    def point_at(self, key: str) -> None:
        """Points at an entry, if it is listed."""
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and _entry_of(item).key == key:
                self.list.setCurrentItem(item)

    def forget(self, key: str) -> None:
        """The pictures of an entry are made anew."""
        self._pictures = {have: found for have, found in self._pictures.items() if have[0] != key}
        self._faults.pop(key, None)

    def take(self) -> None:
        """Takes the entry that is pointed at, if it can be shown."""
        entry = self.current
        if entry is not None and entry.key not in self._faults:
            self.taken.emit(entry.key)

    def _show(self, item: QListWidgetItem, entry: Entry, step: int) -> None:
        """The picture of a step; it is ordered if there is none."""
        key = (entry.key, step)
        found = self._pictures.get(key)
        if found is not None and not found.isNull():
            item.setIcon(_icon(found))
        elif found is None and self._painter is not None:
            self._pictures[key] = QImage()
            self._painter.order(entry, step)

    def _animate(self) -> None:
        """The entry that is pointed at moves from rest to its full look and back."""
        item, entry = self.list.currentItem(), self.current
        if item is not None and entry is not None and entry.key not in self._faults:
            self._step = (self._step + 1) % STEPS
            self._show(item, entry, self._step)

    def _take_picture(self, key: str, step: int, picture: QImage) -> None:
        self._pictures[key, step] = picture
        if step != STEPS // 2:
            return
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and _entry_of(item).key == key:
                item.setIcon(_icon(picture))

    def _refuse(self, key: str, fault: str) -> None:
        self._faults[key] = fault
        self.pointed.emit()


def _entry_of(item: QListWidgetItem) -> Entry:
    found: Entry = item.data(Qt.ItemDataRole.UserRole)
    return found


def _icon(picture: QImage) -> QIcon:
    shown = QPixmap.fromImage(picture)
    # A white picture would not be seen on a white ground.
    painter = QPainter(shown)
    painter.setPen(active().colour("quiet"))
    painter.drawRect(0, 0, shown.width() - 1, shown.height() - 1)
    painter.end()
    icon = QIcon(shown)
    # Else the one that is pointed at would be tinted, and its colours could not be judged.
    icon.addPixmap(shown, QIcon.Mode.Selected)
    return icon


def layer_ground(session: Session, layer: str, side: int = SMALL) -> Callable[[], Image]:
    """Makes what the thumbnails show: the layer's picture as it is now, or else the result."""
    wrinkle, material = session.wrinkle, session.material()
    time, frame = session.time, session.playhead
    size = session.frame_size.scaled(side / max(session.frame_size))

    def ground() -> Image:
        if layer:
            with suppress(InputError):
                return from_bytes8(beneath(wrinkle, material, layer, time, size))
        result = render(wrinkle, material, frame, size, Quality.PREVIEW)
        if result.pixels[..., 3].any():
            return result
        # Before there is a clip, a scene of the demo shows what the entries do. It is seldom
        # wanted, and what draws it takes a while to load.
        from wrinkle.demo.clips import draw_scene

        return from_bytes8(draw_scene(*_DEMO_SCENE, size))

    return ground
