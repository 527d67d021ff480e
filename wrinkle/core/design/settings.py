"""What settings there are. One declaration serves the window, the edits and the documents."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value, discrete, parts, same_kind
from wrinkle.core.picture.fit import Fit
from wrinkle.core.picture.resample import EdgeCover


class Unit(Enum):
    """What a setting's number stands for, and how it is shown."""

    PER_CENT = "%"
    FRAME_PART = "frame %"
    """A part of the frame's width or height; shown in per cent."""
    DEGREES = "°"
    NONE = ""
    """Yes or no, a choice, or a colour."""

    @property
    def suffix(self) -> str:
        """What is written after the number."""
        return {Unit.DEGREES: "°", Unit.NONE: ""}.get(self, " %")

    @property
    def shown_factor(self) -> float:
        """The shown number divided by the stored one."""
        return 100.0 if self is Unit.FRAME_PART else 1.0


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

    @property
    def numeric(self) -> bool:
        """Whether it is a number or a pair: jitter, formulas and shifts need one."""
        return not discrete(self.neutral) and len(parts(self.neutral)) < 3

    def checked(self, value: Value) -> Value:
        """``value`` if the setting can have it.

        Raises:
            InputError: the wrong kind, or outside the range; names the setting and the range.
        """
        if not same_kind(value, self.neutral):
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


def _choice(key: str, label: str, about: str, neutral: Value, *choices: str) -> SettingSpec:
    return SettingSpec(key, label, about, Unit.NONE, neutral, 0.0, 1.0, 1.0, choices=choices)


_TURNS = 360.0 * 1000

SETTINGS: dict[str, SettingSpec] = {
    spec.key: spec
    for spec in (
        SettingSpec(
            "position",
            "Position",
            "How far the picture is moved, in per cent of the frame's width and height.",
            Unit.FRAME_PART,
            (0.0, 0.0),
            -100.0,
            100.0,
            0.01,
        ),
        SettingSpec(
            "scale",
            "Scale",
            "The picture's width and height.",
            Unit.PER_CENT,
            (100.0, 100.0),
            -10000.0,
            10000.0,
            1.0,
            linked=True,
        ),
        SettingSpec(
            "rotation",
            "Rotation",
            "Turns the picture about its anchor, clockwise; 720° is two full turns.",
            Unit.DEGREES,
            0.0,
            -_TURNS,
            _TURNS,
            1.0,
        ),
        SettingSpec(
            "skew",
            "Skew",
            "Leans the picture along the skew axis.",
            Unit.DEGREES,
            0.0,
            -85.0,
            85.0,
            1.0,
        ),
        SettingSpec(
            "skew_axis",
            "Skew axis",
            "The direction along which skew moves the picture.",
            Unit.DEGREES,
            0.0,
            -_TURNS,
            _TURNS,
            1.0,
        ),
        SettingSpec(
            "anchor",
            "Anchor",
            "The point of the picture that scale, skew and rotation leave in place.",
            Unit.FRAME_PART,
            (0.5, 0.5),
            -100.0,
            100.0,
            0.01,
        ),
        SettingSpec(
            "tilt",
            "Tilt",
            "Turns the picture in depth, about its level and about its upright axis.",
            Unit.DEGREES,
            (0.0, 0.0),
            -_TURNS,
            _TURNS,
            1.0,
        ),
        SettingSpec(
            "camera",
            "Camera",
            "How far the camera is from a tilted picture, in per cent of the frame's short side.",
            Unit.PER_CENT,
            200.0,
            20.0,
            10000.0,
            5.0,
        ),
        SettingSpec(
            "opacity",
            "Opacity",
            "How much of what lies below is covered.",
            Unit.PER_CENT,
            100.0,
            0.0,
            100.0,
            1.0,
        ),
        _choice(
            "edge_cover",
            "Edge cover",
            "What is seen outside the moved picture.",
            EdgeCover.MIRROR.value,
            *(cover.value for cover in EdgeCover),
        ),
        _choice(
            "fit",
            "Fit",
            "How a clip of another shape fills the frame.",
            Fit.FILL.value,
            *(fit.value for fit in Fit),
        ),
        _choice("visible", "Shown", "Whether the layer is there.", True),
        _choice("motion_blur", "Motion blur", "Whether its movement is blurred.", True),
        _choice("colour", "Colour", "Of a fill, in linear light.", (1.0, 1.0, 1.0)),
    )
}

PLACEMENT_KEYS = (
    "position",
    "scale",
    "rotation",
    "skew",
    "skew_axis",
    "anchor",
    "tilt",
    "camera",
)
JITTER = ".jitter"
"""Ends the key of a setting's jitter amount, which is a setting itself."""


def spec_of(key: str) -> SettingSpec:
    """The declaration of a setting, or of the amount of its jitter.

    Raises:
        KeyError: there is no such setting.
    """
    base = SETTINGS[key.removesuffix(JITTER)]
    if not key.endswith(JITTER):
        return base
    return replace(
        base,
        key=key,
        label=f"{base.label} jitter",
        about=f"How far jitter moves {base.label.lower()} at most.",
        neutral=0.0,
        low=0.0,
        linked=False,
    )
