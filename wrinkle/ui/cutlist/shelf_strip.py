"""Wrinkles to drag onto cuts: favourites first, then those that were used last, then all others."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QListView, QVBoxLayout, QWidget

from wrinkle.core.errors import InputError
from wrinkle.core.render.material import Filling
from wrinkle.library import samples
from wrinkle.library.marks import Marks, read_marks
from wrinkle.library.shelf import Shelved, Shelves
from wrinkle.library.tiles import Ground
from wrinkle.media.clip import Clip
from wrinkle.ui.choosing.tile_strips import TileStrips
from wrinkle.ui.choosing.wrinkle_tiles import WrinkleTiles
from wrinkle.ui.desk.parts import Piecing
from wrinkle.ui.shared.plain_text import PlainLabel
from wrinkle.ui.text_size import Extent, keep

_HEIGHT = 110
_TILE = 60
_SIDE = 132


class ShelfStrip(QWidget):
    """A row of tiles.

    Signals:
        taken: a wrinkle was double-clicked; its path.
    """

    taken = pyqtSignal(object)

    def __init__(self, desk: Piecing) -> None:
        super().__init__()
        self._desk = desk
        self._shelves = Shelves()
        self._samples: dict[str, Clip] = {}
        self.strips = TileStrips(desk.workers, desk.messages.faulted.emit)
        self.tiles = WrinkleTiles(self.strips, _TILE)
        self.tiles.setWrapping(False)
        self.tiles.setFlow(QListView.Flow.LeftToRight)
        keep(self.tiles, Extent.HEIGHT, _HEIGHT)
        self.tiles.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.tiles.all_play = False
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a wrinkle")
        self.search.setAccessibleName("Search: wrinkles for the piece")
        self.search.setClearButtonEnabled(True)
        keep(self.search, Extent.WIDTH, _SIDE)
        self.search.textChanged.connect(lambda: self.refresh())
        self.tiles.taken.connect(self._take)
        words = PlainLabel("Drag one onto a cut, or double-click it")
        words.setObjectName("quiet")
        words.setWordWrap(True)
        keep(words, Extent.WIDTH, _SIDE)
        side = QVBoxLayout()
        side.setSpacing(4)
        side.addWidget(self.search)
        side.addWidget(words)
        side.addStretch(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 4)
        row.addLayout(side)
        row.addWidget(self.tiles, 1)

    @property
    def selected(self) -> list[Path]:
        """The paths of the selected wrinkles; first the one that was selected last."""
        current = self.tiles.current
        found = [one for one in self.tiles.selected if one is not current]
        return [one.path for one in (current, *found) if one is not None]

    def refresh(self) -> None:
        """Lists what is in the Collection now."""
        try:
            marks = read_marks()
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            marks = Marks()

        def rank(one: Shelved) -> tuple[bool, float]:
            return one.key not in marks.favourites, -marks.used.get(one.key, 0.0)

        words = self.search.text()
        found = [one for one in self._shelves.all() if one.wrinkle and one.matches(words)]
        self.tiles.show_wrinkles(sorted(found, key=rank), marks.favourites)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()
        for slot, path in samples.SAMPLES.items():
            if slot not in self._samples:
                self._desk.workers.read_clip(
                    path, partial(self._came, slot), self._desk.messages.faulted.emit
                )

    def _came(self, slot: str, clip: Clip) -> None:
        self._samples[slot] = clip
        if len(self._samples) == len(samples.SAMPLES):
            fillings = {key: Filling(x, x.duration / 2) for key, x in self._samples.items()}
            self.strips.set_ground(Ground(fillings, shipped=True))
            self.tiles.reshape()

    def _take(self) -> None:
        one = self.tiles.current
        if one is not None:
            self.taken.emit(one.path)
