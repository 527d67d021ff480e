"""Carrying a path along with the motion of the picture beneath it.

Three parts: dense optical flow inside the path gives one affine motion (fitted on what lies well
inside, because half of what lies on the edge belongs to the background); the same fit against the
first picture takes out the drift that small steps add up to; and where the edge itself moves
against what it frames (an opening that closes), profiles across the edge are looked for again
along its normal.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import (
    KNOT,
    Knot,
    Outline,
    flattened,
    knots,
    outline_of,
    transformed,
)
from wrinkle.core.picture.placement import Matrix, scaling

Grey = NDArray[np.uint8]
"""``(H, W)``, encoded brightness."""

LEAST_CONFIDENCE = 0.35
"""Below this following stops: what follows would be guessed."""
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


def follow(pictures: Iterable[Grey], outline: Outline) -> Iterator[Followed]:
    """The path on each picture after the first one, on which it is ``outline``.

    Ends early where the confidence falls below ``LEAST_CONFIDENCE``.

    Args:
        pictures: in the order of following, all of one size.
        outline: closed, in parts of the picture.
    """
    source = iter(pictures)
    first = next(source)
    size = Size(first.shape[1], first.shape[0])
    pixels, parts_of = scaling(*size), scaling(1.0 / size.width, 1.0 / size.height)
    start = transformed(outline, pixels)
    path, before = start, first
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    whole: Matrix | None = np.eye(3)
    for after in source:
        moved, agreeing = _by_flow(flow, before, after, path)
        candidate = transformed(path, moved)
        if whole is not None and agreeing > 0.0:
            whole = _without_drift(flow, first, after, start, moved @ whole)
            candidate = transformed(start, whole) if whole is not None else candidate
        edged, found = _by_edge(before, after, path, candidate, whole is None)
        if edged is not None:
            # Once the edge has gone a way of its own, the first picture's inside tells nothing.
            candidate, whole = edged, None
        confidence = max(agreeing, found) if edged is None else found
        if confidence < LEAST_CONFIDENCE or _lost(candidate, size):
            return
        path, before = candidate, after
        yield Followed(transformed(path, parts_of), confidence)


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
    return _pushed(candidate, way), found


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
    x, y = spots.T
    area = float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))
    outward = 1.0 if area > 0.0 else -1.0
    return spots, np.stack([along[:, 1], -along[:, 0]], axis=1) * outward


def _profiles(
    picture: Grey,
    spots: NDArray[np.float64],
    normals: NDArray[np.float64],
    ruler: NDArray[np.float64],
) -> NDArray[np.float32]:
    """The brightness along each normal, ``(points, len(ruler))``."""
    places = spots[:, None, :] + normals[:, None, :] * ruler[None, :, None] - 0.5
    x, y = places[..., 0].astype(np.float32), places[..., 1].astype(np.float32)
    read = cv2.remap(picture, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(read, np.float32)


def _lost(path: Outline, size: Size) -> bool:
    """Whether a path has shrunk to nothing or left the picture."""
    corners = flattened(path, True)
    x, y = corners.T
    area = abs(float(np.sum(x * np.roll(y, -1) - y * np.roll(x, -1)))) / 2.0
    outside = x.max() < 0 or y.max() < 0 or x.min() > size.width or y.min() > size.height
    return bool(area < 9.0 or outside or len(path) < 2 * KNOT)
