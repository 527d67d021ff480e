"""The moves of a mask that one press makes: it sweeps across, opens, or shuts."""

from __future__ import annotations

import math
from enum import Enum

from wrinkle.core.design.document.links import inside
from wrinkle.core.design.document.mask_forms import MaskForm, form_outline
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.lane_edits import with_track
from wrinkle.core.design.edits.lane_shapes import ends
from wrinkle.core.design.edits.mask_edits import add_mask, path_ref
from wrinkle.core.errors import InputError
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.track import CUT, Keyframe, Track
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.paths import Outline, knots, moved, nearest, resized, transformed
from wrinkle.core.picture.placement import scaling

_BEYOND = 0.06
"""How far a mask that has left the frame is from it, in parts of the frame."""
_SHUT = 0.001
_ROOM = 1.03
"""How far beyond the corners of the frame a form is that holds it whole."""


class MaskMotion(Enum):
    """How a mask moves; the value is its word."""

    SWEEPS = "Sweeps across"
    LEAVES = "Rests, then slides off"
    OPENS = "Opens"
    SHUTS = "Shuts"


READY = (
    (MaskForm.EDGE, MaskMotion.SWEEPS),
    (MaskForm.BAR, MaskMotion.SWEEPS),
    (MaskForm.FULL, MaskMotion.LEAVES),
    (MaskForm.ELLIPSE, MaskMotion.OPENS),
    (MaskForm.ELLIPSE, MaskMotion.SHUTS),
)
"""Forms that are wanted in motion most often."""


def set_in_motion(wrinkle: Wrinkle, layer_id: str, mask_id: str, motion: MaskMotion) -> Wrinkle:
    """A lane of a mask's path, over the time that its layer is there.

    A mask that reaches over the frame sweeps until it covers it; a narrow one runs past. One that
    opens grows from a point of its own middle until it holds the frame; one that shuts is that
    backward.

    Raises:
        InputError: a dial sets the path.
    """
    ref = path_ref(layer_id, mask_id)
    frame = Size.checked(*wrinkle.reference_size)
    first, last = _between(parts(ref.of(wrinkle).rest), motion, frame)
    start, end = ends(wrinkle, wrinkle.layer(layer_id))
    if motion is MaskMotion.LEAVES:
        # It rests until the cut, or for the first half of a layer on one side of it.
        start = CUT if start < CUT < end else (start + end) / 2
    track = Track((Keyframe(start, first, FEELS["gentle"]), Keyframe(end, last)))
    return with_track(wrinkle, ref, track)


def revealed_in_turn(wrinkle: Wrinkle, group_id: str) -> Wrinkle:
    """Each layer of a group gets a mask that sweeps across, one after the other.

    The first begins with the group; each is quick, and begins before the one before has ended.

    Raises:
        InputError: it is no group, or holds nothing.
    """
    members = inside(wrinkle.layers, group_id)
    if not members:
        raise InputError("Select a group that holds layers; they are revealed one by one.")
    frame = Size.checked(*wrinkle.reference_size)
    start, end = ends(wrinkle, wrinkle.layer(group_id))
    outline = form_outline(MaskForm.EDGE, frame)
    first, last = _across(outline)
    step = (end - start) / (len(members) + 2)
    for number, member in enumerate(members):
        wrinkle, mask = add_mask(wrinkle, member.id, outline, MaskForm.EDGE.value)
        ref = path_ref(member.id, mask)
        begins = wrinkle.frame_rate.seconds(wrinkle.frame_rate.nearest_frame(start + number * step))
        track = Track((Keyframe(begins, first, FEELS["brake"]), Keyframe(begins + 2 * step, last)))
        wrinkle = with_track(wrinkle, ref, track)
    return wrinkle


def _between(path: Outline, motion: MaskMotion, frame: Size) -> tuple[Outline, Outline]:
    if motion is MaskMotion.SWEEPS:
        return _across(path)
    if motion is MaskMotion.LEAVES:
        return path, moved(path, 1.0 + _BEYOND - min(k.x for k in knots(path)), 0.0)
    shut, whole = _sized(path, _SHUT), _sized(path, _filling(path, frame))
    return (shut, whole) if motion is MaskMotion.OPENS else (whole, shut)


def _across(path: Outline) -> tuple[Outline, Outline]:
    across = [knot.x for knot in knots(path) if -_BEYOND <= knot.y <= 1.0 + _BEYOND]
    across = across or [knot.x for knot in knots(path)]
    left, right = min(across), max(across)
    first = moved(path, -_BEYOND - right, 0.0)
    covers = right - left >= 1.0
    return first, moved(path, 1.0 + _BEYOND - (right if covers else left), 0.0)


def _sized(path: Outline, factor: float) -> Outline:
    return resized(path, *_middle(path), factor, factor)


def _middle(path: Outline) -> tuple[float, float]:
    points = knots(path)
    x, y = (sum(k[axis] for k in points) / len(points) for axis in (0, 1))
    return x, y


def _filling(path: Outline, frame: Size) -> float:
    """By what a path has to grow about its middle until it holds the frame."""
    x, y = (part * side for part, side in zip(_middle(path), frame, strict=True))
    inner = nearest(transformed(path, scaling(*frame)), True, x, y).distance
    outer = max(math.hypot(x - a, y - b) for a in (0, frame.width) for b in (0, frame.height))
    return _ROOM * outer / max(inner, 1e-3 * min(frame))
