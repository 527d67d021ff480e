"""The kinds under which wrinkles are found."""

from __future__ import annotations

from collections.abc import Collection
from typing import Final

KINDS: Final = (
    "turn", "zoom", "slide", "wipe", "matte", "mask", "glitch", "flash", "colour", "split", "title",
)  # fmt: skip
_TITLE = "title"


def main_kind(tags: Collection[str]) -> str:
    """The kind under which a wrinkle stands in lists; empty where it has none.

    One that carries a title is taken for that, whatever else it does.
    """
    if _TITLE in tags:
        return _TITLE
    return next((kind for kind in KINDS if kind in tags), "")


def rank(tags: Collection[str]) -> int:
    """Where its kind stands among all kinds; last where it has none."""
    kind = main_kind(tags)
    return KINDS.index(kind) if kind else len(KINDS)
