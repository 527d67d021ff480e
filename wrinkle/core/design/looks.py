"""Looks: chains of effects with their values, kept under a name."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec
from msgspec.structs import replace

from wrinkle.core.design.coding import from_json, to_json
from wrinkle.core.design.effect_use import EffectUse
from wrinkle.core.errors import DocumentError, InputError


class Look(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One look.

    Attributes:
        name: what it is chosen by.
        effects: in the order in which they act.
    """

    name: str
    effects: tuple[EffectUse, ...]


def look_of(name: str, chain: Sequence[EffectUse]) -> Look:
    """A look from a layer's chain; links to layers and files of the wrinkle stay behind.

    Raises:
        InputError: the name is empty, or there is no effect.
    """
    if not name.strip():
        raise InputError("A look needs a name.")
    if not chain:
        raise InputError("This layer has no effects to keep as a look; add one first.")
    kept = tuple(replace(use, layer=None, asset="") for use in chain)
    return Look(name.strip(), kept)


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
    except (msgspec.DecodeError, InputError) as fault:
        raise DocumentError(f"{name} with your looks cannot be read: {fault}.") from None
