"""First half of a frame: every setting at that time as a plain value, every source as a number.

A plan is hashable and holds all that the picture depends on, so that equal plans give equal
pictures: it is what rendered frames are kept by.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document import INCOMING, OUTGOING, Layer, Wrinkle
from wrinkle.core.design.links import within
from wrinkle.core.design.masking import Mask, MatteBy
from wrinkle.core.design.setting import Setting
from wrinkle.core.design.sources import GroupSource, PictureSource, SlotSource, TreatmentSource
from wrinkle.core.design.timing import Beyond
from wrinkle.core.effects.effect import Values
from wrinkle.core.mask.coverage import Combine, MaskShape
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import Value, number_of, pair_of, parts
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality, Shutter, blur_instants
from wrinkle.core.picture.paths import knots
from wrinkle.core.picture.placement import Matrix, Pose, frame_corners, pose_matrix
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.render.content import Content, Grouped, PlannedMask, SourceFrame
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.sketch import drawing_of

Rows = tuple[float, ...]
Masks = tuple[PlannedMask, ...]
STILL: Rows = tuple(np.eye(3).ravel().tolist())
"""The placement that moves nothing."""


@dataclass(frozen=True)
class PlannedEffect:
    """An effect with the plain values of its settings, by key.

    Attributes:
        kind: its key.
        values: of its settings.
        timed: whether the time counts.
        motion: of the layer in one frame, in pixels; 0 for effects that do not look at it.
        lut: the name and the identity of its colour table.
        other: the layer that it looks at; None for what lies below, where it looks at that.
    """

    kind: str
    values: tuple[tuple[str, Value], ...]
    timed: bool
    lut: tuple[str, str] = ("", "")
    other: PlannedLayer | None = None
    motion: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class PlannedMatte:
    """What cuts a layer.

    Attributes:
        layer: the matte as it stands; None where it is not there, and covers nothing.
        by: its brightness or its coverage.
        inverted: what it does not have is shown.
    """

    layer: PlannedLayer | None
    by: MatteBy
    inverted: bool


@dataclass(frozen=True)
class PlannedLayer:
    """One layer at one frame.

    Attributes:
        content: what it shows; None for a treatment, which takes what lies below it.
        effects: what acts on the picture before it is placed, in order; resting ones left out.
        moment: the time in seconds and the frame that timed effects see; 0 without any.
        fit: from the content's picture to the unmoved frame, nine numbers.
        placements: the samples of its movement, nine numbers each, from frame to frame.
        masks: the masks at those samples: none, one set for all, or one set for each.
        cover: what is outside the picture.
        opacity: 0…1.
        blend, within: how it meets what lies below.
        matte: what cuts it.
    """

    content: Content | None
    effects: tuple[PlannedEffect, ...] = ()
    moment: tuple[float, int] = (0.0, 0)
    preview: bool = False
    fit: Rows = STILL
    placements: tuple[Rows, ...] = (STILL,)
    masks: tuple[Masks, ...] = ()
    cover: EdgeCover = EdgeCover.BARE
    opacity: float = 1.0
    blend: BlendMode = BlendMode.NORMAL
    within: bool = False
    matte: PlannedMatte | None = None

    @property
    def samples(self) -> int:
        """How many resamplings the layer takes."""
        inner = self.content.layers if isinstance(self.content, Grouped) else ()
        return len(self.placements) + sum(layer.samples for layer in inner)


@dataclass(frozen=True)
class FramePlan:
    """All that a frame's picture depends on; layers from the back to the front."""

    size: Size
    layers: tuple[PlannedLayer, ...]

    @property
    def samples(self) -> int:
        """How many resamplings the frame takes."""
        return sum(layer.samples for layer in self.layers)


def plan_frame(
    wrinkle: Wrinkle, material: Material, frame: int, size: Size, quality: Quality
) -> FramePlan:
    """The plan of frame ``frame`` (counted from the cut) at ``size`` pixels.

    Frames outside the window show the plain clips.
    """
    time = wrinkle.frame_rate.seconds(frame)
    if not -wrinkle.lead <= time < wrinkle.tail:
        return FramePlan(size, _plain(wrinkle, material, time, size))
    planner = _Planner(wrinkle, material, time, size, quality)
    return FramePlan(size, planner.group(None))


def plan_layer(
    wrinkle: Wrinkle, material: Material, layer_id: str, time: Fraction, size: Size
) -> PlannedLayer | None:
    """One layer alone as it stands at a time; None where it shows nothing."""
    planner = _Planner(wrinkle, material, time, size, Quality.PREVIEW)
    return planner.layer(wrinkle.layer(layer_id))


def plan_group(
    wrinkle: Wrinkle,
    material: Material,
    layers: Sequence[Layer],
    time: Fraction,
    size: Size,
    quality: Quality,
) -> tuple[PlannedLayer, ...]:
    """Some layers of one group as they stand at a time, from the back; hidden ones left out."""
    return _Planner(wrinkle, material, time, size, quality).shown(layers)


def _plain(
    wrinkle: Wrinkle, material: Material, time: Fraction, size: Size
) -> tuple[PlannedLayer, ...]:
    """The clip of the time's side as it is, in time with where the window leaves it."""
    slot = OUTGOING.key if time < CUT else INCOMING.key
    shows = (
        x for x in wrinkle.layers if isinstance(x.source, SlotSource) and x.source.slot == slot
    )
    layer = next(shows, None)
    filling = material.slots.get(slot)
    if layer is None or filling is None:
        return ()
    edge = -wrinkle.lead if time < CUT else wrinkle.tail
    timing = layer.timing
    left = edge if timing.freeze is not None else timing.clip_time(edge, wrinkle.clock(layer, edge))
    index = filling.source.index_at(filling.cut + left + time - edge)
    source = filling.source
    bare = SourceFrame(("slot", slot), source.identity, index, source.size)
    content, fit = _fitted(bare, size, Fit(layer.fit.rest), pair_of(layer.focus.rest))
    cover = EdgeCover(layer.edge_cover.rest)
    return (PlannedLayer(content, fit=_rows(fit), cover=cover),)


@dataclass(frozen=True)
class _Planner:
    """Plans the layers of one frame within the window."""

    wrinkle: Wrinkle
    material: Material
    time: Fraction
    size: Size
    quality: Quality

    def group(self, group: str | None) -> tuple[PlannedLayer, ...]:
        """The layers of a group that are shown."""
        return self.shown(within(self.wrinkle.layers, group))

    def shown(self, layers: Sequence[Layer]) -> tuple[PlannedLayer, ...]:
        """Those of some layers that are shown."""
        shown = []
        for layer in layers:
            if layer.visible.at(self.time):
                planned = self.layer(layer)
                if planned is not None:
                    shown.append(planned)
        return tuple(shown)

    def layer(self, layer: Layer) -> PlannedLayer | None:
        """One layer; None where it is not there or shows nothing."""
        wrinkle, time, size = self.wrinkle, self.time, self.size
        clock, side = wrinkle.clock(layer, time), Side.of(time)
        first = wrinkle.frame_rate.nearest_frame(clock.start)
        frame = wrinkle.frame_rate.nearest_frame(time)
        if not (layer.span.holds(time) and layer.timing.shown(frame, first)):
            return None
        opacity = min(max(number_of(layer.opacity.seen(time, side, clock)) / 100.0, 0.0), 1.0)
        if opacity <= 0.0:
            return None
        found = self._content(layer, clock)
        if found is None and not isinstance(layer.source, TreatmentSource):
            return None
        content, fit = found if found is not None else (None, np.eye(3))
        effects = self._effects(layer)
        instants = self._instants(layer)
        placements = tuple(
            _rows(layer_matrix(wrinkle, layer, time, instant, size)) for instant in instants
        )
        masks = tuple(self._masks(layer, instant) for instant in instants)
        if all(one == masks[0] for one in masks):
            masks = masks[:1] if masks[0] else ()
        if all(one == placements[0] for one in placements) and len(masks) <= 1:
            placements = placements[:1]
        return PlannedLayer(
            content=content,
            effects=effects,
            moment=(float(time), frame) if any(x.timed for x in effects) else (0.0, 0),
            preview=self.quality is Quality.PREVIEW and bool(effects),
            fit=_rows(fit),
            placements=placements,
            masks=masks,
            cover=EdgeCover(layer.edge_cover.at(time, side)),
            opacity=opacity,
            blend=BlendMode(layer.blend.at(time, side)),
            within=bool(layer.within.at(time, side)),
            matte=self._matte(layer),
        )

    def _effects(self, layer: Layer) -> tuple[PlannedEffect, ...]:
        """The effects that do something now, their values within their ranges."""
        seen = self._seen(layer, self.time)
        planned = []
        for use in layer.effects:
            if not use.shown:
                continue
            effect = use.effect
            values = Values(
                {spec.key: spec.limited(seen(use.setting(spec.key))) for spec in effect.settings}
            )
            table = self.material.luts.get(use.asset)
            if effect.resting(values) or (effect.needs_lut and table is None):
                continue
            lut = (use.asset, table.identity) if table is not None else ("", "")
            other = None
            if use.layer is not None:
                other = self.layer(self.wrinkle.layer(use.layer))
            below = effect.sees_below and use.layer is None
            if effect.needs_layer and other is None and not below:
                continue
            motion = self._motion(layer) if effect.follows else (0.0, 0.0)
            given = tuple(values.items())
            planned.append(PlannedEffect(use.kind, given, effect.timed, lut, other, motion))
        return tuple(planned)

    def _motion(self, layer: Layer) -> tuple[float, float]:
        """How far the layer's middle goes during this frame, in the layer's own directions."""
        half = self.wrinkle.frame_rate.seconds(1) / 2
        middle = np.array([self.size.width / 2.0, self.size.height / 2.0, 1.0])
        before, now, after = (
            layer_matrix(self.wrinkle, layer, self.time, self.time + side * half, self.size)
            for side in (-1, 0, 1)
        )
        start, end = before @ middle, after @ middle
        way = end[:2] / max(float(end[2]), 1e-3) - start[:2] / max(float(start[2]), 1e-3)
        if abs(np.linalg.det(now[:2, :2])) < 1e-9:
            return 0.0, 0.0
        x, y = np.linalg.solve(now[:2, :2], way)
        return round(float(x), 6), round(float(y), 6)

    def _matte(self, layer: Layer) -> PlannedMatte | None:
        if layer.matte is None:
            return None
        cutter = self.layer(self.wrinkle.layer(layer.matte.layer))
        return PlannedMatte(cutter, layer.matte.by, layer.matte.inverted)

    def _instants(self, layer: Layer) -> list[Fraction]:
        wrinkle, time = self.wrinkle, self.time
        angle = wrinkle.shutter_angle if layer.motion_blur.at(time, Side.of(time)) else 0.0
        shutter = Shutter(angle, wrinkle.frame_rate.seconds(1), wrinkle.shutter_phase)

        def points(instant: Fraction) -> NDArray[np.float64]:
            matrix = layer_matrix(wrinkle, layer, time, instant, self.size)
            corners = frame_corners(matrix, self.size)
            moving = self._mask_points(layer, instant)
            return np.concatenate([corners, moving]) if len(moving) else corners

        return blur_instants(points, time, shutter, self.quality)

    def _mask_points(self, layer: Layer, instant: Fraction) -> NDArray[np.float64]:
        """What moves when masks move: their points, shifted by expansion, feather and opacity."""
        spots = []
        short = min(self.size) / 100.0
        for mask in layer.masks:
            seen = self._seen(layer, instant)
            shift = short * (number_of(seen(mask.expansion)) + number_of(seen(mask.feather)))
            shift += number_of(seen(mask.opacity))
            path = parts(seen(mask.path))
            spots += [(k.x * self.size.width + shift, k.y * self.size.height) for k in knots(path)]
        return np.array(spots)

    def _masks(self, layer: Layer, instant: Fraction) -> Masks:
        return tuple(self._mask(layer, mask, instant) for mask in layer.masks if mask.shown)

    def _mask(self, layer: Layer, mask: Mask, instant: Fraction) -> PlannedMask:
        seen = self._seen(layer, instant)
        shape = mask_shape(mask, seen, self.size)
        if not mask.painted:
            return PlannedMask(shape)
        asset = mask.painted_at(self.time)
        picture = self.material.pictures.get(asset)
        if picture is None:
            return PlannedMask(shape)
        frame = SourceFrame(("asset", asset), picture.identity, 0, self.size)
        return PlannedMask(shape, frame)

    def _seen(self, layer: Layer, instant: Fraction) -> Callable[[Setting], Value]:
        side, clock = Side.of(self.time), self.wrinkle.clock(layer, self.time)
        return lambda setting: setting.seen(instant, side, clock)

    def _content(self, layer: Layer, clock: Clock) -> tuple[Content, Matrix] | None:
        source = layer.source
        if isinstance(source, TreatmentSource):
            return None
        if isinstance(source, GroupSource):
            return Grouped(self.group(layer.id)), np.eye(3)
        if isinstance(source, SlotSource):
            filling = self.material.slots.get(source.slot)
            if filling is None:
                return None
            return self._clip(layer, ("slot", source.slot), filling, clock)
        if isinstance(source, PictureSource):
            picture = self.material.pictures.get(source.asset)
            if picture is None:
                return None
            place = ("asset", source.asset)
            return self._fitted(layer, SourceFrame(place, picture.identity, 0, picture.size))
        drawing = drawing_of(source, self._seen(layer, self.time), self.size, self.material.fonts)
        return drawing, np.eye(3)

    def _clip(
        self, layer: Layer, place: tuple[str, str], filling: Filling, clock: Clock
    ) -> tuple[Content, Matrix] | None:
        source, timing = filling.source, layer.timing
        seconds = filling.cut + timing.clip_time(self.time, clock)
        beyond = not 0 <= seconds < source.duration
        if beyond and timing.beyond is Beyond.NOTHING:
            return None
        if beyond and timing.beyond is Beyond.LOOP and source.duration > 0:
            seconds %= source.duration
        index = source.index_at(seconds)
        following = None
        if timing.frame_blending:
            following = source.following(seconds)
        bare = SourceFrame(place, source.identity, index, source.size, following)
        return self._fitted(layer, bare)

    def _fitted(self, layer: Layer, bare: SourceFrame) -> tuple[Content, Matrix]:
        side = Side.of(self.time)
        way = Fit(layer.fit.at(self.time, side))
        return _fitted(bare, self.size, way, pair_of(layer.focus.at(self.time, side)))


def _fitted(
    bare: SourceFrame, size: Size, way: Fit, focus: tuple[float, float]
) -> tuple[SourceFrame, Matrix]:
    """A source's frame at the size it is asked for in, and from there to the unmoved frame."""
    shown = fitted_size(bare.size, size, way)
    if way is Fit.BACKDROP:
        return replace(bare, size=shown, backdrop=size), np.eye(3)
    return replace(bare, size=shown), fit_matrix(shown, bare.size, size, way, focus)


def mask_shape(mask: Mask, seen: Callable[[Setting], Value], size: Size) -> MaskShape:
    """The plain values of a mask, its lengths in pixels of a frame of ``size``."""
    short = min(size) / 100.0
    return MaskShape(
        outline=parts(seen(mask.path)),
        combine=Combine(seen(mask.combine)),
        inverted=bool(seen(mask.inverted)),
        feather=max(number_of(seen(mask.feather)), 0.0) * short,
        expansion=number_of(seen(mask.expansion)) * short,
        opacity=min(max(number_of(seen(mask.opacity)) / 100.0, 0.0), 1.0),
    )


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


def shown_matrix(wrinkle: Wrinkle, layer: Layer, time: Fraction, size: Size) -> Matrix:
    """Where a point of a layer's frame is seen: its groups move it further."""
    matrix = layer_matrix(wrinkle, layer, time, time, size)
    while layer.group is not None:
        layer = wrinkle.layer(layer.group)
        matrix = layer_matrix(wrinkle, layer, time, time, size) @ matrix
    return matrix


def _pose(wrinkle: Wrinkle, layer: Layer, frame: Fraction, instant: Fraction) -> Pose:
    side, clock = Side.of(frame), wrinkle.clock(layer, frame)

    def seen(setting: Setting) -> Value:
        return setting.seen(instant, side, clock)

    place = layer.placement
    return Pose(
        anchor=pair_of(seen(place.anchor)),
        position=pair_of(seen(place.position)),
        scale=pair_of(seen(place.scale)),
        skew=min(max(number_of(seen(place.skew)), -89.0), 89.0),
        skew_axis=number_of(seen(place.skew_axis)),
        rotation=number_of(seen(place.rotation)),
        tilt=pair_of(seen(place.tilt)),
        camera=max(number_of(seen(place.camera)), 1.0),
    )


def _rows(matrix: Matrix) -> Rows:
    return tuple(matrix.ravel().tolist())
