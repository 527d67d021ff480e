"""Dials: the few settings of a wrinkle that whoever reuses it can turn.

A dial has a value of its own and drives settings of the wrinkle. At its default it changes
nothing: a driven setting's own value is what the default gives. Each kind of dial is one struct
with a tag in the file; a new one is one more in ``Dial``.
"""

from __future__ import annotations

import re
from enum import Enum
from fractions import Fraction
from typing import ClassVar

import msgspec
import numpy as np

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease, Linear
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.motion.values import Value, mix, require_finite
from wrinkle.core.picture.transfer import decode

DialValue = float | str | bool | Fraction | tuple[float, ...]
"""A number, a name, a text, yes or no, seconds, or a colour."""
WRINKLE = ""
"""In place of a layer's id: the setting is one of the whole wrinkle."""


class How(Enum):
    """How a dial drives a setting; the value is its word."""

    SET = "set"
    """The setting has what the dial gives."""
    TIMES = "times"
    """All of the setting is multiplied, its keyframes too."""
    PLUS = "plus"
    """Something is added to all of the setting, its keyframes too."""


class Drive(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One setting that a dial drives.

    Attributes:
        layer: the id of its layer, or ``WRINKLE``.
        key: its address there.
        how: set, times or plus.
        start, end: what is given at the two ends of the dial's range.
        ease: between them.
        values: of a dial with options, or of a switch (off, on): what each one gives.
    """

    layer: str
    key: str
    how: How = How.SET
    start: Value = 0.0
    end: Value = 1.0
    ease: Ease = Linear()
    values: tuple[Value, ...] = ()

    def __post_init__(self) -> None:
        if type(self.key) is not str:
            # An address is written as the word that it is.
            msgspec.structs.force_setattr(self, "key", str(self.key))
        for value in (self.start, self.end, *self.values):
            require_finite(value, "What a dial gives")

    def at(self, share: float) -> Value:
        """What is given at a share 0…1 of the dial's range."""
        return mix(self.start, self.end, self.ease.at(share))


class _Dial(
    msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True, tag_field="kind"
):
    """What all dials have in common.

    Attributes:
        id: unique in the wrinkle, and stable.
        name: what it is called.
        about: what it does.
        drives: the settings that it drives.
    """

    ways: ClassVar[tuple[How, ...]] = (How.SET,)
    """How dials of the kind can drive."""

    id: str
    name: str
    about: str = ""
    drives: tuple[Drive, ...] = ()

    def __post_init__(self) -> None:
        if not self.id or not self.name.strip():
            raise InputError("A dial needs an id and a name.")
        check_count("characters in a dial's text", self.name + self.about, limits.MOST_CHARACTERS)
        check_count(f"settings driven by '{self.name}'", self.drives, limits.MOST_DRIVES)
        for drive in self.drives:
            if drive.how not in self.ways:
                raise InputError(f"The dial '{self.name}' cannot act by {drive.how.value}.")


class _Ranged(_Dial, frozen=True, omit_defaults=True):
    """A dial that goes from a low end to a high one."""

    def share(self, value: float | Fraction) -> float:
        """Where a value lies in the range, 0…1."""
        raise NotImplementedError

    def given(self, drive: Drive, value: float | Fraction) -> Value:
        """What a value gives for a setting that the dial drives."""
        return drive.at(self.share(value))


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
            seconds = Fraction(str(value)) if isinstance(value, float | str) else Fraction(-1)
            seconds = value if isinstance(value, Fraction) else seconds
        except (ValueError, ZeroDivisionError):
            seconds = Fraction(-1)
        if not self.low <= seconds <= self.high:
            raise InputError(
                f"{self.name} takes seconds from {float(self.low):.3g} to "
                f"{float(self.high):.3g}, not '{value}'."
            )
        return seconds


class ChoiceDial(_Dial, frozen=True, omit_defaults=True, tag="choice"):
    """One of several named options, each of which gives values to all settings.

    Attributes:
        options: their names.
        default: one of them.
    """

    options: tuple[str, ...] = ("A", "B")
    default: str = "A"

    def __post_init__(self) -> None:
        super().__post_init__()
        check_count(f"options of '{self.name}'", self.options, limits.MOST_OPTIONS)
        if len(self.options) < 2 or len(set(self.options)) < len(self.options):
            raise InputError(f"The dial '{self.name}' needs two options or more, each once.")
        if self.default not in self.options:
            raise InputError(f"The default of the dial '{self.name}' must be one of its options.")
        _check_values(self, len(self.options))

    def checked(self, value: DialValue) -> str:
        """The value, if the dial can have it.

        Raises:
            InputError: names the options.
        """
        for option in self.options:
            if option == value or option.casefold() == str(value).casefold():
                return option
        raise InputError(f"{self.name} is one of {', '.join(self.options)}, not '{value}'.")

    def given(self, drive: Drive, value: str) -> Value:
        """What an option gives for a setting that the dial drives."""
        return drive.values[self.options.index(value)]


class SwitchDial(_Dial, frozen=True, omit_defaults=True, tag="switch"):
    """On or off; each drive has the two values."""

    default: bool = False

    def __post_init__(self) -> None:
        super().__post_init__()
        _check_values(self, 2)

    def checked(self, value: DialValue) -> bool:
        """The value, if the dial can have it; ``on``, ``off``, ``yes`` and ``no`` are ones too.

        Raises:
            InputError: says what it takes.
        """
        if isinstance(value, bool):
            return value
        word = str(value).casefold()
        if word not in _SWITCHED:
            raise InputError(f"{self.name} is on or off, not '{value}'.")
        return _SWITCHED[word]

    def given(self, drive: Drive, value: bool) -> Value:
        """What off or on gives for a setting that the dial drives."""
        return drive.values[int(value)]


class ColourDial(_Dial, frozen=True, omit_defaults=True, tag="colour"):
    """A colour, linear."""

    default: tuple[float, float, float] = (1.0, 1.0, 1.0)

    def __post_init__(self) -> None:
        super().__post_init__()
        self.checked(self.default)

    def checked(self, value: DialValue) -> tuple[float, float, float]:
        """The value, if the dial can have it; a text is six hexadecimal digits, as they are seen.

        Raises:
            InputError: says what it takes.
        """
        if isinstance(value, str) and (typed := _HEX.fullmatch(value)) is not None:
            levels = [[int(part, 16) / 255.0 for part in typed.groups()]]
            value = tuple(decode(np.array(levels, np.float32))[0].tolist())
        if isinstance(value, tuple) and len(value) == 3 and all(0.0 <= x <= 1.0 for x in value):
            red, green, blue = value
            return red, green, blue
        raise InputError(f"{self.name} takes a colour, such as #e0a030, not '{value}'.")

    def given(self, drive: Drive, value: tuple[float, ...]) -> Value:
        """The colour itself."""
        return value


class WordsDial(_Dial, frozen=True, omit_defaults=True, tag="words"):
    """The text of layers of words."""

    default: str = ""

    def checked(self, value: DialValue) -> str:
        """The value, if the dial can have it.

        Raises:
            InputError: it is too long.
        """
        text = str(value)
        check_count(f"characters for '{self.name}'", text, limits.MOST_CHARACTERS)
        return text

    def given(self, drive: Drive, value: str) -> Value:
        """The text itself."""
        return value


class SeedDial(_Dial, frozen=True, omit_defaults=True, tag="seed"):
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


Dial = AmountDial | TimeDial | ChoiceDial | SwitchDial | ColourDial | WordsDial | SeedDial
KINDS: tuple[type[Dial], ...] = (
    AmountDial, ChoiceDial, ColourDial, WordsDial, SwitchDial, SeedDial, TimeDial,
)  # fmt: skip

_LARGEST_SEED = 9999
_HEX = re.compile("#?" + "([0-9a-fA-F]{2})" * 3)
_SWITCHED = {"on": True, "yes": True, "true": True, "off": False, "no": False, "false": False}


def kind_of(dial: Dial) -> str:
    """The word for the kind of a dial."""
    tag = type(dial).__struct_config__.tag
    return str(tag)


def _check_values(dial: _Dial, count: int) -> None:
    if any(len(drive.values) != count for drive in dial.drives):
        raise InputError(f"The dial '{dial.name}' needs a value for each of its {count} options.")


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
