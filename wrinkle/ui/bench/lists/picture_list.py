"""A dialog that chooses one thing by looking at it on the layer's own picture."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from wrinkle.core.jobs import Urgency, WorkLine
from wrinkle.ui.desk.layer_ground import layer_ground
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.picture_tiles import SMALL, PictureTiles, TileEntry
from wrinkle.ui.shared.plain_text import PlainLabel


class PictureList(QDialog):
    """Chooses an entry by word or by look.

    Args:
        title: what is done here.
        hint: what to search by.
        entries: gives what there is for some words, in order.
        nothing: says for some words that there is nothing.
        desk, layer: what the entries are shown on.

    Signals:
        chosen: the key of an entry.
    """

    chosen = pyqtSignal(str)

    def __init__(
        self,
        title: str,
        hint: str,
        entries: Callable[[str], list[TileEntry]],
        nothing: Callable[[str], str],
        desk: Supplying,
        layer: str,
        parent: QWidget | None,
    ) -> None:
        super().__init__(parent)
        self.desk = desk
        self._nothing = nothing
        self.setWindowTitle(title)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(720, 600)
        what = "A thumbnail cannot be made"
        failed = desk.messages.faulted.emit
        # The list stands before the window, whose frames can wait.
        self._line = WorkLine(desk.workers.jobs, Urgency.LOOKED_AT, what, failed)
        self.tiles = PictureTiles(title, hint, entries, self._line)
        self.tiles.pointed.connect(self._describe)
        self.tiles.taken.connect(self._choose)
        self.about = PlainLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        self.take_button = QPushButton("Add")
        self.take_button.setObjectName("main")
        self.take_button.clicked.connect(self.tiles.take)
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        self.under = QHBoxLayout()
        self.under.addWidget(self.about, 1)
        self.under.addWidget(close)
        self.under.addWidget(self.take_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 16, 16, 16)
        column.addWidget(self.tiles, 1)
        column.addLayout(self.under)
        self.tiles.search.setFocus()
        self._ground = layer_ground(desk, layer, SMALL)

    def begin(self) -> None:
        """Shows what there is."""
        self.tiles.start(self._ground)

    def done(self, result: int) -> None:
        """No pictures are made for a dialog that is closed."""
        self.tiles.stop()
        self._line.close()
        super().done(result)

    def _describe(self) -> None:
        if self.tiles.current is None:
            self.about.setText(self._nothing(self.tiles.search.text()))
        else:
            self.about.setText(self.tiles.about)

    def _choose(self, key: str) -> None:
        self.chosen.emit(key)
        if not self.stays_open():
            self.accept()

    def stays_open(self) -> bool:
        """Whether more than one is to be chosen."""
        return False
