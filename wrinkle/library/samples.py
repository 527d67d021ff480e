"""The small clips on which wrinkles are shown while there are no others."""

from __future__ import annotations

from pathlib import Path
from typing import Final

_FOLDER = Path(__file__).parent / "clips"
SAMPLES: Final = {"outgoing": _FOLDER / "kite.mp4", "incoming": _FOLDER / "pier.mp4"}
"""By the slot that each fills."""
