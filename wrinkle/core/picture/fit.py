"""How a clip of one shape fills a frame of another."""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import Matrix, scaling, translation


class Fit(Enum):
    """How a slot's clip fills the frame."""

    FILL = "fill"
    """Covers the frame; what is too wide or too high is cut off evenly."""
    WHOLE = "whole"
    """All of it is seen; what is missing is left to the edge cover."""
    STRETCH = "stretch"
    """Pulled to the frame's shape."""


def fitted_size(clip: Size, frame: Size, fit: Fit) -> Size:
    """The size at which the clip is shown, in whole pixels."""
    if fit is Fit.STRETCH:
        return frame
    across, down = Fraction(frame.width, clip.width), Fraction(frame.height, clip.height)
    return clip.scaled(max(across, down) if fit is Fit.FILL else min(across, down))


def fit_matrix(picture: Size, clip: Size, frame: Size, fit: Fit) -> Matrix:
    """Takes a point of ``picture`` (the clip at any size) to the frame, centred.

    Where the picture has the fitted size this is a move by whole pixels.
    """
    shown = fitted_size(clip, frame, fit)
    left, top = (frame.width - shown.width) // 2, (frame.height - shown.height) // 2
    return translation(left, top) @ scaling(
        shown.width / picture.width, shown.height / picture.height
    )
