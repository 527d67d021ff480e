"""Edits of the sounds of a wrinkle."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.sounds import Made, WrinkleSound
from wrinkle.core.motion.track import CUT
from wrinkle.core.naming import free_name

_LENGTHS = {
    Made.HIT: Fraction(3, 5),
    Made.DROP: Fraction(4, 5),
    Made.CRACKLE: Fraction(1, 2),
    Made.FLUTTER: Fraction(1, 2),
    Made.TICK: Fraction(2, 25),
}
"""Seconds, of those that are as long whatever the wrinkle is."""


def add_sound(wrinkle: Wrinkle, made: Made) -> tuple[Wrinkle, str]:
    """One more sound with its hit on the cut, and its id.

    Air lasts as long as the window, a rise as long as the lead.

    Raises:
        InputError: there are as many as there can be.
    """
    usual = {Made.AIR: wrinkle.lead + wrinkle.tail, Made.RISE: wrinkle.lead} | _LENGTHS
    sound_id = free_name(made.value, {x.id for x in wrinkle.sounds}.__contains__, "-")
    sound = WrinkleSound(id=sound_id, made=made, hit=CUT, length=usual[made])
    return replace(wrinkle, sounds=(*wrinkle.sounds, sound)), sound_id


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
