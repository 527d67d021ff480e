"""The next clip as it is revealed: behind the one before it, or through another layer.

Both clips are whole where the window begins and ends.
"""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.masking import Matte, MatteBy
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slots import GIVEN, INCOMING, OUTGOING
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import layer_edits, time_edits
from wrinkle.core.design.edits.lane_shapes import set_span
from wrinkle.core.errors import InputError


def clip_shown(wrinkle: Wrinkle, slot: str) -> Layer:
    """The layer that shows a given clip; of several the one at the back.

    Raises:
        InputError: there is none.
    """
    for layer in wrinkle.layers:
        if isinstance(layer.source, SlotSource) and layer.source.slot == slot:
            return layer
    raise InputError(f"No layer shows the {slot} clip; add one first.")


def overlapping(wrinkle: Wrinkle) -> Wrinkle:
    """Both given clips run through the window, the outgoing one in front until its last frame.

    So wipes and reveals begin: what is taken away from the one shows the other.

    Raises:
        InputError: one of them is shown by no layer.
    """
    outgoing, incoming = (clip_shown(wrinkle, slot).id for slot in GIVEN)
    frame = wrinkle.frame_rate.seconds(1)
    changed = set_span(wrinkle, incoming, None, None)
    changed = set_span(changed, outgoing, None, wrinkle.tail - frame)
    layers = [x for x in changed.layers if x.id != outgoing]
    place = next(i for i, x in enumerate(layers) if x.id == incoming) + 1
    layers.insert(place, changed.layer(outgoing))
    return layer_edits.with_layers(changed, tuple(layers))


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
        wrinkle = set_span(wrinkle, clip_shown(wrinkle, slot).id, *span)
    before = wrinkle
    wrinkle = layer_edits.add_layer(wrinkle, "Reveal", SlotSource(INCOMING.key))
    view = layer_edits.added(before, wrinkle)[0].id
    wrinkle = time_edits.set_span(wrinkle, view, -wrinkle.lead + frame, last)
    matte = Matte(cutter, MatteBy.BRIGHTNESS, inverted=dark)
    wrinkle = layer_edits.change_layer(wrinkle, view, matte=matte)
    hidden = replace(wrinkle.layer(cutter), visible=Setting(False))
    return layer_edits.with_layer(wrinkle, hidden), view
