"""What was copied within Wrinkle: pins, a chain of effects, the settings of a layer."""

from __future__ import annotations

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.looks import Look, copied
from wrinkle.core.design.edits import keyframes
from wrinkle.core.design.edits.keyframes import CopiedKeyframes
from wrinkle.core.errors import InputError
from wrinkle.ui.desk.looking import Looking
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument


class Clipboard:
    """Holds one of each; it outlives the document from which it was copied."""

    def __init__(self, document: WrinkleDocument, looking: Looking, messages: Messages) -> None:
        self._document = document
        self._looking = looking
        self._messages = messages
        self._pins: CopiedKeyframes | None = None
        self.chain: Look | None = None
        """The effects that can be pasted."""
        self.layer: Layer | None = None
        """The layer whose settings can be pasted."""

    def copy_chain(self, layer: str) -> None:
        """Keeps the effects of a layer, so that they can be pasted to others."""
        chain = self._document.state.layer(layer).effects
        try:
            self.chain = copied(chain, self._document.rest)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
        else:
            count = f"{len(chain)} effect{'s' if len(chain) != 1 else ''}"
            self._messages.told.emit(f"{count} copied.")

    def copy_layer(self) -> None:
        """Keeps the selected layer, so that its settings can be pasted to others."""
        if self._looking.layer:
            self.layer = self._document.state.layer(self._looking.layer)
            self._messages.told.emit(f"{self.layer.name} is copied.")

    def copy_pins(self) -> bool:
        """Keeps the selected pins for pasting; gives whether there were any."""
        try:
            self._pins = keyframes.copy(self._document.state, self._looking.chosen)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self._messages.told.emit("The pins are copied.")
        return True

    def paste_pins(self) -> None:
        """Pastes at the playhead: onto the selected pin's lane, else onto the same settings."""
        copied_pins, looking = self._pins, self._looking
        if copied_pins is None or not looking.layer:
            self._messages.faulted.emit(
                "There are no copied pins; select some and copy them first."
            )
            return
        layer, time = looking.layer, looking.time
        onto = looking.pin.ref.key if looking.pin is not None else None
        self._document.edit(
            "pins pasted", lambda w: keyframes.paste(w, copied_pins, layer, time, onto)
        )
