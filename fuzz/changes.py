"""Changes of bytes, of text and of JSON, each decided by its dice alone."""

from __future__ import annotations

import json
import random
import re
from typing import Any

_NUMBERS = (
    "0", "-1", "1", "2", "65535", "65536", "2147483647", "4294967296", "-9223372036854775808",
    "1e9", "1e15", "1e99", "1e308", "-1e308", "1e999", "1e-300", "0.0000001", "nan", "inf",
    "0x10", "1/0",
)  # fmt: skip
_WORDS = (
    "",
    " ",
    "\0",
    "\ud800",
    "x" * 3_000,
    "<img src=x>",
    "../a",
    "..",
    "/dev/zero",
    "\n\x1b[31m",
)
_VALUES: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 3.5, 1e-9, 1e9, 1e15, 1e16, 1e308, 2**63, "", "0", "1/3", "1e9",
    "x" * 300, "..", [], {}, [0.0] * 6, [0.5, 0.5], [[]], "t", "1/0", "t**t", "9**9**9",
)  # fmt: skip
_BYTES = (b"\0", b"\xff", b"\xff\xff\xff\xff", b"\0\0\0\0", b"\x7f\xff\xff\xff", b"\x80\0\0\0")
_NUMBER = re.compile(rb"-?\d+(?:\.\d+)?(?:e-?\d+)?")


def changed_bytes(content: bytes, dice: random.Random) -> bytes:
    """Some bytes are others, away, doubled, or moved."""
    found = bytearray(content)
    for _ in range(dice.choice((1, 1, 1, 2, 3, 8, 40))):
        if not found:
            break
        at = dice.randrange(len(found))
        # Most of what is told of a file stands near its start.
        if dice.random() < 0.4:
            at = dice.randrange(min(len(found), 400))
        length = dice.choice((1, 1, 2, 4, 16, 200, len(found) // 3))
        what = dice.randrange(6)
        if what == 0:
            found[at] ^= 1 << dice.randrange(8)
        elif what == 1:
            found[at : at + length] = dice.choice(_BYTES)
        elif what == 2:
            del found[at : at + length]
        elif what == 3:
            found[at:at] = found[at : at + length] * dice.choice((1, 2, 9))
        elif what == 4:
            found[at : at + length] = dice.randbytes(length)
        else:
            del found[at:]
    return bytes(found)


def changed_text(content: bytes, dice: random.Random) -> bytes:
    """Numbers become odd ones, pieces come many times; now and then bytes change."""
    if dice.random() < 0.25:
        return changed_bytes(content, dice)
    for _ in range(dice.choice((1, 1, 2, 4))):
        spots = list(_NUMBER.finditer(content))
        if spots and dice.random() < 0.6:
            spot = dice.choice(spots)
            number = dice.choice(_NUMBERS).encode()
            content = content[: spot.start()] + number + content[spot.end() :]
        elif content:
            start = dice.randrange(len(content))
            piece = content[start : start + dice.choice((3, 20, 200))]
            at = dice.randrange(len(content))
            extra = piece * dice.choice((1, 2, 50, 2_000)) if dice.random() < 0.7 else _word(dice)
            content = content[:at] + extra + content[at:]
    return content


def changed_json(text: bytes, dice: random.Random) -> bytes:
    """Values become others, lists grow, keys are renamed; now and then the text changes."""
    if dice.random() < 0.05:
        return changed_text(text, dice)
    document = json.loads(text)
    for _ in range(dice.choice((1, 1, 1, 2))):
        places = list(_places(document))
        holder, key = dice.choice(places)
        what = dice.random()
        if what < 0.9:
            holder[key] = _like(holder[key], dice)
        elif what < 0.92 and isinstance(holder, dict):
            holder[dice.choice((f"{key}x", "kind", "rest", "track", "id"))] = holder[key]
        elif what < 0.96:
            other, there = dice.choice(places)
            holder[key] = json.loads(json.dumps(other[there]))
        elif isinstance(holder[key], list) and holder[key]:
            holder[key] = holder[key] * dice.choice((2, 3, 60))
        else:
            del holder[key]
        if not document:
            break
    return json.dumps(document).encode("utf-8", "surrogatepass")


def _like(value: Any, dice: random.Random) -> Any:
    """Another value, mostly of the same kind: that gets further."""
    if dice.random() < 0.05:
        return dice.choice(_VALUES)
    if isinstance(value, bool):
        return not value
    if isinstance(value, dict | list):
        return value * 2 if isinstance(value, list) else value
    if dice.random() < 0.02:
        return dice.choice(_VALUES)
    if isinstance(value, int | float):
        odd = (0, 1, -1, 1e-9, 1e-300, 1e9, 1e14, 1e15, 1e300, 359.99, 720, 100, 50)
        return dice.choice((value * -1, value * 1e3, value / 1e3, dice.uniform(-500, 500), *odd))
    if isinstance(value, str):
        times = ("0", "1/1000000000", "-3599", "7/30", "t/0", "sin(1e9)", "-1/30", "1000000/3")
        return dice.choice((*times, *_WORDS, value.upper(), value + "x"))
    return dice.choice(_VALUES)


def _places(value: Any) -> Any:
    if isinstance(value, dict):
        for key, inner in list(value.items()):
            yield value, key
            yield from _places(inner)
    elif isinstance(value, list):
        for number, inner in enumerate(list(value)):
            yield value, number
            yield from _places(inner)


def _word(dice: random.Random) -> bytes:
    return dice.choice(_WORDS).encode("utf-8", "surrogatepass")
