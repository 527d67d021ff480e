"""How a clip of one shape fills a frame of another."""

from __future__ import annotations

from enum import Enum
from fractions import Fraction
from functools import lru_cache

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
    BACKDROP = "whole over blur"
    """All of it is seen, over a blurred copy of itself that covers the frame."""


@lru_cache(maxsize=256)
def fitted_size(clip: Size, frame_size: Size, fit: Fit) -> Size:
    """The size at which the clip is shown, in whole pixels."""
    if fit is Fit.STRETCH:
        return frame_size
    across, down = Fraction(frame_size.width, clip.width), Fraction(frame_size.height, clip.height)
    return clip.scaled(max(across, down) if fit is Fit.FILL else min(across, down))


@lru_cache(maxsize=256)
def fit_matrix(
    picture: Size, clip: Size, frame_size: Size, fit: Fit, focus: tuple[float, float] = (0.5, 0.5)
) -> Matrix:
    """The 3×3 matrix that takes a point of ``picture`` (the clip at any size) to the frame.

    Where the picture has the fitted size this is a move by whole pixels.

    Args:
        picture, clip, frame_size: their sizes.
        fit: how the clip fills the frame.
        focus: the point of the clip, in parts of it, that comes as near the frame's middle as the
            clip still covers the frame.
    """
    shown = fitted_size(clip, frame_size, fit)
    left, top = (_offset(*sides) for sides in zip(frame_size, shown, focus, strict=True))
    matrix = translation(left, top) @ scaling(
        shown.width / picture.width, shown.height / picture.height
    )
    # Whoever asks again gets the same one.
    matrix.flags.writeable = False
    return matrix


def _offset(side: int, shown: int, focus: float) -> int:
    """Where the clip begins along one side of the frame."""
    if shown <= side:
        return (side - shown) // 2
    centred = round(side / 2.0 - focus * shown)
    return min(0, max(side - shown, centred)) if focus != 0.5 else (side - shown) // 2
