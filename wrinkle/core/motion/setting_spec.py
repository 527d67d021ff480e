"""The declaration of an animatable setting: what it is called, its unit, its rest and its range.

What a setting can be is the type of its declaration.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import ClassVar

from wrinkle.core.errors import InputError
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.values import Value, parts, same_kind

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
    DECIBELS = "dB"
    HERTZ = "Hz"
    SECONDS = "s"
    SEMITONES = "semitones"
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
    Unit.DECIBELS: " dB",
    Unit.HERTZ: " Hz",
    Unit.SECONDS: " s",
    Unit.SEMITONES: " semitones",
}


@dataclass(frozen=True)
class SettingSpec:
    """One animatable setting of a layer: what all kinds of them have in common.

    Attributes:
        key: its name in the file, also the name of the field that holds it.
        label: its name in the window.
        about: what it does, in one sentence.
        neutral: the value at which it changes nothing.
        low, high: the hard range, for each number that it has.
        unit: what the numbers stand for.
        step: how much one notch changes, in stored units.
        mirror: what a mirror does to it.
        soft: it is the softness of an edge.
        exchanged: the settings beside it that it changes places with, left-right and up-down.
        mirror_when: the key of a choice beside it, and the name at which a mirror does anything.
    """

    numeric: ClassVar[bool] = False
    """It is a number or a pair: jitter, formulas and shifts need one."""
    stepping: ClassVar[bool] = False
    """A value has one above it and one below it."""
    takes: ClassVar[str] = ""
    """What its values are, in a sentence."""

    key: str
    label: str
    about: str
    neutral: Value
    low: float = 0.0
    high: float = 1.0
    unit: Unit = Unit.NONE
    step: float = 1.0
    mirror: Mirroring = Mirroring.NOTHING
    soft: bool = False
    exchanged: tuple[str, str] | None = None
    mirror_when: tuple[str, str] | None = None

    def changes_nothing(self, value: Value) -> bool:
        """Whether a value is as good as the neutral one."""
        return value == self.neutral

    def flat(self, value: Value) -> Value:
        """The neutral value, with as many points as another one has."""
        return self.neutral

    def of_jitter(self) -> NumberSpec:
        """The declaration of the amount of the setting's jitter."""
        about = f"How far jitter moves {self.label.lower()} at most."
        label = f"{self.label} jitter"
        return NumberSpec(self.key, label, about, 0.0, 0.0, self.high, self.unit, self.step)

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
        if not self._is_one(value):
            raise InputError(f"{self.label} takes {self.takes}.")
        if not all(self.low <= part <= self.high for part in parts(value)):
            factor, suffix = self.unit.shown_factor, self.unit.suffix
            raise InputError(
                f"{self.label} must be within {self.low * factor:g} and "
                f"{self.high * factor:g}{suffix}."
            )
        return value

    def stepped(self, value: Value, steps: int) -> Value:
        """``value`` so many steps on, within the range; the same where it has no steps."""
        return value

    def _is_one(self, value: Value) -> bool:
        return same_kind(value, self.neutral)


@dataclass(frozen=True)
class NumberSpec(SettingSpec):
    """A setting that is a number."""

    numeric: ClassVar[bool] = True
    stepping: ClassVar[bool] = True
    takes: ClassVar[str] = "one number"

    def stepped(self, value: Value, steps: int) -> Value:
        """``value`` with so many steps added."""
        return self.limited(parts(value)[0] + steps * self.step)


@dataclass(frozen=True)
class PairSpec(SettingSpec):
    """A setting that is a pair of numbers.

    Attributes:
        linked: the two are usually equal.
    """

    numeric: ClassVar[bool] = True
    stepping: ClassVar[bool] = True
    takes: ClassVar[str] = "a pair of numbers"

    linked: bool = False

    def stepped(self, value: Value, steps: int) -> Value:
        """``value`` with so many steps added to its first number, or to both that are linked."""
        first, second = parts(value)
        moved = first + steps * self.step
        return self.limited((moved, moved if self.linked and first == second else second))


@dataclass(frozen=True)
class ColourSpec(SettingSpec):
    """A setting that is a colour, linear."""

    takes: ClassVar[str] = "a colour"


@dataclass(frozen=True)
class SwitchSpec(SettingSpec):
    """A setting that is yes or no."""

    stepping: ClassVar[bool] = True
    takes: ClassVar[str] = "yes or no"

    def stepped(self, value: Value, steps: int) -> Value:
        """Up is yes, down is no."""
        return steps > 0 if steps else value


@dataclass(frozen=True)
class ChoiceSpec(SettingSpec):
    """A setting that is one of several names.

    Attributes:
        choices: the names; the neutral value is one of them.
    """

    stepping: ClassVar[bool] = True
    takes: ClassVar[str] = "one of its choices"

    choices: tuple[str, ...] = ()

    def stepped(self, value: Value, steps: int) -> Value:
        """So many choices further on, at most the last."""
        place = self.choices.index(str(value)) + steps
        return self.choices[min(max(place, 0), len(self.choices) - 1)]

    def checked(self, value: Value) -> Value:
        """``value`` if it is one of the names.

        Raises:
            InputError: it is none; names them.
        """
        if super().checked(value) not in self.choices:
            raise InputError(f"{self.label} must be one of {', '.join(self.choices)}.")
        return value


@dataclass(frozen=True)
class TextSpec(SettingSpec):
    """A text, which is no setting; dials can drive it all the same."""

    takes: ClassVar[str] = "text"


@dataclass(frozen=True)
class OutlineSpec(SettingSpec):
    """A setting that is an outline, whose number of points differs from layer to layer."""

    takes: ClassVar[str] = "six numbers for each of its points"

    def _is_one(self, value: Value) -> bool:
        return isinstance(value, tuple) and len(value) >= 2 * _KNOT and len(value) % _KNOT == 0


@dataclass(frozen=True)
class CurveSpec(OutlineSpec):
    """A setting that is a curve from dark to light: an outline with points and no handles."""

    def changes_nothing(self, value: Value) -> bool:
        """A straight curve with more points can be as good as the neutral one."""
        return value == self.neutral or value == self.flat(value)

    def flat(self, value: Value) -> Value:
        """Straight, with as many points as another curve has."""
        if not isinstance(value, tuple):
            return self.neutral
        return tuple(value[at - 1] if at % _KNOT == 1 else part for at, part in enumerate(value))
