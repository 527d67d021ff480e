"""A list to choose from by looking: each entry is a moving thumbnail on the layer's own picture."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from queue import Empty, SimpleQueue

from PyQt6.QtCore import QObject, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QIcon, QImage, QPixmap
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
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

STEPS = 12
"""Of a thumbnail's movement, from rest (0) to its full look (the middle) and back."""
_SHORT = 96
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


class PictureList(QDialog):
    """Chooses an entry by word or by look. Kinds of it say what there is in ``entries``.

    Signals:
        chosen: the key of an entry.
    """

    chosen = pyqtSignal(str)

    def __init__(
        self, title: str, hint: str, session: Session, layer: str, parent: QWidget | None
    ) -> None:
        super().__init__(parent)
        self.session = session
        self.setWindowTitle(title)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(720, 600)
        self._painter = _Painter(_ground(session, layer))
        self._painter.made.connect(self._take)
        self._painter.failed.connect(self._refuse)
        self._pictures: dict[tuple[str, int], QImage] = {}
        self._faults: dict[str, str] = {}
        self._step = 0
        self.search = QLineEdit()
        self.search.setPlaceholderText(hint)
        self.search.setAccessibleName(f"Search: {title.lower()}")
        self.search.textChanged.connect(lambda: self.fill())
        self.search.returnPressed.connect(self._take_chosen)
        self.list = QListWidget()
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setIconSize(QSize(_SHORT, _SHORT))
        self.list.setGridSize(QSize(_SHORT + 56, _SHORT + 52))
        self.list.setWordWrap(True)
        self.list.setMouseTracking(True)
        self.list.setAccessibleName(title)
        self.list.itemEntered.connect(self.list.setCurrentItem)
        self.list.currentItemChanged.connect(lambda now, before: self._describe())
        self.list.itemDoubleClicked.connect(lambda item: self._take_chosen())
        self.about = QLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        self.take_button = QPushButton("Add")
        self.take_button.setObjectName("main")
        self.take_button.clicked.connect(self._take_chosen)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        self.top = QHBoxLayout()
        self.top.addWidget(self.search, 1)
        self.under = QHBoxLayout()
        self.under.addWidget(self.about, 1)
        self.under.addWidget(close)
        self.under.addWidget(self.take_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 16)
        column.addLayout(self.top)
        column.addWidget(self.list, 1)
        column.addLayout(self.under)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self._animate)
        self._timer.start(_STEP_MS)
        self.search.setFocus()

    def entries(self, words: str) -> list[Entry]:
        """What there is for some words, in order."""
        raise NotImplementedError

    def nothing(self, words: str) -> str:
        """What to say where there is nothing."""
        raise NotImplementedError

    def described(self, entry: Entry | None) -> None:
        """Another entry is pointed at."""

    @property
    def current(self) -> Entry | None:
        """The entry that is pointed at."""
        item = self.list.currentItem()
        found: Entry | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return found

    def fill(self) -> None:
        """Shows what there is for the words in the field; what was pointed at stays so."""
        was = self.current.key if self.current is not None else ""
        words = self.search.text()
        entries = self.entries(words)
        self.list.clear()
        for entry in entries:
            item = QListWidgetItem(entry.label)
            item.setData(Qt.ItemDataRole.UserRole, entry)
            item.setToolTip(entry.about)
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            self._show(item, entry, STEPS // 2)
            self.list.addItem(item)
        keys = [entry.key for entry in entries]
        if keys:
            self.list.setCurrentRow(keys.index(was) if was in keys else 0)
        else:
            self.about.setText(self.nothing(words))
            self.described(None)

    def _show(self, item: QListWidgetItem, entry: Entry, step: int) -> None:
        """The picture of a step; it is ordered if there is none."""
        key = (entry.key, step)
        if key not in self._pictures:
            self._pictures[key] = QImage()
            self._painter.order(entry, step)
        elif not self._pictures[key].isNull():
            item.setIcon(QIcon(QPixmap.fromImage(self._pictures[key])))

    def _animate(self) -> None:
        """The entry that is pointed at moves from rest to its full look and back."""
        item, entry = self.list.currentItem(), self.current
        if item is not None and entry is not None and entry.key not in self._faults:
            self._step = (self._step + 1) % STEPS
            self._show(item, entry, self._step)

    def _take(self, key: str, step: int, picture: QImage) -> None:
        self._pictures[key, step] = picture
        if step != STEPS // 2:
            return
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and item.data(Qt.ItemDataRole.UserRole).key == key:
                item.setIcon(QIcon(QPixmap.fromImage(picture)))

    def _refuse(self, key: str, fault: str) -> None:
        self._faults[key] = fault
        self._describe()

    def _describe(self) -> None:
        entry = self.current
        if entry is not None:
            self.about.setText(self._faults.get(entry.key, entry.about))
            self.described(entry)

    def _take_chosen(self) -> None:
        entry = self.current
        if entry is not None and entry.key not in self._faults:
            self.chosen.emit(entry.key)
            self.accept()

    def done(self, result: int) -> None:
        """Ends the thread with the dialog."""
        self._timer.stop()
        self._painter.stop()
        super().done(result)


def _ground(session: Session, layer: str) -> Callable[[], Image]:
    """Makes what the thumbnails show: the layer's picture as it is now, or else the result."""
    wrinkle, material = session.wrinkle, session.material()
    time, frame = session.time, session.playhead
    size = session.frame_size.scaled(_SHORT / max(session.frame_size))

    def ground() -> Image:
        try:
            return from_bytes8(beneath(wrinkle, material, layer, time, size))
        except InputError:
            result = render(wrinkle, material, frame, size, Quality.PREVIEW)
        if result.pixels[..., 3].any():
            return result
        # Before there is a clip, a scene of the demo shows what the entries do. It is seldom
        # wanted, and what draws it takes a while to load.
        from wrinkle.demo.clips import draw_scene

        return from_bytes8(draw_scene(*_DEMO_SCENE, size))

    return ground
