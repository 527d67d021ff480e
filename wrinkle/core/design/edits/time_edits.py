"""Edits of a layer's time: its span, split and freeze at a time, and how its clip runs."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.timing import Span
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits
from wrinkle.core.errors import InputError


def set_timing(wrinkle: Wrinkle, layer_id: str, **fields: Any) -> Wrinkle:
    """Sets plain fields of a layer's timing: slide, reverse, freeze, blink, beyond, blending."""
    layer = wrinkle.layer(layer_id)
    return layer_edits.with_layer(wrinkle, replace(layer, timing=replace(layer.timing, **fields)))


def set_span(
    wrinkle: Wrinkle, layer_id: str, start: Fraction | None, end: Fraction | None
) -> Wrinkle:
    """Sets when a layer is there; an end beyond the window is tied to it.

    Raises:
        InputError: it would end before it starts, or would not be there within the window.
    """
    if (start is not None and start >= wrinkle.tail) or (end is not None and end <= -wrinkle.lead):
        raise InputError("A layer must be there on one frame of the window at least.")
    if start is not None and start <= -wrinkle.lead:
        start = None
    if end is not None and end >= wrinkle.tail:
        end = None
    return layer_edits.with_layer(wrinkle, replace(wrinkle.layer(layer_id), span=Span(start, end)))


def split_layer(wrinkle: Wrinkle, layer_id: str, time: Fraction) -> tuple[Wrinkle, str]:
    """Two layers from one: the first ends at ``time``, a copy goes on from there.

    Returns:
        The wrinkle and the id of the later layer, which stands just in front of the earlier one.

    Raises:
        InputError: the layer is not there on both sides of ``time``.
    """
    layer = wrinkle.layer(layer_id)
    start, end = wrinkle.ends(layer)
    if not start < time < end:
        raise InputError(f"'{layer.name}' cannot be split here: the playhead must be within it.")
    new_id = layer_edits.free_id(wrinkle, layer.name)
    later = replace(layer, id=new_id, span=replace(layer.span, start=time))
    earlier = replace(layer, span=replace(layer.span, end=time))
    layers: list[Layer] = []
    for one in wrinkle.layers:
        layers += [earlier, later] if one.id == layer_id else [one]
    return layer_edits.with_layers(wrinkle, tuple(layers)), new_id


def in_parts(wrinkle: Wrinkle, layer_id: str, count: int) -> Wrinkle:
    """A layer as so many parts one after the other, each of whole frames.

    Raises:
        InputError: it has fewer frames than parts are wanted.
    """
    layer, rate = wrinkle.layer(layer_id), wrinkle.frame_rate
    start, end = (rate.nearest_frame(time) for time in wrinkle.ends(layer))
    if end - start < count:
        raise InputError(f"'{layer.name}' is too short for {count} parts; make it longer first.")
    for number in range(count - 1, 0, -1):
        at = start + round((end - start) * number / count)
        wrinkle, _ = split_layer(wrinkle, layer_id, rate.seconds(at))
    return wrinkle


def freeze_layer(wrinkle: Wrinkle, layer_id: str, time: Fraction) -> Wrinkle:
    """Holds the picture of a layer's clip that is seen at ``time``."""
    layer = wrinkle.layer(layer_id)
    held = layer.timing.clip_time(time, wrinkle.clock(layer, time))
    return set_timing(wrinkle, layer_id, freeze=held)


def freeze_from(wrinkle: Wrinkle, layer_id: str, time: Fraction) -> tuple[Wrinkle, str]:
    """Lets a layer run until ``time`` and stand still from there; gives the still part's id."""
    layer = wrinkle.layer(layer_id)
    start, _ = wrinkle.ends(layer)
    if time <= start:
        return freeze_layer(wrinkle, layer_id, time), layer_id
    split, later = split_layer(wrinkle, layer_id, time)
    return freeze_layer(split, later, time), later
