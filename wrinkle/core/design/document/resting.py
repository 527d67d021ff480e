"""Where settings of a layer rest, so that they can be brought nearer to it."""

from __future__ import annotations

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import settings_in
from wrinkle.core.design.document.slots import shows_given
from wrinkle.core.design.document.sources import TreatmentSource
from wrinkle.core.effects.effect import Effect, Family
from wrinkle.core.motion.values import Value

SIZES = frozenset({"scale"})
"""Placements that shrink by a power, and never below nothing."""


def rests_plainly(layer: Layer) -> bool:
    """Whether a layer is at rest where nothing of its placement is set: a clip or a treatment."""
    return isinstance(layer.source, TreatmentSource) or shows_given(layer.source)


def departing_keys(effect: Effect) -> tuple[str, ...]:
    """The settings by which an effect departs from rest; none of one that reveals."""
    if effect.family is Family.REVEAL:
        return ()
    return effect.rests_by or tuple(spec.key for spec in effect.settings)


def rest_of(layer: Layer, key: str) -> Value | None:
    """The value from which a setting departs; None where it does not depart from anything.

    Clips and treatments are placed plainly at rest, and an effect changes nothing there. What shows
    and what hides has no rest: masks, opacity, words, and effects that let parts of a picture go.
    """
    address = Address(key)
    if address.effect:
        effect = layer.effect_use(address.effect).effect
        departs = address.name in departing_keys(effect)
        return effect.spec(address.name).neutral if departs else None
    if key in settings_in(layer.placement) and rests_plainly(layer):
        return layer.placement.spec(key).neutral
    return None
