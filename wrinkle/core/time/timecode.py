"""Timecode after SMPTE ST 12-1, with drop-frame counting at 29.97 and 59.94."""

from __future__ import annotations

import re
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.time.rate import FrameRate

_SHAPE = re.compile(r"^(-?)(\d{1,3}):(\d{1,2}):(\d{1,2})([:;])(\d{1,2})$")
_DROPPED = {Fraction(30000, 1001): 2, Fraction(60000, 1001): 4}


def can_drop(rate: FrameRate) -> bool:
    """Whether drop-frame counting is defined for ``rate``."""
    return rate.per_second in _DROPPED


def timecode(frame: int, rate: FrameRate, drop: bool | None = None) -> str:
    """The timecode ``HH:MM:SS:FF`` of ``frame``; ``;`` before the frames marks drop-frame.

    Args:
        frame: the frame's number; a negative one gives a leading minus.
        rate: frames per second.
        drop: count with dropped numbers; by default wherever it is defined.

    Raises:
        InputError: drop-frame was asked for at a rate that has none.

    Source: SMPTE ST 12-1: two numbers (four at 59.94) are left out at the start of each minute
    that is not a multiple of ten.
    """
    drop = can_drop(rate) if drop is None else drop
    count = abs(frame)
    if drop:
        count += _skipped(count, rate)
    base = rate.nominal
    seconds, frames = divmod(count, base)
    minutes, seconds = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    sign = "-" if frame < 0 else ""
    return f"{sign}{hours:02}:{minutes:02}:{seconds:02}{';' if drop else ':'}{frames:02}"


def parse_timecode(text: str, rate: FrameRate) -> int:
    """The frame that ``text`` names; the inverse of :func:`timecode`.

    Raises:
        InputError: the text is no timecode, or names a number that drop-frame leaves out.
    """
    match = _SHAPE.match(text.strip())
    if match is None:
        raise InputError(f"'{text}' is not a timecode; write one such as 00:00:02:11.")
    sign, hours, minutes, seconds, mark, frames = match.groups()
    base = rate.nominal
    if int(minutes) > 59 or int(seconds) > 59 or int(frames) >= base:
        raise InputError(
            f"'{text}' is not a timecode at {rate.label} frames a second; minutes and seconds "
            f"go to 59, frames to {base - 1}."
        )
    whole_minutes = int(hours) * 60 + int(minutes)
    count = (whole_minutes * 60 + int(seconds)) * base + int(frames)
    if mark == ";":
        dropped = _dropped(rate)
        if int(minutes) % 10 and int(seconds) == 0 and int(frames) < dropped:
            raise InputError(f"'{text}' does not exist: drop-frame timecode leaves it out.")
        count -= dropped * (whole_minutes - whole_minutes // 10)
    return -count if sign else count


def _dropped(rate: FrameRate) -> int:
    if not can_drop(rate):
        raise InputError(
            f"Drop-frame timecode does not exist at {rate.label} frames a second; "
            "write a colon before the frames."
        )
    return _DROPPED[rate.per_second]


def _skipped(count: int, rate: FrameRate) -> int:
    """How many numbers were left out before real frame ``count``."""
    dropped = _dropped(rate)
    minute = rate.nominal * 60 - dropped
    ten_minutes = minute * 10 + dropped
    tens, rest = divmod(count, ten_minutes)
    minutes = max(0, (rest - dropped) // minute)
    return dropped * (9 * tens + minutes)
