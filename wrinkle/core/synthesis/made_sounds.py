"""The made sounds: each a declaration beside its function. All are ours, from noise and sines."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.errors import InputError
from wrinkle.core.registering import Registry
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Mono

_BANDS = 28
_RELEASE = SAMPLE_RATE // 50
"""Samples over which a sound ends."""
_LOWEST, _HIGHEST = 90.0, 12_000.0
Speeds = NDArray[np.float64]
"""How fast the picture moves over the length of a sound, 0…1, or to which side, −1…1."""


@dataclass(frozen=True)
class Voice:
    """What a sound is made from.

    Attributes:
        count: its samples.
        pitch: times as it is usual; one value, or one for each sample ``(N,)``.
        dice: the same for the same seed.
        speeds: of the motion, evenly over its length.
    """

    count: int
    pitch: float | NDArray[np.float64]
    dice: np.random.Generator
    speeds: Speeds

    @property
    def seconds(self) -> NDArray[np.float64]:
        """The time of each sample ``(N,)``."""
        return np.arange(self.count) / SAMPLE_RATE

    @property
    def share(self) -> NDArray[np.float64]:
        """0 to 1 over its length ``(N,)``."""
        return np.linspace(0.0, 1.0, self.count)

    @property
    def middle_pitch(self) -> float:
        """The pitch, of what cannot have several."""
        return float(np.mean(self.pitch))

    @property
    def run(self) -> NDArray[np.float64]:
        """The time of each sample as it goes at that pitch ``(N,)``."""
        steps = np.broadcast_to(np.asarray(self.pitch, np.float64), self.count)
        return (np.cumsum(steps) - steps) / SAMPLE_RATE

    def noise(self) -> NDArray[np.float64]:
        """White noise ``(N,)``."""
        return self.dice.standard_normal(self.count)

    def sine(self, hertz: NDArray[np.float64] | float) -> NDArray[np.float64]:
        """A sine ``(N,)`` of a pitch that may change."""
        steps = np.broadcast_to(np.asarray(hertz) * self.pitch / SAMPLE_RATE, self.count)
        return np.sin(2.0 * np.pi * np.cumsum(steps))


class Lasts(Enum):
    """What a sound is as long as; it stretches with that."""

    ITSELF = "itself"
    WINDOW = "window"
    LEAD = "lead"


@dataclass(frozen=True)
class MadeSound:
    """The declaration of a made sound.

    Attributes:
        key: which one, in the file too.
        number: goes into its dice; another one for each, and never changed.
        about: what it sounds like.
        hit: the share of its length at which its hit lies.
        make: computes it, of any loudness.
        lasts: what it is as long as, at first.
        length: in seconds, at first, where it is as long as itself.
        random: a seed makes another one of it.
        follows: it is made from the speed of the motion.
        strikes: its hit is an instant, and is heard as one.
        hushes: it is none itself: the clips' own sound goes quieter while it lasts, by its level.
    """

    key: str
    number: int
    about: str
    hit: float
    make: Callable[[Voice], NDArray[np.float64]]
    lasts: Lasts = Lasts.ITSELF
    length: Fraction = Fraction(1, 2)
    random: bool = True
    follows: bool = False
    strikes: bool = False
    hushes: bool = False


def made(sound: MadeSound, voice: Voice) -> Mono:
    """A sound with its loudest sample at ±1; silent where there is nothing to hear."""
    found = sound.make(voice)
    if sound.hit < 1.0:
        # What does not break off on its hit is not cut off in the middle of a wave.
        over = min(_RELEASE, voice.count)
        found[voice.count - over :] *= np.linspace(1.0, 0.0, over)
    most = float(np.abs(found).max(initial=0.0))
    return (found / most if most > 0.0 else found).astype(np.float32)


def _air(voice: Voice) -> NDArray[np.float64]:
    """Noise as loud and as high as the picture is fast."""
    places = np.linspace(0.0, 1.0, len(voice.speeds))
    speed = np.interp(voice.share, places, voice.speeds)
    centre = np.log(220.0 * voice.pitch) + speed * np.log(14.0)
    return _banded(voice, centre, 0.55) * speed**1.3


def _rise(voice: Voice) -> NDArray[np.float64]:
    """Noise and a tone that climb, and break off on the hit."""
    share = voice.share
    tone = voice.sine(160.0 * 9.0**share) * 0.35
    noise = _banded(voice, np.log(300.0 * voice.pitch) + share * np.log(16.0), 0.5)
    return (noise + tone) * share**2.2


def _hit(voice: Voice) -> NDArray[np.float64]:
    """A low blow that falls in pitch, with a click where it lands."""
    seconds = voice.seconds
    body = voice.sine(48.0 + 110.0 * np.exp(-seconds * 26.0)) * np.exp(-seconds * 7.0)
    return body + voice.noise() * np.exp(-seconds * 240.0) * 0.3


def _drop(voice: Voice) -> NDArray[np.float64]:
    """A tone that falls away."""
    return voice.sine(420.0 * 0.09**voice.share) * (1.0 - voice.share) ** 1.4


def _crackle(voice: Voice) -> NDArray[np.float64]:
    """Single clicks, thick at first and then thinner."""
    chance = 260.0 / SAMPLE_RATE * (1.0 - voice.share) ** 0.7
    clicks = (voice.dice.random(voice.count) < chance) * voice.noise()
    length = max(8, int(SAMPLE_RATE * 0.002 / voice.middle_pitch))
    ring = np.exp(-np.arange(length) / length * 5.0)
    ring *= np.cos(2.0 * np.pi * 3200.0 * voice.middle_pitch * np.arange(length) / SAMPLE_RATE)
    return np.convolve(clicks, ring)[: voice.count]


def _flutter(voice: Voice) -> NDArray[np.float64]:
    """Cloth in the wind: noise that beats, and dies away."""
    beats = 0.5 - 0.5 * np.cos(2.0 * np.pi * 17.0 * voice.run)
    noise = _banded(voice, np.broadcast_to(np.log(900.0 * voice.pitch), voice.count), 0.7)
    return noise * beats**2 * (1.0 - voice.share) ** 1.2


def _tick(voice: Voice) -> NDArray[np.float64]:
    """A short, high click."""
    return voice.sine(2600.0) * np.exp(-voice.seconds * 190.0)


def _hush(voice: Voice) -> NDArray[np.float64]:
    """Nothing of its own."""
    return np.zeros(voice.count)


def _banded(voice: Voice, centre: NDArray[np.float64], width: float) -> NDArray[np.float64]:
    """Noise whose pitch moves.

    Args:
        voice: of what.
        centre: the natural logarithm of the middle of what is heard, for each sample, in hertz.
        width: of what is heard, in the same logarithm.
    """
    spectrum = np.fft.rfft(voice.noise())
    hertz = np.log(np.maximum(np.fft.rfftfreq(voice.count, 1.0 / SAMPLE_RATE), 1.0))
    bands = np.linspace(np.log(_LOWEST), np.log(_HIGHEST), _BANDS)
    step = bands[1] - bands[0]
    found = np.zeros(voice.count)
    for band in bands:
        # Neighbouring bands add up to all of it.
        part = np.fft.irfft(spectrum * np.clip(1.0 - np.abs(hertz - band) / step, 0.0, 1.0),
                            voice.count)  # fmt: skip
        found += part * np.exp(-0.5 * ((centre - band) / width) ** 2)
    return found


AIR, RISE, HIT, DROP, CRACKLE, FLUTTER, TICK, HUSH = (
    "air", "rise", "hit", "drop", "crackle", "flutter", "tick", "hush",
)  # fmt: skip
MADE_SOUNDS: Registry[MadeSound] = Registry(
    "made sound",
    (
        MadeSound(AIR, 0, "a whoosh, as loud and high as the picture is fast", 0.5, _air,
                  Lasts.WINDOW, follows=True),
        MadeSound(RISE, 1, "climbs, and breaks off on its hit", 1.0, _rise, Lasts.LEAD,
                  strikes=True),
        MadeSound(HIT, 2, "a low blow", 0.0, _hit, length=Fraction(3, 5), strikes=True),
        MadeSound(DROP, 3, "a tone that falls away", 0.0, _drop, length=Fraction(4, 5),
                  random=False, strikes=True),
        MadeSound(CRACKLE, 4, "clicks that get fewer", 0.0, _crackle),
        MadeSound(FLUTTER, 5, "cloth in the wind", 0.0, _flutter),
        MadeSound(TICK, 6, "a short, high click", 0.0, _tick, length=Fraction(2, 25),
                  random=False, strikes=True),
        MadeSound(HUSH, 7, "the clips' own sound goes quieter while it lasts", 0.5, _hush,
                  Lasts.WINDOW, random=False, hushes=True),
    ),
)  # fmt: skip


def made_sound(key: str) -> MadeSound:
    """The made sound of that key.

    Raises:
        InputError: there is none; names it.
    """
    if key not in MADE_SOUNDS:
        raise InputError(f"There is no made sound '{key}'; it may come from a newer version.")
    return MADE_SOUNDS[key]
