"""The links between the layers of a wrinkle: which there are, where they lead, what is refused.

This is the only place that knows which fields of a layer name another one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from enum import Enum
from typing import NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.sources import GroupSource, TreatmentSource
from wrinkle.core.errors import InputError


class LinkKind(Enum):
    """What a layer has another one for; the value is its word in messages."""

    PARENT = "parent"
    GROUP = "group"
    MATTE = "matte"
    EFFECT = "effect's layer"


class Link(NamedTuple):
    """A layer names another one.

    Attributes:
        kind: what for.
        target: the id of the other one.
    """

    kind: LinkKind
    target: str


Rewriting = Callable[[Link], str | None]
"""Gives where a link leads afterwards; None takes it away."""


def links_of(layer: Layer) -> tuple[Link, ...]:
    """All links of a layer."""
    found = [
        (LinkKind.PARENT, layer.parent),
        (LinkKind.GROUP, layer.group),
        (LinkKind.MATTE, layer.matte.layer if layer.matte is not None else None),
        *((LinkKind.EFFECT, use.layer) for use in layer.effects),
    ]
    return tuple(Link(kind, target) for kind, target in found if target is not None)


def relinked(layer: Layer, to: Rewriting) -> Layer:
    """The layer with its links leading elsewhere, or taken away."""

    def rewritten(kind: LinkKind, target: str | None) -> str | None:
        return to(Link(kind, target)) if target is not None else None

    matte = layer.matte
    if matte is not None:
        cutter = rewritten(LinkKind.MATTE, matte.layer)
        matte = replace(matte, layer=cutter) if cutter is not None else None
    return replace(
        layer,
        parent=rewritten(LinkKind.PARENT, layer.parent),
        group=rewritten(LinkKind.GROUP, layer.group),
        matte=matte,
        effects=relinked_chain(layer.effects, to),
    )


def relinked_chain(chain: Sequence[EffectUse], to: Rewriting) -> tuple[EffectUse, ...]:
    """A chain of effects with its links leading elsewhere, or taken away."""
    return tuple(
        replace(use, layer=to(Link(LinkKind.EFFECT, use.layer)) if use.layer is not None else None)
        for use in chain
    )


def cut_by(layers: Sequence[Layer], layer_id: str) -> list[Layer]:
    """The layers whose matte a layer is."""
    return [layer for layer in layers if Link(LinkKind.MATTE, layer_id) in links_of(layer)]


def check_links(layers: Sequence[Layer]) -> None:
    """Refuses links to layers that do not exist, and circles.

    Raises:
        InputError: names the layers.
    """
    by_id = {layer.id: layer for layer in layers}
    links = {layer.id: links_of(layer) for layer in layers}
    if not any(links.values()):
        return
    for layer in layers:
        for link in links[layer.id]:
            if link.target not in by_id:
                raise InputError(
                    f"The {link.kind.value} of the layer '{layer.name}' does not exist."
                )
            _check_target(link, by_id[link.target])
    for onward, sentence, what in (
        (_onward(links, LinkKind.PARENT), "A layer cannot follow itself", "parents"),
        (_onward(links, LinkKind.GROUP), "A group cannot hold itself", "groups within groups"),
        (_needed(layers, links), "A layer cannot be made from itself", "mattes and effects"),
    ):
        _refuse_circle(by_id, onward, sentence)
        limits.check_depth(what, onward)
    limits.check_drawn(by_id, _onward(links, LinkKind.EFFECT))


def within(layers: Sequence[Layer], group: str | None) -> list[Layer]:
    """The layers of a group, from the back to the front; None gives those in no group."""
    return [layer for layer in layers if layer.group == group]


def inside(layers: Sequence[Layer], group: str) -> list[Layer]:
    """All layers in a group, those of its own groups among them."""
    found = []
    for layer in within(layers, group):
        found.append(layer)
        found += inside(layers, layer.id)
    return found


def _check_target(link: Link, target: Layer) -> None:
    if link.kind is LinkKind.GROUP and not isinstance(target.source, GroupSource):
        raise InputError(f"'{target.name}' is no group and cannot hold layers.")
    if link.kind is LinkKind.MATTE and isinstance(target.source, TreatmentSource):
        raise InputError(
            f"The treatment '{target.name}' has no picture of its own to cut with; choose another "
            "matte."
        )


_Links = Mapping[str, Sequence[Link]]


def _onward(links: _Links, *kinds: LinkKind) -> dict[str, list[str]]:
    """Where the links of some kinds lead, from each layer."""
    return {key: [x.target for x in found if x.kind in kinds] for key, found in links.items()}


def _needed(layers: Sequence[Layer], links: _Links) -> dict[str, list[str]]:
    """What must be drawn before a layer: its matte, what its effects look at, what it holds."""
    needed = _onward(links, LinkKind.MATTE, LinkKind.EFFECT)
    for layer in layers:
        if layer.group is not None:
            needed[layer.group].append(layer.id)
    return needed


def _refuse_circle(
    by_id: Mapping[str, Layer], onward: Mapping[str, Sequence[str]], sentence: str
) -> None:
    done: set[str] = set()
    for start in by_id:
        if start in done:
            continue
        # The way so far, with what is left to follow at each of its layers.
        way: dict[str, Iterator[str]] = {start: iter(onward[start])}
        while way:
            here = next(reversed(way))
            target = next(way[here], None)
            if target is None:
                done.add(here)
                del way[here]
            elif target in way:
                ids = list(way)
                circle = [*ids[ids.index(target) :], target]
                names = " → ".join(by_id[x].name for x in circle)
                raise InputError(f"{sentence}: {names}.")
            elif target not in done:
                way[target] = iter(onward[target])
