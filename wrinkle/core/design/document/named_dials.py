"""Dials that have options, a colour or words."""

from __future__ import annotations

import re
from typing import Any, Self

import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.dial_forms import (
    ColourForm,
    OptionsForm,
    TextForm,
    Trait,
)
from wrinkle.core.design.document.dials import (
    TEXT,
    Dial,
    DialValue,
    Drive,
    DrivenSetting,
    WantedDial,
)
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import ChoiceSpec, ColourSpec, SettingSpec
from wrinkle.core.motion.values import (
    Value,
    parts,
)
from wrinkle.core.picture.transfer import decode, encode

_HEX = re.compile("#?" + "([0-9a-fA-F]{2})" * 3)
_OFF_ON = ("off", "on")
_SWITCHED = {"on": True, "yes": True, "true": True, "off": False, "no": False, "false": False}


class _Optioned(Dial, frozen=True, omit_defaults=True):
    """A dial with options; each drive has a value for every one of them."""

    def __post_init__(self) -> None:
        super().__post_init__()
        count = len(self.option_names)
        if any(len(drive.values) != count for drive in self.drives):
            raise InputError(
                f"The dial '{self.name}' needs a value for each of its {count} options."
            )

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """Each value must be one of the setting."""
        super().check_drive(drive, to)
        for value in drive.values:
            if drive.key == TEXT:
                if not isinstance(value, str):
                    raise InputError(f"The dial '{self.name}' gives words for {to.spec.label}.")
            else:
                to.spec.checked(value)


class ChoiceDial(_Optioned, frozen=True, omit_defaults=True, tag="choice"):
    """One of several named options, each of which gives values to all settings.

    Attributes:
        options: their names.
        default: one of them.
    """

    options: tuple[str, ...] = ("A", "B")
    default: str = "A"

    def __post_init__(self) -> None:
        check_count(f"options of '{self.name}'", self.options, limits.MOST_OPTIONS)
        if len(self.options) < 2 or len(set(self.options)) < len(self.options):
            raise InputError(f"The dial '{self.name}' needs two options or more, each once.")
        if self.default not in self.options:
            raise InputError(f"The default of the dial '{self.name}' must be one of its options.")
        super().__post_init__()

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

    @property
    def option_names(self) -> tuple[str, ...]:
        """Its options."""
        return self.options

    @property
    def form(self) -> OptionsForm:
        """One of its options."""
        return OptionsForm(self.options)

    def traits(self) -> tuple[Trait, ...]:
        """The names of its options."""
        return (Trait("options", "Options", TextForm(), ", ".join(self.options)),)

    def with_trait(self, key: str, value: Any) -> Self:
        """Other names for the options; further ones give what the last one does."""
        options = tuple(x.strip() for x in str(value).split(",") if x.strip())
        at = min(self.options.index(self.default), len(options) - 1)
        return replace(
            self,
            options=options,
            drives=tuple(_with_options(drive, len(options)) for drive in self.drives),
            default=options[at] if options else self.default,
        )

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """Each option gives what the setting has."""
        return replace(drive, values=(own,) * len(self.options))

    def along(self, share: float) -> str:
        """One option after the other."""
        return self.options[min(int(share * len(self.options)), len(self.options) - 1)]

    def samples(self, most: int) -> tuple[str, ...]:
        """The first of its options."""
        return self.options[:most]

    def span(self) -> str:
        """Its options."""
        return f"{' | '.join(self.options)}, {super().span()}"


class SwitchDial(_Optioned, frozen=True, omit_defaults=True, tag="switch"):
    """On or off; each drive has the two values."""

    default: bool = False

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

    @property
    def option_names(self) -> tuple[str, ...]:
        """Off and on."""
        return _OFF_ON

    @property
    def form(self) -> OptionsForm:
        """On or off."""
        return OptionsForm()

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """What is on or off goes to the other."""
        other: Value = (not own) if isinstance(own, bool) else own
        return replace(drive, values=(other, own) if self.default else (own, other))

    def along(self, share: float) -> bool:
        """Off, then on."""
        return share >= 0.5

    def samples(self, most: int) -> tuple[bool, ...]:
        """Both."""
        return (False, True)

    def words(self, value: bool) -> str:
        """On or off."""
        return _OFF_ON[value]


class ColourDial(Dial, frozen=True, omit_defaults=True, tag="colour"):
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

    def words(self, value: tuple[float, float, float]) -> str:
        """Six hexadecimal digits, as they are typed."""
        shown = encode(np.array([value], np.float32))[0]
        return "#" + "".join(f"{round(float(x) * 255.0):02x}" for x in shown)

    @property
    def form(self) -> ColourForm:
        """A colour."""
        return ColourForm()

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """It drives colours."""
        super().check_drive(drive, to)
        if not isinstance(to.spec, ColourSpec):
            raise InputError(f"The dial '{self.name}' is a colour; {to.spec.label} is none.")


class WordsDial(Dial, frozen=True, omit_defaults=True, tag="words"):
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

    @property
    def form(self) -> TextForm:
        """A line of text."""
        return TextForm()

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """It drives texts."""
        if drive.key != TEXT:
            raise InputError(f"The dial '{self.name}' has words; {to.spec.label} is no text.")


def new_choice(wanted: WantedDial) -> ChoiceDial | None:
    spec, own = wanted.spec, wanted.own
    if not isinstance(spec, ChoiceSpec):
        return None
    names = spec.choices
    drives = (replace(wanted.drive, values=names),)
    return ChoiceDial(wanted.id, wanted.name, drives=drives, options=names, default=str(own))


def new_switch(wanted: WantedDial) -> SwitchDial | None:
    if not isinstance(wanted.own, bool):
        return None
    drives = (replace(wanted.drive, values=(False, True)),)
    return SwitchDial(wanted.id, wanted.name, drives=drives, default=wanted.own)


def new_colour(wanted: WantedDial) -> ColourDial | None:
    if not isinstance(wanted.spec, ColourSpec):
        return None
    red, green, blue = parts(wanted.own)
    return ColourDial(wanted.id, wanted.name, drives=(wanted.drive,), default=(red, green, blue))


def new_words(wanted: WantedDial) -> WordsDial | None:
    if wanted.drive.key != TEXT:
        return None
    return WordsDial(wanted.id, wanted.name, drives=(wanted.drive,), default=str(wanted.own))


def _with_options(drive: Drive, count: int) -> Drive:
    values = drive.values[:count]
    values += (values[-1],) * (count - len(values)) if values else ()
    return replace(drive, values=values)
