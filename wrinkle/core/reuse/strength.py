"""How far a wrinkle departs from rest, and how soft its edges are, for one use of it.

Strength scales the departures of placement, effects and their jitter; what shows and what hides
stays: masks, mattes, opacity, words, and effects that let parts of the picture go. At 0 % there is
the cut, as it is revealed, and nothing else.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from msgspec.structs import replace

from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer, Placement
from wrinkle.core.design.document.links import inside
from wrinkle.core.design.document.resting import SIZES, departing_keys, rests_plainly
from wrinkle.core.design.document.setting import Setting, settings_in
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import with_layers
from wrinkle.core.errors import InputError
from wrinkle.core.motion.departing import departing
from wrinkle.core.motion.setting_spec import CurveSpec, SettingSpec
from wrinkle.core.motion.values import Value, discrete, parts, scaled
from wrinkle.core.picture.paths import KNOT

STRONGEST = 200.0
"""Per cent, of strength and of softness."""


def with_strength(wrinkle: Wrinkle, percent: float) -> Wrinkle:
    """The wrinkle with its departures from rest scaled.

    Args:
        wrinkle: as it was made.
        percent: 0…200; 100 is as made.

    Raises:
        InputError: it is out of range.
    """
    share = _share("strength", percent)
    if share == 1.0:
        return wrinkle
    cutters = _cutters(wrinkle)
    found = with_layers(
        wrinkle,
        tuple(x if x.id in cutters else _strengthened(x, share) for x in wrinkle.layers),
    )
    return replace(found, sounds=tuple(_louder(x, share) for x in found.sounds))


def _louder(sound: WrinkleSound, share: float) -> WrinkleSound:
    """A sound as loud as the picture is strong: half of it is 6 dB less, nothing is silent."""
    if share == 0.0:
        return replace(sound, heard=Setting(False))
    # The clips go down by so many decibels; all else is so loud.
    by = share if sound.hushes else 20.0 * math.log10(share)
    spec = sound.spec("level")

    def change(own: Value) -> Value:
        level = parts(own)[0]
        return spec.limited(level * by if sound.hushes else level + by)

    return replace(sound, level=sound.level.mapped(change))


def with_softness(wrinkle: Wrinkle, percent: float) -> Wrinkle:
    """The wrinkle with feathers and soft edges scaled; arguments and faults as of strength."""
    share = _share("softness", percent)
    if share == 1.0:
        return wrinkle
    layers = []
    for layer in wrinkle.layers:
        for address in layer.addresses():
            spec = layer.spec(address)
            if spec.soft:
                setting = layer.setting(address)
                softer = _scaled(setting, spec, lambda own: scaled(own, share), share)
                if softer != setting:
                    layer = layer.with_setting(address, softer)
        layers.append(layer)
    return with_layers(wrinkle, tuple(layers))


def _share(what: str, percent: float) -> float:
    if not 0.0 <= percent <= STRONGEST:
        raise InputError(f"The {what} must be within 0 and {STRONGEST:g} %, not {percent:g}.")
    return percent / 100.0


def _cutters(wrinkle: Wrinkle) -> set[str]:
    """The layers that cut others, with all that groups among them hold."""
    cutters = {x.matte.layer for x in wrinkle.layers if x.matte is not None}
    return cutters | {one.id for cutter in cutters for one in inside(wrinkle.layers, cutter)}


def _strengthened(layer: Layer, share: float) -> Layer:
    return replace(
        layer,
        placement=_placement(layer, share),
        effects=tuple(strengthened_effect(use, share) for use in layer.effects),
    )


def _placement(layer: Layer, share: float) -> Placement:
    for name in settings_in(layer.placement):
        layer = strengthened_setting(layer, name, share)
    return layer.placement


def strengthened_setting(layer: Layer, name: str, share: float) -> Layer:
    """A layer with the departure of one setting of its placement scaled.

    Clips and treatments depart from the plain frame, all else from where it stands.

    Args:
        layer: as it was made.
        name: of the setting.
        share: 0 is at rest, 1 as made.
    """
    placement = layer.placement
    setting, spec = placement.setting(name), placement.spec(name)
    rest = spec.neutral if rests_plainly(layer) else setting.rest
    change = departing(rest, share, by_power=name in SIZES)
    changed = _scaled(setting, spec, change, share, rest)
    if changed == setting:
        return layer
    return replace(layer, placement=placement.with_setting(name, changed))


def strengthened_effect(use: EffectUse, share: float) -> EffectUse:
    """An effect with its departure scaled: 0 is at rest, 1 as made."""
    effect = use.effect
    for key in departing_keys(effect):
        setting, spec = use.setting(key), effect.spec(key)
        if discrete(spec.neutral):
            changed = Setting(spec.neutral) if share == 0.0 else setting
        else:
            change = (
                _departing_curve(share)
                if isinstance(spec, CurveSpec)
                else departing(spec.neutral, share)
            )
            changed = _scaled(setting, spec, change, share, spec.neutral)
        if changed != setting:
            use = use.with_setting(key, changed)
    return use


def _departing_curve(share: float) -> Callable[[Value], Value]:
    """Scales how far the points of a drawn curve lie from the straight one."""

    def change(own: Value) -> Value:
        numbers = list(parts(own))
        for at in range(0, len(numbers), KNOT):
            numbers[at + 1] = numbers[at] + (numbers[at + 1] - numbers[at]) * share
        return tuple(numbers)

    return change


def _scaled(
    setting: Setting,
    spec: SettingSpec,
    change: Callable[[Value], Value],
    share: float,
    rest: Value = 0.0,
) -> Setting:
    """A setting with its values, its jitter and its formula changed, within its range."""
    found = setting.mapped(lambda own: spec.limited(change(own)))
    jitter = setting.jitter
    if jitter is not None:
        most = spec.of_jitter()
        amount = jitter.amount.mapped(lambda own: most.limited(scaled(own, share)))
        found = replace(found, jitter=replace(jitter, amount=amount) if share > 0.0 else None)
    if setting.formula is not None:
        found = replace(found, formula=_formula(setting, rest, share))
    return found


def _formula(setting: Setting, rest: Value, share: float) -> str:
    numbers = parts(rest)
    texts = setting.formulas()
    return ",".join(
        f"{number!r}+(({text})-{number!r})*{share!r}"
        for text, number in zip(texts, numbers, strict=True)
    )
