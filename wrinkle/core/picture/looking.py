"""One look at a picture through a matrix: a block of the frame, by linear interpolation."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.blocks import Corner
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import HORIZON, Matrix, beyond_horizon, translation

NEAR_HORIZON = 1e-2
"""The depth below which a tilted picture counts as running away to its horizon."""
# In sides of the picture: what is farther off is finer than anything that is seen.
_FARTHEST = 100.0
HALF_PIXEL = translation(0.5, 0.5)
HALF_PIXEL_BACK = translation(-0.5, -0.5)
"""From the centres of pixels to their corners, and back."""


def shows(matrix: Matrix) -> bool:
    """Whether a matrix leaves something of a picture, and does not squash it to a line."""
    return bool(abs(np.linalg.det(matrix)) > 1e-12)


def looked_back(matrix: Matrix) -> Matrix:
    """From the pixel centres of the frame to those of what the matrix puts there."""
    return HALF_PIXEL_BACK @ np.linalg.inv(matrix) @ HALF_PIXEL


def look(
    source: NDArray[np.float32],
    inverse: Matrix,
    corner: Corner,
    border: int,
    into: NDArray[np.float32],
) -> None:
    """Writes the block at ``corner``; ``inverse`` leads from frame to picture, pixel centres."""
    matrix = inverse @ translation(corner[1], corner[0])
    size = (into.shape[1], into.shape[0])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    if matrix[2, 0] == 0.0 and matrix[2, 1] == 0.0:
        affine = matrix[:2] / matrix[2, 2]
        cv2.warpAffine(source, affine, size, dst=into, flags=flags, borderMode=border)
    elif beyond_horizon(matrix, Size(*size), NEAR_HORIZON):
        _look_to_horizon(source, matrix, border, into)
    else:
        cv2.warpPerspective(source, matrix, size, dst=into, flags=flags, borderMode=border)


def _look_to_horizon(
    source: NDArray[np.float32], matrix: Matrix, border: int, into: NDArray[np.float32]
) -> None:
    """As ``look`` where a tilted picture runs away to its horizon; beyond that is nothing.

    Past the horizon the formula shows the picture's back from behind the camera. Just before it
    places are so far off that OpenCV would fold them back at the borders for minutes.
    """
    part = _seen_part(source, matrix, into.shape) if border == cv2.BORDER_CONSTANT else None
    if part is not None:
        rows, columns = part
        into[...] = 0.0
        into = into[rows, columns]
        matrix = matrix @ translation(columns.start, rows.start)
        if not into.size:
            return
        if not beyond_horizon(matrix, Size(into.shape[1], into.shape[0]), NEAR_HORIZON):
            look(source, matrix, (0, 0), border, into)
            return
    height, width = into.shape[:2]
    rows, columns = np.mgrid[0:height, 0:width]
    x, y, depth = np.tensordot(matrix, np.stack((columns, rows, np.ones_like(rows))), axes=1)
    farthest = _FARTHEST * max(source.shape[:2])
    seen = (depth > HORIZON) & (np.maximum(np.abs(x), np.abs(y)) < farthest * depth)
    depth[~seen] = 1.0
    across, down = (np.where(seen, part / depth, 0.0).astype(np.float32) for part in (x, y))
    cv2.remap(source, across, down, cv2.INTER_LINEAR, dst=into, borderMode=border)
    into[~seen] = 0.0


def _seen_part(
    source: NDArray[np.float32], matrix: Matrix, shape: tuple[int, ...]
) -> tuple[slice, slice] | None:
    """The rows and columns of a block that a picture may reach; None where it runs to its horizon.

    It lies within its corners, as long as all of them are in front of the camera.
    """
    tall, wide = source.shape[:2]
    x, y, depth = np.linalg.inv(matrix) @ [[-1, wide, -1, wide], [-1, -1, tall, tall], [1, 1, 1, 1]]
    if depth.min() <= NEAR_HORIZON:
        return None
    x, y = x / depth, y / depth
    height, width = shape[:2]
    first, end = (min(max(round(edge), 0), width) for edge in (x.min() - 1.0, x.max() + 2.0))
    low, high = (min(max(round(edge), 0), height) for edge in (y.min() - 1.0, y.max() + 2.0))
    return slice(low, high), slice(first, end)
