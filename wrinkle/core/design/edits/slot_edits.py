"""Edits of the slots of a wrinkle."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import INCOMING, OUTGOING, Slot, Unfilled
from wrinkle.core.design.document.wrinkle import Wrinkle
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
    """Drops the further slots of pictures and words that no layer shows."""
    shown = {getattr(layer.source, "slot", "") for layer in wrinkle.layers}
    kept = (OUTGOING.key, INCOMING.key, *shown)
    slots = (x for x in wrinkle.slots if x.key in kept or x.fills is Fills.SOUND)
    return replace(wrinkle, slots=tuple(slots))


def add_further_slot(wrinkle: Wrinkle, kind: str) -> tuple[Wrinkle, str]:
    """One more slot of a kind, and its key.

    Raises:
        InputError: there are as many as there can be.
    """
    taken = {slot.key for slot in wrinkle.slots}
    for number in range(1, limits.MOST_SLOTS + 1):
        key = kind if number == 1 else f"{kind}-{number}"
        if key not in taken:
            label = kind.title() if number == 1 else f"{kind.title()} {number}"
            return replace(wrinkle, slots=(*wrinkle.slots, Slot(key, label, kind))), key
    raise InputError(f"A wrinkle has at most {limits.MOST_SLOTS} slots.")


def change_slot(wrinkle: Wrinkle, key: str, **fields: Any) -> Wrinkle:
    """Sets fields of a slot: what it is called, what fits there, its stand-in.

    Raises:
        InputError: a value is not possible; says why.
    """
    slots = (replace(x, **fields) if x.key == key else x for x in wrinkle.slots)
    return replace(wrinkle, slots=tuple(slots))


def stands_in(wrinkle: Wrinkle, key: str, asset: str) -> Wrinkle:
    """What fills a slot until reuse does is the asset of that name."""
    return change_slot(wrinkle, key, stand_in=asset, unfilled=Unfilled.STAND_IN)


def remove_slot(wrinkle: Wrinkle, key: str) -> Wrinkle:
    """Takes a further slot out that no layer shows and no sound fills.

    Raises:
        InputError: one does; names it.
    """
    for layer in wrinkle.layers:
        if getattr(layer.source, "slot", "") == key:
            raise InputError(f"The layer '{layer.name}' shows this slot; remove the layer first.")
    for sound in wrinkle.sounds:
        if sound.slot == key:
            raise InputError(f"The sound '{sound.name}' fills this slot; remove the sound first.")
    return replace(wrinkle, slots=tuple(x for x in wrinkle.slots if x.key != key))
