"""All effects by key. A new family is one more module in the list."""

from __future__ import annotations

from wrinkle.core.effects import (
    bend,
    blur,
    colour,
    curves,
    disruption,
    light,
    linked,
    matching,
    reveal,
    smear,
    texture,
    wash,
    weave,
)
from wrinkle.core.effects.effect import Effect
from wrinkle.core.errors import InputError
from wrinkle.core.searching import holds_words

_FAMILIES = (
    blur,
    smear,
    bend,
    linked,
    matching,
    disruption,
    light,
    colour,
    curves,
    wash,
    reveal,
    texture,
    weave,
)


def _collected() -> dict[str, Effect]:
    found: dict[str, Effect] = {}
    for family in _FAMILIES:
        for effect in family.EFFECTS:
            if effect.key in found:
                raise ValueError(f"the effect {effect.key} is declared twice")
            found[effect.key] = effect
    return found


EFFECTS = _collected()


def effect(key: str) -> Effect:
    """The effect of that key.

    Raises:
        InputError: there is none; names it.
    """
    if key not in EFFECTS:
        raise InputError(f"There is no effect '{key}'; it may come from a newer version.")
    return EFFECTS[key]


def searched(words: str) -> list[Effect]:
    """The effects whose name, description, family or words hold every word."""
    return [
        one
        for one in EFFECTS.values()
        if holds_words(f"{one.label} {one.about} {one.family.value} {one.words}", words)
    ]
