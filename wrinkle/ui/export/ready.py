"""Ready choices: what most people write, by what it is for."""

from __future__ import annotations

from dataclasses import dataclass

from wrinkle.core.picture.image import Size


@dataclass(frozen=True)
class Ready:
    """One choice for all fields at once.

    Attributes:
        name: what it is for.
        form: the key of the format.
        size, rate: of what is written; None for those of what is shown.
        quality: of the pictures.
        depth: bits of a colour; None for the usual one.
        smaller: how much smaller than what is shown, where no size is said.
    """

    name: str
    form: str = "h264"
    size: Size | None = None
    rate: str | None = None
    quality: float = 75.0
    depth: int | None = None
    smaller: float = 1.0


READY = (
    Ready("As it is, to upload"),
    Ready("Upright 1080×1920, 30", size=Size(1080, 1920), rate="30"),
    Ready("Upright 1080×1920, 60", size=Size(1080, 1920), rate="60"),
    Ready("Square 1080×1080", size=Size(1080, 1080)),
    Ready("4:5, 1080×1350", size=Size(1080, 1350)),
    Ready("Wide 1920×1080", size=Size(1920, 1080)),
    Ready("Small to send", quality=50.0, smaller=0.5),
    Ready("To go on editing", "prores422"),
    Ready("To keep, every bit", "ffv1", depth=16),
    Ready("What is heard, alone", "wav"),
    Ready("A picture that moves", "webp", quality=70.0, smaller=0.4),
)
