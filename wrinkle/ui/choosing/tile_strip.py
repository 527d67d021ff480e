"""The moving pictures of a tile, kept small: each is decoded when it is shown."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache
from typing import overload

import cv2
import numpy as np
from PyQt6.QtGui import QImage

from wrinkle.core.design.document.looks import Look
from wrinkle.core.picture.image import Bytes8
from wrinkle.library.looks import shipped_looks
from wrinkle.library.picture_strips import strip_bytes
from wrinkle.library.shelf import Shelved
from wrinkle.library.shipped_tiles import shipped_look, shipped_tile
from wrinkle.ui.shared.qimages import qimage_of

_QUALITY = 95
_SHOWN = 256
"""Pictures that stay decoded, of about 40 KB each: those of the tiles that are seen."""


class TileStrip(Sequence[QImage]):
    """So many pictures in the order of time; it is made in any thread.

    Args:
        pictures: RGB ``(H, W, 3)`` each.
    """

    def __init__(self, pictures: Iterable[Bytes8] = ()) -> None:
        self._contents = tuple(strip_bytes([x], _QUALITY) for x in pictures)

    def __len__(self) -> int:
        return len(self._contents)

    @overload
    def __getitem__(self, number: int) -> QImage: ...
    @overload
    def __getitem__(self, number: slice) -> list[QImage]: ...
    def __getitem__(self, number: int | slice) -> QImage | list[QImage]:
        if isinstance(number, slice):
            return [_decoded(x) for x in self._contents[number]]
        return _decoded(self._contents[number])

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return sum(map(len, self._contents))


NOTHING = TileStrip()


def shipped_strip(one: Shelved) -> TileStrip:
    """The pictures that ship with a wrinkle, for a worker to read; none of any other one."""
    return _read(one.key, lambda: shipped_tile(one)) if one.shipped else NOTHING


def read_already(one: Shelved) -> TileStrip | None:
    """The same where they are read, or where there are none; None where a worker has to."""
    return _READ.get(one.key) if one.shipped else NOTHING


def shipped_look_strip(look: Look) -> TileStrip:
    """The pictures that ship with a look; none of any other one."""
    if look not in shipped_looks():
        return NOTHING
    return _read(f"look {look.name}", lambda: shipped_look(look))


_READ: dict[str, TileStrip] = {}
"""What ships, for all who show it: about 130 KB each."""


def _read(key: str, read: Callable[[], list[Bytes8]]) -> TileStrip:
    found = _READ.get(key)
    if found is None:
        found = _READ[key] = TileStrip(read())
    return found


@lru_cache(_SHOWN)
def _decoded(content: bytes) -> QImage:
    pixels = cv2.imdecode(np.frombuffer(content, np.uint8), cv2.IMREAD_COLOR)
    assert pixels is not None
    return qimage_of(pixels[..., ::-1])
