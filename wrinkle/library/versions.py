"""The last saved versions of each file, kept beside the program."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from wrinkle.files.whole import read_whole, write_whole
from wrinkle.library.own_files import own_state

MOST = 5
"""Versions of a file, unless somebody wants more or fewer."""
_LARGEST_PICTURE = 4 << 20
_PICTURE = ".png"
_STAMP = "%Y%m%d-%H%M%S-%f"


@dataclass(frozen=True)
class Version:
    """A file as it was saved once.

    Attributes:
        path: of the copy.
        number: grows from one to the next, also where the clock is put back.
        when: it was saved.
    """

    path: Path
    number: int
    when: datetime

    @property
    def picture(self) -> bytes:
        """Of the frame that was looked at, as PNG; empty for none."""
        with suppress(OSError, ValueError):
            return read_whole(self.path.with_suffix(_PICTURE), _LARGEST_PICTURE)
        return b""


def keep_version(
    path: Path,
    suffix: str,
    write: Callable[[Path], None],
    picture: bytes = b"",
    most: int = MOST,
) -> None:
    """Keeps what was saved to a file now; the oldest versions go.

    Args:
        path: of the file.
        suffix: of the copy, with its dot.
        write: writes the copy.
        picture: of what was looked at, as PNG; empty for none.
        most: so many are kept.

    Raises:
        OSError, InputError: it cannot be written.
    """
    folder = _folder(path)
    folder.mkdir(parents=True, exist_ok=True)
    kept = versions(path)
    number = kept[0].number + 1 if kept else 1
    copy = folder / f"{datetime.now(UTC).strftime(_STAMP)}-{number}{suffix}"
    write(copy)
    if picture:
        write_whole(copy.with_suffix(_PICTURE), picture)
    for version in versions(path)[most:]:
        version.path.with_suffix(_PICTURE).unlink(missing_ok=True)
        version.path.unlink(missing_ok=True)


def versions(path: Path) -> list[Version]:
    """The kept versions of a file, the newest first."""
    found = []
    for copy in _folder(path).glob("*"):
        if copy.suffix == _PICTURE:
            continue
        # Those of before have no number.
        *stamp, number = copy.stem.split("-") if copy.stem.count("-") == 3 else (copy.stem, "0")
        with suppress(ValueError):
            when = datetime.strptime("-".join(stamp), _STAMP).replace(tzinfo=UTC)
            found.append(Version(copy, int(number), when))
    return sorted(found, key=lambda version: (version.number, version.when), reverse=True)


def _folder(path: Path) -> Path:
    place = hashlib.sha256(os.path.realpath(path).encode("utf-8", "surrogateescape")).hexdigest()
    return own_state() / "versions" / place[:24]
