"""Uses as metadata of transitions: plain values under the key ``wrinkle``.

A wrinkle that ships with Wrinkle is named; any other one stands once in the timeline's own
metadata, with the files that it carries, and is referred to.
"""

from __future__ import annotations

import base64
import binascii
import json
from collections.abc import Mapping
from fractions import Fraction
from functools import cache
from pathlib import Path
from typing import Any

import msgspec

from wrinkle import library
from wrinkle.core.design.document.bundle import Bundle
from wrinkle.core.design.document.coding import decode, encode, from_json, to_json
from wrinkle.core.design.document.dials import DialValue
from wrinkle.core.errors import DocumentError, InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.naming import free_name
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.use import PieceUse
from wrinkle.core.reuse.use import Choices, possible
from wrinkle.core.sound.joins import STRAIGHT, SoundJoin
from wrinkle.files.archive import read
from wrinkle.timeline.places import place_in

KEY = "wrinkle"
_LARGEST_ASSETS = 512 << 20


class _Media(msgspec.Struct, frozen=True, omit_defaults=True):
    path: str
    name: str
    duration: Fraction
    size: tuple[int, int] | None = None
    still: bool = False


class _Use(msgspec.Struct, frozen=True, omit_defaults=True):
    """What the metadata of a dressed cut holds."""

    shipped: str = ""
    embedded: str = ""
    lead: Fraction | None = None
    tail: Fraction | None = None
    words: dict[str, str] = {}
    dials: dict[str, float | bool | str | list[float]] = {}
    times: dict[str, Fraction] = {}
    direction: Direction = Direction.AS_MADE
    strength: float = 100.0
    softness: float = 100.0
    fillings: dict[str, _Media] = {}
    join: str = STRAIGHT
    join_frames: int = 6


class Embedded:
    """The wrinkles that stand in a timeline, by the names under which uses refer to them.

    Args:
        metadata: what is there already.

    Raises:
        InputError: one of them cannot be read; names it.
    """

    def __init__(self, metadata: Mapping[str, Any] | None = None) -> None:
        self._bundles: dict[str, Bundle] = {}
        for name, held in (metadata or {}).items():
            try:
                self._bundles[str(name)] = _unpacked(held)
            except (InputError, KeyError, TypeError, ValueError, binascii.Error) as fault:
                raise DocumentError(f"the wrinkle '{name}' in it cannot be read: {fault}") from None

    def bundle(self, name: str) -> Bundle:
        """The wrinkle of a name.

        Raises:
            InputError: there is none.
        """
        if name not in self._bundles:
            raise DocumentError(f"the wrinkle '{name}' is missing from it; use a whole copy")
        return self._bundles[name]

    def name(self, bundle: Bundle) -> str:
        """The name of a wrinkle, which stands in the timeline from now on."""
        for name, held in self._bundles.items():
            if held is bundle or held == bundle:
                return name
        name = free_name(bundle.wrinkle.name, self._bundles.__contains__)
        self._bundles[name] = bundle
        return name

    def metadata(self) -> dict[str, Any]:
        """What the timeline holds of them."""
        return {name: _packed(bundle) for name, bundle in self._bundles.items()}


def encoded(use: PieceUse, embedded: Embedded, folder: Path) -> dict[str, Any]:
    """The metadata of a use, in a timeline in some folder."""
    shipped = _shipped_name(use.bundle)
    chosen = use.choices
    times = {key: value for key, value in chosen.dials.items() if isinstance(value, Fraction)}
    others = {
        key: list(value) if isinstance(value, tuple) else value
        for key, value in chosen.dials.items()
        if not isinstance(value, Fraction)
    }
    fillings = {
        slot: _Media(
            place_in(x.path, folder),
            x.name,
            x.duration,
            (x.size.width, x.size.height) if x.size else None,
            x.still,
        )
        for slot, x in use.fillings.items()
    }
    held = _Use(
        shipped, "" if shipped else embedded.name(use.bundle), chosen.lead, chosen.tail,
        dict(chosen.words), others, times, chosen.direction, chosen.strength, chosen.softness,
        fillings, chosen.join.kind, chosen.join.frames,
    )  # fmt: skip
    return json.loads(msgspec.json.encode(held, enc_hook=to_json))  # type: ignore[no-any-return]


def decoded(metadata: Any, embedded: Embedded, folder: Path) -> PieceUse:
    """The use that metadata holds, in a timeline in some folder.

    Raises:
        InputError: it holds none, or its wrinkle cannot be read.
    """
    try:
        held = msgspec.convert(metadata, _Use, dec_hook=from_json)
    except msgspec.ValidationError as fault:
        raise DocumentError(f"a use in it cannot be read ({fault})") from None
    bundle = shipped_bundle(held.shipped) if held.shipped else embedded.bundle(held.embedded)
    dials: dict[str, DialValue] = dict(held.times)
    for key, value in held.dials.items():
        dials[key] = tuple(value) if isinstance(value, list) else value
    choices = Choices(
        held.lead, held.tail, held.words, dials, held.direction, held.strength, held.softness,
        SoundJoin(held.join, held.join_frames),
    )  # fmt: skip
    fillings = {
        slot: Media(
            str((folder / x.path).absolute()) if x.path else "",
            x.name,
            x.duration,
            Size(*x.size) if x.size else None,
            x.still,
        )
        for slot, x in held.fillings.items()
    }
    return PieceUse(bundle, possible(bundle.wrinkle, choices), fillings)


@cache
def shipped_bundle(name: str) -> Bundle:
    """A wrinkle that ships; the same one each time.

    Raises:
        InputError: there is none of that name.
    """
    path = library.shipped().get(name)
    if path is None:
        raise DocumentError(f"there is no shipped wrinkle '{name}'; a newer version may have it")
    return read(path)


@cache
def _shipped_by_title() -> dict[str, str]:
    return {shipped_bundle(name).wrinkle.name: name for name in library.shipped()}


def _shipped_name(bundle: Bundle) -> str:
    """The name of a wrinkle that ships; empty for any other one."""
    name = _shipped_by_title().get(bundle.wrinkle.name, "")
    return name if name and shipped_bundle(name).wrinkle == bundle.wrinkle else ""


def _packed(bundle: Bundle) -> dict[str, Any]:
    assets = {
        name: base64.b64encode(bundle.assets[name]).decode() for name in bundle.wrinkle.assets()
    }
    return {"document": json.loads(encode(bundle.wrinkle)), "assets": assets}


def _unpacked(held: Any) -> Bundle:
    document = json.dumps(json.loads(msgspec.json.encode(dict(held["document"])))).encode()
    wrinkle, assets = decode(document), {}
    for name in wrinkle.assets():
        assets[name] = base64.b64decode(held["assets"][name], validate=True)
        if len(assets[name]) > _LARGEST_ASSETS:
            raise DocumentError(f"{name} is too large")
    return Bundle(wrinkle, assets)
