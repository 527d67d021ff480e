"""What the menu does with the selected layer."""

from __future__ import annotations

from PyQt6.QtWidgets import QMessageBox, QWidget

from wrinkle.core.design import grouping, layer_copies, layer_edits, slot_edits
from wrinkle.core.design.layer import Layer
from wrinkle.core.design.links import cut_by, inside, within
from wrinkle.core.design.mirroring import Mirror
from wrinkle.ui.bench.time_section import freeze_here, split_here
from wrinkle.ui.session import Session


class LayerActions:
    """Acts on the session's selected layer; ``window`` is where it asks."""

    def __init__(self, session: Session, window: QWidget) -> None:
        self._session = session
        self._window = window

    def remove(self) -> None:
        """Takes the layer out; asks first where it cuts others."""
        session = self._session
        if not session.layer:
            return
        layer = session.wrinkle.layer(session.layer)
        if self._may_lose(layer):
            session.edit(
                "layer removed",
                lambda w: slot_edits.remove_unused_slots(layer_edits.remove_layer(w, layer.id)),
            )

    def shift(self, step: int) -> None:
        """Moves the layer past its neighbour in its group."""
        session = self._session
        if not session.layer:
            return
        layer = session.wrinkle.layer(session.layer)
        siblings = [x.id for x in within(session.wrinkle.layers, layer.group)]
        place = siblings.index(layer.id) + step
        if not 0 <= place < len(siblings):
            return
        others = [x for x in siblings if x != layer.id]
        over = others[place - 1] if place else None
        session.edit(
            "order of the layers", lambda w: grouping.place_layer(w, layer.id, layer.group, over)
        )

    def dissolve(self) -> None:
        """Takes the selected group away; its layers stay."""
        session = self._session
        if session.layer:
            group = session.layer
            session.edit("group dissolved", lambda w: grouping.dissolve_group(w, group))

    def split(self) -> None:
        """Two layers from the selected one, at the playhead."""
        if self._session.layer:
            split_here(self._session, self._session.layer)

    def freeze(self) -> None:
        """The selected layer stands still from the playhead on."""
        if self._session.layer:
            freeze_here(self._session, self._session.layer)

    def paste(self, what: str, mirror: Mirror) -> None:
        """Gives the selected layer what the copied one has."""
        session = self._session
        copied, goal = session.copied_layer, session.layer
        if copied is None or not goal:
            session.faulted.emit("Copy a layer's settings first, then select another layer.")
            return
        session.edit(f"{what} pasted", lambda w: layer_copies.pasted(w, goal, what, copied, mirror))

    def _may_lose(self, layer: Layer) -> bool:
        """Whether a layer may go although it cuts others; the person is asked."""
        layers = self._session.wrinkle.layers
        gone = [layer, *inside(layers, layer.id)]
        ids = {x.id for x in gone}
        cut = [x.name for one in gone for x in cut_by(layers, one.id) if x.id not in ids]
        if not cut:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self._window,
            "Matte in use",
            f"'{layer.name}' cuts {' and '.join(sorted(set(cut)))}. Remove it, and they are whole "
            "again?",
            buttons.Yes | buttons.Cancel,
            buttons.Cancel,
        )
        return bool(answer == buttons.Yes)
