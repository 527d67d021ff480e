"""Looks: chains of effects with their values, kept under a name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.document.coding import from_json, to_json
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.links import relinked_chain
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.searching import holds_words

LARGEST_LOOKS = 64 << 20
"""Bytes of a file; looks carry their colour tables."""


class Look(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One look; nobody writes into ``tables``.

    Attributes:
        name: what it is chosen by.
        effects: in the order in which they act.
        tables: the bytes of the colour tables that they read, by the names in their ``asset``.
    """

    name: str
    effects: tuple[EffectUse, ...]
    tables: dict[str, bytes] = msgspec.field(default_factory=dict)

    @property
    def about(self) -> str:
        """What it is made of."""
        return " + ".join(use.effect.label for use in self.effects)

    @property
    def times(self) -> tuple[Fraction, Fraction]:
        """When its first and its last keyframe are, in seconds from the cut; 0 without any."""
        times = [
            key.time
            for use in self.effects
            for setting in use.values.values()
            for key in (setting.track.keys if setting.track is not None else ())
        ]
        return min(times, default=Fraction(0)), max(times, default=Fraction(0))

    @property
    def moves(self) -> bool:
        """Whether any of its settings is a lane."""
        start, end = self.times
        return start < end

    def matches(self, words: str) -> bool:
        """Whether its name and what it is made of hold all the words."""
        return holds_words(f"{self.name} {self.about}", words)


def copied(chain: Sequence[EffectUse], assets: Mapping[str, bytes]) -> Look:
    """A chain as it is, links to layers too, with the colour tables among a wrinkle's assets.

    Raises:
        InputError: there is no effect.
    """
    if not chain:
        raise InputError("This layer has no effects yet; add one first.")
    tables = {use.asset: assets[use.asset] for use in chain if use.asset in assets}
    return Look("copied chain", tuple(chain), tables)


def look_of(name: str, chain: Sequence[EffectUse], assets: Mapping[str, bytes]) -> Look:
    """A look from a layer's chain; links to layers of the wrinkle stay behind.

    Raises:
        InputError: the name is empty, or there is no effect.
    """
    look = copied(chain, assets)
    return renamed(replace(look, effects=relinked_chain(chain, lambda link: None)), name)


def renamed(look: Look, name: str) -> Look:
    """The look under another name.

    Raises:
        InputError: the name is empty.
    """
    if not name.strip():
        raise InputError("A look needs a name.")
    return replace(look, name=name.strip())


def encode_looks(looks: Sequence[Look]) -> bytes:
    """Looks as JSON."""
    return (
        msgspec.json.format(msgspec.json.encode(tuple(looks), enc_hook=to_json), indent=2) + b"\n"
    )


def decode_looks(name: str, content: bytes) -> list[Look]:
    """The looks in the bytes of a file.

    Raises:
        DocumentError: it is no such file; names it.
    """
    try:
        return msgspec.json.decode(content, type=list[Look], dec_hook=from_json)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError, InputError) as fault:
        raise DocumentError(f"The looks in {name} cannot be read: {fault}.") from None
