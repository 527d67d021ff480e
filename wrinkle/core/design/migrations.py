"""Older formats of ``wrinkle.json``: one step for each, from a format to the next one.

A step changes the plain JSON, before it is read as a document: the types are those of today, and a
step must do the same for ever. Each is tested on a file that was saved in its format.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

Raw = dict[str, Any]
MIGRATIONS: Mapping[int, Callable[[Raw], Raw]] = {}
"""By the format that they start from. Format 1 is the only one so far."""


def migrated(raw: Raw, goal: int) -> Raw:
    """A document of an older format as one of the format ``goal``."""
    for number in range(raw["format"], goal):
        raw = {**MIGRATIONS[number](raw), "format": number + 1}
    return raw
