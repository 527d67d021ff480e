"""Work that is not saved yet, kept beside the program so that it survives a crash.

Each open document has a folder of its own, which its program holds by a lock as long as it runs: a
folder that nobody holds is what a crash left. Every state of the history is a file by the hash of
its content, so that a step costs one small file; the index, which names them all, is replaced last.
"""

from __future__ import annotations

import hashlib
import os
import secrets
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime
from fractions import Fraction
from pathlib import Path

import msgspec

from wrinkle.core.design.coding import decode, encode, from_json, to_json
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.history import History
from wrinkle.core.errors import DocumentError
from wrinkle.core.files import read_whole, write_whole
from wrinkle.library.held_folder import held, remove
from wrinkle.library.own_files import own_state

FORMAT = 1
_INDEX, _PICTURE = "index.json", "picture.png"
_STATES, _ASSETS = "states", "assets"
MOST_BYTES = 128 << 20
"""Of all kept states; one is some thousand bytes, with long followed paths some million."""
_LARGEST_INDEX = 16 << 20
"""Bytes; 500 steps take some tens of thousands."""
_LARGEST_STATE = 64 << 20
_LARGEST_ASSET = 512 << 20
"""Bytes; as in a wrinkle file, which these come from."""
_LARGEST_PICTURE = 4 << 20


class KeptClip(msgspec.Struct, frozen=True):
    """A clip that the work was tried on: its file, and its time that falls on the cut."""

    path: str
    cut: Fraction


@dataclass(frozen=True)
class Work:
    """An open document with all that belongs to it.

    Attributes:
        history: all its steps.
        saved: the state that is in its file, or that it began with.
        path: of its file, if it has one.
        assets: the bytes of all that was ever carried, by name; undo may want them back.
        clips: that it was tried on, by slot.
        layer: the selected one.
        playhead: the frame that was looked at.
    """

    history: History[Wrinkle]
    saved: Wrinkle
    path: Path | None = None
    assets: Mapping[str, bytes] = field(default_factory=dict)
    clips: Mapping[str, KeptClip] = field(default_factory=dict)
    layer: str = ""
    playhead: int = 0


class _Index(msgspec.Struct, frozen=True):
    format: int
    name: str
    when: datetime
    states: tuple[str, ...]
    labels: tuple[str, ...]
    stamps: tuple[int, ...]
    place: int
    saved: str
    path: str
    assets: dict[str, str]
    clips: dict[str, KeptClip]
    layer: str
    playhead: int


class Autosave:
    """The kept work of one open document. Used from one thread at a time."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = (folder or autosave_folder()) / secrets.token_hex(8)
        self._lock: int | None = None
        self._names: dict[int, tuple[Wrinkle, str]] = {}
        self._sizes: dict[str, int] = {}
        self._hashes: dict[int, tuple[bytes, str]] = {}

    def keep(self, work: Work) -> None:
        """Keeps the work as it is now.

        Raises:
            OSError: it cannot be written.
        """
        self._hold()
        saved = self._state(work.saved)
        kept, history = self._within_room(work.history)
        assets = {name: self._asset(content) for name, content in work.assets.items()}
        index = _Index(
            FORMAT,
            history.current.name,
            datetime.now(UTC),
            kept,
            history.labels,
            history.stamps,
            history.place,
            saved,
            str(work.path or ""),
            assets,
            dict(work.clips),
            work.layer,
            work.playhead,
        )
        write_whole(self._folder / _INDEX, msgspec.json.encode(index, enc_hook=to_json))
        self._tidy(_STATES, {*kept, saved})
        self._tidy(_ASSETS, set(assets.values()))
        alive = {id(state) for state in (*history.states, work.saved)}
        self._names = {key: kept for key, kept in self._names.items() if key in alive}

    def keep_picture(self, picture: bytes) -> None:
        """Keeps a picture of the work, as PNG.

        Raises:
            OSError: it cannot be written.
        """
        if self._lock is not None:
            write_whole(self._folder / _PICTURE, picture)

    def remove(self) -> None:
        """The work is saved, or nobody wants it."""
        self._names.clear()
        self._hashes.clear()
        if self._lock is not None:
            remove(self._folder, _INDEX)
            os.close(self._lock)
            self._lock = None

    def let_go(self) -> None:
        """Leaves what is kept to the next start."""
        if self._lock is not None:
            os.close(self._lock)
            self._lock = None

    def _hold(self) -> None:
        if self._lock is None:
            for name in (_STATES, _ASSETS):
                (self._folder / name).mkdir(parents=True, exist_ok=True)
            self._lock = held(self._folder)

    def _within_room(self, history: History[Wrinkle]) -> tuple[tuple[str, ...], History[Wrinkle]]:
        """The names of kept states, and the history of just those: all that there is room for.

        Steps that undo would take back come first, the nearest ones before those far away.
        """
        room, place = MOST_BYTES, history.place
        names: dict[int, str] = {}
        for number in (*range(place, -1, -1), *range(place + 1, len(history.states))):
            name = self._state(history.states[number])
            room -= self._sizes[name]
            if room < 0 and names:
                break
            names[number] = name
        first, end = min(names), max(names) + 1
        part = slice(first, end)
        kept = History(
            history.states[part], history.labels[part], history.stamps[part], place - first
        )
        return tuple(names[number] for number in range(first, end)), kept

    def _state(self, state: Wrinkle) -> str:
        known = self._names.get(id(state))
        if known is None:
            content = encode(state)
            known = self._names[id(state)] = state, self._put(_STATES, content)
            self._sizes[known[1]] = len(content)
        return known[1]

    def _asset(self, content: bytes) -> str:
        known = self._hashes.get(id(content))
        if known is None:
            known = self._hashes[id(content)] = content, self._put(_ASSETS, content)
        return known[1]

    def _put(self, kind: str, content: bytes) -> str:
        name = hashlib.sha256(content).hexdigest()
        path = self._folder / kind / name
        if not path.exists():
            write_whole(path, content)
        return name

    def _tidy(self, kind: str, wanted: set[str]) -> None:
        for path in (self._folder / kind).iterdir():
            if path.name not in wanted:
                path.unlink(missing_ok=True)


@dataclass(frozen=True)
class LeftWork:
    """Work that a program left which ended without asking.

    Attributes:
        folder: where it is.
        name: of the wrinkle.
        when: it was kept last.
        steps: how many steps it has.
        path: of its file, if it has one.
        picture: of the frame that was looked at, as PNG; empty for none.
    """

    folder: Path
    name: str
    when: datetime
    steps: int
    path: Path | None
    picture: bytes

    def read(self) -> Work:
        """The work, with as many of its steps as can be read.

        Raises:
            DocumentError: not even its last state can be read.
        """
        index = _index_of(self.folder)
        states = {name: self._state(name) for name in {*index.states, index.saved}}
        labels, stamps = index.labels, index.stamps
        found = [
            (n, state, label, stamp)
            for n, (name, label, stamp) in enumerate(zip(index.states, labels, stamps, strict=True))
            if (state := states[name]) is not None
        ]
        place = sum(n <= index.place for n, *_ in found) - 1
        if place < 0:
            raise DocumentError(f"The kept work on {self.name} is damaged and cannot be read.")
        history = History(
            tuple(state for _, state, _, _ in found),
            tuple(label for _, _, label, _ in found),
            tuple(stamp for _, _, _, stamp in found),
            place,
        )
        current = history.current
        assets = {}
        for name, kept in index.assets.items():
            with suppress(OSError):
                assets[name] = read_whole(self.folder / _ASSETS / kept, _LARGEST_ASSET)
        missing = [name for name in current.assets() if name not in assets]
        if missing:
            raise DocumentError(
                f"The kept work on {self.name} cannot be read: {missing[0]} is missing from it."
            )
        saved = states[index.saved]
        return Work(
            history,
            saved if saved is not None else history.states[0],
            self.path,
            assets,
            index.clips,
            index.layer,
            index.playhead,
        )

    def remove(self) -> None:
        """It was taken up, or nobody wants it."""
        remove(self.folder, _INDEX)

    def _state(self, name: str) -> Wrinkle | None:
        try:
            return decode(read_whole(self.folder / _STATES / name, _LARGEST_STATE))
        except (OSError, ValueError):
            return None


def autosave_folder() -> Path:
    """Where unsaved work is kept."""
    return own_state() / "autosave"


def left_work(folder: Path | None = None) -> list[LeftWork]:
    """What programs left that run no more, the newest first; what cannot be told is not listed."""
    found = []
    for place in sorted((folder or autosave_folder()).glob("*/")):
        lock = held(place)
        if lock is None:
            continue
        os.close(lock)
        with suppress(OSError, DocumentError, ValueError):
            index = _index_of(place)
            picture = b""
            with suppress(OSError):
                picture = read_whole(place / _PICTURE, _LARGEST_PICTURE)
            path = Path(index.path) if index.path else None
            steps = len(index.states) - 1
            found.append(LeftWork(place, index.name, index.when, steps, path, picture))
    return sorted(found, key=lambda work: work.when, reverse=True)


def _index_of(folder: Path) -> _Index:
    """The index of a folder.

    Raises:
        OSError, DocumentError: there is none that can be read.
    """
    content = read_whole(folder / _INDEX, _LARGEST_INDEX)
    try:
        index = msgspec.json.decode(content, type=_Index, dec_hook=from_json)
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise DocumentError(f"it is damaged ({fault})") from None
    whole = len(index.states) == len(index.labels) == len(index.stamps) > index.place >= 0
    names = (*index.states, index.saved, *index.assets.values())
    if index.format != FORMAT or not whole or any(not name.isalnum() for name in names):
        raise DocumentError("it is damaged, or of another version")
    return index
