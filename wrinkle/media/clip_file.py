"""What a video file is: its facts and the exact time of each of its pictures.

The file's packets are read once for the list of presentation times, so that a number is looked up
and never guessed: variable frame rates and reordered frames come out right.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import count, islice, pairwise
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
from wrinkle.media.recovery import recovery_of

MOST_FRAMES = 1_000_000
"""Nine hours at 30 a second; the times of all of them are kept in memory."""


_LOOKED_AT = 60
_FASTEST = Fraction(1000)
"""Pictures a second; slow motion is filmed with more, and edited with far fewer."""
_PARTS = 16
"""Of a unit of time, for pictures that have the same one."""
_AHEAD = 4
"""Pictures by which decoding may be ahead of what is shown."""


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
    sounds: int
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
        clean: the number of the first whole picture after a key, where that is not its own.
        number: of the picture at a time.
    """

    facts: ClipFacts
    base: Fraction
    times: list[int]
    keys: list[int]
    orientation: Orientation
    counted: bool
    clean: dict[int, int] = field(default_factory=dict)
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
    misleading = packets.suspect and _are_misleading(path)
    counted = misleading or packets.ambiguous
    undecoded = 0
    times = packets.times
    if counted:
        times, undecoded = _spread_out(path, base, even=misleading)
    base = base / _PARTS if counted else base
    # Opened anew, and not wound back: in some files that leads past the first picture.
    container, stream = opened(path)
    with container:
        frames = (x for x in pictures(container, stream) if not x.is_corrupt)
        first = next(frames, None)
        if first is None or not times or not (first.width > 0 and first.height > 0):
            raise _pictureless(path)
        if first.pts is not None and not counted:
            # What comes before the first whole picture cannot be decoded.
            times = [time for time in times if time >= first.pts] or times
        facts = _facts(container, stream, first, times, packets, base, counted, undecoded)
    return ClipIndex(
        facts=facts,
        base=base,
        times=times,
        keys=packets.keys,
        orientation=orientation_of(first),
        counted=counted,
        clean=_clean_from(packets, times),
        number={time: number for number, time in enumerate(times)},
    )


def _spread_out(path: Path, base: Fraction, even: bool) -> tuple[list[int], int]:
    """A time for each picture of a file, in the order of decoding.

    What has the same time as the picture before comes a part of a unit later; what has none, or
    begins again, a usual step.

    Args:
        path: of the file.
        base: seconds of one unit.
        even: no picture says a time that is its own.

    Returns:
        The times, in parts of a unit, growing; and how many packets could not be decoded.
    """
    container, stream = opened(path)
    times: list[int] = []
    undecoded = count()
    with container:
        rate = stream.average_rate or stream.guessed_rate or Fraction(30)
        step = max(round(_PARTS / (rate * base)), 1)
        try:
            for frame in pictures(container, stream, lambda: next(undecoded)):
                said = frame.pts * _PARTS if frame.pts is not None and not even else None
                last = times[-1] if times else None
                if last is None:
                    times.append(said if said is not None else 0)
                elif said is not None and said > last:
                    times.append(said)
                else:
                    same = said is not None and said > last - _PARTS
                    times.append(last + (1 if same else step))
                if len(times) > MOST_FRAMES:
                    raise _too_long(path)
        except av.FFmpegError:
            # A file that was cut off is used as far as it goes.
            pass
    return times, next(undecoded)


def _clean_from(packets: _Packets, times: list[int]) -> dict[int, int]:
    """The numbers of the first whole pictures after some keys.

    What is told counts the pictures that others refer to; there may be as many between them.
    """
    return {
        key: bisect_left(times, key) + 2 * later + _AHEAD for key, later in packets.clean.items()
    }


def _are_misleading(path: Path) -> bool:
    """Whether decoded pictures come with times that are not theirs, as AVI gives reordered ones."""
    container, stream = opened(path)
    with container:
        times: list[int] = []
        # A file that was cut off is used as far as it goes.
        with suppress(av.FFmpegError):
            for frame in islice(pictures(container, stream), _LOOKED_AT):
                if frame.pts is not None and not frame.is_corrupt:
                    times.append(frame.pts)
    return any(after < before for before, after in pairwise(times))


@dataclass(frozen=True)
class _Packets:
    """What the packets of a file say.

    Attributes:
        times: of the pictures, in order.
        keys: of those that need no other one, in order.
        length: of the last one.
        missing: how many pictures the file promises that are not there.
        suspect: the file's kind has no times for the order of showing, or its pictures seem to be
            stored in that order although their kind need not be.
        ambiguous: pictures have no time, or one and the same, or times begin again.
        clean: for a key after which pictures come that are not whole yet: how many packets later
            they are.
    """

    times: list[int]
    keys: list[int]
    length: int
    missing: int
    suspect: bool
    ambiguous: bool
    clean: dict[int, int]


def _read_packets(path: Path, container: InputContainer, stream: VideoStream) -> _Packets:
    times: list[int] = []
    keys: list[int] = []
    clean: dict[int, int] = {}
    length = found = 0
    in_order, ambiguous = True, False
    last: int | None = None
    recovering = recovery_of(stream)
    try:
        for packet in container.demux(stream):
            if packet.size == 0 or packet.is_corrupt:
                continue
            found += 1
            time = packet.pts if packet.pts is not None else packet.dts
            if packet.is_discard:
                continue
            if packet.dts is not None:
                ambiguous = ambiguous or (last is not None and packet.dts < last)
                last = packet.dts
            if time is None:
                ambiguous = True
                continue
            in_order = in_order and (not times or time > times[-1])
            times.append(time)
            length = packet.duration or length
            if packet.is_keyframe:
                keys.append(time)
                later = recovering(packet)
                if later:
                    clean[time] = later
            if len(times) > MOST_FRAMES:
                raise _too_long(path)
    except av.FFmpegError:
        # A file that was cut off is used as far as it goes.
        pass
    if not found:
        raise _pictureless(path)
    ambiguous = ambiguous or len(set(times)) < len(times)
    reordered = bool(stream.codec_context.has_b_frames)
    suspect = container.format.name == "avi" or (in_order and reordered)
    missing = max(stream.frames - found, 0)
    return _Packets(
        sorted(set(times)), sorted(set(keys)) or times[:1], length,
        missing if missing > 1 else 0, suspect, ambiguous, clean,
    )  # fmt: skip


def _facts(
    container: InputContainer,
    stream: VideoStream,
    first: VideoFrame,
    times: list[int],
    packets: _Packets,
    base: Fraction,
    counted: bool,
    undecoded: int,
) -> ClipFacts:
    spread = times[-1] - times[0]
    steps = {b - a for a, b in pairwise(times)}
    rate = stream.average_rate or (Fraction(len(times) - 1) / (spread * base) if spread else None)
    if rate is None or rate <= 0:
        rate = Fraction(30)
    rate = min(Fraction(rate), _FASTEST)
    unit = _PARTS if counted else 1
    end = packets.length * unit or round(1 / (rate * base))
    width, height = first.width, first.height
    stretch = stream.sample_aspect_ratio
    if stretch and 0 < stretch != 1:
        width = max(1, round(width * stretch))
    stands = orientation_of(first)
    return ClipFacts(
        size=Size(height, width) if stands.on_its_side else Size(width, height),
        rate=FrameRate(Fraction(rate)),
        frame_count=len(times),
        duration=(spread + end) * base,
        codec=stream.codec_context.codec.name,
        # A coarse time base rounds equal steps to two neighbouring lengths.
        variable_rate=bool(steps) and max(steps) - min(steps) > unit,
        sounds=len(container.streams.audio),
        rotation=(-90 * stands.quarter_turns) % 360,
        notes=tuple(_notes(first, stream.frames, packets.missing, counted, undecoded)),
    )


def _notes(
    first: VideoFrame, promised: int, missing: int, counted: bool, undecoded: int
) -> Iterator[str]:
    if counted:
        yield "its pictures are counted one by one, since their times do not tell them apart"
    if undecoded:
        yield f"{undecoded} parts of it cannot be decoded and are left out"
    if missing:
        yield f"{missing} of its {promised} frames are missing"
    if first.interlaced_frame:
        yield "its two fields are made into whole pictures"
    if dynamic_range(first) is not None:
        yield "its high dynamic range is shown in the usual one"


def _too_long(path: Path) -> MediaError:
    return MediaError(f"{path.name} has more than {MOST_FRAMES} frames; use a shorter part of it.")


def _pictureless(path: Path) -> MediaError:
    return MediaError(f"{path.name} holds no picture that can be read; use a whole copy of it.")
