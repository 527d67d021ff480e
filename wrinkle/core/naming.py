"""Names that nothing else has."""

from __future__ import annotations

from collections.abc import Callable
from itertools import count


def free_name(name: str, taken: Callable[[str], bool], mark: str = " ") -> str:
    """The name, or else the first of ``name 2``, ``name 3``, … that is not taken."""
    if not taken(name):
        return name
    return next(x for x in (f"{name}{mark}{n}" for n in count(2)) if not taken(x))
