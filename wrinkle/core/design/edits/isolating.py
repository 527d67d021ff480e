"""One layer alone, or what its masks cover, to be looked at."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import inside, within
from wrinkle.core.design.document.setting import Setting, neutral
from wrinkle.core.design.document.setting_specs import LAYER_SETTINGS
from wrinkle.core.design.document.sources import FillSource, TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.picture.edge_cover import EdgeCover

_HIDDEN, _SHOWN = Setting(False), Setting(True)
_WHITE = FillSource(colour=Setting((1.0, 1.0, 1.0)))
_ENDLESS = Setting(EdgeCover.STRETCH.value)


def isolated(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """The wrinkle with one layer shown, whether it is hidden or not, and the others hidden.

    What the layer is made from goes on doing its work: its matte, its parent, what it holds as a
    group, and the groups that it is in with what they do. Of a treatment, which has no picture of
    its own, what lies below it is shown too.

    Raises:
        KeyError: there is no such layer.
    """
    layer = wrinkle.layer(layer_id)
    kept = {x.id for x in inside(wrinkle.layers, layer_id)}
    if isinstance(layer.source, TreatmentSource):
        beside = within(wrinkle.layers, layer.group)
        for below in beside[: beside.index(layer)]:
            kept |= {below.id, *(x.id for x in inside(wrinkle.layers, below.id))}
    seen = {layer_id, *_groups_around(wrinkle, layer)}

    def alone(one: Layer) -> Layer:
        if one.id in kept:
            return one
        return replace(one, visible=_SHOWN if one.id in seen else _HIDDEN)

    # What a dial sets would bring back what is hidden.
    dials = tuple(
        replace(dial, drives=tuple(x for x in dial.drives if x.key != "visible"))
        for dial in wrinkle.dials
    )
    return replace(wrinkle, layers=tuple(map(alone, wrinkle.layers)), dials=dials)


def masks_alone(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """The wrinkle with nothing but white where the masks of a layer cover it, as it is placed.

    Args:
        wrinkle: a plain one; its dials are gone afterwards.
        layer_id: of the layer.

    Raises:
        KeyError: there is no such layer.
    """
    around = _groups_around(wrinkle, wrinkle.layer(layer_id))

    def alone(one: Layer) -> Layer:
        if one.id == layer_id:
            return replace(_bare(one), source=_WHITE, edge_cover=_ENDLESS)
        return _bare(one) if one.id in around else replace(one, visible=_HIDDEN)

    return replace(wrinkle, layers=tuple(map(alone, wrinkle.layers)), dials=())


def _bare(layer: Layer) -> Layer:
    """A layer that is seen as it is placed and masked, and in no other way."""
    plain = {key: neutral(LAYER_SETTINGS[key]) for key in ("opacity", "blend", "within")}
    return replace(layer, visible=_SHOWN, effects=(), matte=None, **plain)


def _groups_around(wrinkle: Wrinkle, layer: Layer) -> set[str]:
    """The ids of the groups that a layer is in."""
    found = set()
    while layer.group is not None:
        found.add(layer.group)
        layer = wrinkle.layer(layer.group)
    return found
