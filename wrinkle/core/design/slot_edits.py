"""Edits of the slots of a wrinkle."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.slots import INCOMING, OUTGOING, Slot
from wrinkle.core.design.sources import SlotSource
from wrinkle.core.errors import InputError

_ORDINALS = ("Third", "Fourth", "Fifth", "Sixth", "Seventh", "Eighth", "Ninth", "Tenth")


def add_slot(wrinkle: Wrinkle) -> tuple[Wrinkle, str]:
    """One more slot for a clip, and its key.

    Raises:
        InputError: there are as many as there can be.
    """
    keys = {slot.key for slot in wrinkle.slots}
    for ordinal in _ORDINALS:
        if ordinal.lower() not in keys:
            slot = Slot(ordinal.lower(), f"{ordinal} clip")
            return replace(wrinkle, slots=(*wrinkle.slots, slot)), slot.key
    raise InputError(f"A wrinkle has at most {2 + len(_ORDINALS)} slots.")


def remove_unused_slots(wrinkle: Wrinkle) -> Wrinkle:
    """Drops the further slots that no layer shows."""
    shown = {x.source.slot for x in wrinkle.layers if isinstance(x.source, SlotSource)}
    kept = (OUTGOING.key, INCOMING.key, *shown)
    return replace(wrinkle, slots=tuple(slot for slot in wrinkle.slots if slot.key in kept))
