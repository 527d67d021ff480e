"""What must be the same on two machines, so that they draw the same pictures."""

from __future__ import annotations

import platform
from collections.abc import Mapping
from functools import cache
from hashlib import blake2b
from importlib.metadata import version
from pathlib import Path

import wrinkle

_LIBRARIES = (
    "numpy", "scipy", "opencv-python-headless", "av", "skia-python", "numba", "uharfbuzz",
    "msgspec", "opentimelineio", "distributed",
)  # fmt: skip
_OWN = "Wrinkle's own code"


@cache
def versions() -> Mapping[str, str]:
    """Versions of what draws, by name; of the program itself also what its files hold."""
    found = {name: version(name) for name in _LIBRARIES}
    python = platform.python_version_tuple()
    folder, content = Path(wrinkle.__file__).parent, blake2b(digest_size=8)
    for file in sorted(folder.rglob("*.py")):
        # Its window draws nothing of what is written.
        if not file.is_relative_to(folder / "ui"):
            content.update(str(file.relative_to(folder)).encode() + b"\0" + file.read_bytes())
    return {"Python": ".".join(python[:2]), _OWN: content.hexdigest(), **found}


def difference(here: Mapping[str, str], there: Mapping[str, str]) -> str:
    """What differs, in words; nothing where they are the same."""
    return ", ".join(
        name if name == _OWN else f"{name} {there.get(name, 'missing')} and not {here[name]}"
        for name in here
        if here[name] != there.get(name)
    )
