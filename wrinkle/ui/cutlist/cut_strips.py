"""The small moving pictures of the cuts, made in the background, the newest wish first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle import library
from wrinkle.core.design.document.coding import encode
from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.running import CutWindow
from wrinkle.library.picture_strips import keep_strip, read_strip
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.shared.qimages import qimage_of

PICTURES = 12
_KEPT, _WAITING = 300, 40
_QUALITY, _EDITION = 88, 1
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
        # A few of each that is seen come before what is seen only when something plays.
        self._soon = WorkLine(
            workers.jobs, Urgency.SOURCES, "A cut cannot be shown", failed, True, _WAITING
        )
        self._few: dict[Hashable, list[QImage]] = {}
        self._kept: OrderedDict[Hashable, list[QImage]] = OrderedDict()
        self._asked: set[Hashable] = set()
        self._held: dict[Hashable, object] = {}
        self._film: Film | None = None
        document.changed.connect(self._forget_film)

    @property
    def size(self) -> Size:
        """Of the pictures."""
        size = self._document.state.size
        return size.within(_SIDE)

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
            shown = _Cut(film, window, piece, place)
            self._soon.put(shown.few, lambda images: self._take_few(key, images))
            self._line.put(shown.all, lambda images: self._take(key, images))
        return self._few.get(key, [])

    def drop_waiting(self) -> None:
        """What did not come yet is asked for again where it is seen."""
        self._soon.drop()
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

    def _take_few(self, key: Hashable, images: list[QImage]) -> None:
        if key not in self._kept:
            self._few[key] = images
            self.came.emit()

    def _take(self, key: Hashable, images: list[QImage]) -> None:
        self._asked.discard(key)
        self._few.pop(key, None)
        self._kept[key] = images
        while len(self._kept) > _KEPT:
            gone, _ = self._kept.popitem(last=False)
            self._held.pop(gone, None)
        self.came.emit()


@dataclass(frozen=True)
class _Cut:
    """A cut whose pictures are made, on a worker."""

    film: Film
    window: CutWindow
    piece: Piece
    place: int

    def few(self, job: Job) -> list[QImage]:
        """All of them where they are kept; else one before the cut and one after it, repeated."""
        path = self._path()
        kept = read_strip(path, self.film.size)
        if kept is not None:
            return [qimage_of(x) for x in kept]
        half, soon = PICTURES // 2, path.with_stem(f"{path.stem}-few")
        few = read_strip(soon, self.film.size)
        if few is None:
            few = [self._drawn(x) for x in (half - 1, half)]
            keep_strip(soon, few, _QUALITY)
        before, after = few
        return [*[qimage_of(before)] * half, *[qimage_of(after)] * (PICTURES - half)]

    def all(self, job: Job) -> list[QImage]:
        """All of them, from disk or made now."""
        path = self._path()
        found = read_strip(path, self.film.size)
        if found is None:
            found = []
            for number in range(PICTURES):
                job.check()
                found.append(self._drawn(number))
            keep_strip(path, found, _QUALITY)
        return [qimage_of(x) for x in found]

    def _drawn(self, number: int) -> Bytes8:
        first, length = self.window.first, self.window.end - self.window.first
        frame = first + round(number * (length - 1) / (PICTURES - 1))
        image = self.film.cut(self.window.clip).image(frame - self.window.cut)
        return np.ascontiguousarray(image.to_bytes8()[..., :3])

    def _path(self) -> Path:
        """Where they are kept: by all that is seen in them."""
        piece, sides = self.piece, self.piece.clips[self.place - 1 : self.place + 1]
        use = sides[1].entry
        known = sha256()
        for clip in sides:
            source = self.film.sources.get(clip.media.path)
            known.update(source.identity.encode("utf-8", "surrogateescape") if source else b"-")
            told = (clip.start, clip.end, clip.speed, clip.reverse, clip.frozen, clip.fit,
                    clip.focus)  # fmt: skip
            known.update(repr(told).encode())
        if use is not None:
            known.update(encode(use.wrinkle) + repr(use.choices).encode())
            for name in sorted(use.bundle.assets):
                known.update(name.encode() + sha256(use.bundle.assets[name]).digest())
            for slot, media in sorted(use.fillings.items()):
                source = self.film.sources.get(media.path)
                known.update(f"{slot} {source.identity if source else '-'}".encode())
        shape = (_EDITION, piece.rate, self.film.size, self.window.first - self.window.cut,
                self.window.end - self.window.cut)  # fmt: skip
        known.update(repr(shape).encode())
        return library.cache_folder() / "cuts" / f"{known.hexdigest()[:40]}.jpg"
