"""Short ways to declare settings."""

from __future__ import annotations

from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import (
    ChoiceSpec,
    ColourSpec,
    NumberSpec,
    PairSpec,
    SettingSpec,
    SwitchSpec,
    Unit,
)
from wrinkle.core.motion.values import Value


def number(
    key: str,
    label: str,
    about: str,
    neutral: Value,
    low: float,
    high: float,
    unit: Unit = Unit.PER_CENT,
    step: float = 1.0,
    mirror: Mirroring = Mirroring.NOTHING,
    soft: bool = False,
) -> SettingSpec:
    """A setting that is a number or a pair."""
    kind = PairSpec if isinstance(neutral, tuple) else NumberSpec
    return kind(key, label, about, neutral, low, high, unit, step, mirror, soft)


def length(
    key: str,
    label: str,
    about: str,
    neutral: Value,
    low: float,
    high: float,
    step: float = 0.5,
    mirror: Mirroring = Mirroring.NOTHING,
) -> SettingSpec:
    """A setting that is a length, in per cent of the frame's short side."""
    return number(key, label, about, neutral, low, high, Unit.SHORT_SIDE, step, mirror)


def angle(
    key: str,
    label: str = "Angle",
    about: str = "Clockwise from the level.",
    mirror: Mirroring = Mirroring.WAY,
) -> SettingSpec:
    """A setting that is an angle in degrees; it says nothing by itself.

    It is that of an arrow, unless ``mirror`` says that it turns something about.
    """
    return number(key, label, about, 0.0, -360000.0, 360000.0, Unit.DEGREES, mirror=mirror)


def spot(key: str = "centre", label: str = "Centre") -> SettingSpec:
    """A setting that is a point of the frame."""
    about = "In per cent of the frame."
    return number(
        key, label, about, (0.5, 0.5), -10.0, 10.0, Unit.FRAME_PART, 0.01, Mirroring.POINT
    )


def choice(key: str, label: str, about: str, neutral: Value, *choices: str) -> SettingSpec:
    """A setting that is yes or no, a colour, or one of several names."""
    if isinstance(neutral, str):
        return ChoiceSpec(key, label, about, neutral, choices=choices)
    kind = SwitchSpec if isinstance(neutral, bool) else ColourSpec
    return kind(key, label, about, neutral)


def evolution() -> SettingSpec:
    """How far a noise has evolved; it comes back after whole turns."""
    about = "After whole turns it comes back."
    return number("evolution", "Evolution", about, 0.0, -1000.0, 1000.0, Unit.TURNS, 0.1)


def seed(key: str = "seed") -> SettingSpec:
    """The number that tells one random pattern from another."""
    about = "Another one gives another pattern."
    return NumberSpec(key, "Seed", about, 1.0, 0.0, 9999.0)
