"""The small moving pictures of the cuts, made in the background, the newest wish first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.running import CutWindow
from wrinkle.ui.choosing.tile_strips import qimage_of
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.workers import Workers

PICTURES = 12
_KEPT, _WAITING = 300, 40
_SIDE = 76
"""Of a picture's longer side, in pixels: twice as many as are seen on a plain screen."""


class CutStrips(QObject):
    """Pictures by cut; what shows the same is made once.

    Signals:
        came: some are there that were asked for.
    """

    came = pyqtSignal()

    def __init__(
        self, document: PieceDocument, workers: Workers, failed: Callable[[str], None]
    ) -> None:
        super().__init__()
        self._document = document
        self._line = WorkLine(
            workers.jobs, Urgency.TILES, "A cut cannot be shown", failed, True, _WAITING
        )
        self._kept: OrderedDict[Hashable, list[QImage]] = OrderedDict()
        self._asked: set[Hashable] = set()
        self._held: dict[Hashable, object] = {}
        self._film: Film | None = None
        document.changed.connect(self._forget_film)

    @property
    def size(self) -> Size:
        """Of the pictures."""
        size = self._document.state.size
        return size.scaled(min(1.0, _SIDE / max(size)))

    def strip(self, window: CutWindow) -> list[QImage]:
        """The pictures of a window in the order of time; none while they are made."""
        piece = self._document.state
        place = piece.index(window.clip)
        key = self._key(piece, piece.clips[place - 1], piece.clips[place], window)
        found = self._kept.get(key)
        if found is not None:
            self._kept.move_to_end(key)
            return found
        film = self._shown()
        there = all(
            not x.media.path or x.media.path in film.sources
            for x in piece.clips[place - 1 : place + 1]
        )
        if there and key not in self._asked:
            self._asked.add(key)
            # Its number in the key must not become that of another one.
            self._held[key] = piece.clips[place].entry
            self._line.put(
                lambda job: _images(film, window, job), lambda images: self._take(key, images)
            )
        return []

    def drop_waiting(self) -> None:
        """What did not come yet is asked for again where it is seen."""
        self._line.drop()
        self._asked.clear()

    def _key(self, piece: Piece, before: PieceClip, clip: PieceClip, window: CutWindow) -> Hashable:
        sides = (
            (x.media.path, x.start, x.end, x.speed, x.reverse, x.frozen, x.fit, x.focus)
            for x in (before, clip)
        )
        return (id(clip.entry), piece.rate, piece.size, window.end - window.first, *sides)

    def _shown(self) -> Film:
        if self._film is None:
            self._film = self._document.media.film(self._document.state, self.size)
        return self._film

    def _forget_film(self) -> None:
        self._film = None

    def _take(self, key: Hashable, images: list[QImage]) -> None:
        self._asked.discard(key)
        self._kept[key] = images
        while len(self._kept) > _KEPT:
            gone, _ = self._kept.popitem(last=False)
            self._held.pop(gone, None)
        self.came.emit()


def _images(film: Film, window: CutWindow, job: Job) -> list[QImage]:
    first, length = window.first, window.end - window.first
    found = []
    for number in range(PICTURES):
        job.check()
        frame = first + round(number * (length - 1) / (PICTURES - 1))
        showing = film.cut(window.clip)
        image = showing.image(frame - window.cut)
        found.append(qimage_of(image.to_bytes8()[..., :3]))
    return found
