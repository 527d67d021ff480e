"""Outlines: closed or open cubic Bézier paths as plain tuples, so that they can be animated.

An outline is a flat tuple of six numbers a knot: x, y, and the offsets of its incoming and its
outgoing handle, in parts of the frame's width and height (or in any other unit). Outlines with
the same number of knots mix number by number.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.motion import mirroring
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.placement import Matrix, scaling, translation

Outline = tuple[float, ...]
Polyline = NDArray[np.float64]
"""``(N, 2)``: x and y of its corners."""

KNOT = 6
MOST_KNOTS = 5_000
"""A person draws tens; a drawing that was traced by a machine has hundreds."""
# Four cubic arcs with handles of this share of the radius stay within 0.03 % of a circle.
_ROUND = 4.0 / 3.0 * (math.sqrt(2.0) - 1.0)
_FINEST = 2.0
_MOST_PIECES = 96
_SEARCHED = 24
# A small picture of a frame has its shape to within half a pixel.
_SAME_SHAPE = 0.02


class Knot(NamedTuple):
    """A point of an outline with its two handles, which are offsets from the point."""

    x: float
    y: float
    in_x: float = 0.0
    in_y: float = 0.0
    out_x: float = 0.0
    out_y: float = 0.0

    @property
    def corner(self) -> bool:
        """Whether it has no handles."""
        return self[2:] == (0.0, 0.0, 0.0, 0.0)

    def moved(self, x: float, y: float) -> Knot:
        """The knot, its handles with it, moved by (x, y)."""
        return self._replace(x=self.x + x, y=self.y + y)


class Nearest(NamedTuple):
    """The place on an outline that is nearest to a point."""

    segment: int
    share: float
    distance: float


def knots(outline: Outline) -> list[Knot]:
    """The knots of an outline.

    Raises:
        InputError: it is empty or broken off within a knot.
    """
    if not outline or len(outline) % KNOT:
        raise InputError("An outline needs six numbers for each of its points.")
    if len(outline) > MOST_KNOTS * KNOT:
        raise InputError(
            f"An outline has {len(outline) // KNOT} points; {MOST_KNOTS} are the most."
        )
    return [Knot(*outline[at : at + KNOT]) for at in range(0, len(outline), KNOT)]


def outline_of(points: Iterable[Knot]) -> Outline:
    """The outline through knots, to twelve decimals: mirrored twice it is the same."""
    return tuple(round(float(number), mirroring.DECIMALS) for knot in points for number in knot)


def rectangle(left: float, top: float, right: float, bottom: float) -> Outline:
    """A rectangle, clockwise from its upper left corner."""
    return polygon(((left, top), (right, top), (right, bottom), (left, bottom)))


def polygon(corners: Iterable[tuple[float, float]]) -> Outline:
    """Straight lines through the corners."""
    return outline_of(Knot(x, y) for x, y in corners)


def ellipse(x: float, y: float, across: float, down: float) -> Outline:
    """An ellipse about (x, y) with the radii ``across`` and ``down``: four knots."""
    a, d = across * _ROUND, down * _ROUND
    return outline_of(
        (
            Knot(x, y - down, -a, 0.0, a, 0.0),
            Knot(x + across, y, 0.0, -d, 0.0, d),
            Knot(x, y + down, a, 0.0, -a, 0.0),
            Knot(x - across, y, 0.0, d, 0.0, -d),
        )
    )


def regular_polygon(x: float, y: float, across: float, down: float, corners: int) -> Outline:
    """A polygon of equal sides (where the radii are equal lengths), one corner at the top.

    Raises:
        InputError: fewer than 3 corners, or more than 64.
    """
    if not 3 <= corners <= 64:
        raise InputError(f"A polygon has 3 to 64 corners, not {corners}.")
    turns = (2.0 * math.pi * index / corners for index in range(corners))
    return polygon((x + across * math.sin(t), y - down * math.cos(t)) for t in turns)


def moved(outline: Outline, x: float, y: float) -> Outline:
    """The whole outline moved."""
    return outline_of(knot.moved(x, y) for knot in knots(outline))


def transformed(outline: Outline, matrix: Matrix) -> Outline:
    """The outline under an affine 3×3 matrix, exactly."""
    (a, b, x), (c, d, y) = matrix[:2]
    return outline_of(
        Knot(
            a * k.x + b * k.y + x,
            c * k.x + d * k.y + y,
            a * k.in_x + b * k.in_y,
            c * k.in_x + d * k.in_y,
            a * k.out_x + b * k.out_y,
            c * k.out_x + d * k.out_y,
        )
        for k in knots(outline)
    )


def in_frame(outline: Outline, drawn_in: tuple[int, int], frame: tuple[int, int]) -> Outline:
    """An outline in parts of a frame as it looks the same in a frame of another shape.

    Its lengths stay the same parts of the frame's short side, about the middle.
    """
    across, down = (
        (drawn / min(drawn_in)) / (side / min(frame))
        for drawn, side in zip(drawn_in, frame, strict=True)
    )
    if abs(across - 1.0) < _SAME_SHAPE and abs(down - 1.0) < _SAME_SHAPE:
        return outline
    return resized(outline, 0.5, 0.5, across, down)


def resized(outline: Outline, x: float, y: float, across: float, down: float) -> Outline:
    """The outline made larger or smaller about (x, y)."""
    return transformed(outline, translation(x, y) @ scaling(across, down) @ translation(-x, -y))


def mirrored(outline: Outline, direction: Direction) -> Outline:
    """An outline in parts of the frame, mirrored about the frame's middle."""
    if direction is Direction.AS_MADE:
        return outline
    changed = mirroring.change(Mirroring.OUTLINE, direction, outline)
    return parts(mirroring.mirrored(outline, Mirroring.OUTLINE, direction, changed))


def segments(outline: Outline, closed: bool) -> list[tuple[Knot, Knot]]:
    """The pairs of knots that a piece of curve joins."""
    points = knots(outline)
    return list(pairwise([*points, points[0]] if closed else points))


def inserted(outline: Outline, segment: int, share: float) -> Outline:
    """One more knot on a segment, which keeps its form (de Casteljau's division)."""
    points = knots(outline)
    start, end = points[segment], points[(segment + 1) % len(points)]
    p0, p3 = np.array(start[:2]), np.array(end[:2])
    p1, p2 = p0 + start[4:6], p3 + end[2:4]
    a, b, c = p0 + (p1 - p0) * share, p1 + (p2 - p1) * share, p2 + (p3 - p2) * share
    d, e = a + (b - a) * share, b + (c - b) * share
    middle = d + (e - d) * share
    points[segment] = start._replace(out_x=a[0] - p0[0], out_y=a[1] - p0[1])
    after = (segment + 1) % len(points)
    points[after] = points[after]._replace(in_x=c[0] - p3[0], in_y=c[1] - p3[1])
    new = Knot(*middle, *(d - middle), *(e - middle))
    if start[4:6] == (0.0, 0.0) == end[2:4]:
        new = Knot(*middle)
        points[segment], points[after] = start, end
    return outline_of((*points[: segment + 1], new, *points[segment + 1 :]))


def removed(outline: Outline, index: int) -> Outline:
    """The outline without a knot.

    Raises:
        InputError: it would be left with fewer than two.
    """
    points = knots(outline)
    if len(points) <= 2:
        raise InputError("An outline needs at least two points; delete the whole mask instead.")
    return outline_of(points[:index] + points[index + 1 :])


def cornered(outline: Outline, index: int) -> Outline:
    """The knot without handles."""
    points = knots(outline)
    points[index] = Knot(*points[index][:2])
    return outline_of(points)


def smoothed(outline: Outline, index: int) -> Outline:
    """The knot with handles along the line between its neighbours, a third of the way long."""
    points = knots(outline)
    before, after = points[index - 1], points[(index + 1) % len(points)]
    x, y = (after.x - before.x) / 6.0, (after.y - before.y) / 6.0
    points[index] = Knot(*points[index][:2], -x, -y, x, y)
    return outline_of(points)


def flattened(outline: Outline, closed: bool, matrix: Matrix | None = None) -> Polyline:
    """Corners on the curve, at most some two units apart; under a 3×3 matrix if there is one.

    A closed outline does not repeat its first corner.
    """
    pieces = []
    for start, end in segments(outline, closed):
        control = _control(start, end)
        if matrix is not None:
            control = projected(control, matrix)
        pieces.append(_flat(control))
    if not closed:
        last = np.array([knots(outline)[-1][:2]])
        pieces.append(last if matrix is None else projected(last, matrix))
    return np.concatenate(pieces)


def nearest(outline: Outline, closed: bool, x: float, y: float) -> Nearest:
    """The place on the curve nearest to a point, to about a thousandth of a segment."""
    best = Nearest(0, 0.0, math.inf)
    coarse = np.linspace(0.0, 1.0, _SEARCHED + 1)
    for index, (start, end) in enumerate(segments(outline, closed)):
        control, share = _control(start, end), 0.5
        for reach in (1.0, 2.0 / _SEARCHED, 4.0 / _SEARCHED**2):
            shares = np.clip(share + (coarse - 0.5) * reach, 0.0, 1.0)
            away = np.hypot(*(_bezier(control, shares) - (x, y)).T)
            at = int(away.argmin())
            share = float(shares[at])
            if away[at] < best.distance:
                best = Nearest(index, share, float(away[at]))
    return best


def _control(start: Knot, end: Knot) -> Polyline:
    return np.array(
        [
            start[:2],
            (start.x + start.out_x, start.y + start.out_y),
            (end.x + end.in_x, end.y + end.in_y),
            end[:2],
        ]
    )


def _flat(control: Polyline) -> Polyline:
    """The curve of four control points without its end."""
    if np.array_equal(control[0], control[1]) and np.array_equal(control[2], control[3]):
        return control[:1]
    length = float(np.hypot(*np.diff(control, axis=0).T).sum())
    count = min(_MOST_PIECES, max(8, math.ceil(length / _FINEST)))
    return _bezier(control, np.arange(count) / count)


def _bezier(control: Polyline, shares: NDArray[np.float64]) -> Polyline:
    t = shares[:, None]
    u = 1.0 - t
    p0, p1, p2, p3 = control
    curve: Polyline = u**3 * p0 + 3 * u * u * t * p1 + 3 * u * t * t * p2 + t**3 * p3
    return curve


def signed_area(points: Polyline) -> float:
    """The area inside corners, above 0 where they run clockwise in a picture (shoelace formula)."""
    x, y = points.T
    return float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1))) / 2.0


def projected(points: Polyline, matrix: Matrix) -> Polyline:
    """Points ``(N, 2)`` where a matrix puts them."""
    spots = points @ matrix[:, :2].T + matrix[:, 2]
    flat: Polyline = spots[:, :2] / np.maximum(spots[:, 2:], 1e-6)
    return flat
