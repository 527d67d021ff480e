"""The smallest enlargement with which a moved picture covers the frame.

For a frame of w × h turned by θ about its middle it is cos θ + (long/short)·sin θ (geometry); here
it is worked out for any placement, from where the corners of the frame lie within the picture.
"""

from __future__ import annotations

import math
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.measure.mending import rest_frame, scaled_by
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import pair_of
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import Matrix
from wrinkle.core.render.extent import Box, fitted
from wrinkle.core.render.placing import layer_matrix, shown_matrix
from wrinkle.core.render.plan import plan_layer
from wrinkle.core.render.planned import matrix_of

MOST = 8.0
"""What needs more is better covered in another way."""
_MARGIN = 0.8
"""Pixels: the outermost ones of a picture are half bare."""
_HORIZON = 1e-3
_RAMP = 6
"""Frames in which an enlargement comes and goes, where there are so many."""


def enlargement(placement: Matrix, box: Box, anchor: tuple[float, float], size: Size) -> float:
    """By how much a picture has to be scaled about its anchor so that it covers the frame.

    Args:
        placement: takes a point of the unmoved frame to where it is seen.
        box: where the picture lies in the unmoved frame, in pixels.
        anchor: the point within the unmoved frame that scale leaves where it is, in pixels.
        size: of the frame.

    Returns:
        At least 0; infinite where no scale does it: the anchor is on an edge, or the frame looks
        past the horizon of a tilted picture.
    """
    if abs(np.linalg.det(placement)) < 1e-12:
        return math.inf
    inverse = np.linalg.inv(placement)
    corners = np.array(
        [[0.0, size.width, 0.0, size.width], [0.0, 0.0, size.height, size.height], [1.0] * 4]
    )
    spots = inverse @ corners
    if (spots[2] / inverse[2, 2] <= _HORIZON).any():
        return math.inf
    xs, ys = spots[0] / spots[2] - anchor[0], spots[1] / spots[2] - anchor[1]
    left, top, right, bottom = box
    needed = 0.0
    for values, room in (
        (xs, right - anchor[0]), (-xs, anchor[0] - left),
        (ys, bottom - anchor[1]), (-ys, anchor[1] - top),
    ):  # fmt: skip
        reach = float(values.max())
        if reach <= 0.0:
            continue
        needed = max(needed, reach / room if room > 0.0 else math.inf)
    return needed


def needed_on(subject: Subject, layer: Layer, frame: int) -> float:
    """The enlargement that a layer needs on a frame, through the whole time of its shutter."""
    showing, time = subject.showing, subject.time(frame)
    size, wrinkle = showing.size, subject.wrinkle
    planned = plan_layer(wrinkle, showing.material, layer.id, time, size)
    if planned is None:
        return 1.0
    box = fitted(planned, size)
    box = (box[0] + _MARGIN, box[1] + _MARGIN, box[2] - _MARGIN, box[3] - _MARGIN)
    held = layer_matrix(wrinkle, layer, time, time, size)
    if abs(np.linalg.det(held)) < 1e-12:
        return math.inf
    further = shown_matrix(wrinkle, layer, time, size) @ np.linalg.inv(held)
    clock = wrinkle.clock(layer, time)
    place = pair_of(layer.placement.anchor.seen(time, Side.of(time), clock))
    anchor = place[0] * size.width, place[1] * size.height
    return max(
        enlargement(further @ matrix_of(rows), box, anchor, size) for rows in planned.placements
    )


def enlarged(
    subject: Subject, layers: list[str], needed: dict[int, float], throughout: bool
) -> Wrinkle:
    """The design with layers enlarged, at rest at both ends of the window.

    Args:
        subject: what is examined.
        layers: their ids.
        needed: the enlargement that the frames need which need any.
        throughout: the same for the whole window; else only around those frames.

    Raises:
        InputError: it is too much, or a dial or a formula stands in the way.
    """
    most = max(needed.values())
    if most > MOST:
        raise InputError(
            f"It would take an enlargement to more than {MOST * 100:.0f} %; choose another edge "
            "cover instead."
        )
    wrinkle = subject.design
    for layer in layers:
        factors = _factors(subject, needed, most, throughout)
        wrinkle = scaled_by(wrinkle, SettingRef(layer, "scale"), factors)
    return wrinkle


def _factors(
    subject: Subject, needed: dict[int, float], most: float, throughout: bool
) -> list[tuple[Fraction, float]]:
    """The factor in the course of time, in the time of the design."""
    plain = subject.wrinkle
    start, end = rest_frame(plain, Side.OUTGOING), rest_frame(plain, Side.INCOMING)
    first, last = min(needed), max(needed)
    # An open shutter sees a little of what lies around a frame.
    first_full, last_full = Fraction(first) - Fraction(1, 2), Fraction(last) + Fraction(1, 2)
    if throughout:
        first_full = min(first_full, Fraction(start + _RAMP))
        last_full = max(last_full, Fraction(end - _RAMP))
    low = min(max(first_full - _RAMP, Fraction(start)), first_full - Fraction(1, 8))
    high = max(min(last_full + _RAMP, Fraction(end)), last_full + Fraction(1, 8))
    frames = [(low, 1.0), (first_full, most), (last_full, most), (high, 1.0)]
    return [(design_time(subject, x), factor) for x, factor in frames]


def design_time(subject: Subject, frame: Fraction) -> Fraction:
    """The time in the design that falls on a frame of what is shown."""
    plain, design = subject.wrinkle, subject.design
    time = frame / plain.frame_rate.per_second
    if time < 0:
        return time * design.lead / plain.lead
    return time * design.tail / plain.tail
