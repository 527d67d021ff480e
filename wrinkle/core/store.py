"""What was made and may be wanted again, within one budget for the whole program."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from threading import Event, Lock, get_ident
from typing import Protocol, TypeVar, cast

DEFAULT_BUDGET = 1 << 30
_REMEMBERED = 256
"""Keys of parts that were asked for once."""


class Kept(Protocol):
    """Anything that knows its size."""

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""


Value = TypeVar("Value", bound=Kept)


@dataclass(frozen=True)
class _Making:
    """A part that is being made: by which thread, and when it is over."""

    maker: int
    over: Event = field(default_factory=Event)


class Store:
    """Values by what they were made from; the least recently used go first.

    Frames are what is shown, parts what frames are made of: decoded pictures, masks, layers. Each
    of the two has half of the budget for sure, and the rest as long as the other leaves it. Safe
    to use from several threads.

    Args:
        budget: in bytes. A value that is larger alone is kept all the same.
    """

    def __init__(self, budget: int = DEFAULT_BUDGET) -> None:
        self._budget = budget
        self._frames: OrderedDict[Hashable, Kept] = OrderedDict()
        self._parts: OrderedDict[Hashable, Kept] = OrderedDict()
        self._frame_bytes = 0
        self._part_bytes = 0
        self._making: dict[Hashable, _Making] = {}
        self._asked: OrderedDict[Hashable, None] = OrderedDict()
        self._lock = Lock()

    @property
    def budget(self) -> int:
        """How many bytes may be kept."""
        return self._budget

    @budget.setter
    def budget(self, budget: int) -> None:
        with self._lock:
            self._budget = budget
            self._make_room()

    @property
    def used(self) -> int:
        """The bytes of all that is kept."""
        return self._frame_bytes + self._part_bytes

    @property
    def used_by_frames(self) -> int:
        """The bytes of the kept frames alone."""
        return self._frame_bytes

    @property
    def room_for_frames(self) -> int:
        """The bytes that frames have for sure."""
        return self._budget // 2

    def frame(self, key: Hashable) -> Kept | None:
        """The frame kept under ``key``, if it is still there."""
        with self._lock:
            return _used(self._frames, key)

    def part(self, key: Hashable) -> Kept | None:
        """The part kept under ``key``, if it is still there."""
        with self._lock:
            return _used(self._parts, key)

    def keep_frame(self, key: Hashable, frame: Kept) -> None:
        """Keeps a frame; older ones go until it fits."""
        with self._lock:
            self._frame_bytes += frame.nbytes - _nbytes(self._frames.pop(key, None))
            self._frames[key] = frame
            self._make_room()

    def keep_part(self, key: Hashable, part: Kept) -> None:
        """Keeps a part; older ones go until it fits."""
        with self._lock:
            self._part_bytes += part.nbytes - _nbytes(self._parts.pop(key, None))
            self._parts[key] = part
            self._make_room()

    def drop_frame(self, key: Hashable) -> None:
        """Forgets a frame that nobody wants any more."""
        with self._lock:
            self._frame_bytes -= _nbytes(self._frames.pop(key, None))

    def made(self, key: Hashable, make: Callable[[], Value]) -> Value:
        """The part kept under ``key``; it is made if there is none.

        When several ask at the same time one makes it and the others wait for it; where that one
        fails or gives up, the next one makes it.
        """
        while True:
            with self._lock:
                found = _used(self._parts, key)
                making = self._making.get(key) if found is None else None
                if found is None and making is None:
                    mine = self._making[key] = _Making(get_ident())
            if found is not None:
                return cast(Value, found)
            if making is None:
                return self._make(key, make, mine)
            if making.maker == get_ident():
                # Asked for by what makes it: whoever waits for itself waits for ever.
                return make()
            making.over.wait()

    def made_twice(self, key: Hashable, make: Callable[[], Value]) -> Value:
        """As ``made``, but kept only when it is asked for a second time.

        For what is different in most frames: kept at once, it would drive out what is wanted.
        """
        with self._lock:
            again = key in self._parts or key in self._asked
            self._asked[key] = None
            self._asked.move_to_end(key)
            if len(self._asked) > _REMEMBERED:
                self._asked.popitem(last=False)
        return self.made(key, make) if again else make()

    def _make(self, key: Hashable, make: Callable[[], Value], making: _Making) -> Value:
        try:
            made = make()
            self.keep_part(key, made)
            return made
        finally:
            with self._lock:
                del self._making[key]
            making.over.set()

    def clear(self) -> None:
        """Forgets everything."""
        with self._lock:
            self._frames.clear()
            self._parts.clear()
            self._asked.clear()
            self._frame_bytes = self._part_bytes = 0

    def _make_room(self) -> None:
        while self.used > self._budget and len(self._frames) + len(self._parts) > 1:
            if self._parts and (self._part_bytes > self._budget // 2 or not self._frames):
                self._part_bytes -= self._parts.popitem(last=False)[1].nbytes
            else:
                self._frame_bytes -= self._frames.popitem(last=False)[1].nbytes


def _used(kept: OrderedDict[Hashable, Kept], key: Hashable) -> Kept | None:
    found = kept.pop(key, None)
    if found is not None:
        # Kept under this very key from now on: who asks again is known at once, and plans of many
        # layers take long to compare.
        kept[key] = found
    return found


def _nbytes(kept: Kept | None) -> int:
    return kept.nbytes if kept is not None else 0
