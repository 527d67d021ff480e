"""Edits of groups, and the place of a layer in the stack."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import Link, LinkKind, cut_by, inside, relinked, within
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import GroupSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.errors import InputError
from wrinkle.core.picture.edge_cover import EdgeCover


def group_layers(wrinkle: Wrinkle, chosen: Sequence[str], name: str = "Group") -> Wrinkle:
    """Puts layers of one group into a new group in the place of the front-most of them.

    Raises:
        InputError: no layer is chosen, or they are not in the same group.
    """
    if not chosen:
        raise InputError("Choose the layers to group first.")
    around = {wrinkle.layer(x).group for x in chosen}
    if len(around) > 1:
        raise InputError("Layers of different groups cannot be grouped; move them together first.")
    group = Layer(
        id=layer_edits.free_id(wrinkle, name),
        name=name,
        source=GroupSource(),
        edge_cover=Setting(EdgeCover.BARE.value),
        group=around.pop(),
    )
    members = [replace(x, group=group.id) if x.id in chosen else x for x in wrinkle.layers]
    front = max(index for index, x in enumerate(members) if x.id in chosen)
    return layer_edits.with_layers(wrinkle, (*members[: front + 1], group, *members[front + 1 :]))


def dissolve_group(wrinkle: Wrinkle, group_id: str) -> Wrinkle:
    """Takes a group away; its layers stay, in its place and in their order.

    Raises:
        InputError: it is no group, or it is something's matte.
    """
    group = wrinkle.layer(group_id)
    if not isinstance(group.source, GroupSource):
        raise InputError(f"'{group.name}' is no group.")
    cut = cut_by(wrinkle.layers, group_id)
    if cut:
        raise InputError(
            f"The group '{group.name}' cuts '{cut[0].name}'; take that matte away first."
        )

    def without_group(link: Link) -> str | None:
        if link.target != group_id:
            return link.target
        return group.group if link.kind is LinkKind.GROUP else None

    members = within(wrinkle.layers, group_id)
    ids = {x.id for x in members}
    place = wrinkle.layers.index(group)
    before = [x for x in wrinkle.layers[:place] if x.id not in ids]
    after = [x for x in wrinkle.layers[place + 1 :] if x.id not in ids]
    layers = (relinked(x, without_group) for x in (*before, *members, *after))
    return layer_edits.with_layers(wrinkle, tuple(layers))


def place_layer(
    wrinkle: Wrinkle, layer_id: str, group: str | None, over: str | None = None
) -> Wrinkle:
    """Moves a layer into a group (or out of all), just in front of ``over``.

    Args:
        wrinkle, layer_id: what is moved.
        group: where it will belong.
        over: a layer of that group; None puts it behind all others there.
    """
    layer = replace(wrinkle.layer(layer_id), group=group)
    others = [x for x in wrinkle.layers if x.id != layer_id]
    if over is not None:
        place = others.index(next(x for x in others if x.id == over)) + 1
    else:
        siblings = [index for index, x in enumerate(others) if x.group == group]
        place = siblings[0] if siblings else 0
    return layer_edits.with_layers(wrinkle, (*others[:place], layer, *others[place:]))


def depth_of(wrinkle: Wrinkle, layer: Layer) -> int:
    """How many groups a layer is in."""
    depth = 0
    while layer.group is not None:
        layer = wrinkle.layer(layer.group)
        depth += 1
    return depth


def front_to_back(wrinkle: Wrinkle, group: str | None = None) -> list[Layer]:
    """The layers as the stack shows them: each group before what it holds, front-most first."""
    found = []
    for layer in reversed(within(wrinkle.layers, group)):
        found.append(layer)
        if isinstance(layer.source, GroupSource):
            found += front_to_back(wrinkle, layer.id)
    return found


def may_hold(wrinkle: Wrinkle, group_id: str | None, layer_id: str) -> bool:
    """Whether a layer can be put into a group: not into itself or what it holds."""
    return group_id is None or (
        group_id != layer_id and all(x.id != group_id for x in inside(wrinkle.layers, layer_id))
    )
