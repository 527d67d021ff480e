"""Work that is not saved yet, kept beside the program so that it survives a crash.

Each open document has a folder of its own, which its program holds by a lock as long as it runs: a
folder that nobody holds is what a crash left. Every state of the history is a file by the hash of
its content, and so is each part that states share, so that a step costs one small file; the index,
which names them all, is replaced last.
"""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Generic, Protocol, TypeVar

import msgspec
from filelock import BaseFileLock

from wrinkle.core.design.document.coding import to_json
from wrinkle.core.design.document.history import History
from wrinkle.core.errors import DocumentError
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.library.held_folder import held, remove
from wrinkle.library.own_files import own_state

State = TypeVar("State")
Rest = TypeVar("Rest")
FORMAT = 2
_INDEX, _PICTURE = "index.json", "picture.png"
_STATES, _PARTS, _PARTS_OF_FORMAT_1 = "states", "parts", "assets"
MOST_BYTES = 128 << 20
"""Of all kept states; one is some thousand bytes, with long followed paths some million."""
_LARGEST_INDEX = 16 << 20
"""Bytes; 500 steps take some tens of thousands."""
_LARGEST_STATE = 64 << 20
_LARGEST_PART = 512 << 20
"""Bytes; as in a wrinkle file, which these come from."""
_LARGEST_PICTURE = 4 << 20

Put = Callable[[object, Callable[[], bytes]], str]
"""Keeps a part that states share: its owner, by which it is known again, and what makes its bytes.
Gives its name."""
Get = Callable[[str], bytes]
"""The bytes of a part; OSError where it is not there."""


class Codec(Protocol[State, Rest]):
    """How the states of a kind of document are kept, and the rest, which all of them share."""

    key: str

    def title(self, state: State) -> str:
        """What the document is called."""

    def encode(self, state: State, put: Put) -> bytes:
        """A state as bytes."""

    def decode(self, content: bytes, get: Get) -> State:
        """A state from its bytes; OSError or ValueError where it cannot be read."""

    def encode_rest(self, rest: Rest, put: Put) -> Any:
        """The rest as plain values."""

    def decode_rest(self, found: Any, get: Get) -> Rest:
        """The rest, as far as it can be read; ValueError where it cannot."""

    def check(self, state: State, rest: Rest) -> None:
        """Raises DocumentError where a state cannot be gone on with: it says what is missing."""


@dataclass(frozen=True)
class Work(Generic[State, Rest]):
    """An open document with all that belongs to it.

    Attributes:
        history: all its steps.
        saved: the state that is in its file, or that it began with.
        rest: what all states share, such as the bytes of all that was ever carried.
        path: of its file, if it has one.
        beside: what is kept with it and is no part of it, as plain values.
    """

    history: History[State]
    saved: State
    rest: Rest
    path: Path | None = None
    beside: Mapping[str, Any] = field(default_factory=dict)


class _Index(msgspec.Struct, frozen=True):
    format: int
    kind: str
    name: str
    when: datetime
    states: tuple[str, ...]
    labels: tuple[str, ...]
    stamps: tuple[int, ...]
    place: int
    saved: str
    path: str
    rest: Any
    beside: dict[str, Any]


class _Format1(msgspec.Struct, frozen=True):
    """The index of older versions, which kept wrinkles alone."""

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
    clips: dict[str, Any]
    layer: str
    playhead: int

    def index(self) -> _Index:
        beside = {"clips": self.clips, "layer": self.layer, "playhead": self.playhead}
        return _Index(
            FORMAT, "wrinkle", self.name, self.when, self.states, self.labels, self.stamps,
            self.place, self.saved, self.path, dict(self.assets), beside,
        )  # fmt: skip


@dataclass(frozen=True)
class _KeptState:
    """A state that is kept already, held so that its number does not become that of another."""

    state: object
    name: str
    size: int
    parts: frozenset[str]


class Autosave(Generic[State, Rest]):
    """The kept work of one open document. Used from one thread at a time."""

    def __init__(self, codec: Codec[State, Rest], folder: Path | None = None) -> None:
        self._codec = codec
        self._folder = (folder or autosave_folder()) / secrets.token_hex(8)
        self._lock: BaseFileLock | None = None
        self._states: dict[int, _KeptState] = {}
        self._parts: dict[int, tuple[object, str]] = {}

    def keep(self, work: Work[State, Rest]) -> None:
        """Keeps the work as it is now.

        Raises:
            OSError: it cannot be written.
        """
        self._hold()
        saved = self._state(work.saved)
        kept, history = self._within_room(work.history)
        used: set[str] = set()
        rest = self._codec.encode_rest(work.rest, self._noted(used))
        index = _Index(
            FORMAT,
            self._codec.key,
            self._codec.title(history.current),
            datetime.now(UTC),
            tuple(one.name for one in kept),
            history.labels,
            history.stamps,
            history.place,
            saved.name,
            str(work.path or ""),
            rest,
            dict(work.beside),
        )
        write_whole(self._folder / _INDEX, msgspec.json.encode(index, enc_hook=to_json))
        for one in (*kept, saved):
            used |= one.parts
        self._tidy(_STATES, {one.name for one in (*kept, saved)})
        self._tidy(_PARTS, used)
        self._parts = {key: part for key, part in self._parts.items() if part[1] in used}
        alive = {id(state) for state in (*history.states, work.saved)}
        self._states = {key: one for key, one in self._states.items() if key in alive}

    def keep_picture(self, picture: bytes) -> None:
        """Keeps a picture of the work, as PNG.

        Raises:
            OSError: it cannot be written.
        """
        if self._lock is not None:
            write_whole(self._folder / _PICTURE, picture)

    def remove(self) -> None:
        """The work is saved, or nobody wants it."""
        self._states.clear()
        self._parts.clear()
        if self._lock is not None:
            remove(self._folder, _INDEX)
        self.let_go()

    def let_go(self) -> None:
        """Leaves what is kept to the next start."""
        if self._lock is not None:
            self._lock.release()
            self._lock = None

    def _hold(self) -> None:
        if self._lock is None:
            for name in (_STATES, _PARTS):
                (self._folder / name).mkdir(parents=True, exist_ok=True)
            self._lock = held(self._folder)

    def _within_room(self, history: History[State]) -> tuple[list[_KeptState], History[State]]:
        """The kept states, and the history of just those: all that there is room for.

        Steps that undo would take back come first, the nearest ones before those far away.
        """
        room, place = MOST_BYTES, history.place
        found: dict[int, _KeptState] = {}
        for number in (*range(place, -1, -1), *range(place + 1, len(history.states))):
            one = self._state(history.states[number])
            room -= one.size
            if room < 0 and found:
                break
            found[number] = one
        first, end = min(found), max(found) + 1
        part = slice(first, end)
        kept = History(
            history.states[part], history.labels[part], history.stamps[part], place - first
        )
        return [found[number] for number in range(first, end)], kept

    def _state(self, state: State) -> _KeptState:
        known = self._states.get(id(state))
        if known is None:
            parts: set[str] = set()
            content = self._codec.encode(state, self._noted(parts))
            name = self._put(_STATES, content)
            known = _KeptState(state, name, len(content), frozenset(parts))
            self._states[id(state)] = known
        return known

    def _noted(self, used: set[str]) -> Put:
        """Puts parts, and notes which ones are used."""

        def put(owner: object, make: Callable[[], bytes]) -> str:
            known = self._parts.get(id(owner))
            if known is None:
                known = self._parts[id(owner)] = owner, self._put(_PARTS, make())
            used.add(known[1])
            return known[1]

        return put

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
        kind: the key of the codec that reads it.
        name: of the document.
        when: it was kept last.
        steps: how many steps it has.
        path: of its file, if it has one.
        picture: of what was looked at, as PNG; empty for none.
    """

    folder: Path
    kind: str
    name: str
    when: datetime
    steps: int
    path: Path | None
    picture: bytes

    def read(self, codec: Codec[State, Rest]) -> Work[State, Rest]:
        """The work, with as many of its steps as can be read.

        Raises:
            DocumentError: not even its last state can be read, or something is missing from it.
        """
        index = _index_of(self.folder)
        # Damaged steps are left out; what they say of it is not told.
        states = {name: self._state(codec, name) for name in {*index.states, index.saved}}
        labels, stamps = index.labels, index.stamps
        found = [
            (n, state, label, stamp)
            for n, (name, label, stamp) in enumerate(zip(index.states, labels, stamps, strict=True))
            if (state := states[name]) is not None
        ]
        place = sum(n <= index.place for n, *_ in found) - 1
        damaged = DocumentError(f"The kept work on {self.name} is damaged and cannot be read.")
        if place < 0:
            raise damaged
        history = History(
            tuple(state for _, state, _, _ in found),
            tuple(label for _, _, label, _ in found),
            tuple(stamp for _, _, _, stamp in found),
            place,
        )
        try:
            rest = codec.decode_rest(index.rest, self._part)
            codec.check(history.current, rest)
        except DocumentError as fault:
            reason = str(fault).rstrip(".")
            raise DocumentError(f"The kept work on {self.name} cannot be read: {reason}.") from None
        except Exception:  # noqa: BLE001 - another program may have written it
            raise damaged from None
        saved = states[index.saved]
        saved = saved if saved is not None else history.states[0]
        return Work(history, saved, rest, self.path, index.beside)

    def remove(self) -> None:
        """It was taken up, or nobody wants it."""
        remove(self.folder, _INDEX)

    def _state(self, codec: Codec[State, Rest], name: str) -> State | None:
        try:
            content = read_whole(self.folder / _STATES / name, _LARGEST_STATE)
            return codec.decode(content, self._part)
        except Exception:  # noqa: BLE001 - another program may have written it
            return None

    def _part(self, name: str) -> bytes:
        if not name.isalnum():
            raise DocumentError("it names a part that is none")
        try:
            return read_whole(self.folder / _PARTS / name, _LARGEST_PART)
        except FileNotFoundError:
            return read_whole(self.folder / _PARTS_OF_FORMAT_1 / name, _LARGEST_PART)


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
        lock.release()
        # Nothing that was kept once may hinder a start.
        with suppress(Exception):
            index = _index_of(place)
            picture = b""
            with suppress(OSError):
                picture = read_whole(place / _PICTURE, _LARGEST_PICTURE)
            path = Path(index.path) if index.path else None
            steps = len(index.states) - 1
            found.append(LeftWork(place, index.kind, index.name, index.when, steps, path, picture))
    return sorted(found, key=lambda work: work.when, reverse=True)


def _index_of(folder: Path) -> _Index:
    """The index of a folder.

    Raises:
        OSError, DocumentError: there is none that can be read.
    """
    content = read_whole(folder / _INDEX, _LARGEST_INDEX)
    try:
        head = msgspec.json.decode(content, type=_Head)
        if head.format == 1:
            index = msgspec.json.decode(content, type=_Format1).index()
        else:
            index = msgspec.json.decode(content, type=_Index)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as fault:
        raise DocumentError(f"it is damaged ({fault})") from None
    whole = len(index.states) == len(index.labels) == len(index.stamps) > index.place >= 0
    names = (*index.states, index.saved)
    if head.format not in (1, FORMAT) or not whole or any(not name.isalnum() for name in names):
        raise DocumentError("it is damaged, or of another version")
    return index


class _Head(msgspec.Struct, frozen=True):
    format: int
