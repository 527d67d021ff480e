"""Where a video that is refreshed bit by bit can be entered: some pictures later than it says.

Encoders that refresh a picture in strips mark a place to enter by a message, *recovery point*,
that says how many pictures later all of it is there (ITU-T H.264, D.1.8; ITU-T H.265, D.2.8).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from av.packet import Packet
from av.video.stream import VideoStream

_RECOVERY_POINT = 6
_LONGEST = 1 << 16
"""Bytes of a message that is looked at."""


def recovery_of(stream: VideoStream) -> Callable[[Packet[VideoStream]], int]:
    """What tells of a packet after how many pictures all is there; 0 at once, or if not known."""
    name = stream.codec_context.name
    if name not in ("h264", "hevc"):
        return lambda packet: 0
    is_hevc = name == "hevc"
    prefix = _prefix_length(stream.codec_context.extradata or b"", is_hevc)

    def pictures_until_whole(packet: Packet[VideoStream]) -> int:
        for unit in _units(bytes(packet), prefix):
            kind = unit[0] >> 1 & 0x3F if is_hevc else unit[0] & 0x1F
            if kind in ((16, 17, 18, 19, 20, 21) if is_hevc else (5,)):
                # Pictures that need no other one.
                return 0
            if kind == (39 if is_hevc else 6):
                found = _recovery(unit[2 if is_hevc else 1 :], is_hevc)
                if found is not None:
                    return found
        return 0

    return pictures_until_whole


def _prefix_length(extra: bytes, is_hevc: bool) -> int:
    """How many bytes say the length of a unit; 0 where units are set apart by marks."""
    if len(extra) > 22 and is_hevc and extra[0] == 1:
        return (extra[21] & 3) + 1
    if len(extra) > 6 and not is_hevc and extra[0] == 1:
        return (extra[4] & 3) + 1
    return 0


def _units(content: bytes, prefix: int) -> Iterator[bytes]:
    if not prefix:
        for part in content.split(b"\x00\x00\x01")[1:]:
            if part:
                yield part
        return
    at = 0
    while at + prefix < len(content):
        end = at + prefix + int.from_bytes(content[at : at + prefix], "big")
        unit = content[at + prefix : end]
        if unit:
            yield unit
        at = end


def _recovery(content: bytes, is_hevc: bool) -> int | None:
    """What a message says of recovery; None where it says nothing."""
    content = content[:_LONGEST].replace(b"\x00\x00\x03", b"\x00\x00")
    at = 0
    while at + 2 <= len(content) and content[at] != 0x80:
        kind = size = 0
        for number in range(2):
            value = 0
            while at < len(content) and content[at] == 0xFF:
                value, at = value + 255, at + 1
            if at >= len(content):
                return None
            value, at = value + content[at], at + 1
            kind, size = (value, size) if number == 0 else (kind, value)
        if kind == _RECOVERY_POINT:
            code = _exponential(content[at : at + size])
            if not is_hevc:
                return code
            # Signed: odd codes are above 0.
            return (code + 1) // 2 if code % 2 else 0
        at += size
    return None


def _exponential(content: bytes) -> int:
    """The first Exp-Golomb code of some bytes (ITU-T H.264, 9.1)."""
    bits = "".join(f"{one:08b}" for one in content[:8])
    zeros = len(bits) - len(bits.lstrip("0"))
    return int(bits[zeros : 2 * zeros + 1] or "1", 2) - 1
