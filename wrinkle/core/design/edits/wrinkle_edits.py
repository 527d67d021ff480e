"""Edits of a wrinkle as a whole: its name, length, shutter and frame."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.kinds import KINDS
from wrinkle.core.design.document.wrinkle import Offered, Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
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


def describe(wrinkle: Wrinkle, about: str, kinds: Iterable[str]) -> Wrinkle:
    """Says what the wrinkle does, and under which kinds it is found; other tags stay."""
    chosen = set(kinds)
    others = tuple(tag for tag in wrinkle.tags if tag not in KINDS)
    tags = (*(kind for kind in KINDS if kind in chosen), *others)
    return replace(wrinkle, about=about.strip(), tags=tags)


def set_directions(wrinkle: Wrinkle, names: Mapping[Direction, str]) -> Wrinkle:
    """Sets the directions that make sense, and what they are called; without any all do.

    Raises:
        InputError: two have the same name, or one has none.
    """
    words = [name.strip() for name in names.values()]
    if "" in words or len(set(words)) < len(words):
        raise InputError("Each direction needs a name of its own, such as 'from the left'.")
    offered = (Offered(x, names[x].strip()) for x in Direction if x in names)
    return replace(wrinkle, directions=tuple(offered))
