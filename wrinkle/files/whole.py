"""Ordinary files, read within a limit and written whole.

A file that is written appears under its name when all of it is there. Until then it has no name at
all where the file system can do that (``O_TMPFILE`` of Linux): who is killed leaves nothing behind.
"""

from __future__ import annotations

import errno
import os
import secrets
import shutil
import stat
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from wrinkle.core.errors import InputError

_NO_UNNAMED = (errno.EOPNOTSUPP, errno.EISDIR, errno.EINVAL, errno.ENOENT)
"""What file systems and kernels answer that have no files without a name."""
_NOT_ORDINARY = "it is no ordinary file"


def check_ordinary(path: Path) -> None:
    """Looks whether a path is a file that can be read to its end.

    Raises:
        OSError: there is none, or it is a folder, a device, a pipe or the like.
    """
    _require_ordinary(path.stat())


def _require_ordinary(status: os.stat_result) -> None:
    if stat.S_ISDIR(status.st_mode):
        raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR))
    if not stat.S_ISREG(status.st_mode):
        raise OSError(errno.EINVAL, _NOT_ORDINARY)


def read_whole(path: Path, most: int) -> bytes:
    """The bytes of an ordinary file.

    Args:
        path: of the file.
        most: how many bytes it may have.

    Raises:
        OSError: it is no ordinary file, or cannot be read.
        InputError: it is larger; names it.
    """
    # A pipe must not be waited for.
    handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    with os.fdopen(handle, "rb") as file:
        _require_ordinary(os.fstat(handle))
        content = file.read(most + 1)
    if len(content) > most:
        raise InputError(f"{path.name} is larger than {size_label(most)}; use a smaller file.")
    return content


def state_of(path: Path | None) -> tuple[int, ...] | None:
    """Another one once the file was written; None where there is none."""
    if path is None:
        return None
    with suppress(OSError):
        found = path.stat()
        return found.st_mtime_ns, found.st_size, found.st_ino
    return None


def size_label(count: int) -> str:
    """A number of bytes as it is told: ``64 MiB``, ``512 KiB``."""
    return f"{count >> 20} MiB" if count >= 1 << 20 else f"{count >> 10} KiB"


def write_whole(path: Path, content: bytes) -> None:
    """Writes a file, whole or not at all; what was there before stays until then.

    Raises:
        OSError: the place cannot be written to; nothing is left behind.
    """
    with whole_file(path) as unfinished:
        unfinished.write_bytes(content)


def not_saved(path: Path, fault: OSError) -> str:
    """One sentence on a file that cannot be written."""
    return f"{path.name} cannot be saved: {fault.strerror}; choose another place."


@contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """Gives the place of an unfinished file; without an exception it becomes the one at ``path``.

    A link is followed: the file that it leads to is written. Its permissions stay.

    Raises:
        OSError: the place cannot be written to, or is no ordinary file; nothing is left behind.
    """
    goal = Path(os.path.realpath(path))
    permissions = None
    with suppress(FileNotFoundError):
        check_ordinary(goal)
        permissions = stat.S_IMODE(goal.stat().st_mode)
    named: Path | None = None
    handle = _unnamed(goal.parent)
    if handle is None:
        named = _beside(goal)
        handle = os.open(named, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o666)
    try:
        place = Path(f"/proc/self/fd/{handle}")
        yield place if named is None else named
        if permissions is not None:
            os.fchmod(handle, permissions)
        os.fsync(handle)
        if named is None:
            named = _name(handle, goal)
        named.replace(goal)
        named = None
        _settle(goal.parent)
    finally:
        os.close(handle)
        if named is not None:
            with suppress(OSError):
                named.unlink()


def _unnamed(folder: Path) -> int | None:
    try:
        return os.open(folder, os.O_TMPFILE | os.O_RDWR | os.O_CLOEXEC, 0o666)
    except OSError as fault:
        if fault.errno in _NO_UNNAMED and folder.is_dir():
            return None
        raise


def _name(handle: int, goal: Path) -> Path:
    """Gives an unnamed file a name beside its goal: only that can take the goal's place at once."""
    named = _beside(goal)
    folder = os.open(goal.parent, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        # Only with a folder does Python follow the link that stands for the open file.
        os.link(f"/proc/self/fd/{handle}", named.name, dst_dir_fd=folder, follow_symlinks=True)
    except OSError:
        # Some file systems have unnamed files but give them no name afterwards.
        _copy(handle, named)
    finally:
        os.close(folder)
    return named


def _copy(handle: int, named: Path) -> None:
    mode = stat.S_IMODE(os.fstat(handle).st_mode)
    try:
        with os.fdopen(os.dup(handle), "rb") as unnamed, named.open("xb") as copy:
            unnamed.seek(0)
            shutil.copyfileobj(unnamed, copy)
            copy.flush()
            os.fchmod(copy.fileno(), mode)
            os.fsync(copy.fileno())
    except OSError:
        named.unlink(missing_ok=True)
        raise


def _beside(goal: Path) -> Path:
    # A short name: that of the goal may be as long as names can be.
    return goal.with_name(f".{secrets.token_hex(8)}.part")


def _settle(folder: Path) -> None:
    """The new name itself survives a power cut."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
