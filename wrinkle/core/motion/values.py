"""The arithmetic of animated values.

A value is a number, a pair of numbers, a colour (three numbers, linear light, so that mixing is
mixing of light), yes or no, or a choice by its name. The last two have no in-between: they hold.
"""

from __future__ import annotations

import math
from fractions import Fraction

from wrinkle.core.errors import InputError

Value = float | tuple[float, ...] | bool | str
_FARTHEST = 3600
_MOST_NUMBERS = 30_000
"""An outline of 5,000 points has six of each."""
_LARGEST = 1e15
"""No setting comes near it, and products of several are numbers still."""


def discrete(value: Value) -> bool:
    """Whether a value has no in-between."""
    return isinstance(value, bool | str)


def mix(start: Value, end: Value, share: float) -> Value:
    """``start`` at share 0, ``end`` at share 1, beyond them outside 0…1.

    Raises:
        InputError: the two are of different kinds.
    """
    if not same_kind(start, end):
        raise InputError("Values of different kinds cannot be mixed; use one kind.")
    return between(start, end, share)


def between(start: Value, end: Value, share: float) -> Value:
    """``mix`` of two that are known to be of one kind."""
    if isinstance(start, tuple) and isinstance(end, tuple):
        return tuple(_mix(a, b, share) for a, b in zip(start, end, strict=True))
    if isinstance(start, bool | str) or isinstance(end, bool | str):
        return end if share >= 1.0 else start
    return _mix(parts(start)[0], parts(end)[0], share)


def reflected(value: Value, about: Value) -> Value:
    """``value`` mirrored about another: ``about`` is half-way between the two."""
    return value if discrete(value) else mix(value, about, 2.0)


def scaled(value: Value, factor: float) -> Value:
    """Each number times a factor; nothing times an endless speed is nothing.

    What has no in-between has no size either: it gives 0.
    """
    if isinstance(value, bool | str):
        return 0.0
    if isinstance(value, tuple):
        return tuple(_times(part, factor) for part in value)
    return _times(value, factor)


def difference(end: Value, start: Value) -> Value:
    """The step that leads from ``start`` to ``end``; 0 or 1 for what has no in-between."""
    if discrete(end):
        return float(end != start)
    return shifted(scaled(end, 0.0), start, end)


def shifted(value: Value, start: Value, end: Value) -> Value:
    """``value`` moved by the step that leads from ``start`` to ``end``.

    Raises:
        InputError: they are of different kinds.
    """
    if not (same_kind(value, start) and same_kind(start, end)):
        raise InputError("Values of different kinds cannot be added; use one kind.")
    if discrete(value):
        return value
    moved = tuple(
        v + (b - a) for v, a, b in zip(parts(value), parts(start), parts(end), strict=True)
    )
    return moved if isinstance(value, tuple) else moved[0]


def parts(value: Value) -> tuple[float, ...]:
    """The numbers that make up a value; none for what has no in-between."""
    if isinstance(value, bool | str):
        return ()
    return value if isinstance(value, tuple) else (value,)


def number_of(value: Value) -> float:
    """The number that a value is."""
    if isinstance(value, float):
        return value
    (number,) = parts(value)
    return number


def pair_of(value: Value) -> tuple[float, float]:
    """The two numbers that a value is."""
    first, second = parts(value)
    return first, second


def same_kind(one: Value, other: Value) -> bool:
    """Whether both are numbers, pairs, colours, yes or no, or choices."""
    if isinstance(one, tuple) and isinstance(other, tuple):
        return len(one) == len(other)
    kinds = (bool, str, tuple)
    return [isinstance(one, kind) for kind in kinds] == [isinstance(other, kind) for kind in kinds]


def require_finite(value: Value, what: str) -> None:
    """Refuses NaN and the infinities.

    Raises:
        InputError: naming ``what`` and the value found.
    """
    numbers = parts(value)
    if len(numbers) > _MOST_NUMBERS:
        raise InputError(f"{what} has {len(numbers)} numbers; {_MOST_NUMBERS} are the most.")
    if not all(math.isfinite(part) for part in numbers):
        raise InputError(f"{what} must be a finite number, not {value}.")
    if any(abs(part) > _LARGEST for part in numbers):
        raise InputError(f"{what} must be within ±{_LARGEST:g}.")


def require_near(time: Fraction | None, what: str) -> None:
    """Refuses times that no transition has, before they lead to frames beyond counting.

    Raises:
        InputError: naming ``what``; the time is more than an hour from the cut.
    """
    if time is not None and abs(time) > _FARTHEST:
        raise InputError(f"{what} must lie within an hour of the cut.")


def _times(number: float, factor: float) -> float:
    return number * factor if number != 0.0 and factor != 0.0 else 0.0


def _mix(start: float, end: float, share: float) -> float:
    # Written so that share 1 gives the end itself and equal ends give that value, to the last bit.
    if share == 1.0:
        return end
    return start + (end - start) * share
