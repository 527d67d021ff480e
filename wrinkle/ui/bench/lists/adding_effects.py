"""What adds a chosen effect to a layer; a LUT is chosen by its file, which the document keeps.

An effect that has forms is chosen in one of them, as ``colour_wash:radial``.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.effect_edits import change_effect
from wrinkle.core.design.edits.lane_shapes import with_effect
from wrinkle.core.effects.registry import effect
from wrinkle.media.assets import CUBE
from wrinkle.ui.desk.parts import Designing

Adding = Callable[[Wrinkle, str], Wrinkle]
"""Gives the wrinkle with the effect on the layer of an id."""


def adding(desk: Designing, chosen: str) -> Adding | None:
    """Adds what was chosen in the list of effects; None where a file cannot be read."""
    if not chosen.endswith(CUBE):
        kind, _, form = chosen.partition(":")
        return lambda wrinkle, layer: with_effect(wrinkle, layer, kind, form)
    asset = desk.document.keep_file(Path(chosen))
    if asset is None:
        return None

    def add(wrinkle: Wrinkle, layer: str) -> Wrinkle:
        wrinkle = with_effect(wrinkle, layer, "lut")
        return change_effect(wrinkle, layer, wrinkle.layer(layer).effects[-1].id, asset=asset)

    return add


def name_of(chosen: str) -> str:
    """What a treatment with it is called."""
    if chosen.endswith(CUBE):
        return Path(chosen).stem.replace("_", " ").capitalize()
    return effect(chosen.partition(":")[0]).label
