"""What ships with Wrinkle, and where a person's own wrinkles are kept."""

from __future__ import annotations

from pathlib import Path

import platformdirs

from wrinkle.core.design.archive import SUFFIX, Bundle, read
from wrinkle.core.errors import DocumentError

FOLDER = Path(__file__).parent
_APP = "wrinkle"


def shipped() -> dict[str, Path]:
    """The shipped wrinkles by the name they are asked for."""
    return {path.name: path for path in sorted((FOLDER / "wrinkles").iterdir()) if path.is_dir()}


def own_folder() -> Path:
    """Where a person's own wrinkles are kept."""
    return Path(platformdirs.user_data_path(_APP)) / "wrinkles"


def own() -> dict[str, Path]:
    """A person's own wrinkles by file name."""
    return {path.stem: path for path in sorted(own_folder().glob(f"*{SUFFIX}"))}


def cache_folder() -> Path:
    """Where files are kept that can be made again."""
    return Path(platformdirs.user_cache_path(_APP))


def find(word: str) -> Bundle:
    """The wrinkle that a person named: a path, an own or a shipped name.

    Raises:
        DocumentError: there is none, or it cannot be read.
    """
    path = Path(word)
    if path.suffix == SUFFIX or path.exists():
        return read(path)
    key = word.strip().lower().replace(" ", "_").replace("-", "_")
    places = {name.lower().replace(" ", "_").replace("-", "_"): p for name, p in own().items()}
    found = (shipped() | places).get(key)
    if found is None:
        raise DocumentError(
            f"There is no wrinkle '{word}'; 'list' shows the names, or give the path of a "
            f"{SUFFIX} file."
        )
    return read(found)
