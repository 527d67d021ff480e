"""Carrying a path along with the motion of the picture beneath it.

Dense optical flow inside the path gives one affine motion (fitted on what lies well inside, because
half of what lies on the edge belongs to the background); the same fit against the first picture
takes out the drift that small steps add up to. Where the edge itself moves against what it frames,
as that of a shutter does, the two sides are told apart by their colours (``region``) and the path
is laid along the edge between them (``fitting``); where they have the same colours, profiles across
the edge are looked for again along its normal.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.mask.fitting import fitted
from wrinkle.core.mask.region import Mask, Sides, overlap, region, told_apart
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.paths import (
    KNOT,
    Knot,
    Outline,
    flattened,
    knots,
    outline_of,
    projected,
    signed_area,
    transformed,
)
from wrinkle.core.picture.placement import Matrix, scaling, translation
from wrinkle.core.picture.vector import coverage

Grey = NDArray[np.uint8]
"""``(H, W)``, encoded brightness."""

LEAST_CONFIDENCE = 0.35
"""Below this following stops: what follows would be guessed."""
LEAST_TOLD_APART = 0.8
"""The same of an edge that is found by colours: the share of it that they agree with."""
_TELLS = 0.05
"""By how much less of its edge may be told apart than at first, for a path that moves as one."""
_FOUND_AT_FIRST = 0.8
"""The same of the first path, which is known: whether colours tell it at all."""
_WORKED_SIDE = 240
"""Pixels of the short side of the window in which colours are looked at."""
_REACH, _MARGIN = 0.06, 0.16
"""How far an edge may move in a picture, and how much is looked at about it, of the short side."""
_WORST = 2.6
"""So many times what is usual differs what is certainly something else."""
_LEVELS = 2.0
"""Of 255: what differs everywhere."""
_BAND_DEPTHS = (2.0, 4.0, 6.0)
"""Pixels inside the edge at which the picture has to move as its inside does."""
_OUTLIER = 1.5
_FEWEST_POINTS = 24
_ERODED = 0.06
_STEP = 3
_PROFILE = 10
_BETTER = 0.6
_BETTER_ASTRAY = 0.85
_CLEAR = 0.25
_CLEAR_ASTRAY = 0.1
_SEARCH = 0.03
_EDGE_POINTS = 96
_A_LINE = 1024


@dataclass(frozen=True)
class Followed:
    """A path on one picture.

    Attributes:
        outline: in parts of the picture.
        confidence: 0…1: the share of the inside whose motion agrees, or of the edge that was
            found again.
    """

    outline: Outline
    confidence: float


def follow(pictures: Iterable[Bytes8], outline: Outline) -> Iterator[Followed]:
    """The path on each picture after the first one, on which it is ``outline``.

    Ends early where it is too unsure: below ``LEAST_CONFIDENCE``, or ``LEAST_TOLD_APART``.

    Args:
        pictures: encoded RGB ``(H, W, 3)``, in the order of following, all of one size.
        outline: closed, in parts of the picture.
    """
    source = iter(pictures)
    beginning = next(source)
    colours = _Colours(beginning, outline)
    first = cv2.cvtColor(beginning, cv2.COLOR_RGB2GRAY)
    size = Size(first.shape[1], first.shape[0])
    pixels, parts_of = scaling(*size), scaling(1.0 / size.width, 1.0 / size.height)
    start = transformed(outline, pixels)
    path, before = start, first
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    whole: Matrix | None = np.eye(3)
    for picture in source:
        after = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
        moved, agreeing = _by_flow(flow, before, after, path)
        candidate = transformed(path, moved)
        if whole is not None and agreeing > 0.0:
            whole = _without_drift(flow, first, after, start, moved @ whole)
            candidate = transformed(start, whole) if whole is not None else candidate
        beneath = transformed(candidate, parts_of)
        told = colours.told(picture, beneath, agreeing, whole is not None)
        if told is not None:
            if told.confidence < LEAST_TOLD_APART:
                return
            if told.outline is not None:
                path, before, whole = transformed(told.outline, pixels), after, None
            else:
                path, before = candidate, after
            if _lost(path, size):
                return
            yield Followed(transformed(path, parts_of), told.confidence)
            continue
        edged, found = _by_edge(before, after, path, candidate, whole is None)
        if edged is not None:
            # Once the edge has gone a way of its own, the first picture's inside tells nothing.
            candidate, whole = edged, None
            confidence, least = found, LEAST_TOLD_APART
        else:
            beside = _beside(before, after, path, moved)
            if whole is not None:
                # What is covered little by little is seen against the first picture.
                beside = min(beside, _beside(first, after, start, whole))
            confidence = min(agreeing, beside) if agreeing > 0.0 else found
            least = LEAST_CONFIDENCE
        if confidence < least:
            # An edge that sets off on a way of its own: the first path may lie beside it, so that
            # colours did not tell that one.
            told = colours.told(picture, beneath, agreeing, False)
            if told is None or told.outline is None or told.confidence < LEAST_TOLD_APART:
                return
            candidate, whole = transformed(told.outline, pixels), None
            confidence = told.confidence
        if _lost(candidate, size):
            return
        path, before = candidate, after
        colours.goes_on(transformed(path, parts_of))
        yield Followed(transformed(path, parts_of), confidence)


class _Told(NamedTuple):
    """What colours say of a picture.

    Attributes:
        outline: of the region, in parts of the picture; None where the path moves as one.
        confidence: the share of the edge that they agree with.
    """

    outline: Outline | None
    confidence: float


class _Colours:
    """The region inside a path as its colours tell it, looked at in a window about the path.

    Args:
        picture: the first one.
        outline: the path on it, in parts of the picture.
    """

    def __init__(self, picture: Bytes8, outline: Outline) -> None:
        self._sides: Sides | None = None
        self._outline = outline
        self._at_first = 0.0
        window = _Window.about(outline, picture)
        inside = window.within(outline)
        if not 0 < int(inside.sum()) < inside.size:
            return
        sides = Sides(window.picture, inside, window.reach)
        # Where both sides look so alike that not even this edge is found, colours say nothing.
        ratio = sides.ratio(window.picture)
        self._at_first = told_apart(ratio, inside)
        found, agreed = region(ratio, inside, window.reach)
        if found is not None and min(agreed, overlap(found > 0.0, inside)) >= _FOUND_AT_FIRST:
            self._sides = sides

    def goes_on(self, outline: Outline) -> None:
        """Where the path was found in another way."""
        self._outline = outline

    def told(
        self, picture: Bytes8, candidate: Outline, agreeing: float, as_one: bool
    ) -> _Told | None:
        """Where the path is on the next picture; None where colours say nothing of it.

        Args:
            picture: the next one.
            candidate: where the path is if it moves as its inside does.
            agreeing: the share of the inside that does.
            as_one: whether the path has moved as its inside did so far.
        """
        if self._sides is None:
            return None
        window = _Window.about(self._outline, picture)
        ratio = self._sides.ratio(window.picture)
        last, rigid = window.within(self._outline), window.within(candidate)
        energy, agreed = region(ratio, last, window.reach)
        sure = told_apart(ratio, rigid) if as_one and agreeing >= LEAST_CONFIDENCE else 0.0
        outline: Outline | None = None
        if energy is not None:
            found = min(told_apart(ratio, energy > 0.0), agreed)
            # As well as at first is well enough: a path that was drawn beside the edge stays there
            # as long as it moves as one.
            worse = not as_one or sure < self._at_first - _TELLS
            if worse and found > sure:
                fit = fitted(window.pixels(self._outline), energy)
                if fit is not None:
                    outline, sure = window.parts(fit), found
        if as_one and sure < LEAST_TOLD_APART:
            return None
        self._outline = candidate if outline is None else outline
        inside = window.within(self._outline)
        if inside.any() and sure >= LEAST_TOLD_APART:
            self._sides.learn(window.picture, inside, window.reach)
        return _Told(outline, sure)


@dataclass(frozen=True)
class _Window:
    """A part of a picture about a path, made so small that it is looked at in a short time.

    Attributes:
        picture: encoded RGB ``(h, w, 3)``.
        reach: pixels of it by which an edge may move from picture to picture.
        to_window: from parts of the whole picture to pixels of the window.
    """

    picture: Bytes8
    reach: float
    to_window: Matrix

    @classmethod
    def about(cls, outline: Outline, picture: Bytes8) -> _Window:
        """The window about an outline in parts of a picture."""
        height, width = picture.shape[:2]
        short = min(height, width)
        corners = flattened(transformed(outline, scaling(width, height)), True)
        low = np.clip(corners.min(axis=0) - _MARGIN * short, 0, (width - 8, height - 8))
        high = np.clip(corners.max(axis=0) + _MARGIN * short, low + 8, (width, height))
        left, top = (int(x) for x in low)
        right, bottom = (math.ceil(x) for x in high)
        part = picture[top:bottom, left:right]
        factor = min(1.0, _WORKED_SIDE / min(part.shape[:2]))
        size = round(part.shape[1] * factor), round(part.shape[0] * factor)
        small = cv2.resize(part, size, interpolation=cv2.INTER_AREA)
        by = size[0] / part.shape[1], size[1] / part.shape[0]
        matrix = scaling(*by) @ translation(-left, -top) @ scaling(width, height)
        return cls(small, _REACH * short * factor, matrix)

    def pixels(self, outline: Outline) -> Outline:
        """An outline in parts of the picture, in pixels of the window."""
        return transformed(outline, self.to_window)

    def parts(self, outline: Outline) -> Outline:
        """An outline in pixels of the window, in parts of the picture."""
        back = np.linalg.inv(self.to_window)
        return transformed(outline, back.astype(np.float64))

    def within(self, outline: Outline) -> Mask:
        """The pixels of the window inside an outline in parts of the picture."""
        size = Size(self.picture.shape[1], self.picture.shape[0])
        inside: Mask = coverage([flattened(self.pixels(outline), True)], size) > 0.5
        return inside


def _by_flow(
    flow: cv2.DISOpticalFlow, before: Grey, after: Grey, path: Outline
) -> tuple[Matrix, float]:
    """One affine motion of the inside, and the share of the inside that it explains."""
    spots = _inside(path, before.shape)
    if len(spots) < _FEWEST_POINTS:
        return np.eye(3), 0.0
    way = flow.calc(before, after, None)
    there = way[spots[:, 1], spots[:, 0]]
    back = flow.calc(after, before, None)
    landed = (spots + there).astype(np.float32)
    columns = np.clip(np.rint(landed[:, 0]), 0, before.shape[1] - 1).astype(np.int64)
    rows = np.clip(np.rint(landed[:, 1]), 0, before.shape[0] - 1).astype(np.int64)
    returned = back[rows, columns]
    sure = np.hypot(*(there + returned).T) < _OUTLIER
    if int(sure.sum()) < _FEWEST_POINTS:
        return np.eye(3), 0.0
    fit, inliers = cv2.estimateAffine2D(
        spots[sure].astype(np.float32), landed[sure], ransacReprojThreshold=_OUTLIER
    )
    if fit is None:
        return np.eye(3), 0.0
    matrix = np.eye(3)
    matrix[:2] = fit
    # OpenCV counts from pixel centres, outlines from pixel corners.
    half = np.array([[1.0, 0.0, 0.5], [0.0, 1.0, 0.5], [0.0, 0.0, 1.0]])
    matrix = half @ matrix @ np.linalg.inv(half)
    return matrix, float(inliers.sum()) / len(spots)


def _beside(before: Grey, after: Grey, path: Outline, moved: Matrix) -> float:
    """How well what lies just inside the edge moves as the inside does, 0…1.

    Where the edge moves against its inside, what lay there is covered by something else: it differs
    by more than what lies deeper.
    """
    spots, normals = _edge(path)
    depths = np.concatenate([spots - normals * depth for depth in _BAND_DEPTHS])
    differs = np.abs(_read(before, depths) - _read(after, projected(depths, moved)))
    deep = _inside(path, before.shape).astype(np.float64) + 0.5
    usual = np.abs(_read(before, deep) - _read(after, projected(deep, moved)))
    as_usual = (float(usual.mean()) if len(usual) else 0.0) + _LEVELS
    return min(max(_WORST - float(differs.mean()) / as_usual, 0.0), 1.0)


def _read(picture: Grey, spots: NDArray[np.float64]) -> NDArray[np.float32]:
    """The brightness at places ``(N, …, 2)``, in pixels; as many numbers as places."""
    count, shape = math.prod(spots.shape[:-1]), spots.shape[:-1]
    if not count:
        return np.zeros(shape, np.float32)
    # In lines: OpenCV takes no picture of more than 32,766 rows.
    places = np.zeros((-(-count // _A_LINE), _A_LINE, 2), np.float32)
    places.reshape(-1, 2)[:count] = spots.reshape(-1, 2) - 0.5
    read = cv2.remap(picture, places, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(read.reshape(-1)[:count], np.float32).reshape(shape)


def _without_drift(
    flow: cv2.DISOpticalFlow, first: Grey, after: Grey, start: Outline, whole: Matrix
) -> Matrix | None:
    """The motion from the first picture, corrected by what the first picture still differs."""
    height, width = first.shape
    warped = cv2.warpAffine(first, whole[:2], (width, height), borderMode=cv2.BORDER_REPLICATE)
    rest, agreeing = _by_flow(flow, warped, after, transformed(start, whole))
    if agreeing < LEAST_CONFIDENCE:
        return None
    return rest @ whole


def _inside(path: Outline, shape: tuple[int, ...]) -> NDArray[np.int64]:
    """A grid of pixels well inside a path, ``(N, 2)`` x and y."""
    mask = np.zeros(shape[:2], np.uint8)
    corners = np.rint(flattened(path, True) - 0.5).astype(np.int32)
    cv2.fillPoly(mask, [corners], 1)
    reach = max(1, round(_ERODED * float(np.sqrt(mask.sum()))))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    eroded = cv2.erode(mask, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=0)
    rows, columns = np.nonzero(eroded[::_STEP, ::_STEP])
    return np.stack([columns * _STEP, rows * _STEP], axis=1)


def _by_edge(
    before: Grey, after: Grey, path: Outline, candidate: Outline, astray: bool
) -> tuple[Outline | None, float]:
    """The path with its edge found again along the normals, if that is clearly better.

    Less is enough where the edge is known to go ``astray`` from what it frames: a step that is
    missed there is never made up for.

    Returns:
        The path, None where the edge is best left as it is; and the share of it that was found.
    """
    old, normal = _edge(path)
    new, across = _edge(candidate)
    reach = max(3, round(_SEARCH * min(before.shape)))
    ruler = np.arange(-_PROFILE, _PROFILE + 1, dtype=np.float64)
    weight = np.exp(-0.5 * (ruler / (_PROFILE / 2.0)) ** 2)
    wanted = _profiles(before, old, normal, ruler)
    steps = np.arange(-reach, reach + 1, dtype=np.float64)
    long = np.arange(-_PROFILE - reach, _PROFILE + reach + 1, dtype=np.float64)
    there = _profiles(after, new, across, long)
    costs = (
        np.stack(
            [
                (weight * np.abs(there[:, at : at + len(ruler)] - wanted)).sum(axis=1)
                for at in range(len(steps))
            ],
            axis=1,
        )
        / weight.sum()
    )
    best = costs.argmin(axis=1)
    here, least = costs[:, reach], costs.min(axis=1)
    seen = np.ptp(wanted, axis=1) > 12.0
    clear = (
        seen
        & (least < (_BETTER_ASTRAY if astray else _BETTER) * here)
        & (here > 4.0)
        & (abs(steps[best]) < reach)
    )
    found = float((clear | (seen & (least < 10.0))).mean())
    if clear.mean() < (_CLEAR_ASTRAY if astray else _CLEAR):
        return None, found
    way = np.where(clear, steps[best], np.nan)
    # Only what was found elsewhere, and clearly, says that the edge has gone there.
    return _pushed(candidate, way), float(clear.sum() / max(int(seen.sum()), 1))


def _pushed(path: Outline, way: NDArray[np.float64]) -> Outline:
    """Each knot moved along its normal by the median way of the edge around it.

    The handles keep their share of the shape: they grow with the knots' distance from the middle.
    """
    points = knots(path)
    spots, normals = _edge(path)
    middle = spots.mean(axis=0)
    moved = []
    for knot in points:
        away = np.hypot(*(spots - (knot.x, knot.y)).T)
        near = np.argsort(away)[: max(7, _EDGE_POINTS // len(points))]
        local = way[near]
        if np.isnan(local).all():
            moved.append(knot)
            continue
        by = float(np.nanmedian(local))
        normal = normals[int(away.argmin())]
        x, y = knot.x + normal[0] * by, knot.y + normal[1] * by
        radius = max(float(np.hypot(knot.x - middle[0], knot.y - middle[1])), 1e-6)
        grown = float(np.hypot(x - middle[0], y - middle[1])) / radius
        moved.append(Knot(x, y, *(side * grown for side in knot[2:])))
    return outline_of(moved)


def _edge(path: Outline) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Points at equal distances along a path and its outward normals, ``(N, 2)`` each."""
    corners = flattened(path, True)
    closed = np.concatenate([corners, corners[:1]])
    lengths = np.concatenate([[0.0], np.hypot(*np.diff(closed, axis=0).T).cumsum()])
    at = np.linspace(0.0, lengths[-1], _EDGE_POINTS, endpoint=False)
    spots = np.stack([np.interp(at, lengths, closed[:, axis]) for axis in (0, 1)], axis=1)
    along = np.roll(spots, -1, axis=0) - np.roll(spots, 1, axis=0)
    along /= np.maximum(np.hypot(*along.T), 1e-9)[:, None]
    outward = 1.0 if signed_area(spots) > 0.0 else -1.0
    return spots, np.stack([along[:, 1], -along[:, 0]], axis=1) * outward


def _profiles(
    picture: Grey,
    spots: NDArray[np.float64],
    normals: NDArray[np.float64],
    ruler: NDArray[np.float64],
) -> NDArray[np.float32]:
    """The brightness along each normal, ``(points, len(ruler))``."""
    return _read(picture, spots[:, None, :] + normals[:, None, :] * ruler[None, :, None])


def _lost(path: Outline, size: Size) -> bool:
    """Whether a path has shrunk to nothing or left the picture."""
    corners = flattened(path, True)
    x, y = corners.T
    area = abs(signed_area(corners))
    outside = x.max() < 0 or y.max() < 0 or x.min() > size.width or y.min() > size.height
    return bool(area < 9.0 or outside or len(path) < 2 * KNOT)
