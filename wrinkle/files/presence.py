"""What lies at a path, where a disk that does not answer counts as one with nothing on it.

``Path`` has such questions too, but raises for faults of a disk that is gone, as a network's.
"""

from __future__ import annotations

import os
import stat
from contextlib import suppress
from pathlib import Path


def is_there(path: Path) -> bool:
    """Whether there is anything at a path, links followed."""
    return _status(path) is not None


def is_folder(path: Path) -> bool:
    """Whether it is a folder, links followed."""
    found = _status(path)
    return found is not None and stat.S_ISDIR(found.st_mode)


def is_file(path: Path) -> bool:
    """Whether it is an ordinary file, links followed."""
    found = _status(path)
    return found is not None and stat.S_ISREG(found.st_mode)


def within(folder: Path, pattern: str = "*") -> list[Path]:
    """What lies in a folder and matches, in order; nothing where it cannot be read."""
    with suppress(OSError):
        return sorted(folder.glob(pattern))
    return []


def _status(path: Path) -> os.stat_result | None:
    with suppress(OSError, ValueError):
        return path.stat()
    return None
