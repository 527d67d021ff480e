"""Edits of the sounds of a wrinkle."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.track import CUT
from wrinkle.core.naming import free_name
from wrinkle.core.synthesis.made_sounds import Lasts, made_sound


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
    sound_id = free_name(made, {x.id for x in wrinkle.sounds}.__contains__, "-")
    new = WrinkleSound(id=sound_id, made=made, hit=CUT, length=usual[sound.lasts])
    return replace(wrinkle, sounds=(*wrinkle.sounds, new)), sound_id


def change_sound(wrinkle: Wrinkle, sound_id: str, **fields: Any) -> Wrinkle:
    """Other values of a sound.

    Raises:
        InputError: a value is out of its range.
    """
    sounds = (replace(x, **fields) if x.id == sound_id else x for x in wrinkle.sounds)
    return replace(wrinkle, sounds=tuple(sounds))


def remove_sound(wrinkle: Wrinkle, sound_id: str) -> Wrinkle:
    """Takes a sound away."""
    return replace(wrinkle, sounds=tuple(x for x in wrinkle.sounds if x.id != sound_id))
