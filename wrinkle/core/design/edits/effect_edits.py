"""Edits of a layer's chain of effects, and looks: chains that are kept under a name."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import relinked_chain, within
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.effects.registry import effect


def add_effect(wrinkle: Wrinkle, layer_id: str, kind: str, form: str = "") -> tuple[Wrinkle, str]:
    """An effect at the end of a layer's chain, with values that show what it does; and its id.

    Args:
        wrinkle, layer_id: where it is added.
        kind: which one.
        form: one of its forms; by default that which it starts with.

    Raises:
        InputError: there is no such effect.
    """
    layer = wrinkle.layer(layer_id)
    values = {name: Setting(value) for name, value in effect(kind).begun(form).items()}
    use = EffectUse(_free_id(layer.effects), kind, values=values)
    changed = replace(layer, effects=(*layer.effects, use))
    return layer_edits.with_layer(wrinkle, changed), use.id


def remove_effect(wrinkle: Wrinkle, layer_id: str, use_id: str) -> Wrinkle:
    """Takes an effect out of a chain."""
    layer = wrinkle.layer(layer_id)
    kept = tuple(use for use in layer.effects if use.id != use_id)
    return layer_edits.with_layer(wrinkle, replace(layer, effects=kept))


def move_effect(wrinkle: Wrinkle, layer_id: str, use_id: str, place: int) -> Wrinkle:
    """Moves an effect so that it stands at ``place`` of the chain, 0 acting first."""
    layer = wrinkle.layer(layer_id)
    moved = layer.effect_use(use_id)
    others = [use for use in layer.effects if use.id != use_id]
    place = min(max(place, 0), len(others))
    chain = (*others[:place], moved, *others[place:])
    return layer_edits.with_layer(wrinkle, replace(layer, effects=chain))


def change_effect(wrinkle: Wrinkle, layer_id: str, use_id: str, **fields: Any) -> Wrinkle:
    """Sets plain fields of an effect: shown, asset."""
    layer = wrinkle.layer(layer_id)
    changed = replace(layer.effect_use(use_id), **fields)
    return layer_edits.with_layer(wrinkle, layer.with_effect(changed))


def add_chain(wrinkle: Wrinkle, layer_id: str, chain: Sequence[EffectUse]) -> Wrinkle:
    """Adds a copied chain or a look at the end of a layer's own.

    A link to a layer that is not there, or to the layer itself, is dropped.
    """
    layer = wrinkle.layer(layer_id)
    others = {x.id for x in wrinkle.layers} - {layer_id}
    effects = layer.effects
    linked = relinked_chain(chain, lambda link: link.target if link.target in others else None)
    for use in linked:
        effects = (*effects, replace(use, id=_free_id(effects)))
    return layer_edits.with_layer(wrinkle, replace(layer, effects=effects))


def wanting(wrinkle: Wrinkle, layer: Layer, use: EffectUse) -> str:
    """What an effect of a layer needs and does not have; empty where it has all."""
    if use.effect.needs_lut and not use.asset:
        return "a LUT"
    if not use.effect.needs_layer or use.layer is not None:
        return ""
    below = within(wrinkle.layers, layer.group)[0].id != layer.id
    if use.effect.sees_below:
        return "" if below else "something below the layer, or a layer to look at"
    return "a layer to look at"


def without_effects(wrinkle: Wrinkle) -> Wrinkle:
    """The wrinkle as it is without any effect, for comparison."""
    return layer_edits.with_layers(wrinkle, tuple(replace(x, effects=()) for x in wrinkle.layers))


def _free_id(chain: Sequence[EffectUse]) -> str:
    taken = {use.id for use in chain}
    return next(f"e{n}" for n in range(1, len(taken) + 2) if f"e{n}" not in taken)
