"""The next clip as it is revealed by another layer, at rest where the window begins and ends."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design import layer_edits, time_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.lane_shapes import set_span
from wrinkle.core.design.masking import Matte, MatteBy
from wrinkle.core.design.setting import Setting
from wrinkle.core.design.slots import INCOMING, OUTGOING
from wrinkle.core.design.sources import SlotSource
from wrinkle.core.errors import InputError


def revealed_by(wrinkle: Wrinkle, cutter: str, dark: bool) -> tuple[Wrinkle, str]:
    """A view of the incoming clip over the outgoing one, seen where a layer is light, or dark.

    The layer that cuts is hidden. Both clips are whole on the window's first and last frame.

    Returns:
        The wrinkle and the id of the view.

    Raises:
        InputError: a clip is shown by no layer.
    """
    frame = wrinkle.frame_rate.seconds(1)
    last = wrinkle.tail - frame
    for slot, span in ((OUTGOING.key, (None, last)), (INCOMING.key, (last, None))):
        shown = [x.id for x in wrinkle.layers if x.source == SlotSource(slot)]
        if not shown:
            raise InputError(f"No layer shows the {slot} clip; add one first.")
        wrinkle = set_span(wrinkle, shown[0], *span)
    before = {x.id for x in wrinkle.layers}
    wrinkle = layer_edits.add_layer(wrinkle, "Reveal", SlotSource(INCOMING.key))
    view = next(x.id for x in wrinkle.layers if x.id not in before)
    wrinkle = time_edits.set_span(wrinkle, view, -wrinkle.lead + frame, last)
    matte = Matte(cutter, MatteBy.BRIGHTNESS, inverted=dark)
    wrinkle = layer_edits.change_layer(wrinkle, view, matte=matte)
    hidden = replace(wrinkle.layer(cutter), visible=Setting(False))
    return layer_edits.with_layer(wrinkle, hidden), view
