"""Folders that a running program holds: what nobody holds was left by one that ended unasked."""

from __future__ import annotations

import shutil
from contextlib import suppress
from pathlib import Path

from filelock import BaseFileLock, FileLock, Timeout

_LOCK = "lock"


def held(folder: Path) -> BaseFileLock | None:
    """The folder's lock, taken, to be released at the end; None while another program holds it."""
    # Taken by the thread that writes, and released by the one that ends the window.
    lock = FileLock(folder / _LOCK, timeout=0, mode=0o600, thread_local=False)
    try:
        lock.acquire()
    except (Timeout, OSError, NotImplementedError):
        return None
    return lock


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
