"""Motion that breaks at the cut, told from the lanes."""

from __future__ import annotations

from collections.abc import Iterator

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.lane_edits import fault_at_cut
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.measure.check import Check, Finding


def find(wrinkle: Wrinkle) -> Iterator[Finding]:
    """The lanes whose value or speed differs on both sides of the cut."""
    for layer in wrinkle.layers:
        for address in layer.lanes():
            fault = fault_at_cut(wrinkle, SettingRef(layer.id, address))
            if fault is None:
                continue
            breaks = [
                words
                for words, there in (
                    ("jumps", fault.jump is not None),
                    ("changes its speed", fault.speeds is not None),
                )
                if there
            ]
            label = layer.spec(address).label
            sentence = f"{label} of {layer.name} {' and '.join(breaks)} at the cut."
            yield Finding(CHECK.key, sentence, layer.id, address)


CHECK = Check(
    "seam",
    "Motion through the cut",
    "A lane has the same value and the same speed on both sides of the cut.",
    find,
)
