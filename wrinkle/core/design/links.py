"""The links between layers: parent, group and matte. None of them may run in a circle."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import TYPE_CHECKING

from wrinkle.core.design.sources import GroupSource, TreatmentSource
from wrinkle.core.errors import InputError

if TYPE_CHECKING:
    from wrinkle.core.design.document import Layer

Following = Callable[["Layer"], Iterable[str]]


def check_links(layers: Sequence[Layer]) -> None:
    """Refuses links to layers that do not exist, and circles.

    Raises:
        InputError: names the layers.
    """
    by_id = {layer.id: layer for layer in layers}
    for layer in layers:
        for what, target in (
            ("parent", layer.parent),
            ("group", layer.group),
            ("matte", layer.matte.layer if layer.matte is not None else None),
            *(("effect's layer", use.layer) for use in layer.effects),
        ):
            if target is not None and target not in by_id:
                raise InputError(f"The {what} of the layer '{layer.name}' does not exist.")
        if layer.group is not None and not isinstance(by_id[layer.group].source, GroupSource):
            raise InputError(f"'{by_id[layer.group].name}' is no group and cannot hold layers.")
        if layer.matte is not None:
            cutter = by_id[layer.matte.layer]
            if isinstance(cutter.source, TreatmentSource):
                raise InputError(
                    f"The treatment '{cutter.name}' has no picture of its own to cut with; choose "
                    "another matte."
                )
    _refuse_circle(by_id, lambda x: [x.parent] if x.parent else [], "A layer cannot follow itself")
    _refuse_circle(by_id, lambda x: [x.group] if x.group else [], "A group cannot hold itself")
    _refuse_circle(by_id, _needed_by(layers), "A layer cannot be made from itself")


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


def cut_by(layers: Sequence[Layer], layer_id: str) -> list[Layer]:
    """The layers whose matte a layer is."""
    return [x for x in layers if x.matte is not None and x.matte.layer == layer_id]


def _needed_by(layers: Sequence[Layer]) -> Following:
    """What must be drawn before a layer: its matte, and what it holds."""
    held: dict[str | None, list[str]] = {}
    for layer in layers:
        held.setdefault(layer.group, []).append(layer.id)

    def needed(layer: Layer) -> Iterator[str]:
        if layer.matte is not None:
            yield layer.matte.layer
        yield from (use.layer for use in layer.effects if use.layer is not None)
        yield from held.get(layer.id, [])

    return needed


def _refuse_circle(by_id: dict[str, Layer], following: Following, sentence: str) -> None:
    done: set[str] = set()

    def visit(layer: Layer, way: list[Layer]) -> None:
        if layer in way:
            circle = " → ".join(x.name for x in (*way[way.index(layer) :], layer))
            raise InputError(f"{sentence}: {circle}.")
        if layer.id not in done:
            for target in following(layer):
                visit(by_id[target], [*way, layer])
            done.add(layer.id)

    for layer in by_id.values():
        visit(layer, [])
