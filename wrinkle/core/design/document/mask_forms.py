"""Ready outlines for masks and shapes."""

from __future__ import annotations

from enum import Enum

from wrinkle.core.picture import paths
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import Outline
from wrinkle.core.picture.placement import rotation, scaling, translation

_BAR = 0.2
_FAR = 1.5


class MaskForm(Enum):
    """The masks that one click makes."""

    ELLIPSE = "Ellipse"
    RECTANGLE = "Rectangle"
    POLYGON = "Polygon"
    BAR = "Bar"
    EDGE = "Straight edge"
    DIAGONAL = "Diagonal half"
    FULL = "Full frame"


def form_outline(form: MaskForm, frame_size: Size, angle: float = 0.0) -> Outline:
    """The outline of a ready form in a frame.

    Args:
        form: which.
        frame_size: its size; a circle and an angle are so on the screen, not in parts of the frame.
        angle: of a bar or an edge, in degrees clockwise; 0 stands upright.
    """
    short = min(frame_size)
    across, down = 0.35 * short / frame_size.width, 0.35 * short / frame_size.height
    match form:
        case MaskForm.ELLIPSE:
            return paths.ellipse(0.5, 0.5, across, down)
        case MaskForm.RECTANGLE:
            return paths.rectangle(0.5 - across, 0.5 - down, 0.5 + across, 0.5 + down)
        case MaskForm.POLYGON:
            return paths.regular_polygon(0.5, 0.5, across, down, 6)
        case MaskForm.DIAGONAL:
            return paths.polygon(((-_FAR, -_FAR), (1.0 + _FAR, -_FAR), (-_FAR, 1.0 + _FAR)))
        case MaskForm.FULL:
            return paths.rectangle(0.0, 0.0, 1.0, 1.0)
        case MaskForm.BAR:
            left, right = -_BAR / 2 * short, _BAR / 2 * short
        case MaskForm.EDGE:
            left, right = -_FAR * max(frame_size), 0.0
    far = _FAR * max(frame_size)
    upright = paths.rectangle(left, -far, right, far)
    placed = (
        scaling(1.0 / frame_size.width, 1.0 / frame_size.height)
        @ translation(frame_size.width / 2.0, frame_size.height / 2.0)
        @ rotation(angle)
    )
    return paths.transformed(upright, placed)


ROUND = (MaskForm.ELLIPSE, MaskForm.POLYGON)
"""Those that stay round in a frame of another shape."""
