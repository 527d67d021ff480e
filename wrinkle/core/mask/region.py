"""What lies inside an outline told from what lies outside by colour, from picture to picture.

Two smoothed histograms in CIE Lab, one of the inside and one of a band outside; their log ratio at
each pixel says to which of the two it belongs (the region term of Rother, Kolmogorov and Blake,
"GrabCut", 2004). The last region, grown and shrunk, is where the next one is looked for.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Bytes8

Mask = NDArray[np.bool_]
Field = NDArray[np.float32]

_BINS = 16
_BAND = 1.5
"""How far outside is looked at, in reaches."""
_LEARNT = 0.15
"""The share of each new picture in what the two sides look like."""
_KEEPS = 1.2
"""How much the last region counts, in the unit of the log ratio; a colour that is told for sure
counts four."""
_STRONGEST = 4.0
_TOLD = 0.9
"""Of the agreement: colours that tell so well need less of where the region was."""
_BESIDE = 3.0
"""Pixels from the edge at which both sides are looked at."""


class Sides:
    """What the two sides of an edge look like.

    Args:
        picture: encoded RGB ``(H, W, 3)``.
        inside: the region on it.
        reach: pixels by which its edge may move from picture to picture.
    """

    def __init__(self, picture: Bytes8, inside: Mask, reach: float) -> None:
        self._inside, self._outside = _histograms(picture, inside, reach)

    def learn(self, picture: Bytes8, inside: Mask, reach: float) -> None:
        """Lets both sides become a little more like those of a picture."""
        found = _histograms(picture, inside, reach)
        self._inside += (found[0] - self._inside) * np.float32(_LEARNT)
        self._outside += (found[1] - self._outside) * np.float32(_LEARNT)

    def ratio(self, picture: Bytes8) -> Field:
        """How much more each pixel is like the inside, as a logarithm, -4…4, softened."""
        cells = _cells(picture)
        inside, outside = self._inside.take(cells), self._outside.take(cells)
        ratio = np.log((inside + 1e-5) / (outside + 1e-5)).astype(np.float32)
        soft: Field = cv2.bilateralFilter(ratio, 5, 3.0, 3.0)
        return np.clip(soft, -_STRONGEST, _STRONGEST)


def region(ratio: Field, last: Mask, reach: float) -> tuple[Field | None, float]:
    """Where the inside is now, and how sure that is, 0…1.

    It is looked for from what is about a pixel or two more than the last region, and from what
    is less: where colours do not tell, the two stay apart.

    Args:
        ratio: of the picture.
        last: about where it is.
        reach: pixels by which the edge may have moved.

    Returns:
        Above 0 in it, below outside, None where there is none; the share in which both agree.
    """
    away = distance(last)
    # Of what is thin, something must be left.
    step = min(max(0.5 * reach, 2.0), 0.6 * float(away.max(initial=0.0)))
    wide, narrow = (_grown(ratio, away + way, reach) for way in (step, -step))
    if wide is None or narrow is None:
        only = wide if narrow is None else narrow
        return only, 0.0
    found, agreed = _grown(ratio, away, reach), overlap(wide > 0.0, narrow > 0.0)
    if found is not None and agreed >= _TOLD:
        # Where it was holds back what has gone far: once more, from where it is found.
        again = _grown(ratio, distance(found > 0.0), reach)
        found = again if again is not None else found
    return found, agreed


def _grown(ratio: Field, away: Field, reach: float) -> Field | None:
    """The region from a guess: how far each pixel is inside it, in pixels."""
    guess = away > 0.0
    energy = ratio + np.clip(away / np.float32(reach), -1.0, 1.0) * np.float32(_KEEPS)
    energy[away < -reach] = -9.0
    energy = cv2.GaussianBlur(energy, (0, 0), 1.0)
    found = (energy > 0.0).astype(np.uint8)
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))
    found = cv2.morphologyEx(found, cv2.MORPH_OPEN, disc)
    found = cv2.morphologyEx(found, cv2.MORPH_CLOSE, disc)
    count, labels = cv2.connectedComponents(found)
    if count < 2 or not guess.any():
        return None
    shared = np.bincount(labels[guess], minlength=count)
    shared[0] = 0
    whole = _without_holes(labels == int(shared.argmax()))
    # What is no part of it, or a hole in it, is overruled; the edge keeps its softness.
    energy = np.where(whole, np.maximum(energy, 0.05), np.minimum(energy, -0.05))
    return np.ascontiguousarray(energy, np.float32)


def _without_holes(region: Mask) -> Mask:
    """A region with all that it goes round."""
    around = cv2.copyMakeBorder(region.astype(np.uint8), 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0)
    cv2.floodFill(around, None, (0, 0), 2)
    filled: Mask = around[1:-1, 1:-1] != 2
    return filled


def overlap(one: Mask, other: Mask) -> float:
    """Intersection over union."""
    union = int((one | other).sum())
    return float((one & other).sum()) / union if union else 0.0


def told_apart(ratio: Field, inside: Mask) -> float:
    """The share of the edge within the picture, 0…1, on both sides of which colours agree with it.

    Args:
        ratio: more like the inside is above 0.
        inside: the region whose edge it is.
    """
    away = distance(inside)
    near_in = (away > 0.0) & (away <= 1.0)
    rows, columns = np.nonzero(near_in)
    if not len(rows):
        return 0.0
    down, right = np.gradient(cv2.GaussianBlur(away, (0, 0), 1.5))
    slope = np.maximum(np.hypot(right, down), 1e-6)[near_in]
    right, down = right[near_in] / slope, down[near_in] / slope
    height, width = inside.shape
    agree = np.ones(len(rows), bool)
    seen = np.ones(len(rows), bool)
    for way, sign in ((_BESIDE, 1.0), (-_BESIDE, -1.0)):
        x, y = np.rint(columns + right * way).astype(int), np.rint(rows + down * way).astype(int)
        within = (x >= 0) & (x < width) & (y >= 0) & (y < height)
        seen &= within
        there = ratio[np.clip(y, 0, height - 1), np.clip(x, 0, width - 1)]
        agree &= there * sign > 0.0
    return float(agree[seen].mean()) if seen.any() else 0.0


def distance(inside: Mask) -> Field:
    """How far each pixel is from the edge, in pixels: above 0 inside."""
    found = cv2.distanceTransform(inside.astype(np.uint8), cv2.DIST_L2, 5)
    away: Field = found - cv2.distanceTransform((~inside).astype(np.uint8), cv2.DIST_L2, 5)
    return away


def _cells(picture: Bytes8) -> NDArray[np.int64]:
    lab = cv2.cvtColor(picture, cv2.COLOR_RGB2LAB).astype(np.int64) * _BINS // 256
    cells: NDArray[np.int64] = (lab[..., 0] * _BINS + lab[..., 1]) * _BINS + lab[..., 2]
    return cells


def _histograms(picture: Bytes8, inside: Mask, reach: float) -> tuple[Field, Field]:
    """Of both sides, without the pixels on the edge, which belong to both."""
    away, cells = distance(inside), _cells(picture)
    band = _BAND * reach
    sides = away > min(2.0, 0.3 * float(away.max(initial=0.0))), (away < -2.0) & (away > -band)
    found = []
    for side in sides:
        counts = np.bincount(cells[side], minlength=_BINS**3).astype(np.float32)
        cube = counts.reshape((_BINS,) * 3)
        for axis in range(3):
            cube = _softened(cube, axis)
        found.append((cube / (cube.sum() + np.float32(1e-9))).ravel())
    return found[0], found[1]


def _softened(cube: Field, axis: int) -> Field:
    """Counts that go to the neighbours along an axis too, a quarter to each."""
    lines = np.moveaxis(cube, axis, 0)
    soft = np.float32(0.5) * lines
    soft[1:] += np.float32(0.25) * lines[:-1]
    soft[:-1] += np.float32(0.25) * lines[1:]
    return np.moveaxis(soft, 0, axis)
