"""A layer like one that is there, and what one layer takes over from another."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document.driven import copied_drives
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import inside, relinked
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import added, free_id, with_layer, with_layers
from wrinkle.core.design.edits.mask_edits import add_mask
from wrinkle.core.design.edits.mirroring import mirrored_effect, mirrored_mask, mirrored_part
from wrinkle.core.errors import InputError
from wrinkle.core.mask.coverage import Combine
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.values import Value, discrete, parts, scaled, shifted
from wrinkle.core.picture.paths import rectangle

_FAR = 0.5
"""How far a band reaches beyond the frame, in parts of it."""


def duplicate(wrinkle: Wrinkle, layer_id: str, key: str | None = None, by: Value = 0.0) -> Wrinkle:
    """A copy of a layer with all its lanes in front of it, one setting shifted by a constant.

    A group is copied with all it holds; links among the copies lead to the copies, and dials drive
    them as they drive the originals.

    Args:
        wrinkle, layer_id: what is copied.
        key: the address of the setting that differs; by default none.
        by: what is added to its rest value and to each of its keyframes.

    Raises:
        InputError: a value would leave the setting's range.
    """
    layer = wrinkle.layer(layer_id)
    originals = [layer, *inside(wrinkle.layers, layer_id)]
    new_ids: dict[str, str] = {}
    names: dict[str, str] = {}
    for original in originals:
        name = f"{original.name} copy" if original is layer else original.name
        names[original.id] = name
        new_ids[original.id] = free_id(wrinkle, name, set(new_ids.values()))
    copies = [
        replace(
            relinked(one, lambda link: new_ids.get(link.target, link.target)),
            id=new_ids[one.id],
            name=names[one.id],
        )
        for one in originals
    ]
    if key is not None:
        copies[0] = copies[0].with_setting(key, _shifted(copies[0].setting(key), by))
    place = max(wrinkle.layers.index(x) for x in originals) + 1
    layers = wrinkle.layers
    copied = with_layers(wrinkle, (*layers[:place], *copies, *layers[place:]))
    return replace(copied, dials=copied_drives(copied.dials, new_ids))


def other_half(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """A copy of a layer that shows what its masks hide, and goes the opposite way."""
    copied = duplicate(wrinkle, layer_id)
    half = added(wrinkle, copied)[0]
    masks = tuple(replace(x, inverted=_negated(x.inverted)) for x in half.masks)
    placement = mirrored_part(half.placement, Direction.BOTH)
    return with_layer(copied, replace(half, masks=masks, placement=placement))


def in_bands(wrinkle: Wrinkle, layer_id: str, count: int) -> Wrinkle:
    """A layer as so many level bands, each a layer; every other one goes the other way across."""
    name, cut = wrinkle.layer(layer_id).name, wrinkle
    for number in range(count - 1, 0, -1):
        copied = duplicate(cut, layer_id)
        cut = _band(copied, added(cut, copied)[0].id, name, number, count)
    return _band(cut, layer_id, name, 0, count)


def _band(wrinkle: Wrinkle, layer_id: str, name: str, number: int, count: int) -> Wrinkle:
    outline = rectangle(-_FAR, number / count, 1.0 + _FAR, (number + 1) / count)
    combine = Combine.INTERSECT if wrinkle.layer(layer_id).masks else Combine.ADD
    wrinkle, mask_id = add_mask(wrinkle, layer_id, outline, f"Band {number + 1}")
    layer = wrinkle.layer(layer_id)
    layer = layer.with_mask(replace(layer.mask(mask_id), combine=Setting(combine.value)))
    way = Direction.LEFT_RIGHT if number % 2 else Direction.AS_MADE
    placement = mirrored_part(layer.placement, way)
    return with_layer(wrinkle, replace(layer, name=f"{name} {number + 1}", placement=placement))


def _negated(setting: Setting) -> Setting:
    return setting.mapped(lambda value: not value)


class Pasted(NamedTuple):
    """What a layer can take over from another one.

    Attributes:
        key: its name.
        label: what the window calls it.
        mirrors: whether it can be mirrored.
        take: gives the layer with what the other one has.
    """

    key: str
    label: str
    mirrors: bool
    take: Callable[[Layer, Layer, Direction], Layer]


def pasted(wrinkle: Wrinkle, goal: str, what: str, from_layer: Layer, mirror: Direction) -> Wrinkle:
    """Gives a layer the place, the masks, the effects or the look of another one.

    Args:
        wrinkle, goal: the layer that changes.
        what: the key of one of ``PASTED``.
        from_layer: where it comes from.
        mirror: what is exchanged: left and right, up and down.
    """
    one = next(x for x in PASTED if x.key == what)
    return with_layer(wrinkle, one.take(wrinkle.layer(goal), from_layer, mirror))


def _place(layer: Layer, other: Layer, mirror: Direction) -> Layer:
    return replace(layer, placement=mirrored_part(other.placement, mirror))


def _masks(layer: Layer, other: Layer, mirror: Direction) -> Layer:
    return replace(layer, masks=tuple(mirrored_mask(mask, mirror) for mask in other.masks))


def _effects(layer: Layer, other: Layer, mirror: Direction) -> Layer:
    return replace(layer, effects=tuple(mirrored_effect(use, mirror) for use in other.effects))


def _look(layer: Layer, other: Layer, mirror: Direction) -> Layer:
    matte = other.matte
    if matte is not None and matte.layer == layer.id:
        matte = layer.matte
    return replace(
        layer,
        opacity=other.opacity,
        blend=other.blend,
        within=other.within,
        edge_cover=other.edge_cover,
        motion_blur=other.motion_blur,
        matte=matte,
    )


PASTED = (
    Pasted("place", "Place", True, _place),
    Pasted("masks", "Masks", True, _masks),
    Pasted("effects", "Effects", True, _effects),
    Pasted("look", "Blend, opacity, matte and edges", False, _look),
)


def _shifted(setting: Setting, by: Value) -> Setting:
    if discrete(setting.rest):
        raise InputError("Choices and yes or no cannot be shifted; choose another setting.")
    nothing = scaled(setting.rest, 0.0)
    if isinstance(nothing, tuple) and not isinstance(by, tuple):
        by = parts(by) * len(nothing)
    return setting.mapped(lambda value: shifted(value, nothing, by))
