"""Values of settings as they are listed and read aloud."""

from __future__ import annotations

from wrinkle.core.motion.setting_spec import PairSpec, SettingSpec
from wrinkle.core.motion.values import Value
from wrinkle.ui.shared.picture_view import frame_label

_NUMBERS = 2


def pin_words(spec: SettingSpec, frame: int, value: Value) -> str:
    """A pin as it is read aloud."""
    return f"{spec.label} pin at {frame_label(frame)}: {value_words(spec, value)}"


def value_words(spec: SettingSpec, value: Value) -> str:
    """A value with its unit, as it is read aloud."""
    count = len(value) if isinstance(value, tuple) else 1
    if count > _NUMBERS:
        return number_words(spec, value, 0)
    unit = spec.unit.suffix if spec.numeric else ""
    numbers = [number_words(spec, value, number) for number in range(count)]
    if isinstance(spec, PairSpec) and spec.linked and len(set(numbers)) == 1:
        numbers = numbers[:1]
    return ", ".join(numbers).replace("-", "−") + unit


def number_words(spec: SettingSpec, value: Value, number: int) -> str:
    """One number of a value without its unit; a choice, or yes and no, as a word."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, str):
        return value
    if isinstance(value, tuple):
        if len(value) > _NUMBERS:
            return f"{len(value)} numbers"
        value = value[number]
    return f"{round(value * spec.unit.shown_factor, 3):g}"
