"""Decoded pictures, kept as long as there is room; the least recently used goes first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from threading import Lock

import numpy as np
from numpy.typing import NDArray

Bytes8 = NDArray[np.uint8]


class PictureCache:
    """8-bit pictures by key, within a number of bytes. Safe to use from several threads."""

    def __init__(self, capacity: int) -> None:
        self._capacity = capacity
        self._used = 0
        self._pictures: OrderedDict[Hashable, Bytes8] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Hashable) -> Bytes8 | None:
        """The picture kept under ``key``, if it is still there."""
        with self._lock:
            picture = self._pictures.get(key)
            if picture is not None:
                self._pictures.move_to_end(key)
            return picture

    def put(self, key: Hashable, picture: Bytes8) -> None:
        """Keeps a picture; older ones go until it fits."""
        with self._lock:
            old = self._pictures.pop(key, None)
            self._used += picture.nbytes - (old.nbytes if old is not None else 0)
            self._pictures[key] = picture
            while self._used > self._capacity and len(self._pictures) > 1:
                self._used -= self._pictures.popitem(last=False)[1].nbytes
