"""The compiled passes of a run: made once, beside the first tests, then used by all and kept.

Both kinds of passes give the same bytes, so it does not matter which test is run with which.
"""

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.metadata import version
from pathlib import Path

from wrinkle.core.picture import compiled

_WHERE = "WRINKLE_TESTS_COMPILED"


@contextmanager
def compiling() -> Iterator[None]:
    """Within it the processes of the run find the passes as soon as they are made."""
    folder = _kept()
    os.environ[_WHERE] = str(folder)
    running = subprocess.Popen([sys.executable, "-m", "tests.running.compiling", str(folder)])
    try:
        yield
    finally:
        running.terminate()
        running.wait()
        del os.environ[_WHERE]


def _kept() -> Path:
    """A folder in the environment for the passes as they are now; those of before are removed."""
    said = hashlib.sha256((sys.version + version("numba")).encode())
    for path in sorted(Path(compiled.__file__).with_name("passes").glob("*.py")):
        # Numba does not take what was compiled from a file of another time.
        said.update(path.read_bytes() + str(path.stat().st_mtime_ns).encode())
    all_of_them = Path(sys.prefix) / "tests-compiled"
    folder = all_of_them / said.hexdigest()
    folder.mkdir(parents=True, exist_ok=True)
    for other in all_of_them.iterdir():
        if other != folder:
            shutil.rmtree(other, ignore_errors=True)
    return folder


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
