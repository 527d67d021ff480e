"""How a decoded picture stands: turned by quarters, mirrored, or both.

Source: ISO/IEC 14496-12, the matrix {a, b, u, c, d, v, x, y, w} of the track header: a point of the
picture is at (a·x + c·y, b·x + d·y) of what is to be seen.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass

import numpy as np
from av.sidedata.sidedata import Type
from av.video.frame import VideoFrame

from wrinkle.core.picture.image import Bytes8

_MATRIX = struct.Struct("=9i")


@dataclass(frozen=True)
class Orientation:
    """What is done to a picture so that it stands upright.

    Attributes:
        mirrored: left and right are exchanged first.
        quarter_turns: counter-clockwise, after that.
    """

    mirrored: bool = False
    quarter_turns: int = 0

    @property
    def is_upright(self) -> bool:
        """Whether nothing is to be done to it."""
        return not self.mirrored and not self.quarter_turns

    @property
    def on_its_side(self) -> bool:
        """Whether width and height are exchanged."""
        return self.quarter_turns % 2 == 1

    def upright(self, pixels: Bytes8) -> Bytes8:
        """A picture ``(H, W, …)`` upright."""
        if self.mirrored:
            pixels = pixels[:, ::-1]
        return np.ascontiguousarray(np.rot90(pixels, self.quarter_turns))


def orientation_of(frame: VideoFrame) -> Orientation:
    """That of the file's display matrix; matrices of other turns count as the nearest quarter."""
    side = frame.side_data.get(Type.DISPLAYMATRIX)  # type: ignore[call-overload]
    if side is not None:
        content = bytes(side)
        if len(content) >= _MATRIX.size:
            a, b, _, c, d, *_ = (float(x) for x in _MATRIX.unpack(content[: _MATRIX.size]))
            mirrored = a * d - b * c < 0.0
            if mirrored:
                a, b = -a, -b
            # x goes to (a, b) with y downwards: a turn clockwise is positive.
            turns = round(np.degrees(np.arctan2(b, a)) / 90.0)
            return Orientation(mirrored, -turns % 4)
    return Orientation()
