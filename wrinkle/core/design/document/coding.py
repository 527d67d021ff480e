"""The document as JSON and back, with faults told by the place where they stand."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from fractions import Fraction
from typing import Any, get_args

import msgspec

from wrinkle.core.design.document.dial_kinds import DIAL_KINDS
from wrinkle.core.design.document.dials import AnyDial
from wrinkle.core.design.document.layer_kinds import LAYER_KINDS, Source
from wrinkle.core.design.document.migrations import migrated
from wrinkle.core.design.document.slot_kinds import SLOT_KINDS
from wrinkle.core.design.document.tagged import struct_from
from wrinkle.core.design.document.wrinkle import FORMAT, Wrinkle
from wrinkle.core.errors import DocumentError
from wrinkle.core.merging import own_name
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS

_KINDS = {
    "float": "a number",
    "int": "a whole number",
    "str": "text",
    "bool": "yes or no",
    "array": "a list",
    "object": "an object",
    "null": "nothing",
}
_CALLED: Mapping[type, str] = {Source: "a kind of layer", AnyDial: "a kind of dial"}
"""The fields whose kinds declare themselves, and what is expected there."""
_PLACE = re.compile(r" - at `(?:key in )?\$?\.?([^`]*)`")
_LONG = 4 << 20
"""Bytes."""
_EXACT = re.compile(r"^-?\d{1,12}(/0*[1-9]\d{0,11})?$")


def encode(wrinkle: Wrinkle) -> bytes:
    """The text of ``wrinkle.json``: UTF-8, indented, the same bytes for the same wrinkle.

    A very long one is not indented: its blanks would be four fifths of it.
    """
    raw = msgspec.json.encode(wrinkle, enc_hook=to_json)
    return (msgspec.json.format(raw, indent=2) if len(raw) < _LONG else raw) + b"\n"


def decode(text: bytes) -> Wrinkle:
    """The wrinkle in the text of a ``wrinkle.json``.

    Raises:
        DocumentError: it is no such text, comes from a newer version, or holds an impossible
            value; the message names the place (``layers[2].opacity.rest: …``).
    """
    older = _format_of(text) < FORMAT
    try:
        if older:
            raw = migrated(msgspec.json.decode(text), FORMAT)
            return msgspec.convert(raw, Wrinkle, dec_hook=from_json)
        return msgspec.json.decode(text, type=Wrinkle, dec_hook=from_json)
    except msgspec.ValidationError as fault:
        raise DocumentError(_sentence(str(fault))) from None
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise DocumentError(f"its text is damaged ({fault})") from None
    except RecursionError:
        raise DocumentError("its text is damaged (too many brackets)") from None


def check_lasting(wrinkle: Wrinkle, before: Wrinkle | None = None) -> None:
    """Looks whether a wrinkle is the same once it was written and read again.

    Args:
        wrinkle: that is looked at.
        before: one that is known to last; what both share is not looked at again.

    Raises:
        DocumentError: it holds what has no place in a file, such as a number that is none; the
            message says what.
    """
    try:
        lasting = _lasts(wrinkle, before, Wrinkle)
        reason = "it would be another one once it was saved"
    except msgspec.ValidationError as fault:
        lasting, reason = False, _sentence(str(fault))
    except (DocumentError, TypeError, ValueError, RecursionError) as fault:
        lasting, reason = False, str(fault)
    if not lasting:
        raise DocumentError(f"That cannot be kept in a wrinkle: {reason}. It stays as it was.")


def _lasts(value: Any, before: Any, kind: Any) -> bool:
    """Whether a part of a document is the same once it was written and read again.

    Parts are checked against each other when the document is made; here each is looked at alone.
    """
    if value is before:
        return True
    if isinstance(value, msgspec.Struct) and type(value) is type(before):
        return all(
            _lasts(getattr(value, field.name), getattr(before, field.name), field.type)
            for field in msgspec.structs.fields(value)
        )
    kinds = get_args(kind)
    if isinstance(value, tuple) and isinstance(before, tuple) and kinds[1:] == (Ellipsis,):
        known = {id(part) for part in before}
        named = {own_name(part): part for part in before}
        return all(
            id(part) in known or _lasts(part, named.get(own_name(part)), kinds[0]) for part in value
        )
    text = msgspec.json.encode(value, enc_hook=to_json)
    return bool(msgspec.json.decode(text, type=kind, dec_hook=from_json) == value)


def schema() -> str:
    """The JSON Schema of ``wrinkle.json``."""
    (found, *_), parts = msgspec.json.schema_components(
        [Wrinkle, *_structs_of(Source).values(), *_structs_of(AnyDial).values()],
        schema_hook=_schema_of,
        ref_template="#/$defs/{name}",
    )
    found["$defs"] = parts
    found["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    found["title"] = f"wrinkle.json, format {FORMAT}"
    for part, field, registry in (
        ("Slot", "kind", SLOT_KINDS),
        ("WrinkleSound", "made", MADE_SOUNDS),
    ):
        found["$defs"][part]["properties"][field]["enum"] = list(registry)
    return json.dumps(found, indent=2, ensure_ascii=False) + "\n"


def _format_of(text: bytes) -> int:
    """The number of the format, which this version reads."""

    class Head(msgspec.Struct):
        format: int

    try:
        head = msgspec.json.decode(text, type=Head)
    except msgspec.ValidationError as fault:
        raise DocumentError(_sentence(str(fault))) from None
    except (msgspec.DecodeError, UnicodeDecodeError) as fault:
        raise DocumentError(f"its text is damaged ({fault})") from None
    except RecursionError:
        raise DocumentError("its text is damaged (too many brackets)") from None
    if head.format > FORMAT:
        raise DocumentError(
            f"it was saved by a newer version (format {head.format}; this version reads up to "
            f"{FORMAT}); update Wrinkle to open it"
        )
    if head.format < 1:
        raise DocumentError(f"format: expected 1 to {FORMAT}, found {head.format}")
    return head.format


def to_json(value: Any) -> Any:
    """What msgspec cannot write by itself: exact times as text."""
    if isinstance(value, Fraction):
        return str(value)
    raise TypeError(f"{type(value)} has no place in the file")


def from_json(kind: type, value: Any) -> Any:
    """What msgspec cannot read by itself."""
    if kind in _CALLED:
        return struct_from(value, _CALLED[kind], _structs_of(kind), from_json)
    if kind is Fraction:
        if not isinstance(value, str) or not _EXACT.match(value):
            raise ValueError("expected an exact number as text, such as '7/15'")
        return Fraction(value)
    raise TypeError(f"{kind} has no place in the file")


def _schema_of(kind: type) -> dict[str, Any]:
    if kind in _CALLED:
        found = _structs_of(kind).values()
        return {"anyOf": [{"$ref": f"#/$defs/{struct.__name__}"} for struct in found]}
    if kind is Fraction:
        return {"type": "string", "pattern": _EXACT.pattern}
    raise TypeError(f"{kind} has no place in the file")


def _structs_of(kind: type) -> dict[str, type[msgspec.Struct]]:
    """The structs of a field whose kinds declare themselves, by their word in the file."""
    if kind is Source:
        return {word: one.source for word, one in LAYER_KINDS.items()}
    return {word: one.dial for word, one in DIAL_KINDS.items()}


def _sentence(fault: str) -> str:
    """msgspec's message with the place first and kinds in plain words."""
    # A part that is read by a road of its own tells its own place first, and then its owner's.
    places = [place for place in reversed(_PLACE.findall(fault)) if place]
    text, place = _PLACE.sub("", fault), ".".join(places)
    text = re.sub(r"`([^`]*)`", lambda m: _plain(m[1]), text)
    text = text.replace(", got ", ", found ")
    text = text[0].lower() + text[1:] if place else text
    return f"{place}: {text.rstrip('.')}" if place else text.rstrip(".")


def _plain(kinds: str) -> str:
    return " or ".join(_KINDS.get(kind.strip(), kind.strip()) for kind in kinds.split("|"))
