"""Whether a file may be written: never over what is read, never unasked over what is there."""

from __future__ import annotations

import os
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path

from wrinkle.core.errors import InputError, MediaError
from wrinkle.files.presence import is_folder


def check_target(output: Path, read: Iterable[Path], overwrite: bool = False) -> None:
    """Looks whether a file may be written, before any work is done for it.

    Args:
        output: what would be written.
        read: all that is read for it, or is open.
        overwrite: whether the person agreed that what is there gives way.

    Raises:
        InputError: it is one of those that are read, or is there already.
        MediaError: its folder does not exist.
    """
    if not is_folder(output.parent):
        raise MediaError(
            f"{output} cannot be written: the folder {output.parent} does not exist; make it first."
        )
    spare(output, read)
    if not overwrite and os.path.lexists(output):
        raise InputError(
            f"{output.name} is there already; --overwrite replaces it, or name another output."
        )


def free_path(wanted: Path) -> Path:
    """The path, or one like it with a number where something lies there already."""
    number, found = 1, wanted
    while os.path.lexists(found):
        number += 1
        found = wanted.with_name(f"{wanted.stem} {number}{wanted.suffix}")
    return found


def spare(output: Path, read: Iterable[Path]) -> None:
    """Refuses to write over a file that is read, whatever names it goes by.

    Raises:
        InputError: names the file.
    """
    known = _identities(output)
    if any(known & _identities(path) for path in read):
        raise InputError(f"{output.name} is what would be read; name another output.")


def _identities(path: Path) -> set[object]:
    """Where a path leads to, and which file lies there: links of either kind have one of both."""
    found: set[object] = {os.path.realpath(path)}
    with suppress(OSError):
        status = path.stat()
        found.add((status.st_dev, status.st_ino))
    return found
