"""From outlines to the coverage of a layer: expansion, feather, inversion, and several together."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum

import cv2
import numpy as np

from wrinkle.core.motion.direction import Direction
from wrinkle.core.picture.gaussian import gaussian
from wrinkle.core.picture.image import Size, mirrored_field
from wrinkle.core.picture.paths import Outline, flattened, mirrored
from wrinkle.core.picture.placement import scaling, translation
from wrinkle.core.picture.resample import Plane
from wrinkle.core.picture.vector import Coverage, coverage

FEATHER_SIGMAS = 4.0
"""A feather is as wide as so many standard deviations of its Gaussian: 95 % of the fade."""
_MARGIN = 0.5


class Combine(Enum):
    """How a mask meets those before it."""

    ADD = "add"
    SUBTRACT = "subtract"
    INTERSECT = "intersect"
    DIFFERENCE = "difference"


@dataclass(frozen=True)
class MaskShape:
    """The plain values of one mask at one time.

    Attributes:
        outline: closed, in parts of the frame.
        combine: how it meets the masks before it.
        inverted: what is outside is shown.
        feather: the width over which the edge fades, in pixels; half of it on either side.
        expansion: how far the edge is moved outward, in pixels; inward if negative.
        opacity: 0…1, of what the mask shows.
        mirrored: what of the outline was exchanged since it was drawn.
    """

    outline: Outline
    combine: Combine = Combine.ADD
    inverted: bool = False
    feather: float = 0.0
    expansion: float = 0.0
    opacity: float = 1.0
    mirrored: Direction = Direction.AS_MADE


def mask_plane(
    shapes: Sequence[tuple[MaskShape, Coverage | None]],
    frame_size: Size,
    around: tuple[int, int] | None = None,
) -> Plane:
    """The masks of a layer together, over the frame and half a frame around it on each side.

    Args:
        shapes: in their order, at least one, each with the painted coverage of the frame that
            takes the place of its outline. The first one adds to nothing, or takes away from
            everything.
        frame_size: the size of the frame in pixels.
        around: so many pixels beyond the left and right, and beyond the top and bottom, are
            enough, and what feathers need: (0, 0) where the layer is not moved.
    """
    left, top = (math.ceil(side * _MARGIN) for side in frame_size)
    if around is not None:
        needed = math.ceil(max((shape.feather for shape, _ in shapes), default=0.0)) + 2
        left, top = min(left, around[0] + needed), min(top, around[1] + needed)
    size = Size(frame_size.width + 2 * left, frame_size.height + 2 * top)
    total: Coverage | None = None
    for shape, painted in shapes:
        one = shape_coverage(shape, frame_size, size, (left, top), painted)
        total = _combined(total, one, shape.combine)
    if total is None:
        total = np.ones((size.height, size.width), np.float32)
    return Plane(total, translation(-left, -top))


def shape_coverage(
    shape: MaskShape,
    frame_size: Size,
    size: Size,
    origin: tuple[int, int] = (0, 0),
    painted: Coverage | None = None,
) -> Coverage:
    """One mask, its opacity included, in a picture of ``size``.

    Args:
        shape: the mask.
        frame_size: what its outline's parts are of.
        size: of the result.
        origin: the pixel of the result at which the frame has its corner.
        painted: coverage of the frame instead of the outline.
    """
    if painted is None:
        # Drawn as it was made, and then turned: the edges of a mirrored path are not quite
        # mirrored.
        outline = mirrored(shape.outline, shape.mirrored)
        corners = flattened(outline, True, translation(*origin) @ scaling(*frame_size))
        values = coverage([corners], size, shape.expansion)
        values = mirrored_field(values, shape.mirrored)
    else:
        values = _grown(_framed(painted, size, origin), shape.expansion)
    if shape.feather > 0.0:
        values = gaussian(values, shape.feather / FEATHER_SIGMAS, cv2.BORDER_REPLICATE)
    if shape.inverted:
        values = np.float32(1.0) - values
    return values * np.float32(shape.opacity) if shape.opacity != 1.0 else values


def _framed(painted: Coverage, size: Size, origin: tuple[int, int]) -> Coverage:
    """Painted coverage with its border going on around it."""
    height, width = painted.shape
    left, top = origin
    right, bottom = size.width - width - left, size.height - height - top
    framed: Coverage = cv2.copyMakeBorder(painted, top, bottom, left, right, cv2.BORDER_REPLICATE)
    return framed


def _grown(values: Coverage, by: float) -> Coverage:
    """Painted coverage has no outline: its edge moves by the distance from it, in pixels."""
    if not by:
        return values
    within = (values > 0.5).astype(np.uint8)
    distance = cv2.distanceTransform(within, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    distance -= cv2.distanceTransform(1 - within, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    # Distances are counted between pixel centres; the edge lies half a pixel before the first.
    distance -= np.where(within > 0, np.float32(0.5), np.float32(-0.5))
    grown: Coverage = np.clip(distance + np.float32(by + 0.5), 0.0, 1.0)
    return grown


def _combined(total: Coverage | None, one: Coverage, how: Combine) -> Coverage:
    if total is None:
        # Adding starts from nothing, taking away and cutting from everything.
        return np.float32(1.0) - one if how is Combine.SUBTRACT else one
    match how:
        case Combine.ADD:
            return total + one - total * one
        case Combine.SUBTRACT:
            return total * (np.float32(1.0) - one)
        case Combine.INTERSECT:
            return total * one
        case Combine.DIFFERENCE:
            return total + one - np.float32(2.0) * total * one
