"""First half of a frame: every setting at that time as a plain value, every source as a number.

A plan is hashable and holds all that the picture depends on, so that equal plans give equal
pictures: it is what rendered frames are kept by.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document import (
    FillSource,
    Layer,
    PictureSource,
    Setting,
    SlotSource,
    TreatmentSource,
    Wrinkle,
)
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality, Shutter, blurred_matrices
from wrinkle.core.picture.placement import Matrix, Pose, pose_matrix
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.render.material import FrameSource, Material

Rows = tuple[float, ...]


@dataclass(frozen=True)
class PlannedPicture:
    """One picture of one source.

    Attributes:
        place: ``("slot", key)`` or ``("asset", name)``.
        identity: of the source.
        index: of the picture.
        size: to which it is scaled.
    """

    place: tuple[str, str]
    identity: str
    index: int
    size: Size


@dataclass(frozen=True)
class PlannedLayer:
    """One layer at one frame.

    Attributes:
        picture: what it shows, if that comes from a source.
        colour: what it is filled with, linear; without a picture and a colour it is a treatment,
            which takes what lies below it.
        matrices: the samples of its movement, nine numbers each, from picture to frame.
        cover: what is outside the picture.
        opacity: 0…1.
    """

    picture: PlannedPicture | None
    colour: tuple[float, ...] | None
    matrices: tuple[Rows, ...]
    cover: EdgeCover
    opacity: float

    def matrix_list(self) -> list[Matrix]:
        """The matrices as arrays."""
        return [np.array(rows).reshape(3, 3) for rows in self.matrices]


@dataclass(frozen=True)
class FramePlan:
    """All that a frame's picture depends on; layers from the back to the front."""

    size: Size
    layers: tuple[PlannedLayer, ...]

    @property
    def samples(self) -> int:
        """How many resamplings the frame takes."""
        return sum(len(layer.matrices) for layer in self.layers)


def plan_frame(
    wrinkle: Wrinkle, material: Material, frame: int, size: Size, quality: Quality
) -> FramePlan:
    """The plan of frame ``frame`` (counted from the cut) at ``size`` pixels.

    Frames outside the window show the plain clips.
    """
    time = wrinkle.frame_rate.seconds(frame)
    inside = -wrinkle.lead <= time < wrinkle.tail
    layers = []
    for layer in wrinkle.layers:
        shown = layer.visible.at(time) if inside else layer.visible.rest
        if not (shown and layer.span.holds(time)):
            continue
        if not inside and not isinstance(layer.source, SlotSource):
            continue
        planned = _plan_layer(wrinkle, layer, material, time, inside, size, quality)
        if planned is not None:
            layers.append(planned)
    return FramePlan(size, tuple(layers))


def _plan_layer(
    wrinkle: Wrinkle,
    layer: Layer,
    material: Material,
    time: Fraction,
    inside: bool,
    size: Size,
    quality: Quality,
) -> PlannedLayer | None:
    side = Side.of(time)
    seen = layer.opacity.seen(time, side, wrinkle.clock(layer, time))
    opacity = min(max(_number(seen) / 100.0, 0.0), 1.0) if inside else 1.0
    if opacity <= 0.0:
        return None
    picture: PlannedPicture | None = None
    colour = None
    fit: Matrix = np.eye(3)
    if isinstance(layer.source, FillSource):
        colour = parts(layer.colour.at(time, side))
    elif not isinstance(layer.source, TreatmentSource):
        found = _source(layer, material, time)
        if found is None:
            return None
        place, source, index = found
        way = Fit(layer.fit.at(time, side) if inside else layer.fit.rest)
        shown = fitted_size(source.size, size, way)
        picture = PlannedPicture(place, source.identity, index, shown)
        fit = fit_matrix(shown, source.size, size, way)
    cover = EdgeCover(layer.edge_cover.at(time, side) if inside else layer.edge_cover.rest)
    if not inside:
        return PlannedLayer(picture, colour, (_rows(fit),), cover, 1.0)
    angle = wrinkle.shutter_angle if layer.motion_blur.at(time, side) else 0.0
    shutter = Shutter(angle, wrinkle.frame_rate.seconds(1), wrinkle.shutter_phase)

    def placed(instant: Fraction) -> Matrix:
        return layer_matrix(wrinkle, layer, time, instant, size)

    matrices = blurred_matrices(placed, time, shutter, size, quality)
    rows = tuple(_rows(matrix @ fit) for matrix in matrices)
    return PlannedLayer(picture, colour, rows, cover, opacity)


def _source(
    layer: Layer, material: Material, time: Fraction
) -> tuple[tuple[str, str], FrameSource, int] | None:
    if isinstance(layer.source, PictureSource):
        picture = material.pictures.get(layer.source.asset)
        return None if picture is None else (("asset", layer.source.asset), picture, 0)
    if isinstance(layer.source, SlotSource):
        filling = material.slots.get(layer.source.slot)
        if filling is not None:
            index = filling.source.index_at(filling.cut + time)
            return ("slot", layer.source.slot), filling.source, index
    return None


def layer_matrix(
    wrinkle: Wrinkle, layer: Layer, frame: Fraction, instant: Fraction, size: Size
) -> Matrix:
    """Where a layer and its parents put a point of the frame at an instant.

    Args:
        wrinkle, layer: the layer and the document that has its parents.
        frame: the time of the frame that is drawn; it says which side of the cut is seen.
        instant: the time within its shutter.
        size: of the frame in pixels.
    """
    matrix = pose_matrix(_pose(wrinkle, layer, frame, instant), size)
    while layer.parent is not None:
        layer = wrinkle.layer(layer.parent)
        matrix = pose_matrix(_pose(wrinkle, layer, frame, instant), size) @ matrix
    return matrix


def _pose(wrinkle: Wrinkle, layer: Layer, frame: Fraction, instant: Fraction) -> Pose:
    side, clock = Side.of(frame), wrinkle.clock(layer, frame)

    def seen(setting: Setting) -> Value:
        return setting.seen(instant, side, clock)

    place = layer.placement
    return Pose(
        anchor=_pair(seen(place.anchor)),
        position=_pair(seen(place.position)),
        scale=_pair(seen(place.scale)),
        skew=min(max(_number(seen(place.skew)), -89.0), 89.0),
        skew_axis=_number(seen(place.skew_axis)),
        rotation=_number(seen(place.rotation)),
        tilt=_pair(seen(place.tilt)),
        camera=max(_number(seen(place.camera)), 1.0),
    )


def _number(value: Value) -> float:
    (number,) = parts(value)
    return number


def _pair(value: Value) -> tuple[float, float]:
    first, second = parts(value)
    return first, second


def _rows(matrix: Matrix) -> Rows:
    return tuple(matrix.ravel().tolist())
