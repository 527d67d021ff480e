"""Dials that go from a low end to a high one: an amount, a length, a seed."""

from __future__ import annotations

from fractions import Fraction
from typing import Any, ClassVar, Self

from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.dial_forms import (
    NumberForm,
    OptionsForm,
    Trait,
)
from wrinkle.core.design.document.dials import (
    LEAD,
    MULTIPLYING,
    TAIL,
    WRINKLE,
    Dial,
    DialValue,
    Drive,
    DrivenSetting,
    How,
    WantedDial,
    is_random,
)
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import (
    Value,
    parts,
    require_finite,
    same_kind,
    scaled,
    shifted,
)

_NOTCHES = 50
"""Of a dial for a number whose hard range is far wider than what is ever wanted."""
_WIDE = 400.0
_LAST = 8
"""The last of the values that are looked at side by side, counted from 0."""
_FINEST_LENGTH = 10**6
_TIME_STEP = 1 / 30
_LARGEST_SEED = 9999
_SEED_STEP = 101
"""Neighbouring seeds are taken for things that belong together: another one lies farther off."""
_MOST_SEEDS = 1 << 31


def _unit_name(unit: Unit) -> str:
    return unit.suffix.strip() or "none"


_UNITS = {
    _unit_name(unit): unit
    for unit in (
        Unit.PER_CENT, Unit.DEGREES, Unit.PER_SECOND, Unit.TURNS, Unit.STOPS, Unit.NONE,
    )
}  # fmt: skip


class _Ranged(Dial, frozen=True, omit_defaults=True):
    """A dial that goes from a low end to a high one."""

    ranged: ClassVar[bool] = True

    def share(self, value: float | Fraction) -> float:
        """Where a value lies in the range, 0…1."""
        raise NotImplementedError

    def given(self, drive: Drive, value: Any) -> Value:
        """What a value gives for a setting that the dial drives."""
        return drive.at(self.share(value))

    def samples(self, most: int) -> tuple[DialValue, ...]:
        """Nine, evenly through its range."""
        found = (self.along(n / _LAST) for n in range(_LAST + 1))
        return tuple(value for value in found if value is not None)

    def changed(self, drive: Drive, value: Any, own: Value) -> Value:
        """What is given, or the value multiplied, or more of it."""
        given = self.given(drive, value)
        if drive.how is How.SET:
            return given
        usual = self.given(drive, self.default)
        if drive.how in MULTIPLYING:
            return scaled(own, parts(given)[0] / parts(usual)[0])
        return shifted(own, usual, given)

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """Both ends must be something for the setting."""
        super().check_drive(drive, to)
        spec = to.spec
        if not spec.numeric:
            raise InputError(_no_number(self, spec))
        for value in (drive.start, drive.end):
            if drive.how is How.SET:
                spec.checked(value)
            elif drive.how in MULTIPLYING and len(parts(value)) != 1:
                raise InputError(f"The dial '{self.name}' multiplies {spec.label} by one number.")
            elif drive.how is How.PLUS and not same_kind(value, spec.neutral):
                raise InputError(
                    f"The dial '{self.name}' adds to {spec.label} what is of its kind."
                )
        if drive.how in MULTIPLYING and parts(self.given(drive, self.default))[0] == 0.0:
            raise InputError(
                f"The dial '{self.name}' gives 0 times {spec.label} at its default, so that the "
                "setting would be gone; give it another range."
            )


class AmountDial(_Ranged, frozen=True, omit_defaults=True, tag="amount"):
    """A number.

    Attributes:
        low, high, step: its range, and one notch.
        unit: of the number that is shown.
        default: at which the wrinkle is as it was made.
    """

    ways: ClassVar[tuple[How, ...]] = tuple(How)

    low: float = 0.0
    high: float = 100.0
    step: float = 1.0
    unit: Unit = Unit.PER_CENT
    default: float = 100.0

    def __post_init__(self) -> None:
        super().__post_init__()
        require_finite((self.low, self.high, self.step, self.default), f"The dial '{self.name}'")
        if not (self.low < self.high and self.low <= self.default <= self.high and self.step > 0.0):
            raise InputError(
                f"The dial '{self.name}' needs a lower end, a higher one and a default between "
                "them."
            )

    def share(self, value: float | Fraction) -> float:
        """Where a value lies in the range, 0…1."""
        return (float(value) - self.low) / (self.high - self.low)

    def checked(self, value: DialValue) -> float:
        """The value, if the dial can have it.

        Raises:
            InputError: names the dial and its range.
        """
        number = _number(value)
        if number is None or not self.low <= number <= self.high:
            suffix = self.unit.suffix
            raise InputError(
                f"{self.name} takes a number from {self.low:g} to {self.high:g}{suffix}, not "
                f"'{value}'."
            )
        return number

    @property
    def form(self) -> NumberForm:
        """A number in its range."""
        return NumberForm(self.low, self.high, self.step, suffix=self.unit.suffix)

    def traits(self) -> tuple[Trait, ...]:
        """Its range, a notch, and the unit."""
        number = NumberForm(decimals=3, suffix=self.unit.suffix)
        return (
            Trait("low", "From", number, self.low),
            Trait("high", "To", number, self.high),
            Trait("step", "Step", number, self.step),
            Trait("unit", "Unit", OptionsForm(tuple(_UNITS)), _unit_name(self.unit)),
        )

    def with_trait(self, key: str, value: Any) -> Self:
        """The dial with one of its traits set; a unit is named."""
        return super().with_trait(key, _UNITS[value] if key == "unit" else value)

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """Times where its default is not 0, else plus."""
        if not spec.numeric:
            raise InputError(_no_number(self, spec))
        if self.default != 0.0:
            start, end = self.low / self.default, self.high / self.default
            return replace(drive, how=How.TIMES, start=start, end=end)
        reach = spec.step * _NOTCHES
        span = self.high - self.low
        low, high = self.low / span * reach, self.high / span * reach
        return replace(
            drive, how=How.PLUS, start=_alike(spec.neutral, low), end=_alike(spec.neutral, high)
        )

    def along(self, share: float) -> float:
        """Evenly through its range."""
        return self.low + (self.high - self.low) * share

    def words(self, value: float) -> str:
        """The number with its unit."""
        return f"{value:g}{self.unit.suffix}"

    def span(self) -> str:
        """Its range."""
        return f"{self.low:g} to {self.words(self.high)}, {super().span()}"


class TimeDial(_Ranged, frozen=True, omit_defaults=True, tag="time", kw_only=True):
    """A length.

    Attributes:
        low, high: its range, in seconds.
        default: at which the wrinkle is as it was made.
    """

    ways: ClassVar[tuple[How, ...]] = (How.SET, How.PLUS)

    low: Fraction
    high: Fraction
    default: Fraction

    def __post_init__(self) -> None:
        super().__post_init__()
        if not 0 <= self.low <= self.default <= self.high <= limits.LONGEST_HALF:
            raise InputError(
                f"The dial '{self.name}' goes from a shorter length to a longer one, with its "
                f"default between them, up to {limits.LONGEST_HALF} seconds."
            )
        if self.low == self.high:
            raise InputError(f"The two ends of the dial '{self.name}' must differ.")

    def share(self, value: float | Fraction) -> float:
        """Where a value lies in the range, 0…1."""
        return float((Fraction(value) - self.low) / (self.high - self.low))

    def checked(self, value: DialValue) -> Fraction:
        """The value, if the dial can have it; text and numbers are seconds.

        Raises:
            InputError: names the dial and its range.
        """
        try:
            if isinstance(value, float):
                seconds = _seconds(value)
            else:
                seconds = value if isinstance(value, Fraction) else Fraction(str(value))
        except (ValueError, ZeroDivisionError, OverflowError):
            seconds = Fraction(-1)
        if not self.low <= seconds <= self.high:
            raise InputError(
                f"{self.name} takes seconds from {float(self.low):.3g} to "
                f"{float(self.high):.3g}, not '{value}'."
            )
        return seconds

    @property
    def form(self) -> NumberForm:
        """Seconds in its range."""
        return NumberForm(float(self.low), float(self.high), _TIME_STEP, 3, " s")

    def traits(self) -> tuple[Trait, ...]:
        """Its range."""
        seconds = NumberForm(decimals=3, suffix=" s")
        return (
            Trait("low", "From", seconds, float(self.low)),
            Trait("high", "To", seconds, float(self.high)),
        )

    def with_trait(self, key: str, value: Any) -> Self:
        """The dial with one of its ends set, in seconds."""
        return super().with_trait(key, _seconds(value))

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """It drives the lengths of the wrinkle."""
        if drive.layer != WRINKLE or drive.key not in (LEAD, TAIL):
            raise InputError(f"The dial '{self.name}' is a length: it can drive lead and tail.")
        super().check_drive(drive, to)

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """The other length goes as far."""
        return replace(drive, start=float(self.low), end=float(self.high))

    def along(self, share: float) -> Fraction:
        """Evenly through its range, in thousandths of it."""
        return self.low + (self.high - self.low) * round(share * 1000) / 1000

    def words(self, value: Fraction) -> str:
        """Seconds."""
        return f"{float(value):.3g} s"

    def span(self) -> str:
        """Its range."""
        return f"{float(self.low):.3g} to {self.words(self.high)}, {super().span()}"


class SeedDial(Dial, frozen=True, omit_defaults=True, tag="seed"):
    """All random patterns at once: 0 as they were made, each other whole number other ones."""

    ways: ClassVar[tuple[How, ...]] = (How.PLUS,)

    default: int = 0

    def __post_init__(self) -> None:
        super().__post_init__()
        if self.default != 0:
            raise InputError(f"The default of the dial '{self.name}' is 0, as it was made.")

    def checked(self, value: DialValue) -> int:
        """The value, if the dial can have it.

        Raises:
            InputError: says what it takes.
        """
        number = _number(value)
        if number is None or number != int(number) or not 0 <= number <= _LARGEST_SEED:
            raise InputError(
                f"{self.name} takes a whole number from 0 to {_LARGEST_SEED}, not '{value}'."
            )
        return int(number)

    def given(self, drive: Drive, value: int) -> Value:
        """What is added to a seed."""
        return float(value)

    @property
    def form(self) -> NumberForm:
        """A whole number."""
        return NumberForm(0.0, float(_LARGEST_SEED), decimals=0)

    def turned(self, drive: Drive, value: int, setting: Setting, spec: SettingSpec) -> Setting:
        """A setting that is a seed, or whose jitter has one, with another seed."""
        jitter = setting.jitter
        if jitter is not None:
            seed = (jitter.seed + value * _SEED_STEP) % _MOST_SEEDS
            return replace(setting, jitter=replace(jitter, seed=seed))
        return setting.mapped(
            lambda own: (parts(own)[0] + value * _SEED_STEP) % (_LARGEST_SEED + 1)
        )

    def can_drive(self, to: DrivenSetting) -> bool:
        """Only what is random."""
        return is_random(to.spec, to.setting)

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """It drives what is random."""
        if not is_random(to.spec, to.setting):
            raise InputError(f"The dial '{self.name}' is a seed; {to.spec.label} has none.")

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """It is added to each seed."""
        return replace(drive, how=How.PLUS)

    def samples(self, most: int) -> tuple[int, ...]:
        """The first few."""
        return tuple(range(min(most, _LAST + 1)))


def new_amount(wanted: WantedDial) -> AmountDial | None:
    """Sets what is still; of what moves, or differs in its parts, all is multiplied."""
    spec, numbers = wanted.spec, parts(wanted.own)
    if not spec.numeric:
        return None
    if wanted.animated or len(set(numbers)) > 1:
        times = replace(wanted.drive, how=How.TIMES, start=0.0, end=2.0)
        return AmountDial(wanted.id, wanted.name, drives=(times,), high=200.0)
    number = numbers[0]
    low, high = spec.low, spec.high
    if high - low > _WIDE or spec.unit is Unit.FRAME_PART:
        reach = max(abs(number), spec.step * _NOTCHES)
        low, high = max(low, min(number, 0.0) - reach), min(high, max(number, 0.0) + reach)
        if number >= 0.0 and spec.neutral != 0.0 and spec.low >= 0.0:
            low = max(spec.low, 0.0)
    factor = spec.unit.shown_factor
    ends = replace(wanted.drive, start=_alike(wanted.own, low), end=_alike(wanted.own, high))
    return AmountDial(
        wanted.id,
        wanted.name,
        drives=(ends,),
        low=low * factor,
        high=high * factor,
        step=spec.step * factor,
        unit=Unit.PER_CENT if spec.unit is Unit.FRAME_PART else spec.unit,
        default=number * factor,
    )


def new_length(wanted: WantedDial) -> TimeDial | None:
    own = wanted.length
    if own is None:
        return None
    low, high = min(own, wanted.frame), own * 2
    drives = (replace(wanted.drive, start=float(low), end=float(high)),)
    return TimeDial(id=wanted.id, name=wanted.name, low=low, high=high, default=own, drives=drives)


def new_seed(wanted: WantedDial) -> SeedDial | None:
    if wanted.spec.key != "seed":
        return None
    return SeedDial(wanted.id, wanted.name, drives=(replace(wanted.drive, how=How.PLUS),))


def _no_number(dial: Dial, spec: SettingSpec) -> str:
    return f"The dial '{dial.name}' needs a number to drive; {spec.label} is none."


def _seconds(number: float) -> Fraction:
    return Fraction(number).limit_denominator(_FINEST_LENGTH)


def _alike(pattern: Value, number: float) -> Value:
    return (number,) * len(pattern) if isinstance(pattern, tuple) else number


def _number(value: DialValue) -> float | None:
    if isinstance(value, bool):
        return None
    try:
        number = float(value) if isinstance(value, str | float | int | Fraction) else None
        if number is not None:
            require_finite(number, "It")
    except (ValueError, InputError, OverflowError):
        return None
    return number
