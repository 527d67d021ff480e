"""Pictures kept as long as there is room; the least recently used goes first."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Picture = TypeVar("Picture")


class BoundedCache(Generic[Key, Picture]):
    """Pictures by key, within a number of bytes. Safe to use from several threads.

    Args:
        capacity: in bytes; a picture that is larger alone is kept all the same.
        size_of: the bytes of a picture.
    """

    def __init__(self, capacity: int, size_of: Callable[[Picture], int]) -> None:
        self._capacity = capacity
        self._size_of = size_of
        self._used = 0
        self._pictures: OrderedDict[Key, Picture] = OrderedDict()
        self._lock = Lock()

    @property
    def used(self) -> int:
        """The bytes of all kept pictures."""
        with self._lock:
            return self._used

    def get(self, key: Key) -> Picture | None:
        """The picture kept under ``key``, if it is still there."""
        with self._lock:
            picture = self._pictures.get(key)
            if picture is not None:
                self._pictures.move_to_end(key)
            return picture

    def put(self, key: Key, picture: Picture) -> None:
        """Keeps a picture; older ones go until it fits."""
        with self._lock:
            old = self._pictures.pop(key, None)
            self._used -= self._size_of(old) if old is not None else 0
            self._used += self._size_of(picture)
            self._pictures[key] = picture
            while self._used > self._capacity and len(self._pictures) > 1:
                self._used -= self._size_of(self._pictures.popitem(last=False)[1])
