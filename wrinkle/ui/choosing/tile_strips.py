"""The pictures of tiles for the window: fetched in the background, the newest wish first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.store import Store
from wrinkle.library.shelf import Shelved
from wrinkle.library.shipped_tiles import SIZE
from wrinkle.library.tiles import Ground, first_of_tile, tile_strip
from wrinkle.ui.choosing.tile_strip import NOTHING, TileStrip, read_already, shipped_strip
from wrinkle.ui.desk.workers import Workers

_KEPT = 72
"""Strips in memory, of about 130 KB each; a screen shows some thirty tiles."""
_WAITING = 60
_Key = tuple[str, tuple[int, int]]
"""A wrinkle and its state on disk."""
_Make = Callable[[Shelved, Ground, Store, Job], list[Bytes8]]


class TileStrips(QObject):
    """Strips by the keys of wrinkles, on the ground that is set.

    Signals:
        came: the key of a wrinkle whose pictures, or fault, are there.
    """

    came = pyqtSignal(str)

    def __init__(self, workers: Workers, failed: Callable[[str], None]) -> None:
        super().__init__()
        self._store = workers.store
        self._line = WorkLine(
            workers.jobs, Urgency.TILES, "A tile cannot be made", failed, True, _WAITING
        )
        # One picture of each that is seen comes before what is seen only when something plays.
        self._soon = WorkLine(
            workers.jobs, Urgency.SOURCES, "A tile cannot be made", failed, True, _WAITING
        )
        self._first: dict[_Key, TileStrip] = {}
        self._ground: Ground | None = None
        self._kept: OrderedDict[_Key, TileStrip] = OrderedDict()
        self._faults: dict[_Key, str] = {}
        self._asked: set[_Key] = set()
        self._reading: set[_Key] = set()

    def set_ground(self, ground: Ground | None) -> None:
        """Shows the tiles on other clips."""
        before = self._ground.identity if self._ground is not None else None
        if (ground.identity if ground is not None else None) != before:
            self.forget()
        self._ground = ground

    @property
    def picture_size(self) -> Size:
        """Of the pictures of a tile."""
        return self._ground.size if self._ground is not None else SIZE

    @property
    def waiting(self) -> bool:
        """Whether some are still being fetched."""
        return bool(self._asked or self._reading)

    def fault(self, one: Shelved) -> str:
        """Why a wrinkle has no pictures."""
        return one.fault or self._faults.get((one.key, one.state), "")

    def strip(self, one: Shelved) -> TileStrip:
        """The pictures of a wrinkle; a few, or those that ship with it, while they are fetched."""
        key = (one.key, one.state)
        found = self._kept.get(key)
        if found is not None:
            self._kept.move_to_end(key)
            return found
        ground, first = self._ground, self._first.get(key) or read_already(one)
        if first is None:
            self._read(one, key)
            return NOTHING
        if ground is None or self.fault(one) or (ground.shipped and first):
            return first
        if key not in self._asked:
            self._asked.add(key)
            if not first:
                self._soon.put(
                    lambda job: _images(one, ground, self._store, job, first_of_tile),
                    lambda images: self._take_first(ground, key, images),
                )
            self._line.put(
                lambda job: _images(one, ground, self._store, job, tile_strip),
                lambda images: self._take(ground, key, images),
            )
        return first

    def _read(self, one: Shelved, key: _Key) -> None:
        """What ships is read beside; then the tile is painted anew, and asks again."""
        if key not in self._reading:
            self._reading.add(key)
            self._soon.put(lambda job: shipped_strip(one), lambda strip: self._has_read(key))

    def _has_read(self, key: _Key) -> None:
        self._reading.discard(key)
        self.came.emit(key[0])

    def drop_waiting(self) -> None:
        """What was asked for and did not come is asked for again where it is seen."""
        self._reading.clear()
        self._soon.drop()
        self._line.drop()
        self._asked.clear()

    def forget(self) -> None:
        """All pictures are made anew."""
        self.drop_waiting()
        self._kept.clear()
        self._first.clear()
        self._faults.clear()

    def _take_first(self, ground: Ground, key: _Key, images: TileStrip | str) -> None:
        if ground is self._ground and key not in self._kept and not isinstance(images, str):
            self._first[key] = images
            self.came.emit(key[0])

    def _take(self, ground: Ground, key: _Key, images: TileStrip | str) -> None:
        self._asked.discard(key)
        if ground is not self._ground:
            return
        if isinstance(images, str):
            self._faults[key] = images
        else:
            self._kept[key] = images
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        self.came.emit(key[0])


def _images(one: Shelved, ground: Ground, store: Store, job: Job, make: _Make) -> TileStrip | str:
    try:
        return TileStrip(make(one, ground, store, job))
    except InputError as fault:
        return str(fault)
