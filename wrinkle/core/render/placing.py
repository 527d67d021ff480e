"""Where layers stand at an instant, with their parents and groups, as 3×3 matrices."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import settings_in
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
    return layer_way(wrinkle, layer, time, size)(instant)


def layer_way(
    wrinkle: Wrinkle, layer: Layer, time: Fraction, size: Size
) -> Callable[[Fraction], Matrix]:
    """How a layer and its parents go while a frame's shutter is open: ``layer_matrix`` by instants.

    A shutter asks for many instants of which most settings know nothing; those are looked at once.
    """
    poses = [layer_pose(wrinkle, layer, time)]
    while layer.parent is not None:
        layer = wrinkle.layer(layer.parent)
        poses.append(layer_pose(wrinkle, layer, time))

    def at(instant: Fraction) -> Matrix:
        matrix = pose_matrix(poses[0](instant), size)
        for pose in poses[1:]:
            matrix = pose_matrix(pose(instant), size) @ matrix
        return matrix

    return at


def shown_matrix(wrinkle: Wrinkle, layer: Layer, time: Fraction, size: Size) -> Matrix:
    """The 3×3 matrix to where a point of a layer's frame is seen: its groups move it further."""
    matrix = layer_matrix(wrinkle, layer, time, time, size)
    while layer.group is not None:
        layer = wrinkle.layer(layer.group)
        matrix = layer_matrix(wrinkle, layer, time, time, size) @ matrix
    return matrix


def layer_pose(wrinkle: Wrinkle, layer: Layer, time: Fraction) -> Callable[[Fraction], Pose]:
    """Where a layer by itself stands, by the instants of the shutter of a frame.

    Args:
        wrinkle, layer: the layer and its document.
        time: of the frame, in seconds from the cut.
    """
    side, clock, place = Side.of(time), wrinkle.clock(layer, time), layer.placement

    def seen(name: str, instant: Fraction) -> Value:
        """A value held within its range: jitter and overshoot lead out of it."""
        return place.specs[name].limited(getattr(place, name).seen(instant, side, clock))

    names = settings_in(place)
    moving = [name for name in names if not getattr(place, name).still]
    still = {name: seen(name, time) for name in names if name not in moving}

    def at(instant: Fraction) -> Pose:
        now = still | {name: seen(name, instant) for name in moving}
        return Pose(
            anchor=pair_of(now["anchor"]),
            position=pair_of(now["position"]),
            scale=pair_of(now["scale"]),
            skew=number_of(now["skew"]),
            skew_axis=number_of(now["skew_axis"]),
            rotation=number_of(now["rotation"]),
            tilt=pair_of(now["tilt"]),
            camera=number_of(now["camera"]),
        )

    return at
