"""Between which values of one setting an effect is shown, to say what the setting does."""

from __future__ import annotations

from wrinkle.core.effects.effect import Effect
from wrinkle.core.motion.setting_spec import ChoiceSpec, SettingSpec, SwitchSpec
from wrinkle.core.motion.values import Value, mix, parts

_STEPS = 40
"""Of the setting, from rest to what is shown as much, where the effect says nothing of its own."""


def extremes(effect: Effect, key: str) -> tuple[Value, Value]:
    """A low and a high value, far enough from each other to be told apart.

    Args:
        effect: of which.
        key: of its setting.
    """
    spec = next(x for x in effect.settings if x.key == key)
    if isinstance(spec, ChoiceSpec):
        return spec.choices[0], spec.choices[-1]
    if isinstance(spec, SwitchSpec):
        return False, True
    begun = effect.begun().get(key, spec.neutral)
    if not spec.numeric:
        return spec.flat(begun), begun
    much = _much(spec, begun)
    low = spec.neutral
    if spec.low < min(parts(spec.neutral)):
        # What goes both ways from rest is shown both ways.
        low = spec.limited(mix(spec.neutral, much, -1.0))
    return low, much


def between(effect: Effect, key: str, share: float) -> Value:
    """A value on the way from low (0) to high (1)."""
    low, high = extremes(effect, key)
    if isinstance(low, bool | str):
        return high if share >= 0.5 else low
    return mix(low, high, share)


def _much(spec: SettingSpec, begun: Value) -> Value:
    """As much as a new one has, or what forty steps are."""
    if begun != spec.neutral:
        return spec.limited(mix(spec.neutral, begun, 1.5))
    much = spec.stepped(spec.neutral, _STEPS)
    return much if much != spec.neutral else spec.stepped(spec.neutral, -_STEPS)
