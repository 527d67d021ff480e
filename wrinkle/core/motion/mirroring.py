"""What a mirror does to a value: for each number a sign, and what the mirrored one is counted from.

A mirrored value comes back when it is mirrored again, to the last bit: what is counted from the
middle or from a half turn is held on a lattice of decimals, finer than anything that is seen.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from enum import Enum
from typing import Final, NamedTuple

from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.formula import split_pair
from wrinkle.core.motion.values import Value, parts

_KNOT = 6
_HALF_TURN = 180.0
DECIMALS: Final = 12
_DECIMALS_OF_ANGLES: Final = 9
"""Angles may be three hundred thousand degrees, whose last bit is worth 6e-11."""


class Mirroring(Enum):
    """What a mirror does to a setting; the value is its word in the documents."""

    NOTHING = "nothing"
    TURN = "negated where the turns go the other way round"
    SIDEWAYS = "negated left-right"
    UPRIGHT = "negated up-down"
    VECTOR = "a pair, negated left-right and up-down"
    TILT = "a pair of turns in depth: the second negated left-right, the first up-down"
    WAY = "an angle, mirrored as the direction of an arrow"
    POINT = "a point, mirrored about the middle of the frame"
    OUTLINE = "an outline, mirrored about the middle of the frame"
    SIDES = "the words left and right exchanged"


class MirroredPart(NamedTuple):
    """What becomes of one number x: ``start`` + ``sign`` · x."""

    sign: int
    start: float = 0.0

    def of(self, number: float) -> float:
        """The mirrored number."""
        if self.start == 0.0:
            return -number if self.sign < 0 and number else number
        decimals = _DECIMALS_OF_ANGLES if abs(self.start) == _HALF_TURN else DECIMALS
        return round(self.start + self.sign * number, decimals)


_SAME = MirroredPart(1)
_AWAY = MirroredPart(-1)
_ABOUT_MIDDLE = MirroredPart(-1, 1.0)
_SIDES: Mapping[str, str] = {"left": "right", "right": "left"}


def change(how: Mirroring, direction: Direction, rest: Value) -> tuple[MirroredPart, ...]:
    """What becomes of each number of a setting.

    Args:
        how: what a mirror does to it.
        direction: what is exchanged.
        rest: the value that the setting rests at; all its values change alike, so that a turn
            that runs over several stays one.
    """
    across, down = direction.across, direction.down
    match how:
        case Mirroring.TURN:
            return (_AWAY if direction.turned else _SAME,)
        case Mirroring.SIDEWAYS:
            return (_AWAY if across else _SAME,)
        case Mirroring.UPRIGHT:
            return (_AWAY if down else _SAME,)
        case Mirroring.VECTOR:
            return (_AWAY if across else _SAME, _AWAY if down else _SAME)
        case Mirroring.TILT:
            return (_AWAY if down else _SAME, _AWAY if across else _SAME)
        case Mirroring.POINT:
            return (_ABOUT_MIDDLE if across else _SAME, _ABOUT_MIDDLE if down else _SAME)
        case Mirroring.WAY:
            return (_way(direction, parts(rest)[0]),)
        case Mirroring.OUTLINE:
            handles = (_AWAY if across else _SAME, _AWAY if down else _SAME) * 2
            point = change(Mirroring.POINT, direction, rest)
            return (*point, *handles) * (len(parts(rest)) // _KNOT)
    return ()


def mirrored(
    value: Value, how: Mirroring, direction: Direction, changed: Sequence[MirroredPart]
) -> Value:
    """A value of a setting in a mirror, by what ``change`` gave for the setting."""
    if how is Mirroring.SIDES:
        return _SIDES.get(str(value), value) if direction.across else value
    if not changed:
        return value
    if not isinstance(value, tuple):
        return changed[0].of(parts(value)[0])
    # Outlines of a lane may have other numbers of points; the pattern of a knot repeats.
    return tuple(changed[index % len(changed)].of(part) for index, part in enumerate(value))


def settled(value: Value, how: Mirroring) -> Value:
    """A value that comes back from a mirror: a place or a direction to so many decimals."""
    if how is Mirroring.POINT and isinstance(value, tuple):
        return tuple(round(part, DECIMALS) for part in value)
    if how is Mirroring.WAY and isinstance(value, float):
        return round(value, _DECIMALS_OF_ANGLES)
    return value


def _way(direction: Direction, rest: float) -> MirroredPart:
    match direction:
        case Direction.LEFT_RIGHT:
            return MirroredPart(-1, _HALF_TURN)
        case Direction.UP_DOWN:
            return _AWAY
        case Direction.BOTH:
            # Back where it came from: every other half turn is taken off again.
            even = math.floor(rest / _HALF_TURN) % 2 == 0
            return MirroredPart(1, _HALF_TURN if even else -_HALF_TURN)
    return _SAME


def mirrored_formulas(text: str | None, changed: Sequence[MirroredPart]) -> str | None:
    """The formula of a number, or the two of a pair, in a mirror."""
    both = split_pair(text) if text is not None and len(changed) == 2 else None
    if text is None or not changed:
        return text
    return ",".join(map(_formula, both if both is not None else (text,), changed))


def _formula(text: str, part: MirroredPart) -> str:
    """A formula in brackets; one that was mirrored before comes out of them again."""
    if part == _SAME:
        return text
    sign = "-" if part.sign < 0 else "+"
    start = f"{part.start:g}" if part.start else ""
    before, back = f"{start}{sign}(", f"{-part.start:g}+(" if part.sign > 0 else ""
    for prefix in filter(None, (before, back)):
        inner = text[len(prefix) : -1]
        if text.startswith(prefix) and text.endswith(")") and _closed(inner):
            return inner
    return f"{before}{text})"


def _closed(text: str) -> bool:
    """Whether each bracket closes one that was opened before it."""
    depth = 0
    for letter in text:
        depth += (letter == "(") - (letter == ")")
        if depth < 0:
            return False
    return depth == 0
