"""Eases with a formula: a shape that speeds up, run forward, backward or both.

Each shape gives ``into`` (the share of the way when it speeds up from rest) and its slope; ``way``
turns it into an ease that speeds up (in), slows down (out) or does both (in-out).
"""

from __future__ import annotations

import math
from enum import Enum
from typing import TypeVar

import msgspec

from wrinkle.core.errors import InputError


class Way(Enum):
    """Where the shape bends."""

    IN = "in"
    OUT = "out"
    BOTH = "in-out"

    @property
    def turned(self) -> Way:
        """The way of the ease run backwards."""
        return {Way.IN: Way.OUT, Way.OUT: Way.IN, Way.BOTH: Way.BOTH}[self]


Same = TypeVar("Same", bound="_Shape")


class _Shape(msgspec.Struct, frozen=True, tag_field="kind", forbid_unknown_fields=True):
    way: Way = Way.IN

    def at(self, share: float) -> float:
        """The share of the way at ``share`` of the time."""
        if share <= 0.0:
            return 0.0
        if share >= 1.0:
            return 1.0
        if self.way is Way.IN:
            return self.into(share)
        if self.way is Way.OUT:
            return 1.0 - self.into(1.0 - share)
        if share < 0.5:
            return self.into(2.0 * share) / 2.0
        return 1.0 - self.into(2.0 - 2.0 * share) / 2.0

    def slope(self, share: float) -> float:
        """The pace at ``share`` of the time."""
        share = min(max(share, 0.0), 1.0)
        if self.way is Way.IN:
            return self.into_slope(share)
        if self.way is Way.OUT:
            return self.into_slope(1.0 - share)
        return self.into_slope(2.0 * share if share < 0.5 else 2.0 - 2.0 * share)

    def reversed(self: Same) -> Same:
        """The ease that is this one run backwards from the end."""
        return msgspec.structs.replace(self, way=self.way.turned)

    def into(self, share: float) -> float:
        """The shape that speeds up, 0 at 0 and 1 at 1; an even pace where none is given."""
        return share

    def into_slope(self, share: float) -> float:
        """Its slope."""
        return 1.0


class Power(_Shape, frozen=True, tag="power"):
    """The share of the time to a power, such as 2, 3, 4 or 5."""

    exponent: float = 3.0

    def __post_init__(self) -> None:
        _within("exponent of a power ease", self.exponent, 1.0, 20.0)

    def into(self, share: float) -> float:
        return math.pow(share, self.exponent)

    def into_slope(self, share: float) -> float:
        return self.exponent * math.pow(share, self.exponent - 1.0)


class Sine(_Shape, frozen=True, tag="sine"):
    """A quarter of a sine wave."""

    def into(self, share: float) -> float:
        return 1.0 - math.cos(share * math.pi / 2.0)

    def into_slope(self, share: float) -> float:
        return math.pi / 2.0 * math.sin(share * math.pi / 2.0)


class Exponential(_Shape, frozen=True, tag="exponential"):
    """Each equal step of time multiplies the gain by the same factor.

    ``ratio`` (above 1) is the pace at the end divided by the pace at the start. From 1 to
    ``ratio`` the value is ``ratio ** share``.
    """

    ratio: float = 180.0

    def __post_init__(self) -> None:
        if not 1.0 < self.ratio <= 1e9:
            raise InputError(
                f"The ratio of an exponential ease must be above 1, not {self.ratio:g}."
            )

    def into(self, share: float) -> float:
        growth = math.log(self.ratio)
        return math.expm1(growth * share) / math.expm1(growth)

    def into_slope(self, share: float) -> float:
        growth = math.log(self.ratio)
        return growth * math.exp(growth * share) / math.expm1(growth)


class Circular(_Shape, frozen=True, tag="circular"):
    """A quarter of a circle: at its steep end the pace has no bound."""

    def into(self, share: float) -> float:
        return 1.0 - math.sqrt(max(0.0, 1.0 - share * share))

    def into_slope(self, share: float) -> float:
        return share / math.sqrt(1.0 - share * share) if share < 1.0 else math.inf


class Back(_Shape, frozen=True, tag="back"):
    """Draws back first: (amount + 1) u^3 - amount u^2."""

    amount: float = 1.7

    def __post_init__(self) -> None:
        _within("amount of a back ease", self.amount, 0.0, 20.0)

    def into(self, share: float) -> float:
        return share * share * ((self.amount + 1.0) * share - self.amount)

    def into_slope(self, share: float) -> float:
        return share * (3.0 * (self.amount + 1.0) * share - 2.0 * self.amount)


class Bounce(_Shape, frozen=True, tag="bounce"):
    """A fall with bounces, run backwards (in) or as it is (out).

    ``bounces`` after the first landing; each keeps ``spring`` of the speed. Source: free fall:
    the height after a landing is v t - t^2 with the speed v = spring^k of the k-th bounce.
    """

    bounces: int = 3
    spring: float = 0.5

    def __post_init__(self) -> None:
        _within("number of bounces", self.bounces, 0, 20)
        _within("spring of a bounce", self.spring, 0.05, 0.95)

    def into(self, share: float) -> float:
        height, _, _ = self._flight(1.0 - share)
        return height

    def into_slope(self, share: float) -> float:
        _, slope, length = self._flight(1.0 - share)
        return -slope * length

    def _flight(self, share: float) -> tuple[float, float, float]:
        """Height above the ground, its slope in time, and the whole time, the first fall being 1.

        In units in which the first fall takes 1 and begins at height 1, the k-th bounce leaves the
        ground with speed 2 spring^k and lasts 2 spring^k.
        """
        length = 1.0 + 2.0 * sum(self.spring**k for k in range(1, self.bounces + 1))
        time = share * length
        if time < 1.0:
            return 1.0 - time * time, -2.0 * time, length
        time -= 1.0
        for k in range(1, self.bounces + 1):
            speed = self.spring**k
            if time < 2.0 * speed or k == self.bounces:
                return max(0.0, 2.0 * speed * time - time * time), 2.0 * (speed - time), length
            time -= 2.0 * speed
        return 0.0, 0.0, length


class Spring(_Shape, frozen=True, tag="spring"):
    """A weight on a spring that is let go, run backwards (in) or as it is (out).

    ``frequency`` is its own number of swings in the time, ``damping`` 1 the smallest without
    overshoot. Source: x'' + 2 damping w x' + w^2 x = w^2, w = 2 pi frequency, from rest, scaled so
    that it arrives exactly at the end.
    """

    damping: float = 0.4
    frequency: float = 3.0

    def __post_init__(self) -> None:
        _within("damping of a spring", self.damping, 0.05, 5.0)
        _within("frequency of a spring", self.frequency, 0.25, 50.0)

    def into(self, share: float) -> float:
        return 1.0 - self._swing(1.0 - share)[0] / self._swing(1.0)[0]

    def into_slope(self, share: float) -> float:
        return self._swing(1.0 - share)[1] / self._swing(1.0)[0]

    def _swing(self, time: float) -> tuple[float, float]:
        """Place and speed after a time."""
        omega = 2.0 * math.pi * self.frequency
        decay = self.damping * omega
        rest = 1.0 - self.damping**2
        fade = math.exp(-decay * time)
        if abs(rest) < 1e-9:
            return 1.0 - fade * (1.0 + omega * time), fade * omega * omega * time
        if rest > 0.0:
            swing = omega * math.sqrt(rest)
            cosine, sine = math.cos(swing * time), math.sin(swing * time)
            place = 1.0 - fade * (cosine + decay / swing * sine)
            return place, fade * omega * omega / swing * sine
        pull = omega * math.sqrt(-rest)
        # The two exponentials apart, so that neither grows beyond what a number can hold.
        slow, fast = math.exp((pull - decay) * time), math.exp((-pull - decay) * time)
        place = 1.0 - ((slow + fast) + decay / pull * (slow - fast)) / 2.0
        return place, omega * omega / pull * (slow - fast) / 2.0


def _within(what: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise InputError(f"The {what} must be within {low:g} and {high:g}, not {value:g}.")
