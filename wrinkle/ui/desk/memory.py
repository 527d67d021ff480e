"""Memory that is free goes back to the system: the allocator keeps what threads have let go of.

And what lasts as long as the program is not looked through for what is let go of.
"""

from __future__ import annotations

import ctypes
import gc
import os
import sys
from contextlib import suppress
from pathlib import Path

_LEAST = 160 << 20
_PAGE = os.sysconf("SC_PAGE_SIZE")


def taken() -> int:
    """The bytes that the program takes; 0 where the system does not say."""
    with suppress(OSError, ValueError, IndexError):
        return int(Path("/proc/self/statm").read_text().split()[1]) * _PAGE
    return 0


def budget_within(allowed: int, used: int, now: int) -> int:
    """What kept pictures may take so that the program stays about within what a person allowed.

    One number is said, and people mean all that the program takes by it.

    Args:
        allowed: what a person allowed for pictures.
        used: what they take now.
        now: what the program takes, pictures and all; 0 for not known.
    """
    if not now:
        return allowed
    room = allowed - max(now - used, 0)
    return min(max(room, min(_LEAST, allowed)), allowed)


def give_back() -> None:
    """Does so where the C library can; with a gigabyte in use it takes some milliseconds."""
    if sys.platform == "linux":
        with suppress(AttributeError, OSError):
            ctypes.CDLL(None).malloc_trim(0)


def keep_all_there_is() -> None:
    """What there is by now, modules and the window, is not looked through again.

    Python looks through all objects for rings that nobody holds, and meanwhile no thread of the
    program goes on: with two hundred thousand of libraries it takes a quarter of a second.
    """
    gc.freeze()
