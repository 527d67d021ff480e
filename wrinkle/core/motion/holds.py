"""A hold is a cut in time: an open shutter does not see across it."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from wrinkle.core.motion.ease_curves import Hold, Jump, Steps
from wrinkle.core.motion.track import IncomingHalf, Keyframe, Track


class _Break(NamedTuple):
    """Where a value jumps.

    Attributes:
        time: of the jump.
        late: the value at that very time is still the one from before.
        stepped: it stands still on both sides, and not on the side of the hold alone.
    """

    time: Fraction
    late: bool
    stepped: bool


def unbroken(track: Track, time: Fraction, frame: Fraction) -> Fraction:
    """The time at which a lane has the value that a frame's shutter sees of it.

    Args:
        track: the lane.
        time: an instant of the shutter, in seconds from the cut.
        frame: the time of the frame.

    Returns:
        ``time`` itself where the lane does not jump between the two; else a time on the frame's
        side of the jump that is next to the frame, at which the value is that beside the jump.
    """
    if time == frame or not any(isinstance(key.ease, Hold | Steps) for key in track.keys):
        return time
    breaks = _breaks(track)
    if time > frame:
        found = next((x for x in breaks if _parts(x, frame, time)), None)
        return time if found is None else _before(found, frame, _edges(track, breaks))
    found = next((x for x in reversed(breaks) if _parts(x, time, frame)), None)
    return time if found is None else _after(found, frame, _edges(track, breaks))


def _parts(jump: _Break, earlier: Fraction, later: Fraction) -> bool:
    """Whether a jump lies between two times, so that they have values of its two sides."""
    if jump.late:
        return earlier <= jump.time < later
    return earlier < jump.time <= later


def _before(jump: _Break, frame: Fraction, edges: list[Fraction]) -> Fraction:
    if jump.late and not jump.stepped:
        return jump.time
    times = [x for x in edges if x < jump.time]
    start = max(frame, times[-1]) if times else frame
    return (start + jump.time) / 2


def _after(jump: _Break, frame: Fraction, edges: list[Fraction]) -> Fraction:
    if not jump.late and not jump.stepped:
        return jump.time
    times = [x for x in edges if x > jump.time]
    end = min(frame, times[0]) if times else frame
    return (jump.time + end) / 2


def _edges(track: Track, breaks: list[_Break]) -> list[Fraction]:
    """All times at which something begins or ends."""
    times = {x.time for x in breaks} | {key.time for key in track.keys}
    if track.incoming is not IncomingHalf.OWN:
        times |= {-key.time for key in track.keys}
    return sorted(times)


def _breaks(track: Track) -> list[_Break]:
    """Where a lane jumps, in the order of time."""
    found: list[_Break] = []
    for start, end in zip(track.keys, track.keys[1:], strict=False):
        found += _within(start, end)
    if track.incoming is not IncomingHalf.OWN:
        # Seen backwards, the value of the other side is there a moment longer.
        found += [_Break(-x.time, not x.late, x.stepped) for x in found]
    return sorted(found)


def _within(start: Keyframe, end: Keyframe) -> list[_Break]:
    ease = start.ease
    if isinstance(ease, Hold):
        return [_Break(start.time, True, False) if ease.early else _Break(end.time, False, False)]
    if not isinstance(ease, Steps):
        return []
    first = 0 if ease.jump in (Jump.START, Jump.BOTH) else 1
    last = ease.count if ease.jump in (Jump.END, Jump.BOTH) else ease.count - 1
    length = end.time - start.time
    return [
        _Break(start.time + length * n / ease.count, n == 0, True) for n in range(first, last + 1)
    ]
