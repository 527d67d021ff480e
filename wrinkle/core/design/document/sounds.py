"""The sounds of a wrinkle: which one, when its hit falls, and what can be set of it."""

from __future__ import annotations

from collections.abc import Mapping
from enum import Enum
from fractions import Fraction
from typing import ClassVar

import msgspec

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.owner import Owner
from wrinkle.core.design.document.setting import Setting, neutral
from wrinkle.core.errors import InputError
from wrinkle.core.motion.declaring import choice, number
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import NumberSpec, SettingSpec, Unit
from wrinkle.core.motion.values import parts
from wrinkle.core.synthesis.made_sounds import MadeSound, made_sound

QUIETEST, LOUDEST = -60.0, 12.0
"""Decibels."""
SHORTEST = Fraction(1, 100)
"""Seconds."""
LONGEST = 2 * limits.LONGEST_HALF
OPEN_LOW, OPEN_HIGH = 20.0, 20_000.0
"""Hertz: cuts that cut nothing which is heard."""
_LAST_SEED = float(2**31)

SOUND_SETTINGS: Mapping[str, SettingSpec] = {
    spec.key: spec
    for spec in (
        choice("heard", "Heard", "Whether the sound is heard.", True),
        NumberSpec("level", "Level", "How loud it is; 0 is as loud as can be without a break.",
                   0.0, QUIETEST, LOUDEST, Unit.DECIBELS, 0.5),
        number("pan", "Pan", "How far to the right it is heard, or to the left below 0.",
               0.0, -100.0, 100.0, step=5.0, mirror=Mirroring.SIDEWAYS),
        NumberSpec("low_cut", "Low cut", "What lies below is taken away.",
                   OPEN_LOW, OPEN_LOW, OPEN_HIGH, Unit.HERTZ, 10.0),
        NumberSpec("high_cut", "High cut", "What lies above is taken away.",
                   OPEN_HIGH, OPEN_LOW, OPEN_HIGH, Unit.HERTZ, 100.0),
        NumberSpec("length", "Length", "How long it is; of a lane, the value at its hit counts.",
                   0.5, float(SHORTEST), float(LONGEST), Unit.SECONDS, 0.02),
        number("pitch", "Pitch", "How high it is: 200 % is an octave up.",
               100.0, 25.0, 400.0, step=5.0),
        NumberSpec("seed", "Seed", "Another one gives another sound of its kind.",
                   1.0, 0.0, _LAST_SEED),
        number("side", "Goes along", "How far it goes with the motion, to the motion's side.",
               0.0, 0.0, 100.0, step=5.0),
        NumberSpec("fall", "Fall", "By how many semitones it falls as it passes by.",
                   0.0, 0.0, 24.0, Unit.SEMITONES, 0.5),
    )
}  # fmt: skip
"""What can be set of a sound, by its address."""


class MovedBy(Enum):
    """Whose speed a sound follows."""

    ALL = "all layers"
    LAYER = "one layer"
    PICTURE = "the whole picture"


class FileFit(Enum):
    """How a file becomes as long as its sound is to be."""

    WHOLE = "as it is"
    CUT = "cut short"
    STRETCHED = "stretched"


class FileUse(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """What is heard of a file, and how. All times are in seconds of the file, as it is read.

    Attributes:
        hit: what is heard on the hit; None is the strongest onset.
        start, end: what lies outside is left out; None is the file's own.
        rise, fall: how long it fades in and out.
        backwards: it is run through from its end.
        fit: how it becomes as long as its sound.

    Raises:
        InputError: a time is out of range.
    """

    hit: Fraction | None = None
    start: Fraction | None = None
    end: Fraction | None = None
    rise: Fraction | None = None
    fall: Fraction | None = None
    backwards: bool = False
    fit: FileFit = FileFit.WHOLE

    def __post_init__(self) -> None:
        for key in ("hit", "start", "end", "rise", "fall"):
            value = getattr(self, key)
            if value is not None and not 0 <= value <= _LONGEST_FILE:
                raise InputError(
                    f"The {key} within a file must be within 0 and {_LONGEST_FILE} seconds, not "
                    f"{float(value):g}."
                )
        if self.end is not None and self.end <= (self.start or 0):
            raise InputError("What is heard of a file must end after it begins.")


_LONGEST_FILE = 24 * 3600


class WrinkleSound(Owner, frozen=True, kw_only=True):
    """One sound of a wrinkle: one that is made, or what fills a slot for sound.

    Attributes:
        id: unique among sounds and layers, and stable.
        made: the key of a made sound; empty for a file.
        slot: the key of a slot; empty for a made one.
        hit: when its hit falls, in seconds from the cut.
        heard, level, pan, low_cut, high_cut, length, pitch, seed, side, fall: each is described in
            ``SOUND_SETTINGS``.
        moved_by: whose speed a sound follows that follows any.
        layer: the id of that layer; None where it is gone, and all are followed.
        file: what is heard of the file in the slot.

    Raises:
        InputError: a value is out of its range, or it is neither made nor in a slot.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = SOUND_SETTINGS

    id: str
    made: str = ""
    slot: str = ""
    hit: Fraction
    heard: Setting = neutral(SOUND_SETTINGS["heard"])
    level: Setting = Setting(-9.0)
    pan: Setting = neutral(SOUND_SETTINGS["pan"])
    low_cut: Setting = neutral(SOUND_SETTINGS["low_cut"])
    high_cut: Setting = neutral(SOUND_SETTINGS["high_cut"])
    length: Setting = neutral(SOUND_SETTINGS["length"])
    pitch: Setting = neutral(SOUND_SETTINGS["pitch"])
    seed: Setting = neutral(SOUND_SETTINGS["seed"])
    side: Setting = neutral(SOUND_SETTINGS["side"])
    fall: Setting = neutral(SOUND_SETTINGS["fall"])
    moved_by: MovedBy = MovedBy.ALL
    layer: str | None = None
    file: FileUse = FileUse()

    def __post_init__(self) -> None:
        if not self.id:
            raise InputError("A sound needs an id.")
        if bool(self.made) == bool(self.slot):
            raise InputError(f"The sound '{self.id}' must be made, or fill a slot.")
        if self.made:
            made_sound(self.made)
        if abs(self.hit) > limits.LONGEST_HALF:
            raise InputError(
                f"The hit of {self.name} must lie within {limits.LONGEST_HALF} seconds of "
                f"the cut, not {float(self.hit):g}."
            )
        try:
            super().__post_init__()
        except InputError as fault:
            raise InputError(f"{self.name}: {fault}") from None

    @property
    def name(self) -> str:
        """What it is called: its kind, and a number where there are several."""
        return self.id.replace("-", " ").capitalize()

    @property
    def kind(self) -> MadeSound | None:
        """The declaration of a made one."""
        return made_sound(self.made) if self.made else None

    @property
    def hushes(self) -> bool:
        """Whether it is none itself, and the clips go quieter while it lasts."""
        return self.kind is not None and self.kind.hushes

    @property
    def strikes(self) -> bool:
        """Whether its hit is an instant, and heard as one."""
        return self.kind is None or self.kind.strikes

    @property
    def follows(self) -> bool:
        """Whether it is made from the speed of the motion."""
        return self.kind is not None and self.kind.follows

    @property
    def seconds(self) -> float:
        """How long it is, by its rest and its keyframes."""
        return parts(self.length.at(self.hit))[0]

    @property
    def hit_share(self) -> float:
        """The share of its length at which its hit lies; of a file it is somewhere within."""
        return self.kind.hit if self.kind is not None else 0.5

    @property
    def begins(self) -> Fraction:
        """When it begins, so that its hit falls where it is wanted, in seconds from the cut.

        Of a file it is a guess: that depends on what fills the slot.
        """
        before = Fraction(self.hit_share * self.seconds).limit_denominator(1_000_000)
        return self.hit - before

    def addresses(self) -> tuple[Address, ...]:
        """The addresses of the settings that do something for it."""
        return tuple(Address(key) for key in SOUND_SETTINGS if self._has(key))

    def _has(self, key: str) -> bool:
        match key:
            case "heard" | "level":
                return True
            case "length":
                return bool(self.made) or self.file.fit is not FileFit.WHOLE
            case "seed":
                return self.kind is not None and self.kind.random
            case "side" | "fall":
                return self.follows
        return not self.hushes
