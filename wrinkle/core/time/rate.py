"""Frame rates as exact fractions; frames and seconds from each other without drift."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.errors import InputError

_NTSC = {
    "23.98": Fraction(24000, 1001),
    "23.976": Fraction(24000, 1001),
    "29.97": Fraction(30000, 1001),
    "59.94": Fraction(60000, 1001),
}
_HIGHEST = 1000


@dataclass(frozen=True, order=True)
class FrameRate:
    """Frames per second as an exact fraction, above 0 and at most 1000.

    Frame ``n`` stands at ``n / rate`` seconds and lasts until frame ``n + 1``; frames before
    time 0 are negative.

    Raises:
        InputError: the rate is not above 0 and at most 1000.
    """

    per_second: Fraction

    def __post_init__(self) -> None:
        if not 0 < self.per_second <= _HIGHEST:
            raise InputError(
                f"A frame rate of {self.per_second} is not possible; use a value above 0 and "
                f"at most {_HIGHEST}, such as 30 or 30000/1001."
            )

    @classmethod
    def of(cls, numerator: int, denominator: int = 1) -> FrameRate:
        """The rate ``numerator / denominator``.

        Raises:
            InputError: it is no rate, or none that clips have.
        """
        if denominator == 0:
            raise InputError("A frame rate cannot be divided by 0; use one such as 30000/1001.")
        return cls(Fraction(numerator, denominator))

    @classmethod
    def parse(cls, text: str) -> FrameRate:
        """The rate that a person wrote: ``30``, ``29.97``, ``30000/1001`` or ``12.5``.

        Raises:
            InputError: it is no rate, or none that clips have.
        """
        cleaned = text.strip().removesuffix("fps").strip()
        if cleaned in _NTSC:
            return cls(_NTSC[cleaned])
        try:
            return cls(Fraction(cleaned))
        except (ValueError, ZeroDivisionError):
            raise InputError(
                f"'{text}' is not a frame rate; write one such as 30, 29.97 or 30000/1001."
            ) from None

    def seconds(self, frame: int) -> Fraction:
        """The time of ``frame`` in seconds."""
        return frame / self.per_second

    def frame_at(self, seconds: Fraction) -> int:
        """The frame that is shown at ``seconds``: the last one that starts at or before it."""
        above, below = self._frames(seconds)
        return above // below

    def frames_until(self, seconds: Fraction) -> int:
        """The first frame that starts at or after ``seconds``."""
        above, below = self._frames(seconds)
        return -(-above // below)

    def nearest_frame(self, seconds: Fraction) -> int:
        """The frame that starts closest to ``seconds``; half-way goes to the later one."""
        above, below = self._frames(seconds)
        return (2 * above + below) // (2 * below)

    def _frames(self, seconds: Fraction) -> tuple[int, int]:
        """How many frames a time is, as a quotient of whole numbers: sooner than as a fraction."""
        rate = self.per_second
        return seconds.numerator * rate.numerator, seconds.denominator * rate.denominator

    @property
    def nominal(self) -> int:
        """The whole number of frames that timecode counts in a second; slower ones count 1."""
        return max(1, math.floor(self.per_second + Fraction(1, 2)))

    @property
    def label(self) -> str:
        """The rate as people write it: ``30``, ``29.97``."""
        if self.per_second.denominator == 1:
            return str(self.per_second.numerator)
        return f"{float(self.per_second):.3f}".rstrip("0").rstrip(".")

    def __str__(self) -> str:
        """The exact text that ``parse`` reads back."""
        return str(self.per_second)
