"""The moving pictures of the wrinkles and looks that ship, on the clips that ship: seen at once.

``python -m guides.tiles`` makes them.
"""

from __future__ import annotations

from pathlib import Path
from typing import Final

from wrinkle.core.design.document.looks import Look
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.library.looks import shipped_looks
from wrinkle.library.picture_strips import read_strip
from wrinkle.library.shelf import Shelved

FOLDER: Final = Path(__file__).parent / "tiles"
SIZE: Final = Size(84, 150)
LOOK_SIZE: Final = Size(104, 184)
LOOK_STEPS: Final = 12
"""From rest to nearly the full look."""


def shipped_tile(one: Shelved) -> list[Bytes8]:
    """The pictures of a wrinkle that ships, each ``(H, W, 3)``; none of any other one."""
    return _read(one.path.stem) if one.shipped else []


def shipped_look(look: Look) -> list[Bytes8]:
    """The pictures of a look that ships, each ``(H, W, 3)``; none of any other one."""
    return _read_look(look.name) if look in shipped_looks() else []


def look_file(name: str) -> Path:
    """Where the pictures of a look that ships are."""
    return FOLDER / "looks" / f"{name.lower().replace(' ', '_')}.jpg"


def _read(name: str) -> list[Bytes8]:
    return read_strip(FOLDER / f"{name}.jpg", SIZE) or []


def _read_look(name: str) -> list[Bytes8]:
    return read_strip(look_file(name), LOOK_SIZE) or []
