"""What happens to a lane at the cut: a jump of the value, a kink of its speed, and its mending."""

from __future__ import annotations

import math
from dataclasses import dataclass

from msgspec.structs import replace

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Bezier
from wrinkle.core.motion.track import CUT, IncomingHalf, Side, Track
from wrinkle.core.motion.values import Value, difference, discrete, parts

_SMALL = 1e-6
_NOTICED_SPEED = 0.02


@dataclass(frozen=True)
class SeamFault:
    """What breaks the motion at the cut.

    Attributes:
        jump: the step of the value there; nothing where carry on makes it on purpose.
        speeds: the change per second before and after, where they differ.
    """

    jump: Value | None
    speeds: tuple[Value, Value] | None


def seam_fault(track: Track, rest: Value) -> SeamFault | None:
    """What breaks the motion of a lane at the cut, if anything does."""
    if discrete(rest):
        return None
    before, after = track.at_seam(rest)
    step = difference(after, before)
    jumps = track.incoming is IncomingHalf.OWN and max(map(abs, parts(step))) > _SMALL
    speeds = (
        track.speed_at(CUT, rest, Side.OUTGOING),
        track.speed_at(CUT, rest, Side.INCOMING),
    )
    kinks = any(
        not math.isclose(a, b, rel_tol=_NOTICED_SPEED, abs_tol=_SMALL)
        for a, b in zip(parts(speeds[0]), parts(speeds[1]), strict=True)
    )
    if not jumps and not kinks:
        return None
    return SeamFault(step if jumps else None, speeds if kinks else None)


def met_at_cut(track: Track, rest: Value) -> Track:
    """The track with the incoming half beginning at the speed with which the outgoing one ends.

    The first incoming ease becomes a Bézier curve whose first handle has that slope; its second
    handle stays where it is one already.

    Raises:
        InputError: the incoming half is made from the outgoing one, has no keyframe to go to, or
            does not move by the number that has the speed.
    """
    if track.incoming is not IncomingHalf.OWN:
        raise InputError("The incoming half follows the outgoing one; make it its own first.")
    at_cut = [i for i, key in enumerate(track.keys) if key.time <= CUT]
    start = at_cut[-1] if at_cut else -1
    if start < 0 or start + 1 >= len(track.keys) or track.keys[start].time != CUT:
        raise InputError("Meeting at the cut needs a pin at the cut and one after it.")
    key, end = track.keys[start], track.keys[start + 1]
    way = parts(difference(end.value, key.value))
    speed = parts(track.speed_at(CUT, rest, Side.OUTGOING))
    main = max(range(len(way)), key=lambda part: abs(way[part]))
    if discrete(rest) or abs(way[main]) < _SMALL or not math.isfinite(speed[main]):
        raise InputError("The incoming half stands still or the speed is endless: nothing to meet.")
    slope = speed[main] * float(end.time - key.time) / way[main]
    old = key.ease if isinstance(key.ease, Bezier) else Bezier(1 / 3, 0.0, 2 / 3, 1.0)
    across = old.x1 if old.x1 > 0.0 else 1 / 3
    ease = Bezier(across, slope * across, old.x2, old.y2)
    keys = (*track.keys[:start], replace(key, ease=ease), *track.keys[start + 1 :])
    return Track(keys)
