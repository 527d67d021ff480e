"""What is to be written, and what of it is: kept beside the program, so that a crash loses nothing.

What an item writes is kept as a timeline of its own in the same folder: what is edited meanwhile
does not change it.
"""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from contextlib import suppress
from enum import Enum
from pathlib import Path

import msgspec
from filelock import BaseFileLock

from wrinkle.core.errors import DocumentError
from wrinkle.files.whole import read_whole, write_whole
from wrinkle.library.held_folder import held
from wrinkle.library.own_files import own_state

_LIST = "queue.json"
_LARGEST = 4 << 20
_SUFFIX = ".otio"
FLAT = "flat"


class State(Enum):
    """How far an item is."""

    WAITING = "waiting"
    WRITING = "writing"
    DONE = "done"
    FAILED = "failed"
    CANCELLED = "cancelled"


class ExportItem(msgspec.Struct, frozen=True, omit_defaults=True):
    """One file that is to be written.

    Attributes:
        id: unique in the queue.
        title: what it is, in words.
        piece: the name of its timeline in the folder of the queue.
        first, end: the frames of it, at its rate.
        size, rate: of what is written.
        form: the key of the format.
        depth, quality, bits, megabytes: as of a rendition.
        colour: what its values stand for.
        hears: what of it is heard.
        what: of the pictures is written; or FLAT, a timeline whose dressed cuts are clips.
        on: the scheduler of the machines that draw it; empty for this one.
        replaces: whether the person agreed that what lies there gives way.
        path: of the file or folder.
        state: how far it is.
        told: what came of it, in a sentence.
    """

    id: str
    title: str
    piece: str
    first: int
    end: int
    size: tuple[int, int]
    rate: str
    form: str
    path: str
    depth: int | None = None
    quality: float = 75.0
    bits: int | None = None
    megabytes: float | None = None
    colour: str = "bt709"
    hears: str = "both"
    what: str = "all"
    on: str = ""
    replaces: bool = False
    state: State = State.WAITING
    told: str = ""

    @property
    def ended(self) -> bool:
        """Whether nothing more is done about it."""
        return self.state not in (State.WAITING, State.WRITING)


def exports_folder() -> Path:
    """Where the queue is kept; made where it is not there.

    Raises:
        DocumentError: it cannot be made.
    """
    folder = own_state() / "exports"
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise DocumentError(f"The queue cannot be kept: {fault.strerror}.") from None
    return folder


def hold_queue() -> BaseFileLock | None:
    """Takes the queue, to be released at the end; None while another window has it.

    Raises:
        DocumentError: it cannot be kept at all.
    """
    return held(exports_folder())


def new_name() -> str:
    """An id that no item has."""
    return secrets.token_hex(6)


def piece_path(name: str) -> Path:
    """Where the timeline of an item lies."""
    return exports_folder() / f"{name}{_SUFFIX}"


def load_queue() -> tuple[ExportItem, ...]:
    """The items that were kept; what was being written when the program ended waits again.

    Raises:
        DocumentError: the list cannot be read; it begins anew.
    """
    place = exports_folder() / _LIST
    try:
        found = msgspec.json.decode(read_whole(place, _LARGEST), type=tuple[ExportItem, ...])
    except FileNotFoundError:
        return ()
    except (OSError, msgspec.DecodeError, msgspec.ValidationError, UnicodeDecodeError):
        with suppress(OSError):
            place.rename(place.with_suffix(".damaged"))
        raise DocumentError(
            "The queue of exports cannot be read; it was set aside and begins anew."
        ) from None
    return tuple(
        msgspec.structs.replace(x, state=State.WAITING) if x.state is State.WRITING else x
        for x in found
    )


def save_queue(items: Iterable[ExportItem]) -> None:
    """Keeps the items, and forgets the timelines that none of them needs.

    Raises:
        DocumentError: they cannot be kept.
    """
    items, folder = tuple(items), exports_folder()
    try:
        write_whole(folder / _LIST, msgspec.json.encode(items))
    except OSError as fault:
        raise DocumentError(f"The queue cannot be kept: {fault.strerror}.") from None
    needed = {item.piece for item in items}
    for place in folder.glob(f"*{_SUFFIX}"):
        if place.stem not in needed:
            with suppress(OSError):
                place.unlink()
