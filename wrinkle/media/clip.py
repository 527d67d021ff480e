"""A clip: the pictures of a video file by exact number.

The file's packets are read once for the list of presentation times, so that a number is looked up
and never guessed: variable frame rates and reordered frames come out right.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from threading import RLock

import av
import numpy as np
from av.video.frame import VideoFrame
from av.video.reformatter import Colorspace, Interpolation

from wrinkle.core.cache import BoundedCache
from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Bytes8, Image, Size, from_bytes8
from wrinkle.core.time.rate import FrameRate

_DECODED: BoundedCache[tuple[str, int, Size], Bytes8] = BoundedCache(
    384 << 20, lambda picture: picture.nbytes
)
# Frames passed on the way to the one that was asked for are kept: stepping back finds them.
_KEPT_ON_THE_WAY = 40
_PICTURE_FORMATS = ("image2", "_pipe")
_TEXT_FORMATS = ("tty", "ass", "srt", "webvtt")
# Common practice: video without a colour tag is BT.709 from 720 lines on, BT.601 below.
_HD_LINES = 720
_UNTAGGED = 2


@dataclass(frozen=True)
class ClipFacts:
    """What a clip file is, as far as it can be told without its pictures."""

    size: Size
    rate: FrameRate
    frame_count: int
    duration: Fraction
    codec: str
    variable_rate: bool
    has_sound: bool
    rotation: int


class Clip:
    """Pictures of a video file. Safe to use from several threads.

    Raises:
        MediaError: the file is no video that can be read; names the file and the way out.
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        self._lock = RLock()
        self._frames: Iterator[VideoFrame] | None = None
        self._next = 0
        try:
            self._container = av.open(str(path))
            self._open_stream()
        except MediaError:
            raise
        except FileNotFoundError:
            raise MediaError(f"{path.name} cannot be opened: there is no such file.") from None
        except IsADirectoryError:
            raise MediaError(f"{path.name} is a folder; choose a video file.") from None
        except (av.FFmpegError, OSError, ValueError):
            raise MediaError(
                f"{path.name} cannot be read as a video; it is damaged, cut short or of another "
                "kind. Use a whole copy, or convert it to MP4."
            ) from None
        status = path.stat()
        self._identity = f"{path.resolve()}:{status.st_mtime_ns}:{status.st_size}"

    def _open_stream(self) -> None:
        name = self._path.name
        kind = self._container.format.name
        if self._path.stat().st_size == 0:
            raise MediaError(f"{name} is empty; use a whole copy of it.")
        if any(mark in kind for mark in _PICTURE_FORMATS):
            raise MediaError(f"{name} is a picture, not a clip; a slot for a clip needs a video.")
        if kind in _TEXT_FORMATS or not self._container.streams.video:
            raise MediaError(f"{name} has no pictures in it; choose a video file.")
        self._stream = self._container.streams.video[0]
        self._stream.thread_type = "SLICE"
        self._read_times()
        first = next(iter(self._container.decode(self._stream)), None)
        if first is None or first.width == 0 or first.height == 0:
            raise MediaError(f"{name} holds no picture that can be read; use a whole copy of it.")
        self._rotation = round(first.rotation / 90.0) % 4
        self._facts = self._describe(first)

    def _read_times(self) -> None:
        """Fills the list of presentation times, in units of the stream's time base."""
        promised = self._stream.frames
        times, keys, length = [], [], 0
        for packet in self._container.demux(self._stream):
            if packet.pts is None or packet.is_discard or packet.size == 0:
                continue
            times.append(packet.pts)
            length = packet.duration or length
            if packet.is_keyframe:
                keys.append(packet.pts)
        if not times:
            raise MediaError(
                f"{self._path.name} holds no picture that can be read; use a whole copy of it."
            )
        if len(times) < promised - 1:
            raise MediaError(
                f"{self._path.name} is cut short: {len(times)} of its {promised} frames are "
                "there. Use a whole copy of it."
            )
        self._times = sorted(times)
        self._keys = sorted(keys) or [self._times[0]]
        self._number = {time: number for number, time in enumerate(self._times)}
        self._last_length = length
        self._container.seek(self._times[0], stream=self._stream)

    def _describe(self, first: VideoFrame) -> ClipFacts:
        stream, base = self._stream, self._stream.time_base or Fraction(1, 90000)
        count = len(self._times)
        spread = self._times[-1] - self._times[0]
        steps = {b - a for a, b in zip(self._times, self._times[1:], strict=False)}
        rate = stream.average_rate or (Fraction(count - 1) / (spread * base) if spread else None)
        if rate is None or not 0 < rate <= 1000:
            rate = Fraction(30)
        end = self._last_length or round(1 / (rate * base))
        width, height = first.width, first.height
        stretch = stream.sample_aspect_ratio
        if stretch and 0 < stretch != 1:
            width = max(1, round(width * stretch))
        size = Size(width, height) if self._rotation % 2 == 0 else Size(height, width)
        return ClipFacts(
            size=size,
            rate=FrameRate(Fraction(rate)),
            frame_count=count,
            duration=(spread + end) * base,
            codec=stream.codec_context.codec.name,
            # A coarse time base rounds equal steps to two neighbouring lengths.
            variable_rate=bool(steps) and max(steps) - min(steps) > 1,
            has_sound=bool(self._container.streams.audio),
            rotation=(-90 * self._rotation) % 360,
        )

    @property
    def path(self) -> Path:
        """The file."""
        return self._path

    @property
    def name(self) -> str:
        """The file's name without its ending."""
        return self._path.stem

    @property
    def identity(self) -> str:
        """The file with its state."""
        return self._identity

    @property
    def facts(self) -> ClipFacts:
        """What the file is."""
        return self._facts

    @property
    def size(self) -> Size:
        """As it is to be seen: turned and with square pixels."""
        return self._facts.size

    @property
    def duration(self) -> Fraction:
        """In seconds, the last frame's length included."""
        return self._facts.duration

    def index_at(self, seconds: Fraction) -> int:
        """The frame shown at a time from the start, clamped to the first and the last."""
        base = self._stream.time_base or Fraction(1, 90000)
        # Half a unit of tolerance: times in the file are rounded to whole units.
        time = self._times[0] + math.floor(seconds / base + Fraction(1, 2))
        return min(max(bisect_right(self._times, time) - 1, 0), len(self._times) - 1)

    def following(self, seconds: Fraction) -> tuple[int, float] | None:
        """The frame after the one at a time, and how far the time is on its way to it."""
        base = self._stream.time_base or Fraction(1, 90000)
        index = self.index_at(seconds)
        if index + 1 >= len(self._times):
            return None
        start, end = self._times[index] - self._times[0], self._times[index + 1] - self._times[0]
        share = float((seconds / base - start) / (end - start))
        return (index + 1, min(share, 1.0)) if share > 1e-3 else None

    def image(self, index: int, size: Size) -> Image:
        """Frame ``index`` scaled to ``size``, linear.

        Raises:
            MediaError: the frame cannot be decoded.
        """
        return from_bytes8(self.bytes8(index, size))

    def bytes8(self, index: int, size: Size) -> Bytes8:
        """Frame ``index`` scaled to ``size`` as encoded 8-bit RGB or straight RGBA."""
        index = min(max(index, 0), len(self._times) - 1)
        found = _DECODED.get((self._identity, index, size))
        if found is not None:
            return found
        with self._lock:
            found = _DECODED.get((self._identity, index, size))
            return found if found is not None else self._decode(index, size)

    def close(self) -> None:
        """Lets go of the file."""
        with self._lock:
            self._frames = None
            self._container.close()

    def _decode(self, index: int, size: Size) -> Bytes8:
        wanted = self._times[index]
        key = self._keys[max(0, bisect_right(self._keys, wanted) - 1)]
        try:
            # Going on from the last frame beats a jump unless a keyframe lies in between.
            if self._frames is None or not self._number[key] <= self._next <= index:
                self._container.seek(key, stream=self._stream)
                self._frames = iter(self._container.decode(self._stream))
            for frame in self._frames:
                number = self._number.get(frame.pts) if frame.pts is not None else None
                if number is None:
                    continue
                self._next = number + 1
                if number >= index - _KEPT_ON_THE_WAY:
                    picture = self._converted(frame, size)
                    _DECODED.put((self._identity, number, size), picture)
                    if number >= index:
                        return picture
        except (av.FFmpegError, OSError):
            pass
        self._frames = None
        raise MediaError(
            f"Frame {index} of {self._path.name} cannot be read; use a whole copy of the file."
        )

    def _converted(self, frame: VideoFrame, size: Size) -> Bytes8:
        upright = size if self._rotation % 2 == 0 else Size(size.height, size.width)
        has_alpha = any(component.is_alpha for component in frame.format.components)
        space = int(frame.colorspace)
        if space == _UNTAGGED:
            hd = min(frame.width, frame.height) >= _HD_LINES
            space = int(Colorspace.ITU709 if hd else Colorspace.ITU601)
        converted = frame.reformat(
            width=upright.width,
            height=upright.height,
            format="rgba" if has_alpha else "rgb24",
            src_colorspace=space,
            interpolation=Interpolation.AREA
            if upright.width < frame.width
            else Interpolation.BICUBIC,
        ).to_ndarray()
        return np.ascontiguousarray(np.rot90(converted, self._rotation))
