"""Eases that are drawn: held, even, by handles, in steps, by a table, with a break."""

from __future__ import annotations

import math
from bisect import bisect_right
from enum import Enum
from functools import lru_cache
from itertools import pairwise

import msgspec

from wrinkle.core.errors import InputError


class Jump(Enum):
    """At which ends of the time a step is taken."""

    START = "start"
    END = "end"
    NONE = "none"
    BOTH = "both"


class Hold(msgspec.Struct, frozen=True, tag="hold", tag_field="kind", forbid_unknown_fields=True):
    """Stays at the start value and changes at the next keyframe; ``early`` changes at once."""

    early: bool = False

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if self.early:
            return 1.0 if share > 0.0 else 0.0
        return 1.0 if share >= 1.0 else 0.0

    def slope(self, share: float) -> float:
        """Nothing moves while it holds."""
        return 0.0

    def reversed(self) -> Hold:
        """The ease that is this one run backwards from the end."""
        return Hold(early=not self.early)


class Linear(
    msgspec.Struct, frozen=True, tag="linear", tag_field="kind", forbid_unknown_fields=True
):
    """An even pace."""

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        return min(1.0, max(0.0, share))

    def slope(self, share: float) -> float:
        """The pace, always the same."""
        return 1.0

    def reversed(self) -> Linear:
        """The ease that is this one run backwards from the end."""
        return self


class Bezier(
    msgspec.Struct, frozen=True, tag="bezier", tag_field="kind", forbid_unknown_fields=True
):
    """A cubic Bézier curve from (0, 0) to (1, 1) with two handles.

    ``x1`` and ``x2`` are shares of time within 0…1, so that each time has one value; ``y1`` and
    ``y2`` are shares of the way and may lie outside 0…1 (overshoot).

    Raises:
        InputError: a handle is not finite, or its time is outside 0…1.

    Source: CSS Easing Functions Level 1, section 2.2, cubic-bezier().
    """

    x1: float
    y1: float
    x2: float
    y2: float

    def __post_init__(self) -> None:
        if not all(math.isfinite(v) for v in (self.x1, self.y1, self.x2, self.y2)):
            raise InputError("The handles of an ease must be finite numbers.")
        if not (0.0 <= self.x1 <= 1.0 and 0.0 <= self.x2 <= 1.0):
            raise InputError(
                f"The handles of an ease must lie within 0 and 1 in time, not {self.x1:g} and "
                f"{self.x2:g}."
            )

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        return _bezier(self.y1, self.y2, self.parameter(share))

    def slope(self, share: float) -> float:
        """The pace at ``share`` of the time; infinite where the curve stands upright."""
        share = min(max(share, 0.0), 1.0)
        if share in (0.0, 1.0):
            return self._end_slope(share)
        parameter = self.parameter(share)
        time = _bezier_slope(self.x1, self.x2, parameter)
        way = _bezier_slope(self.y1, self.y2, parameter)
        return way / time if time > 0.0 else math.copysign(math.inf, way)

    def _end_slope(self, share: float) -> float:
        """The pace at an end: towards the nearest control point that is not the end itself."""
        ends = ((self.x1, self.y1), (self.x2, self.y2), (1.0, 1.0))
        if share == 1.0:
            ends = (
                (1.0 - self.x2, 1.0 - self.y2),
                (1.0 - self.x1, 1.0 - self.y1),
                (1.0, 1.0),
            )
        x, y = next(end for end in ends if end != (0.0, 0.0))
        return y / x if x > 0.0 else math.copysign(math.inf, y)

    def reversed(self) -> Bezier:
        """The ease that is this one run backwards from the end."""
        return Bezier(1.0 - self.x2, 1.0 - self.y2, 1.0 - self.x1, 1.0 - self.y1)

    def parameter(self, share: float) -> float:
        """The curve's parameter at which its time is ``share``."""
        return _parameter(self.x1, self.x2, share)


class Steps(msgspec.Struct, frozen=True, tag="steps", tag_field="kind", forbid_unknown_fields=True):
    """Equal steps; ``jump`` says at which ends of the time a step is taken.

    Source: CSS Easing Functions Level 1, section 2.3, steps().
    """

    count: int
    jump: Jump = Jump.END

    def __post_init__(self) -> None:
        least = 2 if self.jump is Jump.NONE else 1
        if not least <= self.count <= 1000:
            raise InputError(f"The steps of an ease must be within {least} and 1000.")

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        first = self.jump in (Jump.START, Jump.BOTH)
        extra = {Jump.NONE: -1, Jump.BOTH: 1}.get(self.jump, 0)
        return (math.floor(share * self.count) + first) / (self.count + extra)

    def slope(self, share: float) -> float:
        """Nothing moves between the steps."""
        return 0.0

    def reversed(self) -> Steps:
        """The ease that is this one run backwards from the end."""
        turned = {Jump.START: Jump.END, Jump.END: Jump.START}.get(self.jump, self.jump)
        return Steps(self.count, turned)


class Points(
    msgspec.Struct, frozen=True, tag="points", tag_field="kind", forbid_unknown_fields=True
):
    """Straight lines between points (share of time, share of way), from (0, 0) to (1, 1).

    Source: CSS Easing Functions Level 2, section 2.2, linear().
    """

    points: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        if len(self.points) < 2 or len(self.points) > 5000:
            raise InputError("An ease from a table needs 2 to 5000 points.")
        if not all(math.isfinite(x) and math.isfinite(y) for x, y in self.points):
            raise InputError("The points of an ease must be finite numbers.")
        if self.points[0] != (0.0, 0.0) or self.points[-1] != (1.0, 1.0):
            raise InputError("An ease from a table must lead from 0, 0 to 1, 1.")
        if any(later[0] < earlier[0] for earlier, later in pairwise(self.points)):
            raise InputError("The points of an ease must be in the order of time.")

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        start, end = self._around(share)
        if end[0] == start[0]:
            return end[1]
        return start[1] + (end[1] - start[1]) * (share - start[0]) / (end[0] - start[0])

    def slope(self, share: float) -> float:
        """The pace at ``share`` of the time: that of the line which begins there."""
        start, end = self._around(min(max(share, 0.0), math.nextafter(1.0, 0.0)))
        return (end[1] - start[1]) / (end[0] - start[0]) if end[0] > start[0] else 0.0

    def reversed(self) -> Points:
        """The ease that is this one run backwards from the end."""
        return Points(tuple((1.0 - x, 1.0 - y) for x, y in reversed(self.points)))

    def _around(self, share: float) -> tuple[tuple[float, float], tuple[float, float]]:
        after = bisect_right(self.points, share, key=lambda point: point[0])
        after = min(max(after, 1), len(self.points) - 1)
        return self.points[after - 1], self.points[after]


class Break(msgspec.Struct, frozen=True, tag="break", tag_field="kind", forbid_unknown_fields=True):
    """The motion pauses in the middle and goes on; its speed is smooth at both edges.

    ``pause`` is the share of the time that it rests at ``level`` of the way. Before and after it
    the value follows 6 u^5 - 15 u^4 + 10 u^3, whose speed and change of speed are 0 at both ends.
    """

    pause: float = 0.3
    level: float = 0.5

    def __post_init__(self) -> None:
        if not (0.0 <= self.pause <= 0.95 and 0.0 <= self.level <= 1.0):
            raise InputError(
                "The pause of a break must be within 0 and 0.95, its level within 0 and 1."
            )

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        moving = (1.0 - self.pause) / 2.0
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        if share < moving:
            return self.level * _smooth(share / moving)
        if share <= 1.0 - moving:
            return self.level
        return self.level + (1.0 - self.level) * _smooth((share - 1.0 + moving) / moving)

    def slope(self, share: float) -> float:
        """The pace at ``share`` of the time."""
        moving = (1.0 - self.pause) / 2.0
        if share < moving:
            return self.level * _smooth_slope(share / moving) / moving
        if share <= 1.0 - moving:
            return 0.0
        return (1.0 - self.level) * _smooth_slope((share - 1.0 + moving) / moving) / moving

    def reversed(self) -> Break:
        """The ease that is this one run backwards from the end."""
        return Break(self.pause, 1.0 - self.level)


def _smooth(u: float) -> float:
    return u * u * u * (u * (u * 6.0 - 15.0) + 10.0)


def _smooth_slope(u: float) -> float:
    return 30.0 * u * u * (u - 1.0) * (u - 1.0)


@lru_cache(1 << 14)
def _parameter(x1: float, x2: float, share: float) -> float:
    """Where a curve's time is ``share``; kept, since the same shares are asked for at each drawing.

    The time never falls along the curve, so that bisection always has the root between its
    two ends; Newton's step is taken wherever it stays between them.
    """
    low, high, parameter = 0.0, 1.0, share
    for _ in range(80):
        miss = _bezier(x1, x2, parameter) - share
        if miss == 0.0 or high - low < 1e-16:
            break
        if miss > 0.0:
            high = parameter
        else:
            low = parameter
        slope = _bezier_slope(x1, x2, parameter)
        step = parameter - miss / slope if slope > 0.0 else low
        following = step if low < step < high else (low + high) / 2.0
        if following == parameter:
            break
        parameter = following
    return parameter


def _bezier(first: float, second: float, parameter: float) -> float:
    a = 1.0 + 3.0 * first - 3.0 * second
    b = 3.0 * second - 6.0 * first
    c = 3.0 * first
    return ((a * parameter + b) * parameter + c) * parameter


def _bezier_slope(first: float, second: float, parameter: float) -> float:
    a = 1.0 + 3.0 * first - 3.0 * second
    b = 3.0 * second - 6.0 * first
    c = 3.0 * first
    return (3.0 * a * parameter + 2.0 * b) * parameter + c
