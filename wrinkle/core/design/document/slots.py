"""The places of a wrinkle that reuse fills."""

from __future__ import annotations

from collections.abc import Sequence
from enum import Enum
from fractions import Fraction

import msgspec

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.layer_kinds import LayerSource
from wrinkle.core.design.document.limits import check_count
from wrinkle.core.design.document.slot_kinds import CLIP, Fills, slot_kind
from wrinkle.core.design.document.sources import SlotSource, check_asset
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import require_near


class Unfilled(Enum):
    """What is in a slot that reuse leaves empty."""

    NOTHING = "nothing"
    STAND_IN = "stand-in"
    OUTGOING = "outgoing clip"
    INCOMING = "incoming clip"


class Slot(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A place that reuse fills.

    Attributes:
        key: how layers name it.
        label: what it is called.
        kind: the key of what it takes.
        about: a sentence on what fits there.
        stand_in: the name of the asset that fills it until reuse does; empty for none.
        stand_in_cut: the stand-in's own time, in seconds, that falls on the cut; None is 0.
        words: the text that stands in, in a slot for words.
        unfilled: what is there when it stays empty.
        readable: what fills it is not mirrored with the wrinkle, as a picture with writing.

    Raises:
        InputError: a text is too long, or the stand-in's name or time is none.
    """

    key: str
    label: str
    kind: str = CLIP
    about: str = ""
    stand_in: str = ""
    stand_in_cut: Fraction | None = None
    words: str = ""
    unfilled: Unfilled = Unfilled.NOTHING
    readable: bool = False

    def __post_init__(self) -> None:
        if not self.key:
            raise InputError("A slot needs a key.")
        slot_kind(self.kind)
        for text in (self.label, self.about, self.words):
            check_count("characters in a slot's text", text, limits.MOST_CHARACTERS)
        require_near(self.stand_in_cut, "The cut of a stand-in")
        if self.stand_in:
            check_asset(self.stand_in)
        if self.unfilled is Unfilled.STAND_IN and not (self.stand_in or self.words):
            raise InputError(f"The slot '{self.label}' has no stand-in to show; choose one.")

    @property
    def moving(self) -> bool:
        """Whether what fills it are pictures."""
        return self.fills is Fills.PICTURES

    @property
    def fills(self) -> Fills:
        """What it is filled with."""
        return slot_kind(self.kind).fills


OUTGOING = Slot("outgoing", "Outgoing clip")
INCOMING = Slot("incoming", "Incoming clip")
GIVEN = (OUTGOING.key, INCOMING.key)
"""The slots that the cut fills; nobody is asked for them."""


def called(slots: Sequence[Slot], key: str) -> str:
    """What a slot is called in a sentence: *outgoing clip*, *third clip*, *clip “Fog”*."""
    for slot in slots:
        if slot.key == key:
            label, kind = slot.label, slot.kind
            says_kind = kind in label.lower()
            return f"{label[0].lower()}{label[1:]}" if says_kind else f"{kind} “{label}”"
    return f"{key} clip"


def shows_given(source: LayerSource) -> bool:
    """Whether a source shows one of the two clips."""
    return isinstance(source, SlotSource) and source.slot in GIVEN
