"""What can be made again, and how much room it takes."""

from __future__ import annotations

import shutil
from collections.abc import Iterable
from pathlib import Path

from wrinkle.files.presence import is_folder
from wrinkle.library import cache_folder

MOST = 1 << 30
"""Bytes; 500 tiles have some 30 million, compiled passes less than one."""


def used() -> int:
    """The bytes of all caches."""
    return sum(_size(entry) for entry in _entries())


def empty(spared: Iterable[Path] = ()) -> int:
    """Removes all caches but those with a spared file in them; gives how many bytes that freed."""
    before, spared = used(), list(spared)
    for entry in _entries():
        if not any(path.is_relative_to(entry) for path in spared):
            _remove(entry)
    return before - used()


def keep_within(most: int = MOST) -> None:
    """Removes the caches that were used longest ago until the others fit."""
    entries = sorted(_entries(), key=lambda entry: entry.stat().st_mtime)
    room = most - sum(_size(entry) for entry in entries)
    for entry in entries:
        if room >= 0:
            return
        room += _size(entry)
        _remove(entry)


def _entries() -> list[Path]:
    folder = cache_folder()
    return list(folder.iterdir()) if is_folder(folder) else []


def _size(entry: Path) -> int:
    files = entry.rglob("*") if is_folder(entry) and not entry.is_symlink() else [entry]
    return sum(path.lstat().st_size for path in files if not is_folder(path))


def _remove(entry: Path) -> None:
    if is_folder(entry) and not entry.is_symlink():
        shutil.rmtree(entry, ignore_errors=True)
    else:
        entry.unlink(missing_ok=True)
