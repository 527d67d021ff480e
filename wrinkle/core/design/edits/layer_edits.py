"""Edits of the stack: layers come, go and change.

Each raises InputError, naming what is in the way, and leaves the given wrinkle as it is.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.driven import AnyOwner, standing
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.layer_kinds import LayerSource
from wrinkle.core.design.document.links import inside, relinked
from wrinkle.core.design.document.set_aside import still_aside
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sounds import MovedBy
from wrinkle.core.design.document.sources import GroupSource, ShapeSource, SlotSource, WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle, clip_layer
from wrinkle.core.errors import InputError
from wrinkle.core.naming import free_name
from wrinkle.core.picture.edge_cover import EdgeCover

_WITHOUT_EDGES = GroupSource | ShapeSource | WordsSource


def add_layer(
    wrinkle: Wrinkle, name: str, source: LayerSource, above: str | None = None
) -> Wrinkle:
    """Puts a new layer over the layer ``above`` in its group, by default in front of all.

    A further view of a clip is there on the clip's side of the cut. What is drawn or composed has
    nothing outside itself to be mirrored.
    """
    layer_id = free_id(wrinkle, name)
    if isinstance(source, SlotSource):
        layer = clip_layer(layer_id, name, source.slot)
    else:
        layer = Layer(id=layer_id, name=name, source=source)
        if isinstance(source, _WITHOUT_EDGES):
            layer = replace(layer, edge_cover=Setting(EdgeCover.BARE.value))
    if above is not None:
        layer = replace(layer, group=wrinkle.layer(above).group)
    place = len(wrinkle.layers) if above is None else _index(wrinkle, above) + 1
    return with_layers(wrinkle, (*wrinkle.layers[:place], layer, *wrinkle.layers[place:]))


def added(before: Wrinkle, after: Wrinkle) -> list[Layer]:
    """The layers that a change has brought, from the back to the front."""
    known = {layer.id for layer in before.layers}
    return [layer for layer in after.layers if layer.id not in known]


def remove_layer(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """Takes a layer out, a group with all it holds; links to what is gone are dropped."""
    gone = {layer_id, *(x.id for x in inside(wrinkle.layers, layer_id))}
    kept = (x for x in wrinkle.layers if x.id not in gone)
    return with_layers(
        wrinkle,
        tuple(relinked(x, lambda link: None if link.target in gone else link.target) for x in kept),
    )


def change_layer(wrinkle: Wrinkle, layer_id: str, **fields: Any) -> Wrinkle:
    """Sets plain fields of a layer: name, parent, matte, source, span, timing.

    Raises:
        InputError: the name is empty.
    """
    if not str(fields.get("name", "-")).strip():
        raise InputError("A layer needs a name.")
    return with_layer(wrinkle, replace(wrinkle.layer(layer_id), **fields))


def with_layer(wrinkle: Wrinkle, layer: Layer) -> Wrinkle:
    """Exchanges the layer of that id."""
    return with_layers(wrinkle, tuple(layer if x.id == layer.id else x for x in wrinkle.layers))


def with_owner(wrinkle: Wrinkle, owner: AnyOwner) -> Wrinkle:
    """Exchanges the layer, or the sound, of that id."""
    if isinstance(owner, Layer):
        return with_layer(wrinkle, owner)
    sounds = tuple(owner if x.id == owner.id else x for x in wrinkle.sounds)
    return replace(wrinkle, sounds=sounds)


def with_layers(wrinkle: Wrinkle, layers: tuple[Layer, ...]) -> Wrinkle:
    """Exchanges all layers, from the back to the front.

    Dials, sounds, and findings that are set aside, let go of what is no longer there.
    """
    ids = {layer.id for layer in layers}
    sounds = tuple(
        replace(x, layer=None, moved_by=MovedBy.ALL)
        if x.layer is not None and x.layer not in ids
        else x
        for x in wrinkle.sounds
    )
    return replace(
        wrinkle,
        layers=layers,
        sounds=sounds,
        dials=standing(wrinkle.dials, (*layers, *sounds)),
        set_aside=still_aside(wrinkle.set_aside, layers),
    )


def _index(wrinkle: Wrinkle, layer_id: str) -> int:
    return wrinkle.layers.index(wrinkle.layer(layer_id))


def free_id(wrinkle: Wrinkle, name: str, taken: Collection[str] = ()) -> str:
    """An id for a new layer, made from its name; ``taken`` ones are not free either."""
    base = "-".join(name.lower().split()) or "layer"
    used = {owner.id for owner in wrinkle.owners}.union(taken)
    return free_name(base, used.__contains__, "-")
