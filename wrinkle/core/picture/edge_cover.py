"""What is seen outside a moved picture."""

from __future__ import annotations

from enum import Enum
from typing import Final

import cv2


class EdgeCover(Enum):
    """What is seen outside a moved picture."""

    BARE = "bare"
    MIRROR = "mirror"
    REPEAT = "repeat"
    STRETCH = "stretch"


BORDERS: Final = {
    EdgeCover.BARE: cv2.BORDER_CONSTANT,
    EdgeCover.MIRROR: cv2.BORDER_REFLECT,
    EdgeCover.REPEAT: cv2.BORDER_WRAP,
    EdgeCover.STRETCH: cv2.BORDER_REPLICATE,
}
"""OpenCV's border for each cover."""
