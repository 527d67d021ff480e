"""Which versions of what the program is made of run here: said with an error, and on demand."""

from __future__ import annotations

import platform
from importlib.metadata import PackageNotFoundError, version

from wrinkle import __version__

_MAIN = (
    "PyQt6", "numpy", "scipy", "opencv-python-headless", "av", "skia-python", "numba", "pillow",
    "opentimelineio",
)  # fmt: skip


def made_of() -> list[str]:
    """The program, the language, the system and the main libraries, each with its version."""
    found = [f"Wrinkle {__version__}", f"Python {platform.python_version()}",
             f"{platform.system()} {platform.release()}, {platform.machine()}"]  # fmt: skip
    for name in _MAIN:
        try:
            found.append(f"{name} {version(name)}")
        except PackageNotFoundError:
            found.append(f"{name} is not installed")
    return found
