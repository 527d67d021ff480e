"""Folders that a running program holds: what nobody holds was left by one that ended unasked."""

from __future__ import annotations

import fcntl
import os
import shutil
from contextlib import suppress
from pathlib import Path

_LOCK = "lock"


def held(folder: Path) -> int | None:
    """The folder's lock, taken, to be closed at the end; None while another program holds it."""
    try:
        handle = os.open(folder / _LOCK, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
    except OSError:
        return None
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return None
    return handle


def remove(folder: Path, index: str) -> None:
    """Removes a folder with all that is in it.

    Args:
        folder: which one.
        index: the file without which it is no work any more; it goes first, so that what is left
            of a removal that was interrupted is not taken for work.
    """
    with suppress(OSError):
        (folder / index).unlink(missing_ok=True)
    shutil.rmtree(folder, ignore_errors=True)
