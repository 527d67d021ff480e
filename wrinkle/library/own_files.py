"""Small files of a person's own, beside their wrinkles: feels, looks, choices."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

import msgspec
import platformdirs

from wrinkle.core.design.document.looks import LARGEST_LOOKS
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.files.presence import is_there
from wrinkle.files.whole import read_whole, write_whole

Kept = TypeVar("Kept")


def own_data() -> Path:
    """The folder of all that a person keeps."""
    return Path(platformdirs.user_data_path("wrinkle"))


def own_state() -> Path:
    """The folder of what the program keeps of its own work: unsaved work, versions, the log."""
    return Path(platformdirs.user_state_path("wrinkle"))


def read_own_file(name: str, decode: Callable[[bytes], Kept], nothing: Kept) -> Kept:
    """What is kept in a file; ``nothing`` where there is no file.

    A damaged one is set aside under another name, so that it is told of once.

    Raises:
        DocumentError: it cannot be opened or is damaged; names it and where it is now.
    """
    try:
        return decode(read_whole(own_data() / name, LARGEST_LOOKS))
    except FileNotFoundError:
        return nothing
    except OSError as fault:
        raise DocumentError(f"{name} cannot be opened: {fault.strerror}.") from None
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, InputError):
        aside = _set_aside(own_data() / name)
        raise DocumentError(
            f"{name} cannot be read: it is damaged. It was set aside as {aside}, and what it "
            "held begins anew."
        ) from None


def _set_aside(path: Path) -> str:
    number = 1
    while is_there(aside := path.with_name(f"{path.name}.damaged-{number}")):
        number += 1
    try:
        path.rename(aside)
    except OSError:
        return path.name
    return aside.name


def write_own_file(name: str, content: bytes) -> None:
    """Writes a file, whole or not at all.

    Raises:
        DocumentError: it cannot be written; names it.
    """
    path = own_data() / name
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        write_whole(path, content)
    except OSError as fault:
        raise DocumentError(f"{name} cannot be written: {fault.strerror}.") from None
