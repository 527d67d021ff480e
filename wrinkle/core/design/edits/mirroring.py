"""A design mirrored: each setting as its declaration says, and the pictures that it carries.

Left as they are: the outgoing and the incoming clip, which are whatever they are; words, which
would no longer be read; and the random patterns of effects, which have no left and right.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import TypeVar

from msgspec.structs import replace

from wrinkle.core.design.document.dials import MULTIPLYING, Drive, How
from wrinkle.core.design.document.driven import Owners, driven_spec
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.layer_kinds import LayerSource
from wrinkle.core.design.document.masking import Mask
from wrinkle.core.design.document.setting import HasSettings, Setting, settings_in
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion import mirroring
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, discrete

_Part = TypeVar("_Part", bound=HasSettings)


def mirrored_wrinkle(wrinkle: Wrinkle, direction: Direction) -> Wrinkle:
    """A whole wrinkle mirrored, with what its dials give; twice the same mirror is none."""
    if direction is Direction.AS_MADE:
        return wrinkle
    as_they_are = {*GIVEN, *(slot.key for slot in wrinkle.slots if slot.readable)}
    layers = tuple(mirrored_layer(layer, direction, as_they_are) for layer in wrinkle.layers)
    dials = tuple(
        replace(dial, drives=tuple(_drive(x, wrinkle.owners, direction) for x in dial.drives))
        for dial in wrinkle.dials
    )
    sounds = tuple(mirrored_part(sound, direction) for sound in wrinkle.sounds)
    return replace(wrinkle, layers=layers, dials=dials, sounds=sounds)


def mirrored_layer(layer: Layer, direction: Direction, as_they_are: Collection[str] = ()) -> Layer:
    """A layer with all its settings mirrored about the middle of the frame.

    Args:
        layer: as it is.
        direction: what is exchanged.
        as_they_are: the keys of the slots whose pictures are not mirrored.
    """
    if direction is Direction.AS_MADE:
        return layer
    return replace(
        mirrored_part(layer, direction),
        placement=mirrored_part(layer.placement, direction),
        source=_source(layer.source, direction, as_they_are),
        masks=tuple(mirrored_mask(mask, direction) for mask in layer.masks),
        effects=tuple(mirrored_effect(use, direction) for use in layer.effects),
    )


def mirrored_part(part: _Part, direction: Direction) -> _Part:
    """A part of a layer with its settings mirrored."""
    old = {name: part.setting(name) for name in settings_in(part)}
    new = _mirrored(old, {name: part.spec(name) for name in old}, direction)
    changed = {name: setting for name, setting in new.items() if setting is not old[name]}
    return replace(part, **changed) if changed else part


def mirrored_mask(mask: Mask, direction: Direction) -> Mask:
    """A mask mirrored about the middle of the frame, its painted pictures with it."""
    return replace(mirrored_part(mask, direction), mirrored=mask.mirrored.then(direction))


def mirrored_effect(use: EffectUse, direction: Direction) -> EffectUse:
    """An effect with its settings mirrored."""
    old = {spec.key: use.setting(spec.key) for spec in use.effect.settings}
    new = _mirrored(old, {spec.key: spec for spec in use.effect.settings}, direction)
    return replace(use, values=new)


def _mirrored(
    settings: Mapping[str, Setting], specs: Mapping[str, SettingSpec], direction: Direction
) -> dict[str, Setting]:
    """All settings of one part; where corners are exchanged, each has that of its partner."""
    found = dict(settings)
    for name, spec in specs.items():
        if spec.mirror_when is not None:
            choice, wanted = spec.mirror_when
            if settings[choice].rest != wanted:
                continue
        partner = spec
        if direction.across and partner.exchanged is not None:
            partner = specs[partner.exchanged[0]]
        if direction.down and partner.exchanged is not None:
            partner = specs[partner.exchanged[1]]
        found[name] = mirrored_setting(spec, settings[partner.key], direction)
    return found


def mirrored_setting(spec: SettingSpec, setting: Setting, direction: Direction) -> Setting:
    """A setting in a mirror: its rest, its keyframes, its jitter and its formula.

    Args:
        spec: its declaration.
        setting: as it is.
        direction: what is exchanged.
    """
    how = spec.mirror
    if how is Mirroring.NOTHING or direction is Direction.AS_MADE:
        return setting
    changed = mirroring.change(how, direction, setting.rest)
    if discrete(setting.rest):
        return setting.mapped(lambda value: mirroring.mirrored(value, how, direction, ()))
    found = setting.mapped(
        lambda value: spec.limited(mirroring.mirrored(value, how, direction, changed))
    )
    if setting.jitter is not None:
        away = [channel for channel, part in enumerate(changed) if part.sign < 0]
        found = replace(found, jitter=setting.jitter.turned(away))
    return replace(found, formula=mirroring.mirrored_formulas(setting.formula, changed))


def _drive(drive: Drive, owners: Owners, direction: Direction) -> Drive:
    """What a dial gives, mirrored as the setting is that it drives."""
    spec = driven_spec(owners, drive)
    if spec.mirror is Mirroring.NOTHING or drive.how in MULTIPLYING:
        return drive
    changed = mirroring.change(spec.mirror, direction, spec.neutral)
    if drive.how is How.PLUS:
        # What is added has a sign, and no place.
        changed = tuple(mirroring.MirroredPart(part.sign) for part in changed)

    def turned(value: Value) -> Value:
        return mirroring.mirrored(value, spec.mirror, direction, changed)

    if drive.values:
        return replace(drive, values=tuple(map(turned, drive.values)))
    return replace(drive, start=turned(drive.start), end=turned(drive.end))


def _source(source: LayerSource, direction: Direction, as_they_are: Collection[str]) -> LayerSource:
    if isinstance(source, SlotSource) and source.slot in as_they_are:
        return source
    return mirrored_part(source.in_mirror(direction), direction)
