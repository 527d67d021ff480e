"""What slots can take. A kind is one declaration; window, files and commands follow from it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry


class Fills(Enum):
    """What a slot is filled with: whoever fills one, or shows it, asks for this."""

    PICTURES = "pictures"
    WORDS = "words"
    SOUND = "sound"


@dataclass(frozen=True)
class SlotKind:
    """The declaration of a kind of slot.

    Attributes:
        key: its word, in the file too.
        fills: what it is filled with.
        still: of pictures, one that stands still.
    """

    key: str
    fills: Fills
    still: bool = False


CLIP, PICTURE, WORDS, SOUND = "clip", "picture", "words", "sound"
SLOT_KINDS: Registry[SlotKind] = Registry(
    "kind of slot",
    (
        SlotKind(CLIP, Fills.PICTURES),
        SlotKind(PICTURE, Fills.PICTURES, still=True),
        SlotKind(WORDS, Fills.WORDS),
        SlotKind(SOUND, Fills.SOUND),
    ),
)


def slot_kind(key: str) -> SlotKind:
    """The kind of that key.

    Raises:
        InputError: there is none; names it.
    """
    if key not in SLOT_KINDS:
        raise InputError(f"There is no kind of slot '{key}'; it may come from a newer version.")
    return SLOT_KINDS[key]
