"""The sounds of a wrinkle, placed about its cut and added up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.sound.motion_speed import motion_speeds
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS, Speeds, Voice, made
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Mono, Samples

_SPEEDS_A_SECOND = 100
_MOST_SPEEDS = 2_000


@dataclass(frozen=True, eq=False)
class SoundMix:
    """What is heard about a cut.

    Attributes:
        start: its first sample, counted from the cut; before it negative.
        samples: all of it; may be louder than ±1 where sounds meet.
    """

    start: int
    samples: Samples

    def add_to(self, found: Samples, offset: int) -> None:
        """Adds it to samples, of which it begins at ``offset``, as far as it lies within them."""
        low, high = max(offset, 0), min(offset + len(self.samples), len(found))
        if low < high:
            found[low:high] += self.samples[low - offset : high - offset]

    def between(self, start: int, count: int) -> Samples:
        """So many samples from one on, counted from the cut, within ±1."""
        found = np.zeros((count, 2), np.float32)
        self.add_to(found, self.start - start)
        return np.clip(found, -1.0, 1.0)


def mixed(wrinkle: Wrinkle) -> SoundMix:
    """All sounds of a plain wrinkle; the same bytes each time."""
    parts = [(_start(sound), _made(sound, wrinkle)) for sound in wrinkle.sounds]
    if not parts:
        return SoundMix(0, np.zeros((0, 2), np.float32))
    first = min(start for start, _ in parts)
    end = max(start + len(part) for start, part in parts)
    found = np.zeros((end - first, 2), np.float32)
    for start, part in parts:
        found[start - first : start - first + len(part)] += part[:, np.newaxis]
    return SoundMix(first, found)


def _start(sound: WrinkleSound) -> int:
    """The sample with which it begins, so that its hit falls where it is wanted."""
    share = MADE_SOUNDS[sound.made].hit
    return round(sound.hit * SAMPLE_RATE - share * float(sound.length) * SAMPLE_RATE)


def _made(sound: WrinkleSound, wrinkle: Wrinkle) -> Mono:
    count = max(1, round(sound.length * SAMPLE_RATE))
    dice = np.random.default_rng([sound.seed, MADE_SOUNDS[sound.made].number])
    voice = Voice(count, sound.pitch, dice, _speeds(sound, wrinkle))
    level = np.float32(10.0 ** (sound.level / 20.0))
    return made(MADE_SOUNDS[sound.made], voice) * level


def _speeds(sound: WrinkleSound, wrinkle: Wrinkle) -> Speeds:
    if not MADE_SOUNDS[sound.made].follows:
        return np.zeros(1)
    count = min(max(8, int(sound.length * _SPEEDS_A_SECOND)), _MOST_SPEEDS)
    return motion_speeds(wrinkle, sound.hit - sound.length / 2, sound.length, count)
