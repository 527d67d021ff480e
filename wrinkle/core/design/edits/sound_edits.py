"""Edits of the sounds of a wrinkle."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.driven import standing
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slot_kinds import SOUND
from wrinkle.core.design.document.slots import Slot
from wrinkle.core.design.document.sounds import MovedBy, WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.slot_edits import add_further_slot, stands_in
from wrinkle.core.motion.track import CUT
from wrinkle.core.motion.values import Value
from wrinkle.core.naming import free_name
from wrinkle.core.synthesis.made_sounds import Lasts, made_sound

_GOES_ALONG = 60.0
_FALLS = 3.0
"""Of new air: as of something that passes at arm's length, by ear."""


def add_sound(wrinkle: Wrinkle, made: str) -> tuple[Wrinkle, str]:
    """One more made sound with its hit on the cut, and its id.

    Raises:
        InputError: there are as many as there can be, or there is none of that key.
    """
    sound = made_sound(made)
    usual = {
        Lasts.ITSELF: sound.length,
        Lasts.WINDOW: wrinkle.lead + wrinkle.tail,
        Lasts.LEAD: wrinkle.lead,
    }
    length = Setting(float(usual[sound.lasts]))
    new = WrinkleSound(id=_free_id(wrinkle, made), made=made, hit=CUT, length=length)
    if sound.follows:
        new = replace(new, side=Setting(_GOES_ALONG), fall=Setting(_FALLS))
    return replace(wrinkle, sounds=(*wrinkle.sounds, new)), new.id


def add_file(wrinkle: Wrinkle, stand_in: str = "") -> tuple[Wrinkle, str]:
    """A slot for a file of sound, and a sound that fills it; gives the sound's id.

    Args:
        wrinkle: as it is.
        stand_in: the name of the asset that is heard until reuse fills the slot.

    Raises:
        InputError: there are as many slots or sounds as there can be.
    """
    wrinkle, key = add_further_slot(wrinkle, SOUND)
    if stand_in:
        wrinkle = stands_in(wrinkle, key, stand_in)
    length = Setting(float(wrinkle.lead + wrinkle.tail))
    new = WrinkleSound(id=_free_id(wrinkle, "file"), slot=key, hit=CUT, length=length)
    return replace(wrinkle, sounds=(*wrinkle.sounds, new)), new.id


def change_sound(wrinkle: Wrinkle, sound_id: str, **fields: Any) -> Wrinkle:
    """Other plain values of a sound, such as when its hit falls.

    Raises:
        InputError: a value is out of its range.
    """
    sounds = (replace(x, **fields) if x.id == sound_id else x for x in wrinkle.sounds)
    return replace(wrinkle, sounds=tuple(sounds))


def change_file(wrinkle: Wrinkle, sound_id: str, **fields: Any) -> Wrinkle:
    """Other values of what is heard of the file of a sound.

    Raises:
        InputError: a time is out of range.
    """
    sound = next(x for x in wrinkle.sounds if x.id == sound_id)
    return change_sound(wrinkle, sound_id, file=replace(sound.file, **fields))


def rest_at(wrinkle: Wrinkle, sound_id: str, **values: Value) -> Wrinkle:
    """Other values of settings of a sound that stand still.

    Raises:
        InputError: a value is out of its range.
    """
    return change_sound(wrinkle, sound_id, **{key: Setting(own) for key, own in values.items()})


def lengthened(wrinkle: Wrinkle, sound_id: str, end: Fraction) -> Wrinkle:
    """A sound that ends at a time, in seconds from the cut, and begins where it begins now."""
    sound = next(x for x in wrinkle.sounds if x.id == sound_id)
    spec = sound.spec("length")
    length = float(spec.limited(float(end - sound.begins)))  # type: ignore[arg-type]
    times = Fraction(length / sound.seconds)
    setting = sound.length.mapped(lambda own: spec.limited(float(own) * float(times)))  # type: ignore[arg-type]
    hit = sound.begins + Fraction(sound.hit_share * length)
    return change_sound(wrinkle, sound_id, length=setting, hit=hit.limit_denominator(1_000_000))


def follow(wrinkle: Wrinkle, sound_id: str, moved_by: MovedBy, layer: str = "") -> Wrinkle:
    """Lets a sound follow the speed of all layers, of one, or of the whole picture.

    Raises:
        InputError: there is no such layer.
    """
    followed = layer if moved_by is MovedBy.LAYER else None
    return change_sound(wrinkle, sound_id, moved_by=moved_by, layer=followed)


def remove_sound(wrinkle: Wrinkle, sound_id: str) -> Wrinkle:
    """Takes a sound away, its slot and what drives it with it."""
    gone = next((x for x in wrinkle.sounds if x.id == sound_id), None)
    left = tuple(x for x in wrinkle.sounds if x.id != sound_id)
    slots: tuple[Slot, ...] = wrinkle.slots
    if gone is not None and gone.slot and all(x.slot != gone.slot for x in left):
        slots = tuple(slot for slot in slots if slot.key != gone.slot)
    dials = standing(wrinkle.dials, (*wrinkle.layers, *left))
    return replace(wrinkle, sounds=left, slots=slots, dials=dials)


def _free_id(wrinkle: Wrinkle, word: str) -> str:
    return free_name(word, {x.id for x in wrinkle.owners}.__contains__, "-")
