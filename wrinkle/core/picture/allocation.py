"""Memory of pictures that are let go is kept for the next ones.

A picture takes megabytes, which the C library gives back to the system and asks for anew at each
pass; the system clears every page of it first. With it kept a frame takes about a fifth less.
What is kept lies in pools of the C library, by default one for each thread that ever asked; no more
pools than threads that run at once leave half as much lying idle.
"""

from __future__ import annotations

import ctypes
import os
import sys
from contextlib import suppress

_TRIM_THRESHOLD, _MMAP_THRESHOLD, _MOST_POOLS = -1, -3, -8
"""As <malloc.h> of the GNU C library numbers them."""
_LARGEST_KEPT = 32 << 20
"""In bytes; the C library takes no larger limit."""
_MOST_KEPT = 64 << 20


def keep_pages() -> None:
    """Does so for the whole program where the C library can."""
    if sys.platform == "linux":
        with suppress(AttributeError, OSError):
            library = ctypes.CDLL(None)
            library.mallopt(_MMAP_THRESHOLD, _LARGEST_KEPT)
            library.mallopt(_TRIM_THRESHOLD, _MOST_KEPT)
            library.mallopt(_MOST_POOLS, max(2, os.cpu_count() or 1))
