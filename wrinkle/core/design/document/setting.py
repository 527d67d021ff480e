"""A setting: one value of a layer, which may be animated, tremble or follow a formula."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from fractions import Fraction
from functools import cache
from typing import ClassVar, Self

import msgspec
from msgspec.structs import replace

from wrinkle.core.errors import InputError
from wrinkle.core.motion import mirroring
from wrinkle.core.motion.clock import Clock
from wrinkle.core.motion.formula import check_formula, evaluate, split_pair
from wrinkle.core.motion.holds import unbroken
from wrinkle.core.motion.jitter import jitter_at
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.track import Side, Track
from wrinkle.core.motion.values import Value, parts, require_finite, same_kind


class Setting(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A value that can be animated.

    Attributes:
        rest: the value without all that follows.
        track: keyframes, if the setting is a lane.
        jitter: random movement on top.
        formula: gives the value instead of rest and keyframes; for a pair two formulas with a
            comma between them.

    Raises:
        InputError: the rest value is not finite, the keyframes are of another kind, or the formula
            cannot be read.
    """

    rest: Value
    track: Track | None = None
    jitter: Jitter | None = None
    formula: str | None = None

    def __post_init__(self) -> None:
        require_finite(self.rest, "A setting's rest value")
        if self.track is not None and not same_kind(self.rest, self.track.keys[0].value):
            raise InputError("The pins of a lane must be of the same kind as its rest value.")
        if len(parts(self.rest)) not in (1, 2) and (self.jitter or self.formula):
            raise InputError("Jitter and formulas need a number or a pair of numbers.")
        if self.formula is not None:
            for part in self.formulas():
                check_formula(part)

    @property
    def still(self) -> bool:
        """Whether it is the same at all times."""
        return not self.animated and self.jitter is None

    @property
    def animated(self) -> bool:
        """Whether keyframes or a formula give its value, and not its rest alone."""
        return self.track is not None or self.formula is not None

    def at(self, time: Fraction, side: Side | None = None) -> Value:
        """The value of rest and keyframes at a time, seen from a side of the cut."""
        if self.track is None:
            return self.rest
        return self.track.value_at(time, self.rest, side)

    def seen(self, time: Fraction, side: Side, clock: Clock) -> Value:
        """The value with formula and jitter, as a frame shows it.

        Raises:
            InputError: the formula has no finite value at that time.
        """
        if self.formula is not None:
            value = self._worked_out(time, clock)
        elif self.track is not None:
            value = self.at(unbroken(self.track, time, clock.drawn_at), side)
        else:
            value = self.rest
        if self.jitter is None:
            return value
        away = [self.jitter.at(time, side, clock, channel) for channel in range(len(parts(value)))]
        moved = tuple(a + b for a, b in zip(parts(value), away, strict=True))
        return moved if isinstance(value, tuple) else moved[0]

    def mapped(self, change: Callable[[Value], Value]) -> Setting:
        """The setting with its rest value and the value of every keyframe changed alike."""
        track = self.track
        if track is not None:
            keys = tuple(replace(key, value=change(key.value)) for key in track.keys)
            track = replace(track, keys=keys)
        return replace(self, rest=change(self.rest), track=track)

    def _worked_out(self, time: Fraction, clock: Clock) -> Value:
        frame = float(time * clock.rate.per_second)
        fps = float(clock.rate.per_second)
        names = {"t": float(time), "frame": frame, "p": clock.progress(time), "fps": fps}
        numbers = [evaluate(part, names) for part in self.formulas()]
        return tuple(numbers) if isinstance(self.rest, tuple) else numbers[0]

    def formulas(self) -> list[str]:
        """The formula of each number.

        Raises:
            InputError: a pair without a formula for each of its numbers.
        """
        text = self.formula or ""
        if not isinstance(self.rest, tuple):
            return [text]
        both = split_pair(text)
        if both is None:
            raise InputError("A pair takes two formulas with a comma between them.")
        return list(both)


class Jitter(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Seeded random movement: a pure function of time and seed, the same at any rate and size.

    Attributes:
        amount: how far it goes at most, in the setting's unit; a lane of it is its envelope.
        rate: new random values in a second.
        roughness: 0…1, the strength of finer movement.
        seed: another one gives another movement.
        stepped: jumps once for each random value instead of gliding.
        mirrored: the numbers of the setting, counted from 0, that it moves the other way.
    """

    amount: Setting
    rate: float = 12.0
    roughness: float = 0.0
    seed: int = 1
    stepped: bool = False
    mirrored: tuple[int, ...] = ()

    def __post_init__(self) -> None:
        if not 0.1 <= self.rate <= 240.0:
            raise InputError(f"The rate of jitter must be within 0.1 and 240, not {self.rate:g}.")
        if not 0.0 <= self.roughness <= 1.0:
            raise InputError("The roughness of jitter must be within 0 and 100 %.")
        if not 0 <= self.seed < 1 << 31:
            raise InputError("The seed of jitter must be within 0 and 2147483647.")
        if not set(self.mirrored) <= {0, 1}:
            raise InputError("Jitter moves the first number the other way, or the second: 0 and 1.")
        if len(parts(self.amount.rest)) != 1 or self.amount.jitter is not None:
            raise InputError("The amount of jitter must be one number without jitter of its own.")

    def at(self, time: Fraction, side: Side, clock: Clock, channel: int) -> float:
        """The departure from the value at a time, for one number of it."""
        reach = parts(self.amount.seen(time, side, clock))[0]
        # A stepped jitter changes between frames, never while a shutter is open.
        when = clock.drawn_at if self.stepped else time
        away = jitter_at(when, self.rate, self.roughness, self.seed, channel, self.stepped)
        return reach * (-away if channel in self.mirrored else away)

    def turned(self, channels: Iterable[int]) -> Jitter:
        """Some numbers moved the other way than before."""
        return replace(self, mirrored=tuple(sorted(set(self.mirrored) ^ set(channels))))


class HasSettings(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A part of a layer whose fields are settings, among others.

    Attributes:
        specs: the declarations of those settings, by the names of the fields.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = {}

    def __post_init__(self) -> None:
        for name in settings_in(self):
            setting: Setting = getattr(self, name)
            check_setting(self.specs[name], setting)
            settled = settled_setting(self.specs[name], setting)
            if settled is not setting:
                msgspec.structs.force_setattr(self, name, settled)

    @property
    def still(self) -> bool:
        """Whether all its settings are the same at all times."""
        return all(getattr(self, name).still for name in settings_in(self))

    def setting(self, name: str) -> Setting:
        """A setting by its name.

        Raises:
            KeyError: there is none.
        """
        self.spec(name)
        found: Setting = getattr(self, name)
        return found

    def spec(self, name: str) -> SettingSpec:
        """The declaration of a setting.

        Raises:
            KeyError: there is none.
        """
        return self.specs[name]

    def with_setting(self, name: str, setting: Setting) -> Self:
        """The part with a setting exchanged."""
        return replace(self, **{name: setting})


def settings_in(part: HasSettings) -> tuple[str, ...]:
    """The names of the fields of a part of a layer that are settings, in their order."""
    return _settings_of(type(part))


@cache
def _settings_of(kind: type[HasSettings]) -> tuple[str, ...]:
    return tuple(name for name in kind.__struct_fields__ if name in kind.specs)


def neutral(spec: SettingSpec) -> Setting:
    """A setting at the value at which it changes nothing."""
    return Setting(spec.neutral)


def settled_setting(spec: SettingSpec, setting: Setting) -> Setting:
    """The setting, its places and directions so that they come back from a mirror."""
    if spec.mirror not in (Mirroring.POINT, Mirroring.WAY):
        return setting
    found = setting.mapped(lambda value: mirroring.settled(value, spec.mirror))
    return setting if found == setting else found


def check_setting(spec: SettingSpec, setting: Setting) -> None:
    """Refuses values that the declaration of a setting does not allow.

    Raises:
        InputError: names the setting and its range.
    """
    spec.checked(setting.rest)
    for keyframe in setting.track.keys if setting.track else ():
        spec.checked(keyframe.value)
    if setting.jitter is not None:
        check_setting(spec.of_jitter(), setting.jitter.amount)
