"""The files of sound that ship: what stands in a slot for sound until it is filled."""

from __future__ import annotations

from pathlib import Path
from typing import Final

_FOLDER = Path(__file__).parent / "sounds"
STAND_IN_SOUNDS: Final = {
    name: _FOLDER / f"{name}.flac" for name in ("surge", "thump", "snap", "swish")
}
"""By name; each strikes once, and the first one is what a new slot has."""
