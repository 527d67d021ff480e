"""Faces of fonts, by bytes or family, and which of them has a character."""

from __future__ import annotations

import struct
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from typing import Any

_KEPT = 16
Fonts = Mapping[tuple[str, bool], bytes]
"""The bytes of the font files that ship, by the word of a face and whether it is the heavy cut."""
_TRUETYPE_FONT, _CFF_FONT = 0x00010000, int.from_bytes(b"OTTO", "big")
_CFF_TABLE = int.from_bytes(b"CFF ", "big")
_KEPT_CHARACTERS = 4096


class ShippedFace(Enum):
    """The faces that are there on every machine; the value is the word in the documents."""

    PLAIN = "plain"
    CONDENSED = "condensed"
    SERIF = "serif"
    HAND = "hand"


@dataclass(frozen=True, eq=False)
class Face:
    """One face for both libraries: outlines come from one, the layout from the other.

    Attributes:
        typeface: of Skia.
        shaping: of HarfBuzz.
        content: the font file that both read from, which must not go before them.
    """

    typeface: Any
    shaping: Any
    content: bytes

    def has(self, character: str) -> bool:
        """Whether there is a glyph for a character."""
        return bool(self.typeface.unicharToGlyph(ord(character)))


@lru_cache(maxsize=_KEPT)
def face_of(font: bytes | str, bold: bool) -> Face:
    """The face of a font file's bytes, or of a family of the system; the system's own at need."""
    import skia

    if isinstance(font, bytes):
        typeface = skia.Typeface.MakeFromData(skia.Data(font))
        if typeface is not None:
            return _face(typeface, font)
    else:
        typeface = skia.FontMgr().matchFamilyStyle(font, _style(bold))
    if typeface is None:
        typeface = skia.FontMgr().legacyMakeTypeface("", skia.FontStyle.Normal())
    return _face(typeface)


@lru_cache(maxsize=_KEPT_CHARACTERS)
def other_face_with(character: str, bold: bool) -> Face | None:
    """A face of the system that has a character; None where there is none."""
    import skia

    found = skia.FontMgr().matchFamilyStyleCharacter("", _style(bold), [], ord(character))
    return _system_face(found.uniqueID(), found) if found is not None else None


def system_fonts() -> list[str]:
    """The family names of the fonts that the system has."""
    import skia

    known = skia.FontMgr()
    return sorted({known.getFamilyName(index) for index in range(known.countFamilies())})


_SYSTEM_FACES: dict[int, Face] = {}


def _system_face(identity: int, typeface: Any) -> Face:
    """One face for all characters that it is found by, so that they are laid out together."""
    if identity not in _SYSTEM_FACES:
        _SYSTEM_FACES[identity] = _face(typeface)
    return _SYSTEM_FACES[identity]


def _face(typeface: Any, content: bytes | None = None) -> Face:
    import uharfbuzz

    content = content if content is not None else _file_of(typeface)
    return Face(typeface, uharfbuzz.Face(content), content)


def _file_of(typeface: Any) -> bytes:
    """The tables of a face as the bytes of a font file (OpenType 1.9, the table directory)."""
    tags = sorted(typeface.getTableTags())
    tables = [bytes(typeface.copyTableData(tag)) for tag in tags]
    version = _CFF_FONT if _CFF_TABLE in tags else _TRUETYPE_FONT
    # The three numbers for binary search are read by nobody any more.
    head = struct.pack(">IHHHH", version, len(tags), 0, 0, 0)
    place = len(head) + 16 * len(tags)
    directory, body = b"", b""
    for tag, table in zip(tags, tables, strict=True):
        directory += struct.pack(">IIII", tag, 0, place + len(body), len(table))
        body += table + b"\0" * (-len(table) % 4)
    return head + directory + body


def _style(bold: bool) -> Any:
    import skia

    return skia.FontStyle.Bold() if bold else skia.FontStyle.Normal()
