"""Effects that do nothing, because they lack what they work with."""

from __future__ import annotations

from collections.abc import Iterator

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.effect_edits import wanting
from wrinkle.core.measure.check import Check, Finding


def find(wrinkle: Wrinkle) -> Iterator[Finding]:
    """The effects that are on, and want a table, a layer or something below."""
    for layer in wrinkle.layers:
        for use in layer.effects:
            lacking = wanting(wrinkle, layer, use) if use.shown else ""
            if lacking:
                label = use.effect.label
                sentence = f"{label} on {layer.name} does nothing without {lacking}."
                yield Finding(CHECK.key, sentence, layer.id)


CHECK = Check(
    "effects",
    "Effects that act",
    "An effect that is on has the table, the layer or the picture below that it works with.",
    find,
)
