"""The files of the piece: read in the background, in order, and shown dark while they are not."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.jobs import Job, sentence_for
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.media import Media
from wrinkle.core.render.material import FrameSource
from wrinkle.core.sound.clip_sound import count_of
from wrinkle.files.presence import is_file
from wrinkle.library.films import Projector
from wrinkle.media.pieces import media_of, read_heard, read_source
from wrinkle.media.sound_file import SoundFile
from wrinkle.ui.desk.workers import Workers

_Read = tuple[Media, FrameSource | SoundFile]
_MOST_LOOKED_AT = 200_000
"""Files; a person who chooses the root of a disk is not kept waiting for all of it."""


class PieceMedia(QObject):
    """Sources by the path of their file.

    Signals:
        changed: another file was read, or cannot be.
        progressed: how many of the files that were asked for are read, and how many there are.
    """

    changed = pyqtSignal()
    progressed = pyqtSignal(int, int)

    def __init__(self, workers: Workers) -> None:
        super().__init__()
        self._workers = workers
        self._sources: dict[str, FrameSource] = {}
        self._sounds: dict[str, SoundFile] = {}
        self._facts: dict[str, Media] = {}
        self._faults: dict[str, str] = {}
        self._reading: set[str] = set()
        self._projector = Projector(workers.store)

    @property
    def sources(self) -> Mapping[str, FrameSource]:
        """Those that are read, by path."""
        return self._sources

    def fault(self, path: str) -> str:
        """Why a file cannot be read; empty where it can, or is being read."""
        return self._faults.get(path, "")

    def facts(self, path: str) -> Media | None:
        """What a file is, where it was read."""
        return self._facts.get(path)

    def sounds(self, path: str) -> int:
        """How many sounds a file has, where it was read."""
        return count_of(self.heard_at(path))

    def heard_at(self, path: str) -> object:
        """What is heard of a file, where it was read; None where it was not."""
        return self._sources.get(path) or self._sounds.get(path)

    def film(self, piece: Piece, size: Size, quality: Quality = Quality.PREVIEW) -> Film:
        """The piece as it is shown now."""
        film = self._projector.film(piece, dict(self._sources), size, quality)
        return replace(film, sounds=dict(self._sounds))

    def read_all(self, piece: Piece) -> None:
        """Reads the files of a piece that are not read yet."""
        for media in media_of(piece):
            path = media.path
            if path in self._facts or path in self._faults or path in self._reading:
                continue
            self._reading.add(path)
            self._workers.asked.put(
                partial(_read, Path(path), self._workers, True), partial(self._take, path)
            )

    def forget_faults(self) -> None:
        """What could not be read is tried once more."""
        self._faults.clear()

    def read_new(
        self,
        paths: Sequence[Path],
        then: Callable[[list[Media]], None],
        failed: Callable[[str], None],
        heard: bool = False,
    ) -> None:
        """Reads files for new clips.

        Args:
            paths: in the order in which they are wanted.
            then: gets those that could be read, in that order, when all are done.
            failed: gets one sentence on each of the others.
            heard: whether they may be files of sound alone.
        """
        found: list[Media | None] = [None] * len(paths)
        left = set(range(len(paths)))

        def came(place: int, read: _Read | str) -> None:
            left.discard(place)
            if isinstance(read, str):
                failed(read)
            else:
                found[place] = read[0]
                self._keep(read[0].path, read)
                self._faults.pop(read[0].path, None)
            self.progressed.emit(len(paths) - len(left), len(paths))
            if not left:
                then([media for media in found if media is not None])

        self.progressed.emit(0, len(paths))
        for place, path in enumerate(paths):
            read = partial(_read, path, self._workers, heard)
            self._workers.asked.put(read, partial(came, place))

    def look_for(self, folder: Path, names: set[str], then: Callable[[list[Path]], None]) -> None:
        """Looks for files by their names in a folder, and in those in it."""
        self._workers.asked.put(lambda job: _found(folder, names, job), then)

    def _keep(self, path: str, read: _Read) -> None:
        self._facts[path], source = read
        if isinstance(source, SoundFile):
            self._sounds[path] = source
        else:
            self._sources[path] = source

    def _take(self, path: str, read: _Read | str) -> None:
        self._reading.discard(path)
        if isinstance(read, str):
            self._faults[path] = read
        else:
            self._keep(path, read)
        self.changed.emit()


def _read(path: Path, workers: Workers, heard: bool, job: Job) -> _Read | str:
    try:
        if heard:
            return read_heard(path, workers.pool, workers.store)
        return read_source(path, workers.pool, workers.store)
    except Exception as fault:  # noqa: BLE001 - whoever waits for it must be told
        return sentence_for(fault, f"{path.name} cannot be read")


def _found(folder: Path, names: set[str], job: Job) -> list[Path]:
    """The files of these names, each name once."""
    found: dict[str, Path] = {}
    for number, path in enumerate(folder.rglob("*")):
        job.check()
        if path.name in names and is_file(path):
            found.setdefault(path.name, path)
        if number > _MOST_LOOKED_AT or len(found) == len(names):
            break
    return list(found.values())
