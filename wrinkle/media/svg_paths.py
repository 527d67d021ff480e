"""From the paths of an SVG reader to outlines, whose curves are all cubic."""

from __future__ import annotations

import math
import re
from typing import TYPE_CHECKING

from wrinkle.core.errors import InputError
from wrinkle.core.picture.paths import Knot, outline_of
from wrinkle.core.picture.vector import Contour

if TYPE_CHECKING:
    from svgelements import Path as SvgPath

_FOREIGN = re.compile(r"[^MmZzLlHhVvCcSsQqTtAaeE\d\s,.+-]")
_LONELY = re.compile(r"[Zz][\s,]*([-+.\d]\S{0,20})")
_ONE_POINT = 1e-9
Point = tuple[float, float]


def contours_of(data: str) -> list[Contour]:
    """The contours in the ``d`` attribute of an SVG path, in its own units.

    Raises:
        InputError: the text is no path data; names the place.
    """
    from svgelements import Path as SvgPath

    check_path_data(data)
    return contours_in(SvgPath(data))


def check_path_data(data: str) -> None:
    """Refuses text that the reader would pass over in silence, or cannot read.

    Raises:
        InputError: it is no path data (SVG 1.1, section 8.3); names the place.
    """
    from svgelements import Path as SvgPath

    text = data.strip()
    foreign = _FOREIGN.search(text)
    if foreign is not None:
        at = foreign.start()
        raise InputError(f"The path data cannot be read at '{text[at : at + 12]}'.")
    if text and text[0] not in "Mm":
        raise InputError("Path data must begin with a move (M).")
    lonely = _LONELY.search(text)
    if lonely is not None:
        raise InputError(f"The path data has a number without a command: '{lonely[1]}'.")
    try:
        SvgPath(text)
    except (ValueError, IndexError, TypeError):
        raise InputError("The path data lacks a number after a command.") from None
    except ArithmeticError:
        raise InputError("The path data has a number that no curve can have.") from None


def contours_in(path: SvgPath) -> list[Contour]:
    """The contours of a path that was read; a move alone is none.

    Raises:
        InputError: a coordinate is not finite.
    """
    from svgelements import Arc, Close, CubicBezier, Line, Move, QuadraticBezier

    contours: list[Contour] = []
    knots: list[Knot] = []

    def lift(closed: bool) -> None:
        if len(knots) > 1:
            contours.append(_contour(knots, closed))
        knots.clear()

    def curve(first: Point, second: Point, end: Point) -> None:
        x, y = knots[-1].x, knots[-1].y
        knots[-1] = knots[-1]._replace(out_x=first[0] - x, out_y=first[1] - y)
        knots.append(Knot(*end, second[0] - end[0], second[1] - end[1]))

    for segment in path:
        start = _point(segment.start) if segment.start is not None else (0.0, 0.0)
        match segment:
            case Move():
                lift(closed=False)
                continue
            case Close():
                lift(closed=True)
                continue
        if not knots:
            knots.append(Knot(*start))
        end = _point(segment.end)
        match segment:
            case Line():
                curve(start, end, end)
            case QuadraticBezier():
                control = _point(segment.control)
                curve(_towards(start, control), _towards(end, control), end)
            case CubicBezier():
                curve(_point(segment.control1), _point(segment.control2), end)
            case Arc():
                if not math.isfinite(segment.sweep):
                    raise InputError("The path data has an arc that is not finite.")
                quarters = max(1, math.ceil(abs(segment.sweep) / (math.pi / 2.0) - 1e-9))
                for piece in segment.as_cubic_curves(quarters):
                    curve(*(_point(x) for x in (piece.control1, piece.control2, piece.end)))
    lift(closed=False)
    return contours


def _contour(knots: list[Knot], closed: bool) -> Contour:
    first, last = knots[0], knots[-1]
    if closed and math.hypot(first.x - last.x, first.y - last.y) < _ONE_POINT:
        knots = [first._replace(in_x=last.in_x, in_y=last.in_y), *knots[1:-1]]
    return Contour(outline_of(knots), closed)


def _towards(point: Point, control: Point) -> Point:
    """Two thirds of the way to the control point of a quadratic curve: a cubic one's."""
    return tuple(a + 2.0 / 3.0 * (b - a) for a, b in zip(point, control, strict=True))  # type: ignore[return-value]


def _point(point: object) -> Point:
    x, y = float(point.x), float(point.y)  # type: ignore[attr-defined]
    if not (math.isfinite(x) and math.isfinite(y)):
        raise InputError("The path data has a number that is not finite.")
    return x, y
