"""The compiled passes of a whole run: made once, beside the first tests, and then used by all.

Both kinds of passes give the same bytes, so it does not matter which test is run with which.
"""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from wrinkle.core.picture import compiled

_WHERE = "WRINKLE_TESTS_COMPILED"
_LONGEST = 900.0
"""Seconds; only what never happens takes them."""


@contextmanager
def compiling() -> Iterator[None]:
    """Within it the processes of the run find the passes as soon as they are made."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ[_WHERE] = folder
        running = subprocess.Popen([sys.executable, "-m", "tests.running.compiling", folder])
        try:
            yield
        finally:
            running.terminate()
            running.wait()
            del os.environ[_WHERE]


def take_over() -> None:
    """Loads the passes if they are made by now."""
    folder = _given()
    if folder is not None and _mark(folder).exists():
        compiled.load(folder)


def made_in(own: Path) -> Path:
    """The folder in which all passes are: that of the run, or one's own, where they are made."""
    folder = _given()
    if folder is None:
        subprocess.run([sys.executable, "-m", "tests.running.compiling", str(own)], check=True)
        return own
    end = time.monotonic() + _LONGEST
    while not _mark(folder).exists() and time.monotonic() < end:
        time.sleep(0.1)
    return folder


def _given() -> Path | None:
    where = os.environ.get(_WHERE)
    return Path(where) if where else None


def _mark(folder: Path) -> Path:
    return folder / "made"


if __name__ == "__main__":
    compiled.load(Path(sys.argv[1]))
    _mark(Path(sys.argv[1])).touch()
