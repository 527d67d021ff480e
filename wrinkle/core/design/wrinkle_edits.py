"""Edits of a wrinkle as a whole: its name, length, shutter and frame."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.picture.image import Size
from wrinkle.core.time.rate import FrameRate


def rename(wrinkle: Wrinkle, name: str) -> Wrinkle:
    """Gives the wrinkle another name."""
    return replace(wrinkle, name=name.strip())


def set_length(wrinkle: Wrinkle, lead: Fraction, tail: Fraction) -> Wrinkle:
    """Sets the lengths before and after the cut, in seconds."""
    return replace(wrinkle, lead=lead, tail=tail)


def set_shutter(wrinkle: Wrinkle, angle: float, phase: float | None = None) -> Wrinkle:
    """Sets the shutter angle of the motion blur, and its phase, in degrees."""
    phase = wrinkle.shutter_phase if phase is None else phase
    return replace(wrinkle, shutter_angle=angle, shutter_phase=phase)


def set_frame(wrinkle: Wrinkle, size: Size, rate: FrameRate) -> Wrinkle:
    """Sets the frame that the wrinkle is designed in; all times stay as they are in seconds."""
    return replace(wrinkle, reference_size=size, frame_rate=rate)
