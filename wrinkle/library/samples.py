"""The clips that ship: small ones on which wrinkles are shown, and those of the demo."""

from __future__ import annotations

from pathlib import Path
from typing import Final

_FOLDER = Path(__file__).parent / "clips"
SAMPLES: Final = {"outgoing": _FOLDER / "kite.mp4", "incoming": _FOLDER / "pier.mp4"}
"""On which wrinkles are shown while there are no others, by the slot that each fills."""
DEMO: Final = _FOLDER / "demo"
"""The folder of the demo."""
_ORDER = ["dunes", "box_kite", "tail", "porthole", "workshop", "pier", "lighthouse", "finale"]
DEMO_CLIPS: Final = {name: DEMO / f"{name}.mp4" for name in _ORDER}
"""The eight clips of the demo in their running order."""
DEMO_PIECE: Final = DEMO / "kite_day.otio"
"""The eight clips with every cut dressed."""
