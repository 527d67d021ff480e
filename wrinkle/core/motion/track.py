"""A track: the keyframes of one setting, and how its incoming half comes about.

Time is seconds from the cut, exact. The cut is time 0 and belongs to the incoming side. The cut
may carry two keyframes, the end of the outgoing half and the start of the incoming one; every
other time carries one.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from enum import Enum
from fractions import Fraction
from itertools import pairwise

import msgspec

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease, Linear
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.values import (
    Value,
    between,
    difference,
    discrete,
    reflected,
    require_finite,
    require_near,
    same_kind,
    scaled,
    shifted,
)

CUT = Fraction(0)
MOST_KEYS = 20_000
"""Two minutes, the longest window, have 14,400 frames at 120 a second."""


class Side(Enum):
    """Which side of the cut a frame belongs to."""

    OUTGOING = "outgoing"
    INCOMING = "incoming"

    @classmethod
    def of(cls, time: Fraction) -> Side:
        """The side of a frame at ``time``; the cut itself is incoming."""
        return cls.OUTGOING if time.numerator < 0 else cls.INCOMING


class IncomingHalf(Enum):
    """How the half after the cut comes about."""

    OWN = "own"
    """From keyframes of its own."""
    RETURN = "return"
    """The outgoing half, time-reversed: the values come back."""
    CARRY_ON = "carry on"
    """Time-reversed and negated about the rest value: the motion keeps its direction."""


class Keyframe(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A value at a time; ``ease`` leads from here to the next keyframe.

    Raises:
        InputError: the value is not finite, or the time is far from the cut.
    """

    time: Fraction
    value: Value
    ease: Ease = Linear()

    def __post_init__(self) -> None:
        require_finite(self.value, "A pin's value")
        require_near(self.time, "A pin")


class Track(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Keyframes in the order of time, at least one.

    Attributes:
        keys: the keyframes.
        incoming: how the half after the cut comes about.
        keeps: where it is held and keeps its length, when the wrinkle gets another one; None
            where its layer says so, or where it stretches.

    Raises:
        InputError: no keyframe, keyframes out of order or of two kinds, or keyframes after the
            cut although the incoming half is made from the outgoing one.
    """

    keys: tuple[Keyframe, ...]
    incoming: IncomingHalf = IncomingHalf.OWN
    keeps: HeldAt | None = None

    def __post_init__(self) -> None:
        if not self.keys:
            raise InputError("A lane needs at least one pin.")
        if len(self.keys) > MOST_KEYS:
            raise InputError(f"A lane has {len(self.keys)} pins; {MOST_KEYS} are the most.")
        for earlier, later in pairwise(self.keys):
            if not same_kind(earlier.value, later.value):
                raise InputError("The pins of a lane must all be numbers or all be pairs.")
            if earlier.time > later.time or (earlier.time == later.time != CUT):
                raise InputError("The pins of a lane must be in the order of time.")
        at_cut = sum(key.time == CUT for key in self.keys)
        if at_cut > 2:
            raise InputError("The cut can carry two pins of a lane, not more.")
        if self.incoming is not IncomingHalf.OWN and (at_cut > 1 or self.keys[-1].time > CUT):
            raise InputError(
                f"A lane whose incoming half is '{self.incoming.value}' has pins up to the "
                "cut only."
            )

    def value_at(self, time: Fraction, rest: Value, side: Side | None = None) -> Value:
        """The value at ``time`` as a frame on ``side`` sees it (by default the time's own side).

        A shutter that is open across the cut sees the motion of its own side go on: a jump at the
        cut (as carry on makes it) is taken out of what lies beyond.
        """
        own = Side.of(time)
        value = self._outgoing(time) if own is Side.OUTGOING else self._incoming(time, rest)
        if side is None or side is own:
            return value
        before, after = self._outgoing(CUT), self._incoming(CUT, rest)
        if side is Side.INCOMING:
            return shifted(value, before, after)
        return shifted(value, after, before)

    def drawn(self, times: Sequence[float], rest: Value, side: Side) -> list[Value]:
        """The values at some times of one side, up to the cut itself, by floating point.

        A curve that is drawn takes hundreds of them while it is dragged; ``value_at`` is exact.
        """
        at = [float(key.time) for key in self.keys]
        mirrored = side is Side.INCOMING and self.incoming is not IncomingHalf.OWN
        reflects = mirrored and self.incoming is IncomingHalf.CARRY_ON and not discrete(rest)
        find = bisect_right if side is Side.INCOMING and not mirrored else bisect_left
        found = []
        for time in times:
            own = -time if mirrored else time
            following = find(at, own)
            if following in (0, len(at)):
                value = self.keys[max(following - 1, 0)].value
            else:
                start, end = self.keys[following - 1], self.keys[following]
                share = (own - at[following - 1]) / (at[following] - at[following - 1])
                value = between(start.value, end.value, start.ease.at(share))
            found.append(between(value, rest, 2.0) if reflects else value)
        return found

    def speed_at(self, time: Fraction, rest: Value, side: Side) -> Value:
        """The change of the value per second at ``time``, from the eases' own slopes.

        At a keyframe it is the speed on the given side of the cut, elsewhere that of what follows.
        """
        if side is Side.INCOMING and self.incoming is not IncomingHalf.OWN:
            speed = self._slope(-time, _first_from(self.keys, -time))
            back = 1.0 if self.incoming is IncomingHalf.CARRY_ON else -1.0
            return scaled(speed, back)
        find = _first_after if side is Side.INCOMING or time < CUT else _first_from
        return self._slope(time, find(self.keys, time))

    def _slope(self, time: Fraction, following: int) -> Value:
        """The speed at ``time``, which lies before keyframe ``following``."""
        if following == 0 or following == len(self.keys):
            return scaled(self.keys[0].value, 0.0)
        start, end = self.keys[following - 1], self.keys[following]
        length = end.time - start.time
        pace = start.ease.slope(_share(start.time, time, end.time)) / float(length)
        return scaled(difference(end.value, start.value), pace)

    def at_seam(self, rest: Value) -> tuple[Value, Value]:
        """The values just before and at the cut."""
        return self._outgoing(CUT), self._incoming(CUT, rest)

    def released(self, rest: Value) -> Track:
        """The same values with keyframes of its own on both sides."""
        if self.incoming is IncomingHalf.OWN:
            return self
        outgoing = list(self.keys)
        if outgoing[-1].time < CUT:
            outgoing.append(Keyframe(CUT, outgoing[-1].value))
        mirrored = []
        for index in range(len(outgoing) - 1, -1, -1):
            key = outgoing[index]
            ease = outgoing[index - 1].ease.reversed() if index else Linear()
            mirrored.append(Keyframe(-key.time, self._mirror(key.value, rest), ease))
        if self.incoming is IncomingHalf.RETURN:
            joined = msgspec.structs.replace(outgoing[-1], ease=mirrored[0].ease)
            return Track((*outgoing[:-1], joined, *mirrored[1:]), keeps=self.keeps)
        return Track((*outgoing, *mirrored), keeps=self.keeps)

    def _mirror(self, value: Value, rest: Value) -> Value:
        return reflected(value, rest) if self.incoming is IncomingHalf.CARRY_ON else value

    def _outgoing(self, time: Fraction) -> Value:
        """The value at a time up to the cut, the cut seen from before."""
        return self._between(time, _first_from(self.keys, time))

    def _incoming(self, time: Fraction, rest: Value) -> Value:
        """The value at a time from the cut on."""
        if self.incoming is IncomingHalf.OWN:
            return self._between(time, _first_after(self.keys, time))
        return self._mirror(self._outgoing(-time), rest)

    def _between(self, time: Fraction, following: int) -> Value:
        """The value at ``time``, which lies before keyframe ``following``."""
        if following == 0:
            return self.keys[0].value
        start = self.keys[following - 1]
        if following == len(self.keys):
            return start.value
        end = self.keys[following]
        share = _share(start.time, time, end.time)
        return between(start.value, end.value, start.ease.at(share))


# A frame asks for hundreds of values. Whole numbers tell which of two fractions is the larger, and
# their quotient is rounded once, as that of two fractions is: the same values, sooner.


def _first_from(keys: Sequence[Keyframe], time: Fraction) -> int:
    """The place of the first keyframe that is not before a time."""
    above, below = time.numerator, time.denominator
    low, high = 0, len(keys)
    while low < high:
        middle = (low + high) // 2
        key = keys[middle].time
        if key.numerator * below < above * key.denominator:
            low = middle + 1
        else:
            high = middle
    return low


def _first_after(keys: Sequence[Keyframe], time: Fraction) -> int:
    """The place of the first keyframe after a time."""
    place = _first_from(keys, time)
    while place < len(keys) and keys[place].time == time:
        place += 1
    return place


def _share(start: Fraction, time: Fraction, end: Fraction) -> float:
    """How far a time lies on the way from one to another, as a quotient that is rounded once."""
    above, below = start.numerator, start.denominator
    gone = (time.numerator * below - above * time.denominator) * end.denominator
    whole = (end.numerator * below - above * end.denominator) * time.denominator
    return gone / whole
