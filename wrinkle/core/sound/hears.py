"""What is heard of a use or a piece."""

from __future__ import annotations

from enum import Enum


class Hears(Enum):
    """The sound of the clips, that of wrinkles, both, or nothing."""

    BOTH = "both"
    CLIPS = "clips"
    WRINKLE = "wrinkle"
    NONE = "none"

    @property
    def clips(self) -> bool:
        """Whether clips are heard."""
        return self in (Hears.BOTH, Hears.CLIPS)

    @property
    def wrinkles(self) -> bool:
        """Whether the sounds of wrinkles are heard."""
        return self in (Hears.BOTH, Hears.WRINKLE)
