"""What an edit sets, in words with its numbers."""

from __future__ import annotations

from collections.abc import Iterable

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, parts


def difference_words(before: Wrinkle, after: Wrinkle) -> list[str]:
    """One phrase for each setting that has another value, and for what came or went.

    The values of a lane are given by its lowest and its highest one.
    """
    words = []
    rate = after.frame_rate.per_second
    for name in ("lead", "tail"):
        old, new = (float(getattr(x, name) * rate) for x in (before, after))
        if old != new:
            words.append(f"{name} {old:g} → {new:g} frames")
    was = {x.id: x for x in before.layers}
    for layer in after.layers:
        if layer.id in was:
            words += _in_layer(was[layer.id], layer)
        else:
            words.append(f"{layer.name}: a new layer")
    gone = was.keys() - {x.id for x in after.layers}
    words += [f"{x.name}: taken away" for x in before.layers if x.id in gone]
    return words


def _in_layer(before: Layer, after: Layer) -> Iterable[str]:
    had = {x.id for x in before.effects} - {x.id for x in after.effects}
    for use in before.effects:
        if use.id in had:
            yield f"{use.effect.label} of {after.name}: taken away"
    there = set(before.addresses())
    for address in after.addresses():
        if address not in there:
            continue
        old, new = before.setting(address), after.setting(address)
        if old != new:
            yield f"{_named(after, address)} {_change(after.spec(address), old, new)}"


def _named(layer: Layer, address: Address) -> str:
    label = layer.spec(address).label
    if address.effect:
        label = f"{layer.effect_use(address.effect).effect.label}, {label.lower()}"
    return f"{label} of {layer.name}"


def _change(spec: SettingSpec, old: Setting, new: Setting) -> str:
    first, second = (_span(spec, x) for x in (old, new))
    if first != second:
        return f"{first} → {second}"
    if new.jitter != old.jitter:
        return "trembles less" if new.jitter is not None else "trembles no more"
    return "moves at other times"


def _span(spec: SettingSpec, setting: Setting) -> str:
    """The value, or the lowest and the highest one."""
    values = [setting.rest]
    if setting.track is not None:
        values = [key.value for key in setting.track.keys]
    if not spec.numeric or isinstance(setting.rest, str | bool):
        return " and ".join(dict.fromkeys(_plain(x) for x in values))
    factor, suffix = spec.unit.shown_factor, spec.unit.suffix
    numbers = [tuple(round(x * factor, 1) for x in parts(value)) for value in values]
    low, high = min(numbers), max(numbers)
    shown = _number(high) if low == high else f"{_number(low)} to {_number(high)}"
    return shown + suffix


def _number(numbers: tuple[float, ...]) -> str:
    if len(set(numbers)) == 1:
        numbers = numbers[:1]
    return ", ".join(f"{x:g}".replace("-", "−") for x in numbers)


def _plain(value: Value) -> str:
    if isinstance(value, bool):
        return "on" if value else "off"
    return value if isinstance(value, str) else "another form"
