"""The kinds under which wrinkles are found."""

from __future__ import annotations

from typing import Final

KINDS: Final = (
    "turn", "zoom", "slide", "wipe", "matte", "mask", "glitch", "flash", "colour", "split", "title",
)  # fmt: skip
