"""A quarter turn through the cut, which stays what it is whatever becomes of those that ship."""

from pathlib import Path

QUARTER_TURN = Path(__file__).parent / "turn"
"""Its folder: a lane with a mirrored half, 12 frames on each side at 30 frames a second."""
