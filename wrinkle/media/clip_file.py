"""What a video file is: its facts and the exact time of each of its pictures.

The file's packets are read once for the list of presentation times, so that a number is looked up
and never guessed: variable frame rates and reordered frames come out right.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import islice, pairwise
from pathlib import Path

import av
from av.container.input import InputContainer
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from wrinkle.core.errors import MediaError, told_as
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.colours import dynamic_range
from wrinkle.media.container import opened, pictures, unreadable
from wrinkle.media.orientation import Orientation, orientation_of

MOST_FRAMES = 1_000_000
"""Nine hours at 30 a second; the times of all of them are kept in memory."""


_LOOKED_AT = 60


@dataclass(frozen=True)
class ClipFacts:
    """What a clip file is, as far as it can be told without its pictures.

    Attributes:
        size: as it is to be seen.
        rotation: in degrees, clockwise, as the file asks for.
        notes: what a person should know of how it is read, each the rest of a sentence.
    """

    size: Size
    rate: FrameRate
    frame_count: int
    duration: Fraction
    codec: str
    variable_rate: bool
    has_sound: bool
    rotation: int
    notes: tuple[str, ...] = ()


@dataclass(frozen=True, eq=False)
class ClipIndex:
    """Where the pictures of a file are.

    Attributes:
        base: seconds of one unit of time.
        times: of all pictures, in units, in order.
        keys: the times of those that need no other one.
        orientation: how a decoded picture stands.
        counted: a decoded picture says no time that could be trusted; pictures are counted from
            the beginning.
        number: of the picture at a time.
    """

    facts: ClipFacts
    base: Fraction
    times: list[int]
    keys: list[int]
    orientation: Orientation
    counted: bool
    number: dict[int, int] = field(default_factory=dict)


def read_index(path: Path) -> ClipIndex:
    """Reads a whole file once, without its pictures but the first.

    Raises:
        MediaError: it is no video that can be read; names it and the way out.
    """
    with told_as(lambda: unreadable(path)):
        return _index(path)


def _index(path: Path) -> ClipIndex:
    container, stream = opened(path)
    with container:
        packets = _read_packets(path, container, stream)
        base = stream.time_base or Fraction(1, 90000)
    # Opened anew, and not wound back: in some files that leads past the first picture.
    container, stream = opened(path)
    with container:
        frames = (x for x in pictures(container, stream) if not x.is_corrupt)
        first = next(frames, None)
        if first is None or not (first.width > 0 and first.height > 0):
            raise _pictureless(path)
        times = packets.times
        counted = packets.in_order and _out_of_order(first, frames)
        if first.pts is not None and not counted:
            # What comes before the first whole picture cannot be decoded.
            times = [time for time in times if time >= first.pts] or times
        facts = _facts(container, stream, first, times, packets, base)
    return ClipIndex(
        facts=facts,
        base=base,
        times=times,
        keys=packets.keys,
        orientation=orientation_of(first),
        counted=counted,
        number={time: number for number, time in enumerate(times)},
    )


def _out_of_order(first: VideoFrame, following: Iterator[VideoFrame]) -> bool:
    """Whether decoded pictures come with times that are not theirs, as AVI gives reordered ones."""
    times = [x.pts for x in (first, *islice(following, _LOOKED_AT)) if x.pts is not None]
    return any(after < before for before, after in pairwise(times))


@dataclass(frozen=True)
class _Packets:
    """What the packets of a file say.

    Attributes:
        times: of the pictures, in order.
        keys: of those that need no other one, in order.
        length: of the last one.
        missing: how many pictures the file promises that are not there.
        in_order: the pictures seem to be stored in the order in which they are shown, although
            the file's kind of pictures need not be.
    """

    times: list[int]
    keys: list[int]
    length: int
    missing: int
    in_order: bool


def _read_packets(path: Path, container: InputContainer, stream: VideoStream) -> _Packets:
    times: list[int] = []
    keys: list[int] = []
    length = found = 0
    in_order = True
    try:
        for packet in container.demux(stream):
            if packet.size == 0 or packet.is_corrupt:
                continue
            found += 1
            time = packet.pts if packet.pts is not None else packet.dts
            if time is None or packet.is_discard:
                continue
            in_order = in_order and (not times or time > times[-1])
            times.append(time)
            length = packet.duration or length
            if packet.is_keyframe:
                keys.append(time)
            if len(times) > MOST_FRAMES:
                raise MediaError(
                    f"{path.name} has more than {MOST_FRAMES} frames; use a shorter part of it."
                )
    except av.FFmpegError:
        # A file that was cut off is used as far as it goes.
        pass
    if not times:
        raise _pictureless(path)
    missing = max(stream.frames - found, 0)
    return _Packets(
        sorted(set(times)), sorted(set(keys)) or times[:1], length,
        missing if missing > 1 else 0, in_order and bool(stream.codec_context.has_b_frames),
    )  # fmt: skip


def _facts(
    container: InputContainer,
    stream: VideoStream,
    first: VideoFrame,
    times: list[int],
    packets: _Packets,
    base: Fraction,
) -> ClipFacts:
    count = len(times)
    spread = times[-1] - times[0]
    steps = {b - a for a, b in pairwise(times)}
    rate = stream.average_rate or (Fraction(count - 1) / (spread * base) if spread else None)
    if rate is None or not 0 < rate <= 1000:
        rate = Fraction(30)
    end = packets.length or round(1 / (rate * base))
    width, height = first.width, first.height
    stretch = stream.sample_aspect_ratio
    if stretch and 0 < stretch != 1:
        width = max(1, round(width * stretch))
    stands = orientation_of(first)
    return ClipFacts(
        size=Size(height, width) if stands.on_its_side else Size(width, height),
        rate=FrameRate(Fraction(rate)),
        frame_count=count,
        duration=(spread + end) * base,
        codec=stream.codec_context.codec.name,
        # A coarse time base rounds equal steps to two neighbouring lengths.
        variable_rate=bool(steps) and max(steps) - min(steps) > 1,
        has_sound=bool(container.streams.audio),
        rotation=(-90 * stands.quarter_turns) % 360,
        notes=tuple(_notes(first, stream.frames, packets.missing)),
    )


def _notes(first: VideoFrame, promised: int, missing: int) -> Iterator[str]:
    if missing:
        yield f"{missing} of its {promised} frames are missing"
    if first.interlaced_frame:
        yield "its two fields are made into whole pictures"
    if dynamic_range(first) is not None:
        yield "its high dynamic range is shown in the usual one"


def _pictureless(path: Path) -> MediaError:
    return MediaError(f"{path.name} holds no picture that can be read; use a whole copy of it.")
