"""The size that a picture file promises, read before any of its pixels.

Sources: PNG (W3C), section 11.2.1, IHDR; JPEG (ITU-T T.81), B.2.2, the frame header; WebP container
(RFC 9649); TIFF 6.0, section 2, tags 256 and 257.
"""

from __future__ import annotations

import struct

from wrinkle.core.picture.image import Size

_PNG, _JPEG = b"\x89PNG\r\n\x1a\n", b"\xff\xd8"
_TIFF = {b"II*\0": "<", b"MM\0*": ">"}
_FRAMES = frozenset(range(0xC0, 0xD0)) - {0xC4, 0xC8, 0xCC}
_ALONE = frozenset({0x01, *range(0xD0, 0xD8)})
_SHORT, _LONG = 3, 4
_WEBP_HEAD = 30


def promised_size(content: bytes) -> Size | None:
    """Width and height of a PNG, JPEG, WebP or TIFF file.

    None where it is none of them, or a PNG whose parts are longer than the file: OpenCV makes room
    for as much as they say.
    """
    try:
        if content.startswith(_PNG):
            return Size(*struct.unpack(">II", content[16:24])) if _whole_png(content) else None
        if content.startswith(_JPEG):
            return _jpeg(content)
        if content[:4] == b"RIFF" and content[8:12] == b"WEBP" and len(content) >= _WEBP_HEAD:
            return _webp(content)
        if content[:4] in _TIFF:
            return _tiff(content, _TIFF[content[:4]])
    except (struct.error, IndexError):
        pass
    return None


def _whole_png(content: bytes) -> bool:
    at = len(_PNG)
    while at + 8 <= len(content):
        (length,) = struct.unpack(">I", content[at : at + 4])
        if content[at + 4 : at + 8] == b"IEND":
            return True
        at += 12 + length
    return False


def _jpeg(content: bytes) -> Size | None:
    at = 2
    while at + 4 <= len(content):
        if content[at] != 0xFF or content[at + 1] == 0xFF:
            at += 1
            continue
        marker = content[at + 1]
        if marker in _FRAMES:
            height, width = struct.unpack(">HH", content[at + 5 : at + 9])
            return Size(width, height)
        alone = marker in _ALONE
        at += 2 if alone else 2 + struct.unpack(">H", content[at + 2 : at + 4])[0]
    return None


def _webp(content: bytes) -> Size | None:
    kind = content[12:16]
    if kind == b"VP8X":
        width, height = (int.from_bytes(content[n : n + 3], "little") + 1 for n in (24, 27))
        return Size(width, height)
    if kind == b"VP8L":
        bits = int.from_bytes(content[21:25], "little")
        return Size((bits & 0x3FFF) + 1, (bits >> 14 & 0x3FFF) + 1)
    if kind == b"VP8 ":
        width, height = struct.unpack("<HH", content[26:30])
        return Size(width & 0x3FFF, height & 0x3FFF)
    return None


def _tiff(content: bytes, order: str) -> Size | None:
    (at,) = struct.unpack(order + "I", content[4:8])
    (count,) = struct.unpack(order + "H", content[at : at + 2])
    found: dict[int, int] = {}
    for number in range(count):
        entry = content[at + 2 + 12 * number : at + 14 + 12 * number]
        tag, kind, _ = struct.unpack(order + "HHI", entry[:8])
        if tag in (256, 257) and kind in (_SHORT, _LONG):
            form, length = ("H", 2) if kind == _SHORT else ("I", 4)
            (found[tag],) = struct.unpack(order + form, entry[8 : 8 + length])
    return Size(found[256], found[257]) if len(found) == 2 else None
