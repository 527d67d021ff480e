"""The moving pictures of the wrinkles that ship, on the clips that ship: seen at once.

``python -m guides.tiles`` makes them.
"""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import Final

from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.library.picture_strips import read_strip
from wrinkle.library.shelf import Shelved

FOLDER: Final = Path(__file__).parent / "tiles"
SIZE: Final = Size(84, 150)


def shipped_tile(one: Shelved) -> list[Bytes8]:
    """The pictures of a wrinkle that ships, each ``(H, W, 3)``; none of any other one."""
    return _read(one.path.stem) if one.shipped else []


@lru_cache(64)
def _read(name: str) -> list[Bytes8]:
    return read_strip(FOLDER / f"{name}.jpg", SIZE) or []
