"""Things to choose by looking: each is a moving thumbnail, made in the background."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache, partial

from PyQt6.QtCore import QSize, Qt, QTimer, pyqtSignal
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
from wrinkle.core.jobs import Job, WorkLine
from wrinkle.core.picture.image import Image
from wrinkle.ui.less_motion import moves
from wrinkle.ui.shared.plain_text import tip
from wrinkle.ui.shared.qimages import to_qimage
from wrinkle.ui.theme import active

STEPS = 12
"""Of a thumbnail's movement, from rest (0) to its full look (the middle) and back."""
SMALL, LARGE = 96, 184
"""The longer side of a thumbnail in pixels: in a dialog, in a place of its own."""
_STEP_MS = 90


@dataclass(frozen=True, eq=False)
class TileEntry:
    """One thing to choose.

    Attributes:
        key: what is told when it is chosen.
        label: its name, and what else stands under its picture.
        about: one sentence on it.
        look: makes its picture from the layer's own and a step of the movement; raises InputError
            where it cannot be shown.
        first: pictures of its movement that are there at once, until its own are made.
    """

    key: str
    label: str
    about: str
    look: Callable[[Image, int], Image]
    first: Sequence[QImage] = ()


class PictureTiles(QWidget):
    """A field for words, and what is found by them as pictures; the one pointed at moves.

    Args:
        title: what is listed.
        hint: what to search by.
        entries: gives what there is for some words, in order.
        line: makes the pictures.
        side: of a thumbnail.

    Signals:
        pointed: another entry is pointed at, or none.
        taken: the key of an entry, by a double click or the Return key.
    """

    pointed = pyqtSignal()
    taken = pyqtSignal(str)

    def __init__(
        self,
        title: str,
        hint: str,
        entries: Callable[[str], list[TileEntry]],
        line: WorkLine,
        side: int = SMALL,
    ) -> None:
        super().__init__()
        self._entries = entries
        self._line = line
        self._ground: Callable[[], Image] | None = None
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
        self._ground = cache(ground)
        self._timer.start(_STEP_MS)
        self.fill()

    def stop(self) -> None:
        """Nothing moves any more, and no further pictures are made."""
        self._timer.stop()
        self._ground = None
        self._line.drop()

    @property
    def current(self) -> TileEntry | None:
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
            item.setToolTip(tip(entry.about))
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
            # Else each is as wide as its words, and the columns stagger.
            item.setSizeHint(self.list.gridSize() - QSize(8, 8))
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

    def _show(self, item: QListWidgetItem, entry: TileEntry, step: int) -> None:
        """The picture of a step; it is ordered if there is none."""
        key = (entry.key, step)
        found = self._pictures.get(key)
        if found is not None and not found.isNull():
            item.setIcon(_icon(found))
            return
        if entry.first:
            item.setIcon(_icon(entry.first[step * len(entry.first) // STEPS]))
        if found is None and self._ground is not None:
            self._pictures[key] = QImage()
            made = partial(_drawn, entry, step, self._ground)
            self._line.put(made, partial(self._take_picture, self._ground, entry.key, step))

    def _animate(self) -> None:
        """The entry that is pointed at moves from rest to its full look and back."""
        item, entry = self.list.currentItem(), self.current
        if not moves(self):
            return
        if item is not None and entry is not None and entry.key not in self._faults:
            self._step = (self._step + 1) % STEPS
            self._show(item, entry, self._step)

    def _take_picture(
        self, ground: Callable[[], Image], key: str, step: int, picture: QImage | str
    ) -> None:
        """Shows a picture, or says why there is none; one on a former ground comes too late."""
        if ground is not self._ground:
            return
        if isinstance(picture, str):
            self._faults[key] = picture
            self.pointed.emit()
            return
        self._pictures[key, step] = picture
        if step != STEPS // 2:
            return
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and _entry_of(item).key == key:
                item.setIcon(_icon(picture))


def _drawn(entry: TileEntry, step: int, ground: Callable[[], Image], job: Job) -> QImage | str:
    """The picture of an entry, or why there is none."""
    try:
        return to_qimage(entry.look(ground(), step))
    except InputError as fault:
        return str(fault)


def _entry_of(item: QListWidgetItem) -> TileEntry:
    found: TileEntry = item.data(Qt.ItemDataRole.UserRole)
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
