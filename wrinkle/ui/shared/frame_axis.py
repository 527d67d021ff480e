"""Frames along the width of a widget; shared by ruler, strip and lanes."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class FrameAxis:
    """Frame ``n`` is the cell from ``x(n)`` to ``x(n + 1)``; the seam stands at ``x(0)``.

    Attributes:
        first, end: the window's first frame and the frame after its last.
        left, width: of all the cells together, in pixels.
    """

    first: int
    end: int
    left: float
    width: float

    @property
    def cell(self) -> float:
        """The width of one frame."""
        return self.width / max(1, self.end - self.first)

    def x(self, frame: float) -> float:
        """The left edge of a frame; whole and broken frame numbers."""
        return self.left + (frame - self.first) * self.cell

    def frame(self, x: float) -> float:
        """The broken frame number at ``x``."""
        return self.first + (x - self.left) / self.cell

    def frame_under(self, x: float) -> int:
        """The frame whose cell holds ``x``, within the window."""
        return min(max(int(self.frame(x) // 1), self.first), self.end - 1)

    @property
    def label_step(self) -> int:
        """Every so many frames there is room for a number."""
        step = 1
        while self.cell * step < 26:
            step = {1: 2, 2: 5, 5: 10}.get(step, step * 2)
        return step
