"""Where layers stand at an instant, with their parents and groups, as 3×3 matrices."""

from __future__ import annotations

from fractions import Fraction

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import Value, number_of, pair_of
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.placement import Matrix, Pose, pose_matrix


def layer_matrix(
    wrinkle: Wrinkle, layer: Layer, time: Fraction, instant: Fraction, size: Size
) -> Matrix:
    """The 3×3 matrix by which a layer and its parents put a point of the frame at an instant.

    Args:
        wrinkle, layer: the layer and the document that has its parents.
        time: of the frame that is drawn; it says which side of the cut is seen.
        instant: the time within its shutter.
        size: of the frame in pixels.
    """
    matrix = pose_matrix(_pose(wrinkle, layer, time, instant), size)
    while layer.parent is not None:
        layer = wrinkle.layer(layer.parent)
        matrix = pose_matrix(_pose(wrinkle, layer, time, instant), size) @ matrix
    return matrix


def shown_matrix(wrinkle: Wrinkle, layer: Layer, time: Fraction, size: Size) -> Matrix:
    """The 3×3 matrix to where a point of a layer's frame is seen: its groups move it further."""
    matrix = layer_matrix(wrinkle, layer, time, time, size)
    while layer.group is not None:
        layer = wrinkle.layer(layer.group)
        matrix = layer_matrix(wrinkle, layer, time, time, size) @ matrix
    return matrix


def _pose(wrinkle: Wrinkle, layer: Layer, time: Fraction, instant: Fraction) -> Pose:
    side, clock = Side.of(time), wrinkle.clock(layer, time)
    place = layer.placement

    def seen(name: str) -> Value:
        """A value held within its range: jitter and overshoot lead out of it."""
        return place.spec(name).limited(place.setting(name).seen(instant, side, clock))

    return Pose(
        anchor=pair_of(seen("anchor")),
        position=pair_of(seen("position")),
        scale=pair_of(seen("scale")),
        skew=number_of(seen("skew")),
        skew_axis=number_of(seen("skew_axis")),
        rotation=number_of(seen("rotation")),
        tilt=pair_of(seen("tilt")),
        camera=number_of(seen("camera")),
    )
