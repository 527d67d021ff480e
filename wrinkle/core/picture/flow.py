"""How fast a picture moves, told from two frames of it.

Dense inverse search (Kroeger, Timofte, Dai, Van Gool, "Fast Optical Flow using Dense Inverse
Search", 2016) as OpenCV has it, set so that known motions of half a pixel up to a sixth of the
short side come back within three per cent. What is faster, and what is another picture, cannot be
followed; it is told from how badly the motion explains the second frame.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.picture.image import Bytes8

_FINEST, _PATCH, _STRIDE, _STEPS = 1, 8, 4, 16
_EVERY = 4
"""Points that are looked at: the flow is as coarse."""
_EXPLAINED = 12.0
"""Levels: a pixel that is found again differs by no more."""
TRUSTED = 0.7
"""The share of pixels that must be found again."""
_own = threading.local()


@dataclass(frozen=True)
class Motion:
    """How a picture moves from one frame to the next, in pixels.

    Attributes:
        speed: the median over the picture of how far its points go.
        way: the medians of how far they go to the right and down.
        found: the share of its points that are found again, 0…1.
    """

    speed: float
    way: tuple[float, float]
    found: float

    @property
    def trusted(self) -> bool:
        """Whether enough of the picture is found again."""
        return self.found >= TRUSTED

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return 64


def motion_between(before: Bytes8, after: Bytes8) -> Motion:
    """The motion of a picture.

    Args:
        before, after: grey pictures ``(H, W)`` of one size, each side at least 16 pixels.
    """
    if np.array_equal(before, after):
        return Motion(0.0, (0.0, 0.0), 1.0)
    flow = _search().calc(before, after, None)
    across, down = flow[..., 0], flow[..., 1]
    across, down = (np.ascontiguousarray(x[::_EVERY, ::_EVERY]) for x in (across, down))
    # OpenCV's magnitude rounds by where in memory it lies; the same pictures have one motion.
    speed = float(np.median(np.sqrt(across * across + down * down)))
    way = float(np.median(across)), float(np.median(down))
    return Motion(speed, way, _found(before, after, flow))


def _found(before: Bytes8, after: Bytes8, flow: NDArray[np.float32]) -> float:
    """The share of the points that the second picture has where the motion takes them."""
    height, width = before.shape
    ys, xs = np.mgrid[0:height:_EVERY, 0:width:_EVERY].astype(np.float32)
    to_x, to_y = xs + flow[::_EVERY, ::_EVERY, 0], ys + flow[::_EVERY, ::_EVERY, 1]
    back = cv2.remap(after, to_x, to_y, cv2.INTER_LINEAR)
    inside = (to_x >= 0) & (to_x < width) & (to_y >= 0) & (to_y < height)
    near = cv2.absdiff(back, np.ascontiguousarray(before[::_EVERY, ::_EVERY])) <= _EXPLAINED
    share: float = float(np.count_nonzero(near & inside)) / near.size
    return share


def _search() -> cv2.DISOpticalFlow:
    """That of this thread: it keeps what it works with."""
    found: cv2.DISOpticalFlow | None = getattr(_own, "search", None)
    if found is None:
        found = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_ULTRAFAST)
        found.setFinestScale(_FINEST)
        found.setPatchSize(_PATCH)
        found.setPatchStride(_STRIDE)
        found.setGradientDescentIterations(_STEPS)
        _own.search = found
    return found
