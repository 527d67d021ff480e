"""What becomes of a clip's own sound where its pictures run at another speed."""

from __future__ import annotations

from enum import Enum


class SoundRun(Enum):
    """How it is heard; the value is its word."""

    AS_IT_WAS = "as it was"
    ALONG = "runs along"
    """As fast as the pictures, and higher where they are faster."""
    PITCH_KEPT = "pitch kept"
    """As fast as the pictures, and as high as it was."""
