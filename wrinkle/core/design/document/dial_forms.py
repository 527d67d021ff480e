"""The forms that values of dials have, by which a window finds the field for them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple


@dataclass(frozen=True)
class NumberForm:
    """A number.

    Attributes:
        low, high: its range.
        step: one notch.
        decimals: at most so many are shown.
        suffix: written after it.
    """

    low: float = float("-inf")
    high: float = float("inf")
    step: float = 1.0
    decimals: int = 2
    suffix: str = ""


@dataclass(frozen=True)
class OptionsForm:
    """One of several names; without names, on or off."""

    names: tuple[str, ...] = ()


@dataclass(frozen=True)
class ColourForm:
    """A colour, linear."""


@dataclass(frozen=True)
class TextForm:
    """A line of text."""


ValueForm = NumberForm | OptionsForm | ColourForm | TextForm


class Trait(NamedTuple):
    """What can be set of a dial besides its name, its default and what it drives.

    Attributes:
        key: its own word.
        label: what it is called.
        form: of its values.
        value: the one that it has.
    """

    key: str
    label: str
    form: NumberForm | OptionsForm | TextForm
    value: float | str
