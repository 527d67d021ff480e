"""What the menu does with the selected layer."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import cut_by, inside, within
from wrinkle.core.design.document.slots import OUTGOING
from wrinkle.core.design.document.timing import Blink
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import (
    grouping,
    layer_copies,
    layer_edits,
    mask_motions,
    reveals,
    slot_edits,
    sound_edits,
    time_edits,
)
from wrinkle.core.motion.direction import Direction
from wrinkle.core.synthesis.made_sounds import HIT
from wrinkle.ui.bench.sections.time_section import freeze_here, split_here
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.plain_text import Buttons, ask

_BANDS, _PARTS = 3, 4


class LayerActions:
    """Acts on the selected layer; ``window`` is where it asks."""

    def __init__(self, desk: Supplying, window: QWidget) -> None:
        self._desk = desk
        self._window = window

    def remove(self) -> None:
        """Takes the layer out; asks first where it cuts others."""
        desk = self._desk
        if not desk.looking.layer:
            return
        layer = desk.document.state.layer(desk.looking.layer)
        if self._may_lose(layer):
            desk.document.edit(
                "layer removed",
                lambda w: slot_edits.remove_unused_slots(layer_edits.remove_layer(w, layer.id)),
            )

    def select(self, step: int) -> None:
        """Selects the next layer in front (1) or behind (-1)."""
        layers = [x.id for x in self._desk.document.state.layers]
        if layers:
            here = self._desk.looking.layer
            place = layers.index(here) + step if here in layers else 0
            self._desk.looking.select_layer(layers[min(max(place, 0), len(layers) - 1)])

    def shift(self, step: int) -> None:
        """Moves the layer past its neighbour in its group."""
        desk = self._desk
        if not desk.looking.layer:
            return
        layer = desk.document.state.layer(desk.looking.layer)
        siblings = [x.id for x in within(desk.document.state.layers, layer.group)]
        place = siblings.index(layer.id) + step
        if not 0 <= place < len(siblings):
            return
        others = [x for x in siblings if x != layer.id]
        over = others[place - 1] if place else None
        desk.document.edit(
            "order of the layers", lambda w: grouping.place_layer(w, layer.id, layer.group, over)
        )

    def dissolve(self) -> None:
        """Takes the selected group away; its layers stay."""
        desk = self._desk
        if desk.looking.layer:
            group = desk.looking.layer
            desk.document.edit("group dissolved", lambda w: grouping.dissolve_group(w, group))

    def other_half(self) -> None:
        """The other half of the selected layer: its masks inverted, its way reversed."""
        desk, before = self._desk, self._desk.document.state
        layer = desk.looking.layer
        if layer and desk.document.edit(
            "the other half", lambda w: layer_copies.other_half(w, layer)
        ):
            desk.looking.select_layer(layer_edits.added(before, desk.document.state)[0].id)

    def bands(self) -> None:
        """The selected layer as three bands that go alternating ways."""
        layer = self._desk.looking.layer
        if layer:
            self._desk.document.edit(
                "three bands", lambda w: layer_copies.in_bands(w, layer, _BANDS)
            )

    def parts(self) -> None:
        """The selected layer as four parts in time, one after the other."""
        layer = self._desk.looking.layer
        if layer and self._desk.document.edit(
            "four parts", lambda w: time_edits.in_parts(w, layer, _PARTS)
        ):
            self._desk.looking.select_layer(layer)

    def in_turn(self) -> None:
        """What the selected group holds is revealed one after the other."""
        layer = self._desk.looking.layer
        if layer:
            self._desk.document.edit(
                "revealed in turn", lambda w: mask_motions.revealed_in_turn(w, layer)
            )

    def overlap(self) -> None:
        """Both clips run through the window."""
        desk = self._desk
        if desk.document.edit("clips that overlap", reveals.overlapping):
            desk.looking.select_layer(reveals.clip_shown(desk.document.state, OUTGOING.key).id)

    def split(self) -> None:
        """Two layers from the selected one, at the playhead."""
        if self._desk.looking.layer:
            split_here(self._desk, self._desk.looking.layer)

    def freeze(self) -> None:
        """The selected layer stands still from the playhead on."""
        if self._desk.looking.layer:
            freeze_here(self._desk, self._desk.looking.layer)

    def blink(self) -> None:
        """The selected layer blinks, or no longer."""
        desk, layer = self._desk, self._desk.looking.layer
        if layer:
            blinks = desk.document.state.layer(layer).timing.blink is not None
            blink = None if blinks else Blink()
            desk.document.edit("blink", lambda w: time_edits.set_timing(w, layer, blink=blink))

    def hit(self) -> None:
        """A hit is heard at the playhead."""
        time = self._desk.looking.time

        def sounding(wrinkle: Wrinkle) -> Wrinkle:
            wrinkle, new = sound_edits.add_sound(wrinkle, HIT)
            return sound_edits.change_sound(wrinkle, new, hit=time)

        self._desk.document.edit("hit", sounding)

    def paste(self, what: str, mirror: Direction) -> None:
        """Gives the selected layer what the copied one has."""
        desk = self._desk
        copied, goal = desk.clipboard.layer, desk.looking.layer
        if copied is None or not goal:
            desk.messages.faulted.emit("Copy a layer's settings first, then select another layer.")
            return
        desk.document.edit(
            f"{what} pasted", lambda w: layer_copies.pasted(w, goal, what, copied, mirror)
        )

    def _may_lose(self, layer: Layer) -> bool:
        """Whether a layer may go although it cuts others; the person is asked."""
        layers = self._desk.document.state.layers
        gone = [layer, *inside(layers, layer.id)]
        ids = {x.id for x in gone}
        cut = [x.name for one in gone for x in cut_by(layers, one.id) if x.id not in ids]
        if not cut:
            return True
        answer = ask(
            self._window,
            "Matte in use",
            f"'{layer.name}' cuts {' and '.join(sorted(set(cut)))}. Remove it, and they are whole "
            "again?",
            Buttons.Yes | Buttons.Cancel,
            Buttons.Cancel,
        )
        return answer == Buttons.Yes
