"""The arithmetic of animated values: a number, or a pair of numbers."""

from __future__ import annotations

import math

from wrinkle.core.errors import InputError

Value = float | tuple[float, float]


def mix(start: Value, end: Value, share: float) -> Value:
    """``start`` at share 0, ``end`` at share 1, beyond them outside 0…1."""
    if isinstance(start, tuple) and isinstance(end, tuple):
        return (_mix(start[0], end[0], share), _mix(start[1], end[1], share))
    if isinstance(start, tuple) or isinstance(end, tuple):
        raise InputError("A number and a pair of numbers cannot be mixed; use one kind.")
    return _mix(start, end, share)


def reflected(value: Value, about: Value) -> Value:
    """``value`` mirrored about another: ``about`` is half-way between the two."""
    return mix(value, about, 2.0)


def scaled(value: Value, factor: float) -> Value:
    """Each number times a factor; nothing times an endless speed is nothing."""
    if isinstance(value, tuple):
        return (_times(value[0], factor), _times(value[1], factor))
    return _times(value, factor)


def difference(end: Value, start: Value) -> Value:
    """The step that leads from ``start`` to ``end``."""
    return shifted(scaled(end, 0.0), start, end)


def shifted(value: Value, start: Value, end: Value) -> Value:
    """``value`` moved by the step that leads from ``start`` to ``end``."""
    if isinstance(value, tuple) and isinstance(start, tuple) and isinstance(end, tuple):
        return (value[0] + end[0] - start[0], value[1] + end[1] - start[1])
    if isinstance(value, tuple) or isinstance(start, tuple) or isinstance(end, tuple):
        raise InputError("A number and a pair of numbers cannot be added; use one kind.")
    return value + (end - start)


def parts(value: Value) -> tuple[float, ...]:
    """The numbers that make up a value."""
    return value if isinstance(value, tuple) else (value,)


def same_kind(one: Value, other: Value) -> bool:
    """Whether both are numbers or both are pairs."""
    return isinstance(one, tuple) == isinstance(other, tuple)


def require_finite(value: Value, what: str) -> None:
    """Refuses NaN and the infinities.

    Raises:
        InputError: naming ``what`` and the value found.
    """
    if not all(math.isfinite(part) for part in parts(value)):
        raise InputError(f"{what} must be a finite number, not {value}.")


def _times(number: float, factor: float) -> float:
    return number * factor if number != 0.0 and factor != 0.0 else 0.0


def _mix(start: float, end: float, share: float) -> float:
    # Written so that share 1 gives the end itself and equal ends give that value, to the last bit.
    if share == 1.0:
        return end
    return start + (end - start) * share
