"""First half of a frame: every setting at that time as a plain value, every source as a number.

A plan is hashable and holds all that the picture depends on, so that equal plans give equal
pictures: it is what rendered frames are kept by.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.layer_kinds import DrawnSource, Seeing
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.sources import (
    GroupSource,
    PictureSource,
    SlotSource,
    TreatmentSource,
)
from wrinkle.core.design.document.timing import Beyond
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.effects.effect import Values
from wrinkle.core.mask.coverage import Combine, MaskShape
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import Value, number_of, pair_of, parts
from wrinkle.core.picture.blending import BlendMode
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.fit import Fit, fit_matrix, fitted_size
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality, Shutter, blur_instants
from wrinkle.core.picture.paths import in_frame, knots
from wrinkle.core.picture.placement import IDENTITY, Matrix, frame_corners
from wrinkle.core.render.material import Filling, Material
from wrinkle.core.render.placing import layer_way
from wrinkle.core.render.planned import (
    Content,
    FramePlan,
    Grouped,
    Masks,
    PlannedEffect,
    PlannedLayer,
    PlannedMask,
    PlannedMatte,
    SourceFrame,
    rows_of,
)


def plan_frame(
    wrinkle: Wrinkle,
    material: Material,
    frame: int,
    size: Size,
    quality: Quality,
    held: str = "",
) -> FramePlan:
    """The plan of frame ``frame`` (counted from the cut) at ``size`` pixels.

    Frames outside the window show the plain clips. What lies below the layer ``held``, and below
    the groups that it is in, is noted as worth keeping.
    """
    time = wrinkle.frame_rate.seconds(frame)
    if not -wrinkle.lead <= time < wrinkle.tail:
        edge = -wrinkle.lead if time < CUT else wrinkle.tail
        return FramePlan(size, _plain(wrinkle, material, time, size, edge))
    planner = _Planner(wrinkle, material, time, size, quality, held)
    return FramePlan(size, planner.group(None), planner.below(None))


def plan_plain(wrinkle: Wrinkle, material: Material, frame: int, size: Size) -> FramePlan:
    """The plan of the plain clip of a frame within the window, in time with what is shown there."""
    time = wrinkle.frame_rate.seconds(frame)
    return FramePlan(size, _plain(wrinkle, material, time, size, time))


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
    wrinkle: Wrinkle, material: Material, time: Fraction, size: Size, edge: Fraction
) -> tuple[PlannedLayer, ...]:
    """The clip of the time's side as it is, in time with what is shown of it at ``edge``."""
    slot = OUTGOING.key if time < CUT else INCOMING.key
    shows = (
        x for x in wrinkle.layers if isinstance(x.source, SlotSource) and x.source.slot == slot
    )
    layer = next(shows, None)
    filling = material.slots.get(slot)
    if layer is None or filling is None:
        return ()
    timing = layer.timing
    left = edge if timing.freeze is not None else timing.clip_time(edge, wrinkle.clock(layer, edge))
    index = filling.source.index_at(filling.cut + left + time - edge)
    source = filling.source
    bare = SourceFrame(("slot", slot), source.identity, index, source.size)
    content, fit = _fitted(bare, size, Fit(layer.fit.rest), pair_of(layer.focus.rest))
    cover = EdgeCover(layer.edge_cover.rest)
    return (PlannedLayer(content, fit=rows_of(fit), cover=cover),)


@dataclass(frozen=True)
class _Planner:
    """Plans the layers of one frame within the window; each of them once."""

    wrinkle: Wrinkle
    material: Material
    time: Fraction
    size: Size
    quality: Quality
    held: str = ""
    done: dict[str, PlannedLayer | None] = field(default_factory=dict)

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

    def below(self, group: str | None) -> int:
        """How many of a group's layers that are shown lie below the one that is held."""
        found = next((x for x in self.wrinkle.layers if x.id == self.held), None)
        while found is not None and found.group != group:
            above = found.group
            found = self.wrinkle.layer(above) if above is not None else None
        if found is None:
            return 0
        layers = within(self.wrinkle.layers, group)
        return len(self.shown(layers[: layers.index(found)]))

    def layer(self, layer: Layer) -> PlannedLayer | None:
        """One layer; None where it is not there or shows nothing."""
        if layer.id not in self.done:
            self.done[layer.id] = self._planned(layer)
        return self.done[layer.id]

    def _planned(self, layer: Layer) -> PlannedLayer | None:
        wrinkle, time, size = self.wrinkle, self.time, self.size
        clock, side = wrinkle.clock(layer, time), Side.of(time)
        first = wrinkle.frame_rate.nearest_frame(clock.start)
        frame = wrinkle.frame_rate.nearest_frame(time)
        if not (layer.span.holds(time) and layer.timing.shown(frame, first)):
            return None
        opacity = layer.spec("opacity").limited(layer.opacity.seen(time, side, clock))
        share = number_of(opacity) / 100.0
        if share <= 0.0:
            return None
        found = self._content(layer, clock)
        if found is None and not isinstance(layer.source, TreatmentSource):
            return None
        content, fit = found if found is not None else (None, IDENTITY)
        effects = self._effects(layer)
        way = layer_way(wrinkle, layer, time, size)
        instants = self._instants(layer, way)
        placements = tuple(rows_of(way(instant)) for instant in instants)
        masks = tuple(self._masks(layer, instant) for instant in instants)
        if all(one == masks[0] for one in masks):
            masks = masks[:1] if masks[0] else ()
        if all(one == placements[0] for one in placements) and len(masks) <= 1:
            placements = placements[:1]
        return PlannedLayer(
            content=content,
            effects=effects,
            moment=(float(time), frame) if any(x.timed for x in effects) else (0.0, 0),
            preview=self.quality is Quality.PREVIEW and bool(effects or placements[1:]),
            fit=rows_of(fit),
            placements=placements,
            masks=masks,
            cover=EdgeCover(layer.edge_cover.at(time, side)),
            opacity=share,
            blend=BlendMode(layer.blend.at(time, side)),
            within=bool(layer.within.at(time, side)),
            matte=self._matte(layer),
            stands=self._stands(layer) and all(effect.lasts for effect in effects),
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
            other = earlier = None
            if use.layer is not None:
                looked_at = self.wrinkle.layer(use.layer)
                other = self.layer(looked_at)
                if effect.looks_back and other is not None:
                    earlier = self._at_its_beginning(looked_at)
            below = effect.sees_below and use.layer is None
            if effect.needs_layer and other is None and not below:
                continue
            motion = self._motion(layer) if effect.follows else (0.0, 0.0)
            given = tuple(values.items())
            steady = all(use.setting(spec.key).still for spec in effect.settings)
            planned.append(
                PlannedEffect(use.kind, given, effect.timed, lut, other, motion, earlier, steady)
            )
        return tuple(planned)

    def _at_its_beginning(self, layer: Layer) -> PlannedLayer | None:
        """A layer as it is on its own first frame."""
        start = self.wrinkle.clock(layer, self.time).start
        return replace(self, time=start, done={}).layer(layer)

    def _motion(self, layer: Layer) -> tuple[float, float]:
        """How far the layer's middle goes during this frame, in the layer's own directions."""
        half = self.wrinkle.frame_rate.seconds(1) / 2
        middle = np.array([self.size.width / 2.0, self.size.height / 2.0, 1.0])
        way = layer_way(self.wrinkle, layer, self.time, self.size)
        before, now, after = (way(self.time + side * half) for side in (-1, 0, 1))
        start, end = before @ middle, after @ middle
        way = end[:2] / max(float(end[2]), 1e-3) - start[:2] / max(float(start[2]), 1e-3)
        if not np.isfinite(now).all() or abs(np.linalg.det(now[:2, :2])) < 1e-9:
            return 0.0, 0.0
        x, y = np.linalg.solve(now[:2, :2], way)
        return round(float(x), 6), round(float(y), 6)

    def _matte(self, layer: Layer) -> PlannedMatte | None:
        if layer.matte is None:
            return None
        cutter = self.layer(self.wrinkle.layer(layer.matte.layer))
        return PlannedMatte(cutter, layer.matte.by, layer.matte.inverted)

    def _instants(self, layer: Layer, way: Callable[[Fraction], Matrix]) -> list[Fraction]:
        wrinkle, time = self.wrinkle, self.time
        if self._stands(layer):
            return [time]
        angle = wrinkle.shutter_angle if layer.motion_blur.at(time, Side.of(time)) else 0.0
        shutter = Shutter(angle, wrinkle.frame_rate.seconds(1), wrinkle.shutter_phase)

        def points(instant: Fraction) -> NDArray[np.float64]:
            corners = frame_corners(way(instant), self.size)
            if not layer.masks:
                return corners
            return np.concatenate([corners, self._mask_points(layer, instant)])

        return blur_instants(points, time, shutter, self.quality)

    def _stands(self, layer: Layer) -> bool:
        """Whether nothing ever moves it, its parents or its masks: most layers of a stack."""
        if not (layer.placement.still and all(mask.still for mask in layer.masks)):
            return False
        return layer.parent is None or self._stands(self.wrinkle.layer(layer.parent))

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
        shape = _mask_shape(mask, seen, self.size, self.wrinkle.reference_size)
        if not mask.painted:
            return PlannedMask(shape)
        asset = mask.painted_at(self.time)
        picture = self.material.pictures.get(asset)
        if picture is None:
            return PlannedMask(shape)
        frame = SourceFrame(
            ("asset", asset), picture.identity, 0, self.size, mirrored=mask.mirrored
        )
        return PlannedMask(shape, frame)

    def _seen(self, layer: Layer, instant: Fraction) -> Callable[[Setting], Value]:
        side, clock = Side.of(self.time), self.wrinkle.clock(layer, self.time)
        return lambda setting: setting.seen(instant, side, clock)

    def _content(self, layer: Layer, clock: Clock) -> tuple[Content, Matrix] | None:
        source = layer.source
        if isinstance(source, TreatmentSource):
            return None
        if isinstance(source, GroupSource):
            return Grouped(self.group(layer.id), self.below(layer.id)), IDENTITY
        if isinstance(source, SlotSource):
            filling = self.material.slots.get(source.slot)
            if filling is None:
                return None
            return self._clip(layer, source, filling, clock)
        if isinstance(source, PictureSource):
            picture = self.material.pictures.get(source.asset)
            if picture is None:
                return None
            place = ("asset", source.asset)
            bare = SourceFrame(place, picture.identity, 0, picture.size, mirrored=source.mirrored)
            return self._fitted(layer, bare)
        if not isinstance(source, DrawnSource):
            return None
        seen, drawn_in = self._seen(layer, self.time), self.wrinkle.reference_size
        seeing = Seeing(seen, self.size, drawn_in, self.material.fonts)
        return source.drawn(seeing), IDENTITY

    def _clip(
        self, layer: Layer, shown: SlotSource, filling: Filling, clock: Clock
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
        if timing.frame_blending or timing.along_motion:
            following = source.following(seconds)
        place = ("slot", shown.slot)
        bare = SourceFrame(
            place,
            source.identity,
            index,
            source.size,
            following,
            mirrored=shown.mirrored,
            along_motion=timing.along_motion and following is not None,
            frozen=timing.freeze is not None,
        )
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
        return replace(bare, size=shown, backdrop=size), IDENTITY
    return replace(bare, size=shown), fit_matrix(shown, bare.size, size, way, focus)


def _mask_shape(
    mask: Mask, seen: Callable[[Setting], Value], size: Size, drawn_in: tuple[int, int]
) -> MaskShape:
    """The plain values of a mask, its lengths in pixels of a frame of ``size``."""
    short = min(size) / 100.0

    def number(name: str) -> float:
        return number_of(mask.spec(name).limited(seen(mask.setting(name))))

    path = parts(seen(mask.path))
    return MaskShape(
        outline=in_frame(path, drawn_in, size) if seen(mask.keeps_form) else path,
        combine=Combine(seen(mask.combine)),
        inverted=bool(seen(mask.inverted)),
        feather=number("feather") * short,
        expansion=number("expansion") * short,
        opacity=number("opacity") / 100.0,
        mirrored=mask.mirrored,
    )
