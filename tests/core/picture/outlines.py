"""What is measured of outlines in more than one test."""

import numpy as np

from wrinkle.core.picture.paths import Outline, flattened


def bounds(*outlines: Outline) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what the curves reach."""
    points = np.concatenate([flattened(outline, closed=True) for outline in outlines])
    left, top = points.min(axis=0).tolist()
    right, bottom = points.max(axis=0).tolist()
    return left, top, right, bottom
