"""A path laid along the edge of a region, with as many points as it had."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.paths import (
    Knot,
    Outline,
    Polyline,
    flattened,
    knots,
    outline_of,
    signed_area,
)

_FINER = 4
"""By how much the region is enlarged: its edge runs between the pixels."""
_FEWEST = 12
"""Points of an edge from which a path can be laid along it."""
_CORNER = 0.9
"""The cosine between the handles of a knot from which it is taken for a corner."""
_ROUNDS, _ROUNDS_OF = 4, 24
"""How often the places along a piece are found anew, and among how many, four times over."""
_MOST_POINTS = 150
_SHARPENS = 6.0
"""Pixels by which a corner may lie beyond the edge of a softened region."""
_SNAPS = 0.08
"""How far away a corner of the edge may be that a corner of the path is put on, of its size."""


def fitted(outline: Outline, energy: NDArray[np.float32]) -> Outline | None:
    """The path along the edge of a region; None where there is no edge to speak of.

    Its points go where the old ones are, in parts of the box around each; those that are corners
    go to the nearest corner. Between them each piece is the cubic that is nearest to the edge; at a
    smooth point it keeps the direction that the path had there, or takes that of the edge,
    whichever is nearer to the edge (Schneider, "An Algorithm for Automatically Fitting Digitized
    Curves", 1990).

    Args:
        outline: closed, in pixels of the picture; where it was before.
        energy: ``(H, W)``, above 0 in the region.
    """
    edge = _edge(energy)
    if edge is None:
        return None
    old = flattened(outline, True)
    if signed_area(edge) * signed_area(old) < 0.0:
        edge = edge[::-1]
    points = knots(outline)
    places = _places(points, old, edge)
    if len(set(places)) < len(points):
        return None
    start = places[0]
    ring = np.roll(edge, -start, axis=0)
    order = [(place - start) % len(edge) for place in places]
    if order != sorted(order):
        return None
    spots = _sharpened(points, ring, order)
    ends = [*order[1:], len(edge)]
    closed = np.concatenate([ring, ring[:1]])
    pieces = [closed[a : b + 1] for a, b in zip(order, ends, strict=True)]
    chosen = [
        _fit(points, spots, pieces, tangents)
        for tangents in (_kept(points, old, edge), _seen(points, ring, order))
    ]
    return min(chosen, key=lambda one: one[1])[0]


Tangents = list[NDArray[np.float64] | None]
"""The direction of the path at each knot, a unit vector; None at a corner."""


def _fit(
    points: list[Knot], spots: Polyline, pieces: list[Polyline], tangents: Tangents
) -> tuple[Outline, float]:
    """The path with these directions at its knots, and how far it is from the edge in the mean."""
    following = [(n + 1) % len(points) for n in range(len(points))]
    cubics, away = [], 0.0
    for index, piece in enumerate(pieces):
        to = following[index]
        control, error = _cubic(piece, spots[index], spots[to], tangents[index], tangents[to])
        cubics.append(control)
        away += error * len(piece)
    made = []
    for index in range(len(points)):
        into = cubics[index - 1][2] - spots[index]
        out = cubics[index][1] - spots[index]
        made.append(Knot(*map(float, (*spots[index], *into, *out))))
    return outline_of(made), away / sum(map(len, pieces))


def _kept(points: list[Knot], old: Polyline, edge: Polyline) -> Tangents:
    """The directions that the path had, in its new box."""
    scale = np.ptp(edge, axis=0) / np.maximum(np.ptp(old, axis=0), 1e-6)
    found: Tangents = []
    for knot in points:
        way = np.array((knot.out_x - knot.in_x, knot.out_y - knot.in_y)) * scale
        found.append(None if _is_corner(knot) else way / max(float(np.hypot(*way)), 1e-9))
    return found


def _seen(points: list[Knot], ring: Polyline, order: list[int]) -> Tangents:
    """The directions that the edge has."""
    reach = max(2, round(0.015 * len(ring)))
    found: Tangents = []
    for knot, place in zip(points, order, strict=True):
        way = ring[(place + reach) % len(ring)] - ring[place - reach]
        found.append(None if _is_corner(knot) else way / max(float(np.hypot(*way)), 1e-9))
    return found


def _sharpened(points: list[Knot], ring: Polyline, order: list[int]) -> Polyline:
    """Where the knots stand: a corner where the lines on both of its sides would meet.

    A region that was softened has no sharp corners.
    """
    spots = ring[order].copy()
    count = len(order)
    for index, knot in enumerate(points):
        if not _is_corner(knot):
            continue
        lines = []
        for way, other in ((1, order[(index + 1) % count]), (-1, order[index - 1])):
            length = (way * (other - order[index])) % len(ring)
            near, far = round(0.08 * length) + 2, round(0.3 * length) + 4
            run = ring[(order[index] + way * np.arange(near, far)) % len(ring)]
            middle = run.mean(axis=0)
            lines.append((middle, np.linalg.svd(run - middle)[2][0]))
        (a, u), (b, v) = lines
        turned = u[0] * v[1] - u[1] * v[0]
        if abs(turned) < 0.2:
            continue
        meet = a + u * ((b - a)[0] * v[1] - (b - a)[1] * v[0]) / turned
        if np.hypot(*(meet - spots[index])) <= _SHARPENS:
            spots[index] = meet
    return spots


def _edge(energy: NDArray[np.float32]) -> Polyline | None:
    """The corners of the region's outer edge, in pixels, at about equal distances."""
    height, width = energy.shape
    large = cv2.resize(energy, (width * _FINER, height * _FINER), interpolation=cv2.INTER_LINEAR)
    contours, _ = cv2.findContours(
        (large > 0.0).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
    )
    if not contours:
        return None
    longest = max(contours, key=cv2.contourArea)[:, 0].astype(np.float64)
    if len(longest) < _FEWEST:
        return None
    edge: Polyline = (longest + 0.5) / _FINER
    return edge


def _places(points: list[Knot], old: Polyline, edge: Polyline) -> list[int]:
    """The index on the edge to which each knot goes."""
    was, now = (np.stack([one.min(axis=0), one.max(axis=0)]) for one in (old, edge))
    scale = (now[1] - now[0]) / np.maximum(was[1] - was[0], 1e-6)
    size = float(np.hypot(*(now[1] - now[0])))
    sharp = cv2.approxPolyDP(edge.astype(np.float32), 0.012 * size, True)[:, 0]
    found = []
    for knot in points:
        spot = now[0] + (np.array((knot.x, knot.y)) - was[0]) * scale
        if _is_corner(knot) and len(sharp):
            away = np.hypot(*(sharp - spot).T)
            if away.min() < _SNAPS * size:
                spot = sharp[int(away.argmin())]
        found.append(int(np.hypot(*(edge - spot).T).argmin()))
    return found


def _cubic(
    points: Polyline,
    first: NDArray[np.float64],
    last: NDArray[np.float64],
    leaving: NDArray[np.float64] | None,
    arriving: NDArray[np.float64] | None,
) -> tuple[Polyline, float]:
    """The control points ``(4, 2)`` of the cubic nearest to a piece of the edge, and how far it is.

    Args:
        points: of the piece.
        first, last: where it begins and ends.
        leaving, arriving: its directions there; free where None.
    """
    if len(points) < 6:
        third = (last - first) / 3.0
        return np.stack([first, first + third, last - third, last]), 0.0
    # An edge has four points for each pixel: a few hundred of them tell as much.
    points = points[:: max(1, len(points) // _MOST_POINTS)]
    lengths = np.concatenate([[0.0], np.hypot(*np.diff(points, axis=0).T).cumsum()])
    # The furthest place from the chord, where the piece may turn sharply: by its length alone a
    # cubic would cut that off.
    chord = (last - first) / max(float(np.hypot(*(last - first))), 1e-9)
    apart = points - first
    turn = int(np.abs(apart[:, 0] * chord[1] - apart[:, 1] * chord[0]).argmax())
    by_turn = np.interp(lengths, (0.0, lengths[turn], lengths[-1]), (0.0, 0.5, 1.0))
    ways = (leaving, arriving)
    nearest = [_nearest(points, first, last, ways, t) for t in (lengths / lengths[-1], by_turn)]
    return min(nearest, key=lambda one: one[1])


def _nearest(
    points: Polyline,
    first: NDArray[np.float64],
    last: NDArray[np.float64],
    ways: tuple[NDArray[np.float64] | None, NDArray[np.float64] | None],
    t: NDArray[np.float64],
) -> tuple[Polyline, float]:
    """The same for points ``(N, 2)`` of the piece, which are thought to lie at ``t`` at first."""
    leaving, arriving = ways
    third = (last - first) / 3.0
    fine = np.linspace(0.0, 1.0, 4 * _ROUNDS_OF)
    for _ in range(_ROUNDS):
        basis = _bernstein(t)
        rest = points - basis[:, :1] * first - basis[:, 3:] * last
        rest = rest - basis[:, 1:2] * first - basis[:, 2:3] * last
        # Unknown: the two handles, each a length along its direction, or a vector of its own.
        columns = [*_columns(basis[:, 1], leaving), *_columns(basis[:, 2], _reversed(arriving))]
        system = np.stack([column.ravel() for column in columns], axis=1)
        found, *_ = np.linalg.lstsq(system, rest.ravel(), rcond=None)
        used = 1 if leaving is not None else 2
        out = _handle(found[:used], leaving, third)
        into = _handle(found[used:], _reversed(arriving), -third)
        control = np.stack([first, first + out, last + into, last])
        curve = _bernstein(fine) @ control
        far = np.hypot(*(points[:, None, :] - curve[None, :, :]).transpose(2, 0, 1))
        t = fine[far.argmin(axis=1)]
    return control, float(far.min(axis=1).mean())


def _columns(
    weight: NDArray[np.float64], way: NDArray[np.float64] | None
) -> list[NDArray[np.float64]]:
    ways = [way] if way is not None else [np.array((1.0, 0.0)), np.array((0.0, 1.0))]
    return [np.outer(weight, one) for one in ways]


def _handle(
    found: NDArray[np.floating], way: NDArray[np.float64] | None, third: NDArray[np.float64]
) -> NDArray[np.float64]:
    """A handle; one that would point backwards is that of a straight line."""
    if way is None:
        return found.astype(np.float64)
    length = float(found[0])
    return way * (length if length > 0.0 else 0.1 * float(np.hypot(*third)))


def _reversed(way: NDArray[np.float64] | None) -> NDArray[np.float64] | None:
    return None if way is None else -way


def _bernstein(t: NDArray[np.float64]) -> NDArray[np.float64]:
    """The four weights ``(N, 4)`` of a cubic's control points."""
    u = 1.0 - t
    return np.stack([u**3, 3.0 * u * u * t, 3.0 * u * t * t, t**3], axis=1)


def _is_corner(knot: Knot) -> bool:
    into, out = np.array((knot.in_x, knot.in_y)), np.array((knot.out_x, knot.out_y))
    lengths = float(np.hypot(*into)) * float(np.hypot(*out))
    return lengths < 1e-9 or float(-(into @ out)) / lengths < _CORNER
