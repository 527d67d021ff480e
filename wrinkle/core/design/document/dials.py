"""What all kinds of dials have in common, and how one is declared.

A dial is one of the few settings of a wrinkle that whoever reuses it can turn. It has a value of
its own and drives settings of the wrinkle. At its default it changes nothing: a driven setting's
own value is what the default gives.

A kind is one struct with a tag in the file, and its declaration beside it. What it gives, what it
refuses, how it is read, shown and offered come with it; files, window and command line follow.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from fractions import Fraction
from typing import TYPE_CHECKING, Any, ClassVar, NamedTuple, Self

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.address import Address, Part
from wrinkle.core.design.document.dial_forms import Trait, ValueForm
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease, Linear
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.values import Value, mix, require_finite

DialValue = float | str | bool | Fraction | tuple[float, ...]
"""A number, a name, a text, yes or no, seconds, or a colour."""
WRINKLE = ""
"""In place of a layer's id: the setting is one of the whole wrinkle."""
LEAD, TAIL = "lead", "tail"
TEXT = Address.of(Part.SOURCE, "text")
"""The text of a layer of words, which is no setting; dials can drive it all the same."""


class How(Enum):
    """How a dial drives a setting; the value is its word."""

    SET = "set"
    """The setting has what the dial gives."""
    TIMES = "times"
    """How far the setting is from rest is multiplied, its keyframes too."""
    TIMES_ALL = "times all of it"
    """The setting itself is multiplied, from nothing on; documents before format 6 have this."""
    PLUS = "plus"
    """Something is added to all of the setting, its keyframes too."""


MULTIPLYING = frozenset({How.TIMES, How.TIMES_ALL})


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


class DrivenSetting(NamedTuple):
    """What a dial drives, as far as the dial looks at it.

    Attributes:
        called: what it is called, with its layer.
        spec: its declaration.
        setting: None for what is no setting of a layer.
    """

    called: Callable[[], str]
    spec: SettingSpec
    setting: Setting | None


def is_random(spec: SettingSpec, setting: Setting | None) -> bool:
    """Whether a setting is a seed, or has one in its jitter."""
    return spec.key == "seed" or (setting is not None and setting.jitter is not None)


class _Dial:
    """The type of the fields that hold dials.

    It is no struct: whoever reads a file (``coding``) asks the registry for it. Else the kinds
    would be those that were known when the document was declared.
    """

    __slots__ = ()


class Dial(
    msgspec.Struct,
    _Dial,
    frozen=True,
    forbid_unknown_fields=True,
    omit_defaults=True,
    tag_field="kind",
):
    """The base of all kinds; each has a default, at which the wrinkle is as it was made.

    Attributes:
        id: unique in the wrinkle, and stable.
        name: what it is called.
        about: what it does.
        drives: the settings that it drives.
    """

    ways: ClassVar[tuple[How, ...]] = (How.SET,)
    """How dials of the kind can drive."""
    ranged: ClassVar[bool] = False
    """It goes from a low end to a high one, and its drives have two ends."""

    id: str
    name: str
    about: str = ""
    drives: tuple[Drive, ...] = ()

    if TYPE_CHECKING:

        @property
        def default(self) -> DialValue:
            """At which the wrinkle is as it was made."""

    def __post_init__(self) -> None:
        if not self.id or not self.name.strip():
            raise InputError("A dial needs an id and a name.")
        check_count("characters in a dial's text", self.name + self.about, limits.MOST_CHARACTERS)
        check_count(f"settings driven by '{self.name}'", self.drives, limits.MOST_DRIVES)
        for drive in self.drives:
            if drive.how not in self.ways:
                raise InputError(f"The dial '{self.name}' cannot act by {drive.how.value}.")

    @property
    def kind(self) -> str:
        """The word for its kind."""
        return str(self.__struct_config__.tag)

    @property
    def form(self) -> ValueForm:
        """The form that its values have."""
        raise NotImplementedError

    @property
    def option_names(self) -> tuple[str, ...]:
        """What its options are called; none where it has no options."""
        return ()

    def traits(self) -> tuple[Trait, ...]:
        """What can be set of it besides its name, its default and what it drives."""
        return ()

    def with_trait(self, key: str, value: Any) -> Self:
        """The dial with one of its traits set.

        Raises:
            InputError: the dial is not possible with it; says why.
        """
        return replace(self, **{key: value})

    def checked(self, value: DialValue) -> DialValue:
        """The value, if the dial can have it; words are read as they are typed.

        Raises:
            InputError: names the dial and what it takes.
        """
        raise NotImplementedError

    def given(self, drive: Drive, value: Any) -> Value:
        """What a value of the dial gives for a setting that it drives."""
        raise NotImplementedError

    def changed(self, drive: Drive, value: Any, own: Value) -> Value:
        """What becomes of a value of a setting that the dial drives, before its limits."""
        return self.given(drive, value)

    def turned(self, drive: Drive, value: Any, setting: Setting, spec: SettingSpec) -> Setting:
        """A setting, as the dial at a value makes it."""
        return setting.mapped(lambda own: spec.limited(self.changed(drive, value, own)))

    def can_drive(self, to: DrivenSetting) -> bool:
        """Whether a setting that was driven is still something for this dial."""
        return True

    def check_drive(self, drive: Drive, to: DrivenSetting) -> None:
        """Refuses a setting that is nothing for this dial.

        What is set has one value, which the dial's default gives.

        Raises:
            InputError: names the dial and the setting.
        """
        if drive.how is How.SET and to.setting is not None and to.setting.animated:
            raise InputError(
                f"{to.called()} is animated and cannot be set by the dial '{self.name}'; let the "
                "dial act by times or plus, or end the animation."
            )

    def further(self, drive: Drive, spec: SettingSpec, own: Value) -> Drive:
        """How it drives one more setting, in proportion to what it drives already.

        Args:
            drive: which setting that is.
            spec: its declaration.
            own: the value that it has.

        Raises:
            InputError: it cannot drive it; says why.
        """
        return drive

    def along(self, share: float) -> DialValue | None:
        """The value so far (0…1) on its way through all that it can be; None if it has no way."""
        return None

    def samples(self, most: int) -> tuple[DialValue, ...]:
        """Values from end to end, to look at side by side."""
        return (self.default,)

    def words(self, value: Any) -> str:
        """A value in words."""
        return str(value)

    def span(self) -> str:
        """What it can be, and what it is as made, in words."""
        return f"{self.words(self.default)} as made"


if TYPE_CHECKING:
    AnyDial = Dial
else:
    AnyDial = _Dial


class WantedDial(NamedTuple):
    """A setting for which a dial is wanted.

    Attributes:
        id, name: those of the new dial.
        drive: which setting it is.
        spec: its declaration.
        own: the value that it has.
        animated: whether it moves by itself.
        length: seconds, if it is one of the two lengths of the wrinkle.
        frame: the length of a frame in seconds.
    """

    id: str
    name: str
    drive: Drive
    spec: SettingSpec
    own: Value
    animated: bool
    length: Fraction | None
    frame: Fraction


@dataclass(frozen=True)
class DialKind:
    """The declaration of a kind of dial.

    Attributes:
        dial: its struct, whose tag is its key.
        offered: a new dial for a setting; None if the setting is nothing for this kind.
    """

    dial: type[Dial]
    offered: Callable[[WantedDial], Dial | None]

    @property
    def key(self) -> str:
        """Its word in the file."""
        return str(self.dial.__struct_config__.tag)
