"""The compiled passes of a whole run: made once, beside the first tests, and then used by all.

Both kinds of passes give the same bytes, so it does not matter which test is run with which.
"""

import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from wrinkle.core.picture import compiled

_WHERE = "WRINKLE_TESTS_COMPILED"


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
    folder = _made()
    if folder is not None:
        compiled.load(folder)


def made_in(own: Path) -> Path:
    """The folder in which all passes are: that of the run, or one's own, where they are made."""
    folder = _made()
    if folder is None:
        subprocess.run([sys.executable, "-m", "tests.running.compiling", str(own)], check=True)
    return folder or own


def _made() -> Path | None:
    """The folder of the run, if all passes are in it by now."""
    where = os.environ.get(_WHERE)
    return Path(where) if where and _mark(Path(where)).exists() else None


def _mark(folder: Path) -> Path:
    return folder / "made"


if __name__ == "__main__":
    compiled.load(Path(sys.argv[1]))
    _mark(Path(sys.argv[1])).touch()
