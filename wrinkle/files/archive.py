"""The ``.wrinkle`` file: a ZIP of ``wrinkle.json`` and ``assets/``.

The shipped wrinkles have the same shape as plain folders, so that a change to one can be read.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import IO, TypeVar

from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.coding import decode, encode
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.files.presence import is_folder
from wrinkle.files.tokens import check_tokens
from wrinkle.files.whole import check_ordinary, not_saved, read_whole, size_label, write_whole
from wrinkle.files.zips import DamagedZipError, opened_zip

SUFFIX = ".wrinkle"
_TEXT = "wrinkle.json"
_ASSETS = "assets/"
_LARGEST_TEXT = 32 << 20
"""Bytes of wrinkle.json without its blanks; a cut-out of two minutes has some hundred thousand."""
_LARGEST_INDENTED = 128 << 20
_MOST_VALUES = 3_000_000
_LARGEST_ASSETS = 256 << 20
"""Bytes of all assets together: they are held as they are for as long as the wrinkle is open."""
_MOST_ENTRIES = 65_534
_DAY_OF_ZIP = (1980, 1, 1, 0, 0, 0)
Result = TypeVar("Result")
Entry = Callable[[str, int], bytes]
"""Gives the bytes of an entry by its name, and by how many it may have at most."""


def read(path: Path) -> Bundle:
    """The wrinkle in a ``.wrinkle`` file, or in a folder of the same shape.

    Raises:
        DocumentError: it cannot be read; one sentence that names the file and the fault.
    """
    return _told(path, lambda: _bundle(path))


def read_document(path: Path) -> Wrinkle:
    """The wrinkle alone, without the files that it carries: they are not even looked at.

    Raises:
        DocumentError: as ``read``.
    """
    return _told(path, lambda: _entries_of(path, _document))


def read_packed(name: str, content: bytes) -> Bundle:
    """The wrinkle in the bytes of a ``.wrinkle`` file.

    Raises:
        DocumentError: as ``read``.
    """
    file = io.BytesIO(content)
    return _told(Path(name), lambda: _from_zip(file, len(content), _bundled))


def packed(bundle: Bundle) -> bytes:
    """The bytes of a ``.wrinkle`` file; the same bundle gives the same ones."""
    return _zipped(bundle)


def _told(path: Path, work: Callable[[], Result]) -> Result:
    """What comes of some work on a file; whatever is wrong with the file is one sentence."""
    try:
        return work()
    except DocumentError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {fault}.") from None
    except FileNotFoundError:
        raise DocumentError(f"{path.name} cannot be opened: there is no such file.") from None
    except OSError as fault:
        reason = fault.strerror or "it is damaged"
        raise DocumentError(f"{path.name} cannot be opened: {reason}.") from None
    except InputError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {fault}") from None


def write(path: Path, bundle: Bundle) -> None:
    """Writes the file whole or not at all; the same bundle gives the same bytes.

    Raises:
        DocumentError: it cannot be written there, or an asset is missing; what was there before
            is untouched.
    """
    missing = [name for name in bundle.wrinkle.assets() if name not in bundle.assets]
    if missing:
        raise DocumentError(f"{path.name} cannot be saved: the asset {missing[0]} is missing.")
    try:
        write_whole(path, _zipped(bundle))
    except InputError as fault:
        raise DocumentError(f"{path.name} cannot be saved: {fault}.") from None
    except OSError as fault:
        raise DocumentError(not_saved(path, fault)) from None


def _zipped(bundle: Bundle) -> bytes:
    """What would not be read is not written.

    Raises:
        DocumentError: it is too large.
    """
    text, names = encode(bundle.wrinkle), bundle.wrinkle.assets()
    _check_text(text)
    if sum(len(bundle.assets[name]) for name in names) > _LARGEST_ASSETS:
        raise DocumentError(f"it carries more than {size_label(_LARGEST_ASSETS)} of files")
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as file:
        _add(file, _TEXT, text)
        for name in names:
            _add(file, _ASSETS + name, bundle.assets[name])
    return buffer.getvalue()


def _add(file: zipfile.ZipFile, name: str, content: bytes) -> None:
    # A fixed date, so that the same wrinkle gives the same bytes.
    entry = zipfile.ZipInfo(name, _DAY_OF_ZIP)
    entry.compress_type = zipfile.ZIP_DEFLATED
    entry.external_attr = 0o644 << 16
    file.writestr(entry, content)


def _bundle(path: Path) -> Bundle:
    return _entries_of(path, _bundled)


def _entries_of(path: Path, use: Callable[[Entry], Result]) -> Result:
    """What is made of the entries of a file or folder."""
    if is_folder(path):
        return use(lambda name, most: _folder_entry(path, name, most))
    check_ordinary(path)
    with path.open("rb") as file:
        return _from_zip(file, path.stat().st_size, use)


def _from_zip(file: IO[bytes], size: int, use: Callable[[Entry], Result]) -> Result:
    try:
        with opened_zip(file, size, _LARGEST_INDENTED + _LARGEST_ASSETS, _MOST_ENTRIES) as found:
            return use(found.read)
    except DamagedZipError:
        raise DocumentError("it is damaged or no wrinkle; use a copy of it") from None


def _document(entry: Entry) -> Wrinkle:
    text = entry(_TEXT, _LARGEST_INDENTED)
    _check_text(text)
    return decode(text)


def _check_text(text: bytes) -> None:
    """What is in it counts, and not its blanks."""
    blanks = sum(text.count(blank) for blank in (b" ", b"\n", b"\r", b"\t"))
    if len(text) - blanks > _LARGEST_TEXT:
        raise DocumentError(f"{_TEXT} in it is too large; {size_label(_LARGEST_TEXT)} are the most")
    check_tokens(text, _MOST_VALUES)


def _bundled(entry: Entry) -> Bundle:
    """A wrinkle and its assets, from what gives an entry by its name and the most it may have."""
    wrinkle, room, assets = _document(entry), _LARGEST_ASSETS, {}
    for name in wrinkle.assets():
        assets[name] = entry(_ASSETS + name, room)
        room -= len(assets[name])
    return Bundle(wrinkle, assets)


def _folder_entry(path: Path, name: str, most: int) -> bytes:
    place = path / name
    if place.is_symlink() or place.parent.is_symlink():
        raise DocumentError(f"{name} in it is a link to another file; use a whole copy")
    try:
        return read_whole(place, most)
    except FileNotFoundError:
        raise DocumentError(f"{name} is missing from it; use a whole copy") from None
