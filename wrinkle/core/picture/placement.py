"""Where a picture stands: anchor, scale, skew, rotation and position as one 3×3 matrix.

Coordinates are continuous: a picture of width w reaches from 0 to w, and pixel i has its centre
at i + 0.5. Rows point down, so that positive angles turn clockwise.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

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
    matrix = translation(moved_x, moved_y)
    if pose.tilt != (0.0, 0.0):
        matrix = matrix @ _in_depth(pose.tilt, pose.camera / 100.0 * min(frame_size))
    if pose.rotation != 0.0:
        matrix = matrix @ rotation(pose.rotation)
    if pose.skew != 0.0:
        axis = pose.skew_axis
        matrix = matrix @ rotation(axis) @ _shear(pose.skew) @ rotation(-axis)
    if pose.scale != (100.0, 100.0):
        matrix = matrix @ scaling(pose.scale[0] / 100.0, pose.scale[1] / 100.0)
    return matrix @ translation(-anchor_x, -anchor_y)


def translation(x: float, y: float) -> Matrix:
    """Moves by (x, y)."""
    return np.array([[1.0, 0.0, x], [0.0, 1.0, y], [0.0, 0.0, 1.0]])


def scaling(x: float, y: float) -> Matrix:
    """Scales about the origin: a 3×3 matrix."""
    return np.diag([x, y, 1.0])


def rotation(degrees: float) -> Matrix:
    """Turns about the origin, clockwise on the screen: a 3×3 matrix. Quarter turns are exact."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        cosine, sine = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarters) % 4]
    else:
        angle = math.radians(math.fmod(degrees, 360.0))
        cosine, sine = math.cos(angle), math.sin(angle)
    return np.array([[cosine, -sine, 0.0], [sine, cosine, 0.0], [0.0, 0.0, 1.0]])


def frame_corners(matrix: Matrix, size: Size) -> NDArray[np.float64]:
    """Where ``matrix`` puts the corners of a frame, ``(4, 2)``."""
    width, height = size
    corners = np.array([[0.0, width, 0.0, width], [0.0, 0.0, height, height], [1.0] * 4])
    spots = matrix @ corners
    moved: NDArray[np.float64] = (spots[:2] / np.maximum(spots[2], 1e-3)).T
    return moved


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


def _shear(degrees: float) -> Matrix:
    lean = math.tan(math.radians(degrees))
    return np.array([[1.0, -lean, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]])
