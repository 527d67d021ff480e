"""Edits of what is set aside."""

from __future__ import annotations

from msgspec.structs import replace

from wrinkle.core.design.document.set_aside import About, SetAside
from wrinkle.core.design.document.wrinkle import Wrinkle


def set_aside(wrinkle: Wrinkle, about: About, reason: str) -> Wrinkle:
    """A finding does not count any more.

    Raises:
        InputError: there is no reason.
    """
    # Addresses are words of their own kind, which no file has.
    check, layer, address = (str(word) for word in about)
    one = SetAside(check, reason.strip(), layer, address)
    kept = tuple(x for x in wrinkle.set_aside if x.about != about)
    return replace(wrinkle, set_aside=(*kept, one))


def count_again(wrinkle: Wrinkle, about: About) -> Wrinkle:
    """A finding that was set aside counts again."""
    kept = tuple(x for x in wrinkle.set_aside if x.about != about)
    return replace(wrinkle, set_aside=kept)


def reason_for(wrinkle: Wrinkle, about: About) -> str:
    """Why a finding was set aside; empty where it counts."""
    return next((x.reason for x in wrinkle.set_aside if x.about == about), "")
