"""The ``.wrinkle`` file: a ZIP of ``wrinkle.json`` and ``assets/``.

The shipped wrinkles have the same shape as plain folders, so that a change to one can be read.
"""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from wrinkle.core.design.coding import decode, encode
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.errors import DocumentError
from wrinkle.core.files import write_whole

SUFFIX = ".wrinkle"
_TEXT = "wrinkle.json"
_ASSETS = "assets/"
_LARGEST_TEXT = 64 << 20
_LARGEST_ASSET = 512 << 20
_DAY_OF_ZIP = (1980, 1, 1, 0, 0, 0)


@dataclass(frozen=True)
class Bundle:
    """A wrinkle with the files that it carries.

    Attributes:
        wrinkle: the document.
        assets: the bytes of each asset by its name.
    """

    wrinkle: Wrinkle
    assets: Mapping[str, bytes] = field(default_factory=dict)


def read(path: Path) -> Bundle:
    """The wrinkle in a ``.wrinkle`` file, or in a folder of the same shape.

    Raises:
        DocumentError: it cannot be read; one sentence that names the file and the fault.
    """
    try:
        return _read_folder(path) if path.is_dir() else _read_zip(path)
    except DocumentError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {fault}.") from None
    except FileNotFoundError:
        raise DocumentError(f"{path.name} cannot be opened: there is no such file.") from None
    except OSError as fault:
        raise DocumentError(f"{path.name} cannot be opened: {fault.strerror}.") from None
    except (zipfile.BadZipFile, zlib.error, EOFError, RuntimeError):
        raise DocumentError(
            f"{path.name} cannot be opened: it is damaged or no wrinkle; use a copy of it."
        ) from None


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
    except OSError as fault:
        raise DocumentError(
            f"{path.name} cannot be saved: {fault.strerror}; choose another place."
        ) from None


def _zipped(bundle: Bundle) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as file:
        _add(file, _TEXT, encode(bundle.wrinkle))
        for name in bundle.wrinkle.assets():
            _add(file, _ASSETS + name, bundle.assets[name])
    return buffer.getvalue()


def _add(file: zipfile.ZipFile, name: str, content: bytes) -> None:
    # A fixed date, so that the same wrinkle gives the same bytes.
    entry = zipfile.ZipInfo(name, _DAY_OF_ZIP)
    entry.compress_type = zipfile.ZIP_DEFLATED
    entry.external_attr = 0o644 << 16
    file.writestr(entry, content)


def _read_zip(path: Path) -> Bundle:
    with zipfile.ZipFile(path) as file:
        wrinkle = decode(_entry(file, _TEXT, _LARGEST_TEXT))
        assets = {name: _entry(file, _ASSETS + name, _LARGEST_ASSET) for name in wrinkle.assets()}
    return Bundle(wrinkle, assets)


def _entry(file: zipfile.ZipFile, name: str, largest: int) -> bytes:
    try:
        info = file.getinfo(name)
    except KeyError:
        raise DocumentError(f"{name} is missing from it; use a whole copy") from None
    if info.file_size > largest:
        raise DocumentError(f"{name} in it is larger than {largest >> 20} MiB")
    return file.read(info)


def _read_folder(path: Path) -> Bundle:
    wrinkle = decode(_folder_entry(path, _TEXT))
    return Bundle(wrinkle, {x: _folder_entry(path, _ASSETS + x) for x in wrinkle.assets()})


def _folder_entry(path: Path, name: str) -> bytes:
    try:
        return (path / name).read_bytes()
    except FileNotFoundError:
        raise DocumentError(f"{name} is missing from it; use a whole copy") from None
