"""What a video file is: its facts and the exact time of each of its pictures.

The file's packets are read once for the list of presentation times, so that a number is looked up
and never guessed: variable frame rates and reordered frames come out right.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import av
from av.container.input import InputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from wrinkle.core.errors import MediaError
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate

_PICTURE_FORMATS = ("image2", "_pipe")
_TEXT_FORMATS = ("tty", "ass", "srt", "webvtt")


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


@dataclass(frozen=True, eq=False)
class ClipIndex:
    """Where the pictures of a file are.

    Attributes:
        base: seconds of one unit of time.
        times: of all pictures, in units, in order.
        keys: the times of those that need no other one.
        quarter_turns: how often a picture is turned, counter-clockwise, to stand upright.
        number: of the picture at a time.
    """

    facts: ClipFacts
    base: Fraction
    times: list[int]
    keys: list[int]
    quarter_turns: int
    number: dict[int, int] = field(default_factory=dict)


def opened(path: Path) -> tuple[InputContainer, VideoStream]:
    """The file, and the stream of its pictures.

    Raises:
        MediaError: it is no video that can be read; names it and the way out.
    """
    try:
        container = av.open(str(path))
        stream = _picture_stream(path, container)
    except MediaError:
        raise
    except FileNotFoundError:
        raise MediaError(f"{path.name} cannot be opened: there is no such file.") from None
    except IsADirectoryError:
        raise MediaError(f"{path.name} is a folder; choose a video file.") from None
    except (av.FFmpegError, OSError, ValueError):
        raise _unreadable(path) from None
    return container, stream


def read_index(path: Path) -> ClipIndex:
    """Reads a whole file once, without its pictures but the first.

    Raises:
        MediaError: it is no video that can be read; names it and the way out.
    """
    container, stream = opened(path)
    try:
        with container:
            times, keys, length = _packet_times(path, container, stream)
            container.seek(min(times), stream=stream)
            first = next(iter(container.decode(stream)), None)
            if first is None or first.width == 0 or first.height == 0:
                raise _pictureless(path)
            base = stream.time_base or Fraction(1, 90000)
            ordered = sorted(times)
            facts = _facts(container, stream, first, ordered, length, base)
    except (av.FFmpegError, OSError, ValueError) as fault:
        raise fault if isinstance(fault, MediaError) else _unreadable(path) from None
    return ClipIndex(
        facts=facts,
        base=base,
        times=ordered,
        keys=sorted(keys) or ordered[:1],
        quarter_turns=_quarter_turns(first),
        number={time: number for number, time in enumerate(ordered)},
    )


def _picture_stream(path: Path, container: InputContainer) -> VideoStream:
    name, kind = path.name, container.format.name
    if path.stat().st_size == 0:
        raise MediaError(f"{name} is empty; use a whole copy of it.")
    if any(mark in kind for mark in _PICTURE_FORMATS):
        raise MediaError(f"{name} is a picture, not a clip; a slot for a clip needs a video.")
    if kind in _TEXT_FORMATS or not container.streams.video:
        raise MediaError(f"{name} has no pictures in it; choose a video file.")
    stream = container.streams.video[0]
    stream.thread_type = "SLICE"
    return stream


def _packet_times(
    path: Path, container: InputContainer, stream: VideoStream
) -> tuple[list[int], list[int], int]:
    """The times of all pictures and of the keyframes, and the length of the last one."""
    promised = stream.frames
    times: list[int] = []
    keys: list[int] = []
    length = 0
    for packet in container.demux(stream):
        if packet.pts is None or packet.is_discard or packet.size == 0:
            continue
        times.append(packet.pts)
        length = packet.duration or length
        if packet.is_keyframe:
            keys.append(packet.pts)
    if not times:
        raise _pictureless(path)
    if len(times) < promised - 1:
        raise MediaError(
            f"{path.name} is cut short: {len(times)} of its {promised} frames are there. Use a "
            "whole copy of it."
        )
    return times, keys, length


def _facts(
    container: InputContainer,
    stream: VideoStream,
    first: VideoFrame,
    times: list[int],
    last_length: int,
    base: Fraction,
) -> ClipFacts:
    count = len(times)
    spread = times[-1] - times[0]
    steps = {b - a for a, b in pairwise(times)}
    rate = stream.average_rate or (Fraction(count - 1) / (spread * base) if spread else None)
    if rate is None or not 0 < rate <= 1000:
        rate = Fraction(30)
    end = last_length or round(1 / (rate * base))
    width, height = first.width, first.height
    stretch = stream.sample_aspect_ratio
    if stretch and 0 < stretch != 1:
        width = max(1, round(width * stretch))
    turns = _quarter_turns(first)
    return ClipFacts(
        size=Size(width, height) if turns % 2 == 0 else Size(height, width),
        rate=FrameRate(Fraction(rate)),
        frame_count=count,
        duration=(spread + end) * base,
        codec=stream.codec_context.codec.name,
        # A coarse time base rounds equal steps to two neighbouring lengths.
        variable_rate=bool(steps) and max(steps) - min(steps) > 1,
        has_sound=bool(container.streams.audio),
        rotation=(-90 * turns) % 360,
    )


def _quarter_turns(first: VideoFrame) -> int:
    return round(first.rotation / 90.0) % 4


def _unreadable(path: Path) -> MediaError:
    return MediaError(
        f"{path.name} cannot be read as a video; it is damaged, cut short or of another kind. "
        "Use a whole copy, or convert it to MP4."
    )


def _pictureless(path: Path) -> MediaError:
    return MediaError(f"{path.name} holds no picture that can be read; use a whole copy of it.")
