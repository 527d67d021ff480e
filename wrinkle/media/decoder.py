"""Decoding: from the number of a picture to its pixels, going on where it was before."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from threading import Lock

import av
import numpy as np
from av.container.input import InputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from wrinkle.media.clip_file import ClipIndex
from wrinkle.media.container import opened, pictures

_HERE = -(1 << 62)
"""In the place of a time: from the picture that comes next."""
_STEPS_BACK = (1, 2, 4, 8)
"""Keyframes before the wanted picture; near the beginning all is decoded anew at last."""


class Decoder:
    """One place in a file that goes on from picture to picture.

    The file is open from the first use until ``close``, and again at the next one.
    """

    def __init__(self, path: Path, index: ClipIndex) -> None:
        self.lock = Lock()
        """Held by who decodes."""
        self._path = path
        self._index = index
        self._container: InputContainer | None = None
        self._stream: VideoStream | None = None
        self._frames: Iterator[tuple[int, VideoFrame]] | None = None
        self._next = 0
        self._missing: set[int] = set()

    def until(self, number: int) -> Iterator[tuple[int, VideoFrame]]:
        """The pictures on the way to one, and that one as the last, with their numbers.

        Where it cannot be found the last one is another, or there is none.

        Raises:
            MediaError: the file is not there any more.
        """
        for start in self._starts(number):
            reached = -1
            try:
                for reached, frame in self._from(start):
                    if reached > number:
                        # Where the file was entered its picture could not be decoded any more.
                        break
                    self._next = reached + 1
                    yield reached, frame
                    if reached == number:
                        return
            except (av.FFmpegError, OSError):
                pass
            self._frames = None
        # Looking for it once more would take as long again.
        self._missing.add(number)

    def _starts(self, number: int) -> Iterator[int | None]:
        """Where to begin so that a picture is found: as it stands, and ever further back.

        Gives times of keyframes, _HERE for going on, and None for the beginning of the file.
        """
        index = self._index
        if number in self._missing:
            return
        wanted = index.times[number]
        before = 0 if index.counted else bisect_right(index.keys, wanted)
        # Going on from the last frame beats a jump unless a keyframe lies in between.
        nearest = index.number.get(index.keys[before - 1], 0) if before else 0
        if self._frames is not None and nearest <= self._next <= number:
            yield _HERE
        for back in _STEPS_BACK:
            if before - back > 0:
                yield index.keys[before - back]
        if before <= _STEPS_BACK[-1]:
            yield None

    def close(self) -> None:
        """Lets go of the file, and of what is known of its faults."""
        with self.lock:
            self._missing.clear()
            self._frames = None
            self._leave()

    def _leave(self) -> None:
        # The stream holds the decoder, with its threads and its pictures.
        self._stream = None
        if self._container is not None:
            self._container.close()
            self._container = None

    @property
    def is_open(self) -> bool:
        """Whether it holds the file."""
        return self._container is not None

    def _from(self, start: int | None) -> Iterator[tuple[int, VideoFrame]]:
        if self._frames is None or start != _HERE:
            self._frames = self._entered(start)
        return self._frames

    def _entered(self, start: int | None) -> Iterator[tuple[int, VideoFrame]]:
        index = self._index
        if self._container is None or self._stream is None or start is None:
            self._leave()
            self._container, self._stream = opened(self._path)
        if start is not None:
            self._container.seek(start, stream=self._stream)
        counted, clean = 0, index.clean.get(start, 0) if start is not None else 0
        passed = _passed if index.counted else None
        for frame in pictures(self._container, self._stream, passed):
            # Made up by the decoder from what is missing.
            if frame.is_corrupt and not index.counted:
                continue
            if index.counted:
                yield counted, frame
                counted += 1
                if counted >= len(index.times):
                    return
                continue
            number = index.number.get(frame.pts) if frame.pts is not None else None
            # Before the clean one a picture is put together from parts that are not there.
            if number is not None and number >= clean:
                yield number, frame


def _passed() -> None:
    """Was counted, and said, when the file was read."""


def own_copy(frame: VideoFrame) -> VideoFrame:
    """The same picture in memory of its own.

    A decoder keeps the memory of all pictures that are held at a time, until it is closed: of each
    clip that would be as much as is ever looked at.
    """
    if frame.interlaced_frame:
        # That cannot be said of a copy, and has to be known.
        return frame
    made = VideoFrame(frame.width, frame.height, frame.format.name)
    for own, plane in zip(made.planes, frame.planes, strict=True):
        rows = own.buffer_size // own.line_size
        if rows * own.line_size != own.buffer_size or plane.buffer_size < rows * plane.line_size:
            return frame
        wide = min(own.line_size, plane.line_size)
        goal = np.frombuffer(memoryview(own), np.uint8).reshape(rows, own.line_size)
        given = np.frombuffer(memoryview(plane), np.uint8, rows * plane.line_size)
        goal[:, :wide] = given.reshape(rows, plane.line_size)[:, :wide]
    made.colorspace, made.color_range = frame.colorspace, frame.color_range
    made.color_primaries, made.color_trc = frame.color_primaries, frame.color_trc
    return made


@dataclass(frozen=True, eq=False)
class Decoded:
    """A decoded picture as the file has it: to be converted when its size is known."""

    frame: VideoFrame

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return sum(plane.buffer_size for plane in self.frame.planes)
