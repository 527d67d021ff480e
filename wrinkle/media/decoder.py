"""Decoding: from the number of a picture to its pixels, going on where it was before."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from threading import Lock, local

import av
import numpy as np
from av.container.input import InputContainer
from av.video.frame import VideoFrame
from av.video.reformatter import Colorspace, Interpolation, VideoReformatter

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.media.clip_file import ClipIndex, opened

# Common practice: video without a colour tag is BT.709 from 720 lines on, BT.601 below.
_HD_LINES = 720
_UNTAGGED = 2


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
        self._frames: Iterator[VideoFrame] | None = None
        self._next = 0

    def until(self, number: int) -> Iterator[tuple[int, VideoFrame]]:
        """The pictures on the way to one, and that one as the last, with their numbers.

        Raises:
            MediaError: the file is not there any more.
        """
        index = self._index
        wanted = index.times[number]
        key = index.keys[max(0, bisect_right(index.keys, wanted) - 1)]
        try:
            # Going on from the last frame beats a jump unless a keyframe lies in between.
            if self._frames is None or not index.number[key] <= self._next <= number:
                self._frames = self._from(key)
            for frame in self._frames:
                found = index.number.get(frame.pts) if frame.pts is not None else None
                if found is None:
                    continue
                self._next = found + 1
                yield found, frame
                if found >= number:
                    return
        except (av.FFmpegError, OSError):
            pass
        self._frames = None

    def close(self) -> None:
        """Lets go of the file."""
        with self.lock:
            self._frames = None
            if self._container is not None:
                self._container.close()
                self._container = None

    @property
    def is_open(self) -> bool:
        """Whether it holds the file."""
        return self._container is not None

    def _from(self, key: int) -> Iterator[VideoFrame]:
        if self._container is None:
            self._container, _ = opened(self._path)
        stream = self._container.streams.video[0]
        self._container.seek(key, stream=stream)
        return iter(self._container.decode(stream))


@dataclass(frozen=True, eq=False)
class Decoded:
    """A decoded picture as the file has it: to be converted when its size is known."""

    frame: VideoFrame

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return sum(plane.buffer_size for plane in self.frame.planes)


class _Converters(local):
    """A converter for each thread: it keeps what it has worked out for a kind of picture."""

    def __init__(self) -> None:
        self.own = VideoReformatter()


_CONVERTERS = _Converters()


def converted(frame: VideoFrame, size: Size, quarter_turns: int) -> Bytes8:
    """A decoded picture upright and scaled, as encoded 8-bit RGB or straight RGBA.

    Raises:
        MediaError: it cannot be converted.
    """
    upright = size if quarter_turns % 2 == 0 else Size(size.height, size.width)
    has_alpha = any(component.is_alpha for component in frame.format.components)
    space = int(frame.colorspace)
    if space == _UNTAGGED:
        hd = min(frame.width, frame.height) >= _HD_LINES
        space = int(Colorspace.ITU709 if hd else Colorspace.ITU601)
    try:
        pixels = _CONVERTERS.own.reformat(
            frame,
            width=upright.width,
            height=upright.height,
            format="rgba" if has_alpha else "rgb24",
            src_colorspace=space,
            interpolation=Interpolation.AREA
            if upright.width < frame.width
            else Interpolation.BICUBIC,
        ).to_ndarray()
    except (av.FFmpegError, ValueError) as fault:
        raise MediaError(f"A picture cannot be converted: {fault}.") from None
    return np.ascontiguousarray(np.rot90(pixels, quarter_turns))
