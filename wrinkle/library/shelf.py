"""The Collection on disk: shipped wrinkles and a person's own, as plain files in folders.

Subfolders are shelves. What somebody else puts there appears; what cannot be read is shown with
its sentence. A wrinkle is known by its key: the path below the folder, or ``shipped/NAME``.
"""

from __future__ import annotations

import io
import shutil
import zipfile
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

from msgspec.structs import replace

from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.kinds import KINDS, rank
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.naming import free_name
from wrinkle.core.reuse.use import directions_of
from wrinkle.core.searching import holds_words
from wrinkle.files.archive import (
    SUFFIX,
    packed,
    read,
    read_document,
    read_packed,
    write,
)
from wrinkle.files.presence import is_folder, is_there, within
from wrinkle.files.whole import not_saved, size_label, write_whole
from wrinkle.files.zips import DamagedZipError, opened_zip_at
from wrinkle.library.own_files import own_state

SHIPPED = "shipped"
MANY_SUFFIX = ".wrinkles.zip"
_MOST_FILES = 5_000
"""In the folder; a person who saves ten a day has them after a year and a half."""
_LARGEST_MANY = 256 << 20
_SHORT, _LONG = 0.4, 1.0
"""Seconds: what is shorter is found as short, what is longer as long."""


@dataclass(frozen=True)
class Shelved:
    """One wrinkle of the Collection.

    Attributes:
        key: by which it is known.
        path: its file, or the folder of a shipped one.
        shelf: the subfolder that it is in; empty for none.
        wrinkle: the document; None where it cannot be read.
        fault: why not.
        state: another one once the file was written.
    """

    key: str
    path: Path
    shelf: str
    wrinkle: Wrinkle | None
    fault: str = ""
    state: tuple[int, int] = (0, 0)

    @property
    def shipped(self) -> bool:
        """Whether it comes with the program, and cannot be changed."""
        return self.key.startswith(f"{SHIPPED}/")

    @property
    def name(self) -> str:
        """What it is called."""
        return self.wrinkle.name if self.wrinkle is not None else self.path.stem

    @property
    def kinds(self) -> tuple[str, ...]:
        """The kinds it is found under."""
        tags = self.wrinkle.tags if self.wrinkle is not None else ()
        return tuple(tag for tag in tags if tag in KINDS)

    def bundle(self) -> Bundle:
        """The wrinkle with the files it carries.

        Raises:
            DocumentError: it cannot be read.
        """
        return read(self.path)

    @cached_property
    def text(self) -> str:
        """All that it is searched by."""
        wrinkle = self.wrinkle
        if wrinkle is None:
            return f"{self.name} {self.shelf} broken"
        seconds = float(wrinkle.lead + wrinkle.tail)
        length = "short" if seconds < _SHORT else "long" if seconds > _LONG else "medium"
        words = [
            wrinkle.name, wrinkle.about, *wrinkle.tags, self.shelf, length,
            f"{len(wrinkle.frames)} frames", *feels_of(wrinkle), *directions_of(wrinkle).values(),
            *(dial.name for dial in wrinkle.dials), SHIPPED if self.shipped else "own",
        ]  # fmt: skip
        return " ".join(words)

    def matches(self, words: str, kind: str = "") -> bool:
        """Whether it has all the words, and is of the kind, if one is given."""
        # What it is searched by is put together when somebody searches.
        found = not words.strip() or holds_words(self.text, words)
        return found and (not kind or kind in self.kinds)


def feels_of(wrinkle: Wrinkle) -> list[str]:
    """The names of the feels that its lanes have."""
    eases = {
        key.ease
        for layer in wrinkle.layers
        for address in layer.lanes()
        if (track := layer.setting(address).track) is not None
        for key in track.keys[:-1]
    }
    return [name for name, ease in FEELS.items() if ease in eases]


_KNOWN: dict[Path, Shelved] = {}
"""What was read in this run of the program, whoever asked: a hundred wrinkles take a second."""


class Shelves:
    """Reads the Collection; what did not change since is not read again.

    Args:
        folder: gives the folder of a person's own wrinkles.
    """

    def __init__(self, folder: Callable[[], Path] | None = None) -> None:
        self._folder = folder if folder is not None else library.own_folder

    @property
    def folder(self) -> Path:
        """Where a person's own wrinkles are."""
        return self._folder()

    def all(self) -> list[Shelved]:
        """All wrinkles, the own ones first, each by shelf, kind and name."""
        own = [self._shelved(path, self._key(path)) for path in self._own_files()]
        shipped = [
            self._shelved(path, f"{SHIPPED}/{name}") for name, path in library.shipped().items()
        ]
        found = [*own, *shipped]
        there = {one.path for one in found}
        for path in [x for x in _KNOWN if x not in there and x.is_relative_to(self.folder)]:
            _KNOWN.pop(path, None)
        _KNOWN.update((one.path, one) for one in found)

        def place(one: Shelved) -> tuple[bool, str, int, str]:
            return one.shipped, one.shelf, rank(one.kinds), one.name.casefold()

        return sorted(found, key=place)

    def folders(self) -> list[Path]:
        """The folder and its shelves, as far as they are there."""
        folder = self.folder
        if not is_folder(folder):
            return []
        return [folder, *(x for x in within(folder) if is_folder(x) and not x.is_symlink())]

    def keep(self, bundle: Bundle, shelf: str = "") -> Path:
        """Saves a wrinkle beside the others; a name that is taken gets a number.

        Raises:
            DocumentError: it cannot be written.
        """
        path = self._free_path(self._shelf_folder(shelf), bundle.wrinkle.name)
        write(path, bundle)
        return path

    def rename(self, one: Shelved, name: str) -> Path:
        """Gives an own wrinkle another name, and its file too.

        Raises:
            DocumentError: it is a shipped one, or cannot be written.
            InputError: the name is empty.
        """
        self._refuse_shipped(one, "renamed")
        bundle = one.bundle()
        renamed = Bundle(replace(bundle.wrinkle, name=name.strip()), bundle.assets)
        path = self._free_path(one.path.parent, renamed.wrinkle.name, besides=one.path)
        write(path, renamed)
        if path != one.path:
            _unlinked(one.path)
        return path

    def duplicate(self, one: Shelved) -> Path:
        """A copy under a name of its own, which can be changed.

        Raises:
            DocumentError: it cannot be read or written.
        """
        bundle = one.bundle()
        copy = replace(bundle.wrinkle, name=f"{bundle.wrinkle.name} copy")
        return self.keep(Bundle(copy, bundle.assets), one.shelf)

    def move(self, one: Shelved, shelf: str) -> Path:
        """Puts an own wrinkle on another shelf.

        Raises:
            DocumentError: it is a shipped one, or cannot be moved.
        """
        self._refuse_shipped(one, "moved")
        path = self._free_path(self._shelf_folder(shelf), one.path.stem)
        return _moved(one.path, path)

    def delete(self, one: Shelved) -> Path:
        """Takes an own wrinkle out; gives where it lies until it is brought back.

        Raises:
            DocumentError: it is a shipped one, or cannot be moved.
        """
        self._refuse_shipped(one, "deleted")
        folder = own_state() / "deleted"
        _made(folder)
        return _moved(one.path, self._free_path(folder, one.path.stem))

    def bring_back(self, deleted: Path, to: Path) -> Path:
        """Puts a deleted wrinkle back where it was, or beside it where that place is taken.

        Raises:
            DocumentError: it cannot be moved.
        """
        _made(to.parent)
        return _moved(deleted, self._free_path(to.parent, to.stem))

    def take_in(self, path: Path, shelf: str = "") -> list[Path]:
        """Keeps the wrinkles of a file: one, or several in one.

        Raises:
            DocumentError: it cannot be read, or one of them cannot; nothing is kept then.
        """
        if path.suffix != ".zip":
            return [self.keep(read(path), shelf)]
        return [self.keep(bundle, shelf) for bundle in read_many(path)]

    def _own_files(self) -> Iterator[Path]:
        count = 0
        for folder in self.folders():
            for path in within(folder, f"*{SUFFIX}"):
                count += 1
                if count > _MOST_FILES:
                    return
                yield path

    def _key(self, path: Path) -> str:
        return path.relative_to(self.folder).as_posix()

    def _shelved(self, path: Path, key: str) -> Shelved:
        shelf = Path(key).parent.as_posix() if not key.startswith(f"{SHIPPED}/") else ""
        shelf = "" if shelf == "." else shelf
        try:
            text = path / "wrinkle.json" if is_folder(path) else path
            found = text.stat()
            state = (found.st_mtime_ns, found.st_size)
            known = _KNOWN.get(path)
            if known is not None and known.state == state and known.key == key:
                return known
            return Shelved(key, path, shelf, read_document(path), state=state)
        except InputError as fault:
            return Shelved(key, path, shelf, None, str(fault))
        except OSError as fault:
            reason = f"{path.name} cannot be opened: {fault.strerror}."
            return Shelved(key, path, shelf, None, reason)

    def _shelf_folder(self, shelf: str) -> Path:
        if "/" in shelf or shelf.startswith(".") or not shelf.isprintable():
            raise DocumentError(f"'{shelf}' cannot be the name of a shelf; choose another.")
        folder = self.folder / shelf if shelf else self.folder
        _made(folder)
        return folder

    def _free_path(self, folder: Path, name: str, besides: Path | None = None) -> Path:
        """A file of that name that is not there yet; letters that no file has become dashes."""
        stem = "".join("-" if x in '/\\:*?"<>|\0' or not x.isprintable() else x for x in name)
        stem = stem.strip(" .")[:100] or "Untitled"

        def path(free: str) -> Path:
            return folder / f"{free}{SUFFIX}"

        def taken(free: str) -> bool:
            return path(free) != besides and is_there(path(free))

        return path(free_name(stem, taken))

    def _refuse_shipped(self, one: Shelved, done: str) -> None:
        if one.shipped:
            raise DocumentError(
                f"{one.name} comes with Wrinkle and cannot be {done}; duplicate it first."
            )


def write_many(path: Path, found: Iterable[Shelved]) -> int:
    """Writes several wrinkles into one file; gives how many.

    Raises:
        DocumentError: one cannot be read, or the file cannot be written.
    """
    buffer = io.BytesIO()
    names: set[str] = set()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as file:
        for one in found:
            name = free_name(one.path.stem, names.__contains__)
            names.add(name)
            file.writestr(f"{name}{SUFFIX}", packed(one.bundle()))
    try:
        write_whole(path, buffer.getvalue())
    except OSError as fault:
        raise DocumentError(not_saved(path, fault)) from None
    return len(names)


def read_many(path: Path) -> list[Bundle]:
    """The wrinkles of a file that holds several.

    Raises:
        DocumentError: the file is damaged or too large, or one in it cannot be read.
    """
    found: list[Bundle] = []
    room = _LARGEST_MANY
    try:
        with opened_zip_at(path, _LARGEST_MANY, _MOST_FILES) as archive:
            for name in archive.names:
                if not name.endswith(SUFFIX):
                    continue
                found.append(read_packed(Path(name).name, archive.read(name, room)))
                # What is packed within each counts as well.
                room -= sum(map(len, found[-1].assets.values()))
                if room < 0:
                    raise DocumentError(f"{size_label(_LARGEST_MANY)} of wrinkles are the most")
    except OSError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    except DamagedZipError:
        raise DocumentError(
            f"{path.name} cannot be opened: it is damaged or holds no wrinkles."
        ) from None
    except InputError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {str(fault).rstrip('.')}.") from None
    if not found:
        raise DocumentError(f"{path.name} holds no wrinkles.")
    return found


def _made(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise DocumentError(f"{folder.name} cannot be made: {fault.strerror}.") from None


def _moved(path: Path, to: Path) -> Path:
    try:
        shutil.move(path, to)
    except OSError as fault:
        raise DocumentError(f"{path.name} cannot be moved: {fault.strerror}.") from None
    return to


def _unlinked(path: Path) -> None:
    try:
        path.unlink(missing_ok=True)
    except OSError as fault:
        raise DocumentError(f"{path.name} cannot be removed: {fault.strerror}.") from None
