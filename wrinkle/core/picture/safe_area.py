"""The part of a frame in which words can be read on any screen."""

from __future__ import annotations

from wrinkle.core.picture.image import Size

SAFE = 0.9
"""The share of width and height in which words are safe (SMPTE ST 2046-1, from memory)."""


def safe_size(frame: Size) -> tuple[float, float]:
    """Width and height of the safe area, in pixels; it stands in the middle of the frame."""
    return frame.width * SAFE, frame.height * SAFE
