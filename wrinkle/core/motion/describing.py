"""A setting in words: what its values are, how far they go, and where it is at rest."""

from __future__ import annotations

from wrinkle.core.motion.setting_spec import ChoiceSpec, SettingSpec, SwitchSpec, Unit
from wrinkle.core.motion.values import parts

_UNITS = {
    Unit.PER_CENT: "in per cent",
    Unit.FRAME_PART: "in per cent of the frame's width or height",
    Unit.SHORT_SIDE: "in per cent of the frame's short side",
    Unit.DEGREES: "in degrees",
    Unit.PER_SECOND: "a second",
    Unit.TURNS: "in turns",
    Unit.STOPS: "in stops: one more is twice the light",
    Unit.DECIBELS: "in decibels",
    Unit.HERTZ: "in hertz",
    Unit.SECONDS: "in seconds",
    Unit.SEMITONES: "in semitones",
}


def facts_of(spec: SettingSpec) -> str:
    """Its unit, its range and its rest, in a sentence or two."""
    if isinstance(spec, ChoiceSpec):
        return f"One of {', '.join(spec.choices)}. At rest {spec.neutral}."
    if isinstance(spec, SwitchSpec):
        return f"Yes or no. At rest {'yes' if spec.neutral else 'no'}."
    if not spec.numeric:
        return f"Takes {spec.takes}."
    factor, suffix = spec.unit.shown_factor, spec.unit.suffix
    unit = f", {_UNITS[spec.unit]}" if spec.unit in _UNITS else ""
    kind = "Two numbers" if isinstance(spec.neutral, tuple) else "A number"
    rest = ", ".join(f"{part * factor:g}" for part in parts(spec.neutral))
    words = (
        f"{kind}{unit}, from {spec.low * factor:g} to {spec.high * factor:g}. "
        f"At rest {rest}{suffix}."
    )
    return words.replace(" -", " −")
