"""Second half of a frame: from its plan to pixels, layer by layer from the back."""

from __future__ import annotations

import math
from collections.abc import Callable
from concurrent.futures import Executor
from dataclasses import dataclass, field, replace

import numpy as np

from wrinkle.core.design.document.masking import MatteBy
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.effects.chain import ChainLink, after
from wrinkle.core.effects.effect import Scene, Values
from wrinkle.core.effects.registry import effect
from wrinkle.core.picture.blending import BlendMode, blend
from wrinkle.core.picture.channels import luma
from wrinkle.core.picture.compositing import covered, mixed
from wrinkle.core.picture.edge_cover import EdgeCover
from wrinkle.core.picture.gradient import Fill
from wrinkle.core.picture.image import Image, Light, Size, blank, filled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.picture.resample import coloured, resample, resample_masked
from wrinkle.core.picture.vector import Coverage
from wrinkle.core.render.content import drawn, fetched, planned_planes
from wrinkle.core.render.material import Material
from wrinkle.core.render.plan import plan_frame
from wrinkle.core.render.planned import (
    STILL,
    FramePlan,
    Grouped,
    PlannedLayer,
    PlannedMatte,
    SourceFrame,
    matrix_of,
)

_WORTH_KEEPING = 2
"""Layers; one alone is made again as quickly as it is kept."""
_DRAFT = 1 << 16
"""Pixels: a layer of a megabyte."""


@dataclass(frozen=True)
class Manner:
    """How a picture is drawn; it is the same to the bit in any.

    Attributes:
        spread: where strips of it are computed; by default here, one after the other.
        check: called before each layer; what it raises ends the drawing.
    """

    spread: Executor | None = None
    check: Callable[[], None] = lambda: None


PLAINLY = Manner()


def render(
    wrinkle: Wrinkle,
    material: Material,
    frame: int,
    size: Size,
    quality: Quality = Quality.FINAL,
    manner: Manner = PLAINLY,
) -> Image:
    """The picture of one frame of a wrinkle.

    Args:
        wrinkle: what to show; its frame rate says how long a frame is.
        material: what fills its slots.
        frame: counted from the cut: -1 is the last outgoing one, 0 the first incoming one.
        size: of the picture in pixels.
        quality: how closely motion blur is sampled.
        manner: how it is drawn.

    Raises:
        MediaError: a source cannot be read.
    """
    return draw(plan_frame(wrinkle, material, frame, size, quality), material, manner)


def draw(plan: FramePlan, material: Material, manner: Manner = PLAINLY) -> Image:
    """The picture of a plan, whose sources are found in ``material``."""
    return _Composer(plan.size, material, manner).whole(plan.layers, plan.held)


def draw_layer(layer: PlannedLayer, size: Size, material: Material) -> Image:
    """One layer on nothing, cut and placed, without opacity and blend."""
    return _Composer(size, material).alone(layer)


@dataclass(frozen=True)
class _Composer:
    """Draws the layers of one frame; what several look at, or other frames too, is drawn once."""

    size: Size
    material: Material
    manner: Manner = PLAINLY
    fetched: dict[SourceFrame, Image] = field(default_factory=dict)

    def whole(self, layers: tuple[PlannedLayer, ...], held: int) -> Image:
        """Layers over each other; the lowest ones, if any are held, are kept as one picture."""
        if held < _WORTH_KEEPING:
            return self.stacked(layers)
        lower = layers[:held]
        below = self.material.store.made((lower, self.size), lambda: self.stacked(lower))
        return self.stacked(layers[held:], below)

    def stacked(self, layers: tuple[PlannedLayer, ...], below: Image | None = None) -> Image:
        """Layers over each other, from the back, over what lies below them."""
        nothing = spare = below is None
        below = blank(self.size, Light.ENCODED) if below is None else below
        for layer in layers:
            self.manner.check()
            if layer.content is None:
                below, spare = self._treated(layer, below), False
                continue
            picture = self.alone(layer, below)
            if nothing and _as_it_is(layer):
                # Over nothing it is what it was; to lay it there costs a pass or two.
                below, nothing, spare = picture, False, False
                continue
            laid = blend(picture, below, layer.blend, layer.opacity, layer.within, spare)
            # What was made here is nobody else's, so that the next layer may be laid into it.
            spare = laid is not picture and (spare or laid is not below)
            below, nothing = laid, False
        return below

    def alone(self, layer: PlannedLayer, below: Image | None = None) -> Image:
        """A layer's picture, placed and cut by its masks and its matte."""
        stays = _stays(layer)
        if not (_own(layer) and (stays or self._draft)):
            return self._alone(layer, below)
        # How it meets what lies below is not part of its picture.
        bare = replace(layer, opacity=1.0, blend=BlendMode.NORMAL, within=False)

        def made() -> Image:
            picture = self._alone(layer, None)
            # What stays is kept as it is laid over others.
            return picture.in_light(Light.ENCODED) if stays else picture

        store = self.material.store
        # What moves is another picture in each frame: it is wanted again only after an edit.
        keep = store.made if layer.stands or self._draft else store.made_twice
        return keep((bare, self.size), made)

    @property
    def _draft(self) -> bool:
        """Whether pictures are so small that each layer of a drag is worth keeping."""
        return math.prod(self.size) <= _DRAFT

    def _alone(self, layer: PlannedLayer, below: Image | None) -> Image:
        return self._cut(self._placed(layer, self._content(layer), below), layer.matte)

    def _looked_at(self, layer: PlannedLayer) -> Image:
        return self.material.store.made((layer, self.size), lambda: self._alone(layer, None))

    def _content(self, layer: PlannedLayer) -> Image:
        content = layer.content
        if isinstance(content, Grouped):
            return self._grouped(content)
        if isinstance(content, SourceFrame):
            # Several layers often show the same picture of a clip.
            if content not in self.fetched:
                self.fetched[content] = fetched(content, self.material)
            return self.fetched[content]
        if content is None:
            return filled(self.size, (1.0, 1.0, 1.0))
        return drawn(content, self.size, self.material)

    def _grouped(self, group: Grouped) -> Image:
        """The picture of a group; kept where only the group as a whole moves."""
        if not all(_stands(layer) for layer in group.layers):
            return self.whole(group.layers, group.held)

        def made() -> Image:
            # It is resampled in linear light each time.
            return self.whole(group.layers, group.held).in_light(Light.LINEAR)

        return self.material.store.made((group, self.size), made)

    def _placed(self, layer: PlannedLayer, picture: Image, below: Image | None = None) -> Image:
        picture = self._affected(layer, picture, below)
        in_place = _rests(layer) and picture.size == self.size
        if in_place and not layer.masks:
            return picture
        even = isinstance(layer.content, Fill) and layer.content.even and not layer.effects
        # What is cut where it stands has the same share of its colour in any light.
        if not (in_place or even):
            picture = picture.in_light(Light.LINEAR)
        elif picture.levels is not None:
            picture = picture.in_light(Light.ENCODED)
        fit, placements = matrix_of(layer.fit), [matrix_of(rows) for rows in layer.placements]
        frame, spread, loosely = self.size, self.manner.spread, layer.preview
        if not layer.masks:
            whole = [placement @ fit for placement in placements]
            return resample(picture, whole, frame, layer.cover, spread, loosely)
        planes = planned_planes(layer, placements, frame, self.material)
        if even and len(planes) == 1 == len(placements) and layer.fit == STILL:
            colour = picture.pixels[0, 0]
            pixels = coloured(colour, placements[0], planes[0], frame, layer.cover)
            return Image(pixels, picture.light)
        return resample_masked(
            picture, fit, placements, planes, frame, layer.cover, spread, loosely
        )

    def _affected(self, layer: PlannedLayer, picture: Image, below: Image | None) -> Image:
        """The picture after the layer's effects; what the first ones make is kept if it lasts."""
        first = _lasting(layer)
        if not first:
            return self._through(layer, picture, below)
        # Where the layer lies, and how it is seen, changes nothing of that.
        lasting = PlannedLayer(
            layer.content, layer.effects[:first], preview=layer.preview, fit=layer.fit,
            cover=layer.cover,
        )  # fmt: skip
        picture = self.material.store.made(
            ("affected", lasting, self.size), lambda: self._through(lasting, picture, None)
        )
        return self._through(replace(layer, effects=layer.effects[first:]), picture, below)

    def _through(self, layer: PlannedLayer, picture: Image, below: Image | None) -> Image:
        """The picture after all effects of a layer."""
        if not layer.effects:
            return picture
        # The fit only moves by whole pixels: the frame lies so far within the picture.
        fit = matrix_of(layer.fit)
        width, height = self.size
        time, frame = layer.moment
        scene = Scene(
            unit=min(self.size) / 100.0,
            left=-float(fit[0, 2]),
            top=-float(fit[1, 2]),
            width=float(width),
            height=float(height),
            time=time,
            frame=frame,
            cover=layer.cover,
            preview=layer.preview,
        )
        links = []
        for planned in layer.effects:
            one = effect(planned.kind)
            other = below if one.sees_below else None
            if planned.other is not None:
                other = self._looked_at(planned.other)
            earlier = self._looked_at(planned.earlier) if planned.earlier is not None else None
            table = self.material.luts.get(planned.lut[0])
            around = replace(scene, lut=table, other=other, motion=planned.motion, earlier=earlier)
            links.append(ChainLink(one, Values(planned.values), around))
        return after(picture, links)

    def _cut(self, picture: Image, matte: PlannedMatte | None) -> Image:
        if matte is None:
            return picture
        share = self._matte(matte)
        if share is None:
            return picture if matte.inverted else blank(self.size)
        if picture.opaque:
            # It is laid over others in encoded colour, of which what is cut costs more to find.
            picture = picture.in_light(Light.ENCODED)
        return Image(covered(picture.pixels, share), picture.light)

    def _matte(self, matte: PlannedMatte) -> Coverage | None:
        """How much of each pixel the matte lets through; None where it is not there."""
        layer = matte.layer
        if layer is None:
            return None
        return self.material.store.made((matte, self.size), lambda: self._drawn_matte(matte, layer))

    def _drawn_matte(self, matte: PlannedMatte, layer: PlannedLayer) -> Coverage:
        picture = self._looked_at(layer)
        if matte.by is MatteBy.COVERAGE:
            share = picture.pixels[..., 3]
        else:
            # Brightness as the eye takes it: mid grey lets half through.
            encoded = picture.in_light(Light.ENCODED).pixels
            share = np.clip(luma(encoded), 0.0, 1.0)
        share = share * np.float32(layer.opacity)
        return np.float32(1.0) - share if matte.inverted else share

    def _treated(self, layer: PlannedLayer, below: Image) -> Image:
        """What lies below, treated: inside the masks it takes the place of what was there."""
        bare = layer.masks == () and layer.matte is None
        moved = self._cut(self._placed(layer, below), layer.matte)
        if layer.blend is not BlendMode.NORMAL or layer.within:
            return blend(moved, below, layer.blend, layer.opacity, layer.within)
        if bare and layer.opacity >= 1.0:
            return moved
        opacity = np.float32(layer.opacity)
        if bare:
            share = np.full((self.size.height, self.size.width), opacity, np.float32)
        else:
            share = self._reach(layer) * opacity
        front, back = (x.in_light(Light.ENCODED).pixels for x in (moved, below))
        # What is treated has its share taken already, but for the opacity.
        mixture = mixed(front, layer.opacity, back, share)
        return Image(mixture, Light.ENCODED, below.opaque and moved.opaque)

    def _reach(self, layer: PlannedLayer) -> Coverage:
        """The coverage of a treatment's masks and matte, ``(H, W)``."""
        white = filled(self.size, (1.0, 1.0, 1.0))
        flat = _covering(layer)
        return self._cut(self._placed(flat, white), layer.matte).pixels[..., 3]


def _stays(layer: PlannedLayer) -> bool:
    """Whether a layer's picture is likely to be the same in other frames, or in other versions."""
    content = layer.content
    still = isinstance(content, SourceFrame) and content.place[0] == "asset"
    drawn_once = content is not None and not isinstance(content, SourceFrame | Grouped)
    stands = isinstance(content, Grouped) and all(_stands(inner) for inner in content.layers)
    return still or drawn_once or stands


def _stands(layer: PlannedLayer) -> bool:
    """Whether a layer of a group is likely to look the same in the next frame."""
    return _same_content(layer) and _own(layer) and layer.matte is None


def _same_content(layer: PlannedLayer) -> bool:
    """Whether what a layer shows is likely to be the same in the next frame."""
    content = layer.content
    return (isinstance(content, SourceFrame) and content.frozen) or _stays(layer)


def _lasting(layer: PlannedLayer) -> int:
    """How many of a layer's first effects are likely to make the same in the next frame."""
    if not layer.effects or not _same_content(layer):
        return 0
    effects = [(effect(x.kind), x.lasts) for x in layer.effects]
    first = 0
    while first < len(effects) and effects[first][1] and not effects[first][0].sees_below:
        first += 1
    # Tools that follow each other are taken together, and stay so.
    tools = [one.tool is not None for one, _ in effects]
    while 0 < first < len(effects) and tools[first - 1] and tools[first]:
        first -= 1
    return first


def _rests(layer: PlannedLayer) -> bool:
    """Whether a layer's picture is where it was made."""
    return layer.placements == (STILL,) and layer.fit == STILL


def _as_it_is(layer: PlannedLayer) -> bool:
    """Whether a layer over nothing is seen as it is."""
    return layer.blend is BlendMode.NORMAL and layer.opacity >= 1.0 and not layer.within


def _own(layer: PlannedLayer) -> bool:
    """Whether a layer's picture does not depend on what lies below it."""
    return not any(effect(x.kind).sees_below and x.other is None for x in layer.effects)


def _covering(layer: PlannedLayer) -> PlannedLayer:
    """The layer with an endless picture: only its masks have an edge."""
    return PlannedLayer(
        layer.content, placements=layer.placements, masks=layer.masks, cover=EdgeCover.STRETCH
    )
