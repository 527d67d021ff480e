"""What a setting may know of time besides the time itself."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Clock:
    """The surroundings of a time.

    Attributes:
        rate: frames per second.
        start, end: of the layer, in seconds from the cut.
        drawn_at: the time of the frame that is drawn; an open shutter looks around it.
    """

    rate: FrameRate
    start: Fraction
    end: Fraction
    drawn_at: Fraction

    def progress(self, time: Fraction) -> float:
        """0 at the layer's start, 1 at its end, and beyond."""
        return float((time - self.start) / (self.end - self.start))
