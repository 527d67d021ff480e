"""The declaration of an animatable setting: what it is called, its unit, its rest and its range."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

from wrinkle.core.errors import InputError
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.values import Value, discrete, parts, same_kind

_KNOT = 6


class Unit(Enum):
    """What a setting's number stands for, and how it is shown."""

    PER_CENT = "%"
    FRAME_PART = "frame %"
    """A part of the frame's width or height; shown in per cent."""
    SHORT_SIDE = "short side %"
    """A length in per cent of the frame's short side."""
    DEGREES = "°"
    PER_SECOND = "/s"
    TURNS = "turns"
    STOPS = "stops"
    NONE = ""
    """A plain number, yes or no, a choice, a colour, or an outline."""

    @property
    def suffix(self) -> str:
        """What is written after the number."""
        return _SUFFIXES.get(self, " %")

    @property
    def shown_factor(self) -> float:
        """The shown number divided by the stored one."""
        return 100.0 if self is Unit.FRAME_PART else 1.0


_SUFFIXES = {
    Unit.DEGREES: "°",
    Unit.NONE: "",
    Unit.PER_SECOND: " /s",
    Unit.TURNS: " turns",
    Unit.STOPS: " st",
}


@dataclass(frozen=True)
class SettingSpec:
    """One animatable setting of a layer.

    Attributes:
        key: its name in the file, also the name of the field that holds it.
        label: its name in the window.
        about: what it does, in one sentence.
        unit: what the number stands for.
        neutral: the value at which it changes nothing.
        low, high: the hard range, for each number of a pair.
        step: how much one notch changes, in stored units.
        linked: the two numbers of the pair are usually equal.
        choices: what a choice can be; its neutral value is one of them.
        outline: the value is an outline, whose number of points differs from layer to layer.
        curve: the outline is a curve from dark to light, with points and no handles.
        mirror: what a mirror does to it.
        exchanged: the settings beside it that it changes places with, left-right and up-down.
        mirror_when: the key of a choice beside it, and the name at which a mirror does anything.
        soft: it is the softness of an edge.
    """

    key: str
    label: str
    about: str
    unit: Unit
    neutral: Value
    low: float
    high: float
    step: float
    linked: bool = False
    choices: tuple[str, ...] = ()
    outline: bool = False
    curve: bool = False
    mirror: Mirroring = Mirroring.NOTHING
    exchanged: tuple[str, str] | None = None
    mirror_when: tuple[str, str] | None = None
    soft: bool = False

    @property
    def numeric(self) -> bool:
        """Whether it is a number or a pair: jitter, formulas and shifts need one."""
        return not discrete(self.neutral) and len(parts(self.neutral)) < 3

    def changes_nothing(self, value: Value) -> bool:
        """Whether a value is as good as the neutral one: a curve with more points can be."""
        return value == self.neutral or (self.curve and value == self.flat(value))

    def flat(self, value: Value) -> Value:
        """The neutral value, for a curve with as many points as another one has."""
        if not self.curve or not isinstance(value, tuple):
            return self.neutral
        return tuple(value[at - 1] if at % _KNOT == 1 else part for at, part in enumerate(value))

    def of_jitter(self) -> SettingSpec:
        """The declaration of the amount of the setting's jitter."""
        return replace(
            self,
            label=f"{self.label} jitter",
            about=f"How far jitter moves {self.label.lower()} at most.",
            neutral=0.0,
            low=0.0,
            linked=False,
            mirror=Mirroring.NOTHING,
            soft=False,
        )

    def limited(self, value: Value) -> Value:
        """``value`` brought into the hard range: jitter and overshoot may lead out of it."""
        if isinstance(value, bool | str):
            return value
        if isinstance(value, tuple):
            return tuple([min(max(part, self.low), self.high) for part in value])
        return min(max(value, self.low), self.high)

    def checked(self, value: Value) -> Value:
        """``value`` if the setting can have it.

        Raises:
            InputError: the wrong kind, or outside the range; names the setting and the range.
        """
        if self.outline:
            if not isinstance(value, tuple) or len(value) < 2 * _KNOT or len(value) % _KNOT:
                raise InputError(f"{self.label} takes six numbers for each of its points.")
        elif not same_kind(value, self.neutral):
            raise InputError(f"{self.label} takes {_kind_name(self.neutral)}.")
        if isinstance(value, str) and value not in self.choices:
            raise InputError(f"{self.label} must be one of {', '.join(self.choices)}.")
        if not all(self.low <= part <= self.high for part in parts(value)):
            factor, suffix = self.unit.shown_factor, self.unit.suffix
            raise InputError(
                f"{self.label} must be within {self.low * factor:g} and "
                f"{self.high * factor:g}{suffix}."
            )
        return value


def _kind_name(value: Value) -> str:
    if isinstance(value, bool):
        return "yes or no"
    if isinstance(value, str):
        return "one of its choices"
    count = len(parts(value))
    return {1: "one number", 2: "a pair of numbers"}.get(count, "a colour")
