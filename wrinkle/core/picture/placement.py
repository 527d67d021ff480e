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
    """

    anchor: tuple[float, float] = (0.5, 0.5)
    position: tuple[float, float] = (0.0, 0.0)
    scale: tuple[float, float] = (100.0, 100.0)
    skew: float = 0.0
    skew_axis: float = 0.0
    rotation: float = 0.0


def pose_matrix(pose: Pose, frame: Size) -> Matrix:
    """The matrix that takes a point of the unmoved frame to where ``pose`` puts it, in pixels."""
    anchor_x, anchor_y = pose.anchor[0] * frame.width, pose.anchor[1] * frame.height
    moved_x = anchor_x + pose.position[0] * frame.width
    moved_y = anchor_y + pose.position[1] * frame.height
    return (
        translation(moved_x, moved_y)
        @ rotation(pose.rotation)
        @ rotation(pose.skew_axis)
        @ _shear(pose.skew)
        @ rotation(-pose.skew_axis)
        @ scaling(pose.scale[0] / 100.0, pose.scale[1] / 100.0)
        @ translation(-anchor_x, -anchor_y)
    )


def translation(x: float, y: float) -> Matrix:
    """Moves by (x, y)."""
    return np.array([[1.0, 0.0, x], [0.0, 1.0, y], [0.0, 0.0, 1.0]])


def scaling(x: float, y: float) -> Matrix:
    """Scales about the origin."""
    return np.diag([x, y, 1.0])


def rotation(degrees: float) -> Matrix:
    """Turns about the origin, clockwise on the screen. Quarter turns are exact."""
    quarters = degrees / 90.0
    if quarters == round(quarters):
        cosine, sine = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(quarters) % 4]
    else:
        angle = math.radians(math.fmod(degrees, 360.0))
        cosine, sine = math.cos(angle), math.sin(angle)
    return np.array([[cosine, -sine, 0.0], [sine, cosine, 0.0], [0.0, 0.0, 1.0]])


def corner_path(matrices: list[Matrix], size: Size) -> float:
    """The longest way in pixels that a corner of the frame goes along ``matrices``."""
    corners = np.array(
        [
            [0.0, size.width, 0.0, size.width],
            [0.0, 0.0, size.height, size.height],
            [1.0, 1.0, 1.0, 1.0],
        ]
    )
    moved = np.stack([(m @ corners)[:2] / (m @ corners)[2] for m in matrices])
    steps = np.hypot(*np.moveaxis(np.diff(moved, axis=0), 1, 0))
    return float(steps.sum(axis=0).max(initial=0.0))


def _shear(degrees: float) -> Matrix:
    lean = math.tan(math.radians(degrees))
    return np.array([[1.0, -lean, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]])
