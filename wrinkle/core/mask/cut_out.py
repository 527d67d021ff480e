"""A rough outline becomes the soft coverage of a subject, and is carried through a clip.

OpenCV's GrabCut tells subject from ground by their colours (Rother, Kolmogorov, Blake 2004); a
guided filter (He, Sun, Tang 2010) then lays the edge along that of the picture.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Bytes8
from wrinkle.core.picture.vector import Coverage

_WORKED_AT_FIRST, _WORKED_LATER = 270, 190
"""Pixels of the short side: what is known from the picture before needs fewer of them."""
_ROUNDS = 4
_ROUNDS_LATER = 1
_BAND = 0.06
_BAND_LATER = 0.035
_GUIDE = 0.012
_GUIDE_EPSILON = 1e-4

_Model = NDArray[np.float64]
"""OpenCV's mixture of colours, ``(1, 65)``."""


def cut_out(pictures: Iterable[Bytes8], rough: Coverage) -> Iterator[Coverage]:
    """The coverage of the subject on each picture, ``(H, W)`` 0…1, the first one included.

    Args:
        pictures: encoded RGB ``(H, W, 3)``, in order, all of one size.
        rough: about where the subject is on the first one.

    Raises:
        InputError: nothing lies inside the rough outline, or all of the picture does.
    """
    before: NDArray[np.uint8] | None = None
    colours = np.zeros((1, 65)), np.zeros((1, 65))
    coverage = rough
    for picture in pictures:
        small = _shrunk(picture, _WORKED_LATER)
        grey = cv2.cvtColor(small, cv2.COLOR_RGB2GRAY)
        if before is None:
            large = _shrunk(picture, _WORKED_AT_FIRST)
            grabbed = _grabbed(large, _sized(coverage, large), colours, True)
        else:
            known = _carried(before, grey, _sized(coverage, small))
            grabbed = _grabbed(small, known, colours, False)
        coverage = _refined(picture, grabbed)
        before = grey
        yield coverage


def _shrunk(picture: Bytes8, short_side: int) -> Bytes8:
    """A picture in its shape with so many pixels on its short side, or fewer."""
    height, width = picture.shape[:2]
    factor = min(1.0, short_side / min(height, width))
    size = max(8, round(width * factor)), max(8, round(height * factor))
    small: Bytes8 = cv2.resize(picture, size, interpolation=cv2.INTER_AREA)
    return small


def _sized(coverage: Coverage, picture: Bytes8) -> Coverage:
    """A coverage as large as a picture."""
    rows, columns = picture.shape[:2]
    larger = rows > coverage.shape[0]
    how = cv2.INTER_LINEAR if larger else cv2.INTER_AREA
    sized: Coverage = cv2.resize(coverage, (columns, rows), interpolation=how)
    return sized


def _grabbed(
    small: Bytes8, known: Coverage, colours: tuple[_Model, _Model], first: bool
) -> Coverage:
    """GrabCut, unsure within a band around the edge of what is known; 0 or 1 at each pixel.

    Args:
        small: the picture ``(h, w, 3)``.
        known: the coverage ``(h, w)`` as it is thought to be.
        colours: of the ground and of the subject: what is found on the first picture is where the
            next one begins, and is written over.
        first: nothing is known but a rough outline.

    Raises:
        InputError: nothing is known to be inside, or all of the picture is.
    """
    inside = (known > 0.5).astype(np.uint8)
    if not inside.any() or inside.all():
        raise InputError("A cut-out needs a rough outline around the subject; draw one first.")
    band = _BAND if first else _BAND_LATER
    reach = max(2, round(band * min(inside.shape)))
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * reach + 1, 2 * reach + 1))
    sure = cv2.erode(inside, kernel, borderType=cv2.BORDER_REPLICATE)
    near = cv2.dilate(inside, kernel, borderType=cv2.BORDER_REPLICATE)
    marks = np.full(inside.shape, cv2.GC_BGD, np.uint8)
    marks[near > 0] = cv2.GC_PR_BGD
    marks[inside > 0] = cv2.GC_PR_FGD
    if not first:
        # A rough outline may hold ground deep inside; a coverage that was found does not.
        marks[sure > 0] = cv2.GC_FGD
    if not (marks == cv2.GC_BGD).any():
        marks[0, :] = cv2.GC_BGD
    cv2.setRNGSeed(1)
    rounds, way = (_ROUNDS, cv2.GC_INIT_WITH_MASK) if first else (_ROUNDS_LATER, cv2.GC_EVAL)
    cv2.grabCut(small, marks, None, *colours, rounds, way)
    found: Coverage = ((marks == cv2.GC_FGD) | (marks == cv2.GC_PR_FGD)).astype(np.float32)
    return found


def _refined(picture: Bytes8, found: Coverage) -> Coverage:
    """A coverage as large as the picture, with its edge along the picture's own.

    A guided filter over brightness.
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    coverage = _sized(found, picture)
    guide: Coverage = grey.astype(np.float32) * np.float32(1 / 255)
    side = 2 * max(1, round(_GUIDE * min(coverage.shape))) + 1

    def mean(values: NDArray[np.floating]) -> Coverage:
        blurred: Coverage = cv2.blur(values, (side, side))
        return blurred

    average, average_coverage = mean(guide), mean(coverage)
    variance = mean(cv2.multiply(guide, guide)) - average * average
    shared = mean(cv2.multiply(guide, coverage)) - average * average_coverage
    slope = shared / (variance + np.float32(_GUIDE_EPSILON))
    offset = average_coverage - slope * average
    soft: Coverage = np.clip(mean(slope) * guide + mean(offset), 0.0, 1.0)
    return soft


def _carried(before: NDArray[np.uint8], after: NDArray[np.uint8], coverage: Coverage) -> Coverage:
    """The coverage moved along by the flow from the picture before."""
    flow = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST).calc(after, before, None)
    rows, columns = np.mgrid[0 : after.shape[0], 0 : after.shape[1]].astype(np.float32)
    moved: Coverage = cv2.remap(
        coverage,
        columns + flow[..., 0],
        rows + flow[..., 1],
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return moved
