"""Times of OpenTimelineIO, which are floating numbers of frames, as exact seconds."""

from __future__ import annotations

from fractions import Fraction

from opentimelineio.opentime import RationalTime, TimeRange

from wrinkle.core.errors import InputError
from wrinkle.core.time.rate import FrameRate

_NEAR = 1e-3
_NTSC = tuple(Fraction(nominal * 1000, 1001) for nominal in (24, 30, 48, 60, 120))
_FINEST = 10**6


def rate_of(number: float) -> Fraction:
    """The exact rate that a rounded one stands for.

    Raises:
        InputError: it is no rate.
    """
    if not 0 < number < 1e9:
        raise InputError(f"{number:g} is no rate of frames")
    for exact in _NTSC:
        if abs(number - float(exact)) < _NEAR:
            return exact
    exact = Fraction(number).limit_denominator(1001)
    if not exact:
        raise InputError(f"{number:g} is no rate of frames")
    return exact


def seconds(time: RationalTime | None) -> Fraction:
    """A time in seconds.

    Raises:
        InputError: it is none.
    """
    if time is None:
        return Fraction(0)
    if not abs(time.value) < 1e12:
        raise InputError(f"{time.value:g} is no time")
    return Fraction(time.value).limit_denominator(_FINEST) / rate_of(time.rate)


def rational(time: Fraction, rate: FrameRate) -> RationalTime:
    """Seconds as a time in frames of a rate."""
    return RationalTime(float(time * rate.per_second), float(rate.per_second))


def ranged(start: Fraction, length: Fraction, rate: FrameRate) -> TimeRange:
    """A range in frames of a rate."""
    return TimeRange(rational(start, rate), rational(length, rate))
