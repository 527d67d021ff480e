"""The sound of a clip as it runs in an edit: at its speed, backwards, at its pitch or another."""

from __future__ import annotations

from fractions import Fraction
from typing import Protocol, runtime_checkable

from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.sound.resampling import Resampled
from wrinkle.core.sound.stretching import FASTEST, SLOWEST, stretched
from wrinkle.core.synthesis.samples import SAMPLE_RATE

MOST = Fraction(16)
"""Times: what runs faster is silent, for nothing of it could be made out."""


@runtime_checkable
class Sounding(Protocol):
    """What may have a sound, as a clip does beside its pictures."""

    @property
    def sounds(self) -> int:
        """How many it has."""

    def sound(self, track: int = 0) -> SoundSource | None:
        """One of its sounds, sample 0 with its first picture; None where it has none."""


def sound_of(source: object, track: int = 0) -> SoundSource | None:
    """A sound of what shows pictures; None where it has none."""
    return source.sound(track) if isinstance(source, Sounding) else None


def count_of(source: object) -> int:
    """How many sounds there are with what shows pictures."""
    return source.sounds if isinstance(source, Sounding) else 0


def running(
    sound: SoundSource, origin: Fraction, speed: Fraction = Fraction(1), pitch_kept: bool = False
) -> SoundSource | None:
    """A sound run through at a speed; None where nothing of it could be made out.

    Args:
        sound: of the file.
        origin: the file's time, in seconds, that is heard at sample 0.
        speed: 1 is as it was recorded; negative runs backwards.
        pitch_kept: whether the pitch stays, as far as it can: at much slower or faster speeds it
            goes with them.
    """
    if abs(speed) > MOST:
        return None
    if speed < 0:
        # The sample that lasts until that time is the first one that is heard.
        origin -= Fraction(1, SAMPLE_RATE)
    if pitch_kept and abs(speed) != 1 and SLOWEST <= abs(speed) <= FASTEST:
        steady = Resampled(sound, origin, Fraction(1 if speed > 0 else -1))
        return stretched(steady, 0, abs(speed))
    return Resampled(sound, origin, speed)
