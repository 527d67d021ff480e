"""A wrinkle of the Collection as a file that another program can take."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.files.archive import SUFFIX, write
from wrinkle.files.presence import is_folder
from wrinkle.library import cache_folder
from wrinkle.library.shelf import Shelved


def as_file(one: Shelved) -> Path:
    """Its own file; of one that ships, which is a folder, a file made for that.

    Raises:
        InputError: it cannot be read or written.
    """
    if not is_folder(one.path):
        return one.path
    folder = cache_folder() / "handed-out"
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as fault:
        raise InputError(f"{one.name} cannot be handed out: {fault.strerror}.") from None
    # What ships has a plain word for its folder, which is a good name of a file.
    goal = folder / f"{one.path.name}{SUFFIX}"
    write(goal, one.bundle())
    return goal
