"""Feels: eases with a name; and the text in which an ease is typed or pasted."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from itertools import pairwise
from typing import Any

import msgspec

from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import (
    Back,
    Bezier,
    Bounce,
    Break,
    Circular,
    Ease,
    Exponential,
    Hold,
    Jump,
    Linear,
    Points,
    Power,
    Sine,
    Spring,
    Steps,
    Way,
)

FEELS: dict[str, Ease] = {
    "steady": Linear(),
    "gentle": Bezier(0.46, 0.0, 0.54, 1.0),
    "rush": Bezier(0.62, 0.0, 0.88, 0.5),
    "swell": Bezier(0.66, 0.0, 0.78, 1.0),
    "brake": Bezier(0.12, 0.5, 0.38, 1.0),
    "snap": Bezier(0.86, 0.0, 0.14, 1.0),
    "overshoot": Bezier(0.3, 0.9, 0.42, 1.32),
    "surge": Exponential(),
    "wind up": Back(),
    "spring": Spring(Way.OUT),
    "bounce": Bounce(Way.OUT),
    "break": Break(),
    "hold": Hold(),
}

# CSS Easing Functions Level 1, section 2.2: the named curves.
_CSS: dict[str, Ease] = {
    "linear": Linear(),
    "ease": Bezier(0.25, 0.1, 0.25, 1.0),
    "ease-in": Bezier(0.42, 0.0, 1.0, 1.0),
    "ease-out": Bezier(0.0, 0.0, 0.58, 1.0),
    "ease-in-out": Bezier(0.42, 0.0, 0.58, 1.0),
    "step-start": Hold(early=True),
    "step-end": Hold(),
}
_SHAPES: dict[str, type[Power | Sine | Exponential | Circular | Back | Bounce | Spring]] = {
    "power": Power,
    "sine": Sine,
    "exponential": Exponential,
    "circular": Circular,
    "back": Back,
    "bounce": Bounce,
    "spring": Spring,
}
_CALL = re.compile(r"^([a-z-]+)\(([^()]*)\)$")
_NUMBERS_ONLY = re.compile(r"^[-+0-9.,;eE\s\u2028\u2029]+$")


def feel_of(ease: Ease, own: Mapping[str, Ease] | None = None) -> str | None:
    """The name of the feel that is exactly this ease, if there is one."""
    feels = {**FEELS, **(own or {})}
    return next((name for name, known in feels.items() if known == ease), None)


def ease_text(ease: Ease) -> str:
    """The ease as it can be typed: a feel's name, or the curve in numbers."""
    name = feel_of(ease)
    if name is not None:
        return name
    match ease:
        case Bezier(x1=x1, y1=y1, x2=x2, y2=y2):
            return f"cubic-bezier({x1:.6g}, {y1:.6g}, {x2:.6g}, {y2:.6g})"
        case Steps(count=count, jump=jump):
            return f"steps({count}, jump-{jump.value})"
        case Points(points=points):
            return f"linear({', '.join(f'{y:.6g} {x * 100:.6g}%' for x, y in points)})"
        case Break(pause=pause, level=level):
            return f"break({pause:.6g}, {level:.6g})"
        case Hold():
            return "step-start"
        case Linear():
            return "steady"
        case shape:
            kind = next(name for name, known in _SHAPES.items() if known is type(shape))
            numbers = [f"{getattr(shape, x):.6g}" for x in _numbers_of(type(shape))]
            return f"{kind}({', '.join([*numbers, shape.way.value])})"


def parse_ease(text: str, own: Mapping[str, Ease] | None = None) -> Ease:
    """The ease that a person typed or pasted: a feel, a CSS ease, a shape, or a table.

    A table is numbers from a spreadsheet: one column of values at equal steps, or two columns of
    time and value; it is scaled so that it leads from 0 to 1.

    Raises:
        InputError: the text names no ease; the message lists what can be written.
    """
    cleaned = text.strip().lower()
    known = {**_CSS, **FEELS, **(own or {})}
    if cleaned in known:
        return known[cleaned]
    if _NUMBERS_ONLY.match(cleaned) and any(digit.isdigit() for digit in cleaned):
        return parse_table(text)
    match = _CALL.match(cleaned)
    if match is not None:
        try:
            return _parse_call(match[1], [word.strip() for word in match[2].split(",")])
        except (KeyError, IndexError, OverflowError):
            pass
        except ValueError as fault:
            if isinstance(fault, InputError):
                raise
    raise InputError(
        f"'{text.strip()[:60]}' is not an ease; write a feel ({', '.join(FEELS)}), "
        "cubic-bezier(x1, y1, x2, y2), steps(n), power(3, out), spring(damping, swings) or paste "
        "a table of values."
    )


def parse_table(text: str) -> Points:
    """The ease that goes through a table of values.

    Raises:
        InputError: fewer than two values, no gain between the first and the last, or times out
            of order.
    """
    lines = [line for line in re.split(r"[\n\r\u2028\u2029]+", text.strip()) if line.strip()]
    rows = [[float(word) for word in re.split(r"[,;\s]+", line.strip()) if word] for line in lines]
    if len(rows) == 1:
        rows = [[value] for value in rows[0]]
    if len(rows) < 2 or len({len(row) for row in rows}) != 1 or len(rows[0]) not in (1, 2):
        raise InputError("A table needs at least two rows of one value, or of time and value.")
    times = [row[0] for row in rows] if len(rows[0]) == 2 else [float(i) for i in range(len(rows))]
    values = [row[-1] for row in rows]
    if not all(math.isfinite(x) for x in (*times, *values)):
        raise InputError("A table must hold finite numbers only.")
    if any(later <= earlier for earlier, later in pairwise(times)):
        raise InputError("The times of a table must grow from row to row.")
    if values[0] == values[-1]:
        raise InputError("The first and the last value of a table must differ.")
    span, gain = times[-1] - times[0], values[-1] - values[0]
    inner = [
        ((t - times[0]) / span, (v - values[0]) / gain)
        for t, v in zip(times[1:-1], values[1:-1], strict=True)
    ]
    return Points(((0.0, 0.0), *inner, (1.0, 1.0)))


def _parse_call(name: str, words: list[str]) -> Ease:
    if name == "cubic-bezier" and len(words) == 4:
        return Bezier(*(float(word) for word in words))
    if name == "steps" and len(words) in (1, 2):
        jump = words[1].removeprefix("jump-") if len(words) == 2 else "end"
        return Steps(int(words[0]), Jump(jump))
    if name == "linear":
        return _parse_linear(words)
    if name == "break" and len(words) in (1, 2):
        return Break(*(float(word) for word in words))
    shape = _SHAPES[name]
    words = [word for word in words if word]
    way = Way.OUT if shape in (Spring, Bounce) else Way.IN
    if words and words[-1] in [known.value for known in Way]:
        way = Way(words.pop())
    fields = _numbers_of(shape)
    if len(words) > len(fields):
        raise KeyError(name)
    numbers: dict[str, Any] = {
        field: int(word) if field == "bounces" else float(word)
        for field, word in zip(fields, words, strict=False)
    }
    return shape(way=way, **numbers)


def _parse_linear(words: list[str]) -> Points:
    """CSS Easing Functions Level 2, section 2.2: values with optional percentages."""
    spots: list[tuple[float | None, float]] = []
    for word in words:
        value, *places = word.split()
        if not places:
            spots.append((None, float(value)))
        for place in places:
            if not place.endswith("%"):
                raise KeyError(word)
            spots.append((float(place[:-1]) / 100.0, float(value)))
    if len(spots) < 2:
        raise KeyError("linear")
    times: list[float | None] = [time for time, _ in spots]
    times[0] = 0.0 if times[0] is None else times[0]
    times[-1] = 1.0 if times[-1] is None else times[-1]
    filled: list[float] = []
    for index, given in enumerate(times):
        time = given
        if time is None:
            after = next(i for i in range(index, len(times)) if times[i] is not None)
            end = times[after]
            time = filled[-1] + ((end or 0.0) - filled[-1]) / (after - index + 1)
        filled.append(max(time, filled[-1]) if filled else time)
    return Points(tuple(zip(filled, (value for _, value in spots), strict=True)))


def _numbers_of(shape: type[msgspec.Struct]) -> list[str]:
    return [field for field in shape.__struct_fields__ if field != "way"]
