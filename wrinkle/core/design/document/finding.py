"""Settings of a wrinkle's layers that are found by words, by what moves, or by what was changed."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import neutral, settled_setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle


class Which(Enum):
    """Which settings are looked for; the value is its word."""

    ALL = "all"
    MOVING = "what moves"
    CHANGED = "what differs"


@dataclass(frozen=True)
class Found:
    """A setting that was found.

    Attributes:
        ref: which one.
        part: the name of the effect or mask that it belongs to; empty for the layer itself.
    """

    ref: SettingRef
    part: str


def found_settings(wrinkle: Wrinkle, which: Which, words: str = "") -> list[Found]:
    """The settings that are meant, the front-most layer first.

    Args:
        wrinkle: the design.
        which: all, those with a lane, a formula or jitter, or those that are not at the value at
            which they change nothing.
        words: each is part of the name of the setting, of its effect or mask, or of its layer;
            upper case and lower case are one.
    """
    wanted = words.casefold().split()
    found = []
    for layer in reversed(wrinkle.layers):
        for address in layer.addresses():
            if _is_meant(layer, address, which):
                part = _part_name(layer, address)
                names = f"{layer.spec(address).label} {part} {layer.name}".casefold()
                if all(word in names for word in wanted):
                    found.append(Found(SettingRef(layer.id, address), part))
    return found


def _is_meant(layer: Layer, address: Address, which: Which) -> bool:
    setting = layer.setting(address)
    if which is Which.ALL:
        return True
    if not setting.still:
        return True
    if which is Which.MOVING:
        return False
    spec = layer.spec(address)
    return setting != settled_setting(spec, neutral(spec))


def _part_name(layer: Layer, address: Address) -> str:
    if address.part is Part.EFFECT:
        return layer.effect_use(address.effect).effect.label
    if address.part is Part.MASK:
        return layer.mask(address.mask).name
    return ""
