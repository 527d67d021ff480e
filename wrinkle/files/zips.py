"""ZIP files of strangers: one budget for all that comes out of one, counted as it flows.

What an archive says of itself is not believed: neither how large its entries are nor how many
there are, nor that it is one.
"""

from __future__ import annotations

import os
import struct
import zipfile
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from wrinkle.core.errors import DocumentError, InputError
from wrinkle.files.whole import check_ordinary, size_label

_PACKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
_MOST_ENTRIES = 65_534
"""What a ZIP file without extensions can list; the list is read before anything else."""
_LONGEST_END = (1 << 16) + 22
_STEP = 1 << 20
_BROKEN = (
    zipfile.BadZipFile, zlib.error, struct.error, EOFError, RuntimeError, OverflowError, ValueError,
)  # fmt: skip
"""What Python raises for damaged files, unknown ways of packing and names that are no text."""


class DamagedZipError(DocumentError):
    """It is no archive, or a damaged one."""


class ZipReader:
    """An open archive.

    Attributes:
        names: of its entries that are files, in their order.
    """

    def __init__(self, archive: zipfile.ZipFile, budget: int) -> None:
        self._archive = archive
        self._left = budget
        self.names = [x.filename for x in archive.infolist() if not x.is_dir()]

    def read(self, name: str, most: int) -> bytes:
        """The bytes of an entry.

        Args:
            name: of the entry.
            most: how many bytes it may have.

        Raises:
            DocumentError: there is none, or it is damaged, packed in an odd way or too large.
        """
        return b"".join(self._parts(name, most))

    def copy(self, name: str, goal: Path) -> None:
        """Writes an entry to a file that is not there yet.

        Raises:
            DocumentError: as ``read``.
            OSError: the place cannot be written to.
        """
        with goal.open("xb") as file:
            for part in self._parts(name, self._left):
                file.write(part)

    def _parts(self, name: str, most: int) -> Iterator[bytes]:
        try:
            info = self._archive.getinfo(name)
        except KeyError:
            raise DocumentError(f"{name} is missing from it; use a whole copy") from None
        if info.compress_type not in _PACKED:
            raise DocumentError(f"{name} in it is packed in a way that is not read; save it anew")
        if info.flag_bits & 1:
            raise DocumentError(f"{name} in it is locked with a password; save it without one")
        count = 0
        with self._archive.open(info) as packed:
            while part := packed.read(_STEP):
                count += len(part)
                self._left -= len(part)
                if count > most:
                    raise DocumentError(
                        f"{name} in it is too large; {size_label(most)} are left for it"
                    )
                if self._left < 0:
                    raise DocumentError("what is packed in it is far too large")
                yield part


@contextmanager
def opened_zip(file: IO[bytes], size: int, budget: int, most: int) -> Iterator[ZipReader]:
    """An archive to be read.

    Args:
        file: its bytes.
        size: how many there are.
        budget: how many bytes may come out of it altogether.
        most: how many entries it may have.

    Raises:
        DamagedZipError: it is damaged or no archive; without its name.
        DocumentError: it holds too much.
    """
    try:
        _check_entries(file, size, most)
        with zipfile.ZipFile(file) as archive:
            yield ZipReader(archive, budget)
    except InputError:
        raise
    except _BROKEN:
        raise DamagedZipError("it is damaged; use a copy of it") from None


@contextmanager
def opened_zip_at(path: Path, budget: int, most: int) -> Iterator[ZipReader]:
    """An archive in a file; pipes and devices are not even opened.

    Raises:
        OSError: it cannot be opened.
        DamagedZipError, DocumentError: as ``opened_zip``.
    """
    check_ordinary(path)
    with path.open("rb") as file, opened_zip(file, path.stat().st_size, budget, most) as archive:
        yield archive


def _check_entries(file: IO[bytes], size: int, most: int) -> None:
    """Refuses a list of files that would be long to read, by the number at the end of the file."""
    file.seek(-min(size, _LONGEST_END), os.SEEK_END)
    end = file.read()
    at = end.rfind(b"PK\x05\x06")
    if at >= 0 and int.from_bytes(end[at + 10 : at + 12], "little") > min(most, _MOST_ENTRIES):
        raise DocumentError("it holds more files than it should")
