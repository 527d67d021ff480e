"""What a person marked in the Collection: favourites, and when each wrinkle was used last."""

from __future__ import annotations

import time
from functools import partial

import msgspec

from wrinkle.library.own_files import read_own_file, write_own_file

_FILE = "collection.json"
_MOST_USED = 200


class Marks(msgspec.Struct, frozen=True):
    """By the keys of wrinkles.

    Attributes:
        favourites: those that are marked.
        used: when each was used last, in seconds since 1970.
    """

    favourites: frozenset[str] = frozenset()
    used: dict[str, float] = {}


def read_marks() -> Marks:
    """What is marked.

    Raises:
        DocumentError: the file is damaged; names it.
    """
    return read_own_file(_FILE, partial(msgspec.json.decode, type=Marks), Marks())


def mark_favourite(key: str, on: bool) -> Marks:
    """Marks a favourite, or no longer; gives all marks.

    Raises:
        DocumentError: the file cannot be read or written.
    """
    marks = read_marks()
    favourites = marks.favourites | {key} if on else marks.favourites - {key}
    return _written(Marks(favourites, marks.used))


def mark_used(key: str) -> Marks:
    """Notes that a wrinkle is used now; gives all marks.

    Raises:
        DocumentError: the file cannot be read or written.
    """
    marks = read_marks()
    used = {**marks.used, key: time.time()}
    newest = sorted(used, key=lambda one: used[one])[-_MOST_USED:]
    return _written(Marks(marks.favourites, {one: used[one] for one in newest}))


def _written(marks: Marks) -> Marks:
    text = msgspec.json.encode({"favourites": sorted(marks.favourites), "used": marks.used})
    write_own_file(_FILE, msgspec.json.format(text, indent=2))
    return marks
