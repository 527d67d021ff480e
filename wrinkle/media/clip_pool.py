"""The clips of a program: each file is read once, and is open only as long as it is used."""

from __future__ import annotations

import time
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path
from threading import Lock
from weakref import WeakValueDictionary, ref

from wrinkle.core.store import Store
from wrinkle.media.clip import Clip, identity_of

MOST_OPEN = 12
"""Files that are open at a time; each takes up to two decoders with their pictures."""


class ClipPool:
    """Clips by their file, shared by all who hold them. Safe to use from several threads.

    Args:
        store: where decoded pictures are kept.
        clock: seconds that only ever grow.
    """

    def __init__(self, store: Store, clock: Callable[[], float] = time.monotonic) -> None:
        self._store = store
        self._clock = clock
        self._clips: WeakValueDictionary[str, Clip] = WeakValueDictionary()
        self._open: OrderedDict[str, tuple[ref[Clip], float]] = OrderedDict()
        self._lock = Lock()
        self._reading: dict[str, Lock] = {}

    def clip(self, path: Path) -> Clip:
        """The clip in a file; it is read if nobody holds it. That takes a while for long files.

        Raises:
            MediaError: the file is no video that can be read; names it and the way out.
        """
        identity = identity_of(path)
        with self._lock:
            reading = self._reading.setdefault(identity, Lock())
        # Whoever asks for the same file meanwhile waits for the one who reads it.
        with reading:
            found = self._clips.get(identity)
            if found is not None:
                # Who chooses a file once more may have mended what it lies on.
                found.close()
            else:
                found = self._clips[identity] = Clip(path, self._store, self._use)
        with self._lock:
            self._reading.pop(identity, None)
        return found

    def close_idle(self, seconds: float) -> None:
        """Lets go of the files that were not used for so long.

        A decoder holds on to the memory of all pictures it ever gave at a time.
        """
        idle: list[Clip] = []
        with self._lock:
            while self._open and self._clock() - next(iter(self._open.values()))[1] >= seconds:
                idle += self._oldest()
        for one in idle:
            one.close()

    def close(self) -> None:
        """Lets go of all files."""
        for clip in list(self._clips.values()):
            clip.close()

    def _use(self, clip: Clip) -> None:
        """Notes that a clip's file is used, and lets go of the one that was not for longest."""
        idle: list[Clip] = []
        with self._lock:
            self._open.pop(clip.identity, None)
            self._open[clip.identity] = ref(clip), self._clock()
            while len(self._open) > MOST_OPEN:
                idle += self._oldest()
        for one in idle:
            one.close()

    def _oldest(self) -> list[Clip]:
        """The clip that was not used for longest, if someone still holds it; it is forgotten."""
        found = self._open.popitem(last=False)[1][0]()
        return [] if found is None else [found]
