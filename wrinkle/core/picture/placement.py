"""Where a picture stands: anchor, scale, skew, rotation and position as one 3×3 matrix.

Coordinates are continuous: a picture of width w reaches from 0 to w, and pixel i has its centre
at i + 0.5. Rows point down, so that positive angles turn clockwise.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Size

Matrix = NDArray[np.float64]
"""3×3, acts on column vectors (x, y, 1)."""

IDENTITY: Matrix = np.eye(3)
HORIZON = 1e-6
"""What is less deep than this, the camera's distance being 1, lies beyond the horizon."""


@dataclass(frozen=True)
class Pose:
    """The plain values of a placement at one time.

    Attributes:
        anchor: the point that scale, skew and rotation leave where it is, in parts of the frame.
        position: how far the picture is moved, in parts of the frame's width and height.
        scale: width and height in per cent.
        skew: the angle by which the upright edges lean, in degrees.
        skew_axis: the direction along which skew moves the picture, in degrees.
        rotation: in degrees, clockwise positive; 720 is two full turns.
        tilt: turns in depth about the level and the upright axis through the anchor, in degrees;
            positive ones take the upper and the right edge away.
        camera: its distance from the anchor, in per cent of the frame's short side.
    """

    anchor: tuple[float, float] = (0.5, 0.5)
    position: tuple[float, float] = (0.0, 0.0)
    scale: tuple[float, float] = (100.0, 100.0)
    skew: float = 0.0
    skew_axis: float = 0.0
    rotation: float = 0.0
    tilt: tuple[float, float] = (0.0, 0.0)
    camera: float = 200.0


def pose_matrix(pose: Pose, frame_size: Size) -> Matrix:
    """The 3×3 matrix from a point of the unmoved frame to where ``pose`` puts it, in pixels."""
    anchor_x, anchor_y = pose.anchor[0] * frame_size.width, pose.anchor[1] * frame_size.height
    moved_x = anchor_x + pose.position[0] * frame_size.width
    moved_y = anchor_y + pose.position[1] * frame_size.height
    # A shutter asks for dozens of these: multiplied out, and not as matrices.
    cosine, sine = _direction(pose.rotation)
    xx, xy, yx, yy = cosine, -sine, sine, cosine
    if pose.skew != 0.0:
        along, across = _direction(pose.skew_axis)
        lean = -math.tan(math.radians(pose.skew))
        # Turned to the axis, sheared and turned back.
        s_xx, s_xy = 1.0 - lean * along * across, lean * along * along
        s_yx, s_yy = -lean * across * across, 1.0 + lean * along * across
        xx, xy, yx, yy = (
            xx * s_xx + xy * s_yx, xx * s_xy + xy * s_yy,
            yx * s_xx + yy * s_yx, yx * s_xy + yy * s_yy,
        )  # fmt: skip
    wide, high = pose.scale[0] / 100.0, pose.scale[1] / 100.0
    xx, xy, yx, yy = xx * wide, xy * high, yx * wide, yy * high
    shift_x, shift_y = xx * anchor_x + xy * anchor_y, yx * anchor_x + yy * anchor_y
    if pose.tilt == (0.0, 0.0):
        return np.array([[xx, xy, moved_x - shift_x], [yx, yy, moved_y - shift_y], [0.0, 0.0, 1.0]])
    flat = np.array([[xx, xy, -shift_x], [yx, yy, -shift_y], [0.0, 0.0, 1.0]])
    depth = _in_depth(pose.tilt, pose.camera / 100.0 * min(frame_size))
    found: Matrix = translation(moved_x, moved_y) @ depth @ flat
    return found


def translation(x: float, y: float) -> Matrix:
    """Moves by (x, y)."""
    return np.array([[1.0, 0.0, x], [0.0, 1.0, y], [0.0, 0.0, 1.0]])


def scaling(x: float, y: float) -> Matrix:
    """Scales about the origin: a 3×3 matrix."""
    return np.diag([x, y, 1.0])


def rotation(degrees: float) -> Matrix:
    """Turns about the origin, clockwise on the screen: a 3×3 matrix. Quarter turns are exact."""
    cosine, sine = _direction(degrees)
    return np.array([[cosine, -sine, 0.0], [sine, cosine, 0.0], [0.0, 0.0, 1.0]])


def _direction(degrees: float) -> tuple[float, float]:
    """The cosine and the sine of an angle; exact for quarter turns."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarters) % 4]
    angle = math.radians(math.fmod(degrees, 360.0))
    return math.cos(angle), math.sin(angle)


def frame_corners(matrix: Matrix, size: Size) -> NDArray[np.float64]:
    """Where ``matrix`` puts the corners of a frame, ``(4, 2)``."""
    spots = matrix @ _corners(size)
    moved: NDArray[np.float64] = (spots[:2] / np.maximum(spots[2], 1e-3)).T
    return moved


@lru_cache(maxsize=64)
def _corners(size: Size) -> Matrix:
    width, height = size
    found = np.array([[0.0, width, 0.0, width], [0.0, 0.0, height, height], [1.0] * 4])
    found.flags.writeable = False
    return found


def beyond_horizon(inverse: Matrix, size: Size, depth: float = HORIZON) -> bool:
    """Whether some of the frame looks past the horizon of a picture tilted by a 3×3 matrix.

    Args:
        inverse: takes a point of the frame to a point of the picture.
        size: of the frame.
        depth: where the horizon is taken to be.
    """
    corners = [(0.0, 0.0), (size.width, 0.0), (0.0, size.height), (size.width, size.height)]
    return any(inverse[2] @ (x, y, 1.0) <= depth for x, y in corners)


def _in_depth(tilt: tuple[float, float], distance: float) -> Matrix:
    """The picture's plane turned about its level and its upright axis, seen by a camera."""
    level, upright = math.radians(tilt[0]), math.radians(tilt[1])
    # Depth grows away from the camera: of the turned plane's points (x, y, 0) it is
    # x sin(upright) - y sin(level) cos(upright).
    cos_l, sin_l, cos_u, sin_u = (
        math.cos(level),
        math.sin(level),
        math.cos(upright),
        math.sin(upright),
    )
    return np.array(
        [
            [cos_u, sin_u * sin_l, 0.0],
            [0.0, cos_l, 0.0],
            [sin_u / distance, -sin_l * cos_u / distance, 1.0],
        ]
    )
