"""Where a setting stands within a layer, as one word: ``opacity``, ``source.size``,
``masks.m1.feather``, ``effects.e1:glow.radius``, and ``.jitter`` after any of them.

This is the only place that knows how the word is made.
"""

from __future__ import annotations

from enum import Enum
from functools import lru_cache
from typing import NamedTuple

_JITTER = ".jitter"


class Part(Enum):
    """The part of a layer that holds a setting."""

    LAYER = ""
    """The layer itself, or its placement."""
    SOURCE = "source"
    TIMING = "timing"
    MASK = "masks"
    EFFECT = "effects"


class _Read(NamedTuple):
    part: Part
    owner: str
    name: str


class Address(str):
    """The address of a setting within a layer; equal to the word it is written as.

    Raises:
        KeyError: the word is no address.
    """

    __slots__ = ()

    @classmethod
    def of(cls, part: Part, name: str, owner: str = "") -> Address:
        """The address of a setting of a part.

        Args:
            part: of the layer.
            name: of the setting there.
            owner: the id of the mask, or the id and the kind of the effect with a colon.
        """
        return cls(".".join(x for x in (part.value, owner, name) if x))

    @property
    def part(self) -> Part:
        """The part of the layer that holds it."""
        return _read(self).part

    @property
    def mask(self) -> str:
        """The id of the mask that it belongs to; empty for another part."""
        read = _read(self)
        return read.owner if read.part is Part.MASK else ""

    @property
    def effect(self) -> str:
        """The id of the effect that it belongs to; empty for another part."""
        read = _read(self)
        return read.owner.partition(":")[0] if read.part is Part.EFFECT else ""

    @property
    def name(self) -> str:
        """The setting's name within its part."""
        return _read(self).name

    @property
    def is_jitter(self) -> bool:
        """Whether it is the amount of a setting's jitter, which is a setting itself."""
        return self.endswith(_JITTER)

    @property
    def base(self) -> Address:
        """The setting itself, of the amount of its jitter."""
        return Address(self.removesuffix(_JITTER))

    @property
    def jitter(self) -> Address:
        """The amount of its jitter."""
        return Address(self.base + _JITTER)


@lru_cache(maxsize=4096)
def _read(word: str) -> _Read:
    part, dot, rest = word.removesuffix(_JITTER).partition(".")
    if not dot:
        return _Read(Part.LAYER, "", part)
    if part in (Part.SOURCE.value, Part.TIMING.value):
        return _Read(Part(part), "", rest)
    if part in (Part.MASK.value, Part.EFFECT.value):
        owner, _, name = rest.rpartition(".")
        return _Read(Part(part), owner, name)
    raise KeyError(word)
