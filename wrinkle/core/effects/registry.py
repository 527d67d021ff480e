"""All effects by key. A new family is one more module in the list."""

from __future__ import annotations

from wrinkle.core.effects.effect import Effect
from wrinkle.core.effects.families import (
    aperture,
    bend,
    blow,
    blur,
    colour,
    curves,
    displace,
    disruption,
    drag,
    film,
    ink,
    light,
    matching,
    page,
    paint,
    reveal,
    rust,
    smear,
    tape,
    tear,
    texture,
    wash,
    weave,
)
from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry
from wrinkle.core.searching import holds_words

_FAMILIES = (
    blur,
    smear,
    bend,
    blow,
    displace,
    matching,
    disruption,
    tape,
    film,
    drag,
    light,
    colour,
    curves,
    wash,
    reveal,
    paint,
    ink,
    rust,
    tear,
    page,
    aperture,
    texture,
    weave,
)


EFFECTS: Registry[Effect] = Registry("effect", (x for one in _FAMILIES for x in one.EFFECTS))


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
