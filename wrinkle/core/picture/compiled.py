"""Compiled passes over pictures, once they are loaded: until then NumPy does the same.

Numba takes a third of a second to import and more to compile, which a window that opens cannot
wait for; and its passes take a fifth of the time of NumPy's. Both give the same bytes, so that
it never shows when one takes over from the other.
"""

from __future__ import annotations

import importlib
from pathlib import Path
from threading import Lock
from types import ModuleType

_loaded: ModuleType | None = None
_loading = Lock()


def passes() -> ModuleType | None:
    """The module ``passes`` with everything in it compiled; None as long as it is not loaded."""
    return _loaded


def load(folder: Path) -> None:
    """Loads the compiled passes; what is compiled for the first time is kept in a folder.

    Without Numba, or where the folder cannot be written, all goes on without them.
    """
    global _loaded
    with _loading:
        if _loaded is not None:
            return
        try:
            numba = importlib.import_module("numba")
            numba.config.CACHE_DIR = str(folder)
            found = importlib.import_module("wrinkle.core.picture.passes")
            found.compile_all()
        except (ImportError, OSError, RuntimeError):
            return
        _loaded = found
