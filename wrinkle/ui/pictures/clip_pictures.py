"""Small pictures of clips, read in the background for source pictures and source strips."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from typing import NamedTuple

import cv2
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage

from wrinkle.core.jobs import Jobs, Urgency, sentence_for
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.render.frames import ScreenFrame, screen_frame
from wrinkle.core.render.material import FrameSource
from wrinkle.core.store import Store
from wrinkle.library.picture_strips import clip_picture_path, keep_strip, read_strip
from wrinkle.media.clip import Clip
from wrinkle.ui.shared.qimages import wrapped

_MOST_URGENT, _MOST = 12, 96
SMALL, _QUALITY = 220, 90
"""The longer side of pictures that are kept on disk, and how well."""
_FIRST = -1.0
"""They are read sooner than anything else is made."""


class _Key(NamedTuple):
    """Which picture of which clip, in which size."""

    clip: str
    number: int
    size: Size


class _Wanted:
    """Pictures that wait to be read: the newest first, the oldest dropped when there are many."""

    def __init__(
        self, urgency: Urgency, most: int, read: Callable[[_Key, FrameSource], Callable[[], None]]
    ) -> None:
        self._urgency = urgency
        self._most = most
        self._read = read
        self._waiting: OrderedDict[_Key, FrameSource] = OrderedDict()

    def ask(self, key: _Key, clip: FrameSource) -> None:
        self._waiting[key] = clip
        self._waiting.move_to_end(key)
        if len(self._waiting) > self._most:
            self._waiting.popitem(last=False)

    def urgency(self) -> tuple[int, float] | None:
        return (self._urgency, _FIRST) if self._waiting else None

    def rests_for(self) -> float | None:
        return None

    def take(self) -> Callable[[], None]:
        return self._read(*self._waiting.popitem())


class ClipPictures(QObject):
    """Pictures of clips by frame number and size; what was asked for last comes first.

    Signals:
        ready: some picture has arrived.
        failed: one sentence on what could not be read.
    """

    ready = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, jobs: Jobs, store: Store, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs = jobs
        self._store = store
        self._unreadable: set[_Key] = set()
        self._urgent = _Wanted(Urgency.LOOKED_AT, _MOST_URGENT, self._reading)
        self._later = _Wanted(Urgency.SOURCES, _MOST, self._reading)
        jobs.add(self._urgent)
        jobs.add(self._later)

    def get(self, clip: FrameSource, index: int, size: Size, urgent: bool = False) -> QImage | None:
        """The picture, or None and it is read; urgent ones come first."""
        key = _Key(clip.identity, index, size)
        found = self._store.frame(key)
        if isinstance(found, ScreenFrame):
            return wrapped(found)
        if key not in self._unreadable:
            with self._jobs.wake:
                (self._urgent if urgent else self._later).ask(key, clip)
                self._jobs.wake.notify_all()
        return None

    def close(self) -> None:
        """Nothing more is read."""
        self._jobs.remove(self._urgent)
        self._jobs.remove(self._later)

    def _reading(self, key: _Key, clip: FrameSource) -> Callable[[], None]:
        def read() -> None:
            try:
                picture = _picture(clip, key)
            except Exception as fault:  # noqa: BLE001 - a worker must not die without a word
                sentence = sentence_for(fault, f"A picture of {clip.name} cannot be read")
                self._jobs.deliver(lambda: self._fail(key, sentence))
            else:
                self._store.keep_frame(key, picture)
                self._jobs.deliver(self.ready.emit)

        return read

    def _fail(self, key: _Key, sentence: str) -> None:
        self._unreadable.add(key)
        self.failed.emit(sentence)


def _small(clip: Clip, key: _Key) -> Bytes8 | None:
    """A small picture from the disk, or made and kept there; None where it has clear parts."""
    place = clip_picture_path(clip.identity, key.number, key.size)
    found = read_strip(place, key.size)
    if found is None:
        made = clip.bytes8(key.number, key.size, aside=True)
        if made.shape[2] != 3:
            return None
        keep_strip(place, [made], _QUALITY)
        return made
    return found[0]


def _picture(clip: FrameSource, key: _Key) -> ScreenFrame:
    if not isinstance(clip, Clip):
        return screen_frame(clip.image(key.number, key.size))
    pixels = _small(clip, key) if max(key.size) <= SMALL else None
    if pixels is None:
        pixels = clip.bytes8(key.number, key.size, aside=True)
    code = cv2.COLOR_RGBA2BGRA if pixels.shape[2] == 4 else cv2.COLOR_RGB2BGRA
    return ScreenFrame(cv2.cvtColor(pixels, code), opaque=True)
