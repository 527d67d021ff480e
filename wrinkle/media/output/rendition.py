"""As what pictures and sound are written: a format, and what is chosen of it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.media.output.colour import BT709, Colour
from wrinkle.media.output.encoding import SOUND_BITS
from wrinkle.media.output.format import Format
from wrinkle.media.output.formats import H264, USUAL_QUALITY

_FEWEST_BITS, _MOST_BITS = 50_000, 2_000_000_000
_LEAST_MEGABYTES, _MOST_MEGABYTES = 0.05, 100_000.0


@dataclass(frozen=True)
class Rendition:
    """What is chosen of a format.

    Attributes:
        form: the format.
        depth: bits of a colour; None for the usual one.
        alpha: whether what is clear stays so.
        quality: 0…100, where the format is not lossless.
        bits: a second of pictures, instead of a quality.
        megabytes: that the whole file may have, instead of both.
        colour: what its values stand for.

    Raises:
        InputError: the format cannot be so.
    """

    form: Format = H264
    depth: int | None = None
    alpha: bool = False
    quality: float = USUAL_QUALITY
    bits: int | None = None
    megabytes: float | None = None
    colour: Colour = BT709

    def __post_init__(self) -> None:
        # Refuses what the format does not have.
        self.form.pixels(self.bits_a_colour, self.alpha)
        if self.colour is not BT709 and not self.form.coloured:
            raise InputError(
                f"{self.form.label} is always sRGB; choose a video format for {self.colour.label}."
            )
        if not 0.0 <= self.quality <= 100.0:
            raise InputError(f"The quality must be within 0 and 100, not {self.quality:g}.")
        if self.form.quality is None and (self.bits is not None or self.megabytes is not None):
            raise InputError(f"{self.form.label} is as large as it is; its size cannot be chosen.")
        if self.bits is not None and not _FEWEST_BITS <= self.bits <= _MOST_BITS:
            raise InputError(
                f"The bit rate must be within {_FEWEST_BITS // 1000} and {_MOST_BITS // 1000} "
                f"kbit/s, not {self.bits / 1000:g}."
            )
        if self.megabytes is not None and not (
            _LEAST_MEGABYTES <= self.megabytes <= _MOST_MEGABYTES
        ):
            raise InputError(
                f"A file can have {_LEAST_MEGABYTES:g} to {_MOST_MEGABYTES:g} MB, not "
                f"{self.megabytes:g}."
            )

    @property
    def bits_a_colour(self) -> int:
        """The depth that is written."""
        if self.depth is not None:
            return self.depth
        kinds = self.form.clear if self.alpha and self.form.clear else self.form.opaque
        return next(iter(kinds))

    @property
    def pixels(self) -> str:
        """FFmpeg's name of the pixel format."""
        return self.form.pixels(self.bits_a_colour, self.alpha)

    @property
    def sent(self) -> str:
        """The pixel format in which its encoder takes frames."""
        # The colours of a palette are chosen when all frames are known.
        return "rgb24" if self.pixels == "pal8" else self.pixels

    def options(self) -> dict[str, str]:
        """The encoder's options for the quality; none where bits say how large it is."""
        if self.form.quality is None or self.bits is not None:
            return {}
        return dict(self.form.quality(self.quality))

    def bits_for(self, seconds: Fraction, sound: bool) -> int | None:
        """Bits a second of pictures with which the file is as large as it may be.

        Raises:
            InputError: so small it cannot be.
        """
        if self.megabytes is None:
            return self.bits
        whole = self.megabytes * 8e6 / max(float(seconds), 1e-3)
        left = int(whole * 0.985) - (SOUND_BITS if sound else 0)
        if left < _FEWEST_BITS:
            raise InputError(
                f"{self.megabytes:g} MB are too few for {float(seconds):.1f} seconds; allow more, "
                "or leave the sound out."
            )
        return left
