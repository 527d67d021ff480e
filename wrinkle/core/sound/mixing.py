"""The sounds of a wrinkle, placed about its cut."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.sound.heard import Dip, Fixed, Part, Ramp, factor
from wrinkle.core.sound.motion_speed import motion_speeds
from wrinkle.core.synthesis.made_sounds import MADE_SOUNDS, Speeds, Voice, made
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Mono, Samples

_SPEEDS_A_SECOND = 100
_MOST_SPEEDS = 2_000


@dataclass(frozen=True, eq=False)
class WrinkleSounds:
    """The sounds of a plain wrinkle, counted from its cut; made when they are first heard.

    Attributes:
        wrinkle: whose they are.
    """

    wrinkle: Wrinkle

    @cached_property
    def span(self) -> range:
        """From where the first one begins until the last one has ended."""
        spans = [range(_start(x), _start(x) + _count(x)) for x in self._own]
        if not spans:
            return range(0)
        return range(min(x.start for x in spans), max(x.stop for x in spans))

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on; may be louder than ±1 where sounds meet."""
        return self._made.samples(start - self.span.start, count)

    def part(self, cut: int) -> Part:
        """What of them is in a mix whose cut lies at a sample."""
        span = range(cut + self.span.start, cut + self.span.stop)
        # They begin and end as they are made to.
        return Part(self, cut, span, rise=Ramp(range(span.start, span.start)),
                    fall=Ramp(range(span.stop, span.stop)))  # fmt: skip

    def dips(self, cut: int) -> tuple[Dip, ...]:
        """Where the clips are quieter, in a mix whose cut lies at a sample."""
        return tuple(
            Dip(range(_start(x) + cut, _start(x) + _count(x) + cut), factor(min(x.level, 0.0)))
            for x in self.wrinkle.sounds
            if MADE_SOUNDS[x.made].hushes
        )

    @property
    def _own(self) -> list[WrinkleSound]:
        """The sounds that are heard themselves."""
        return [x for x in self.wrinkle.sounds if not MADE_SOUNDS[x.made].hushes]

    @cached_property
    def _made(self) -> Fixed:
        found: Samples = np.zeros((len(self.span), 2), np.float32)
        for sound in self._own:
            first = _start(sound) - self.span.start
            part = _made(sound, self.wrinkle)
            found[first : first + len(part)] += part[:, np.newaxis]
        return Fixed(found)


def begins(sound: WrinkleSound) -> Fraction:
    """When a sound begins, so that its hit falls where it is wanted, in seconds from the cut."""
    share = Fraction(MADE_SOUNDS[sound.made].hit).limit_denominator(1000)
    return sound.hit - share * sound.length


def _start(sound: WrinkleSound) -> int:
    """The sample with which it begins."""
    share = MADE_SOUNDS[sound.made].hit
    return round(sound.hit * SAMPLE_RATE - share * float(sound.length) * SAMPLE_RATE)


def _count(sound: WrinkleSound) -> int:
    return max(1, round(sound.length * SAMPLE_RATE))


def _made(sound: WrinkleSound, wrinkle: Wrinkle) -> Mono:
    count = _count(sound)
    dice = np.random.default_rng([sound.seed, MADE_SOUNDS[sound.made].number])
    voice = Voice(count, sound.pitch, dice, _speeds(sound, wrinkle))
    return made(MADE_SOUNDS[sound.made], voice) * np.float32(factor(sound.level))


def _speeds(sound: WrinkleSound, wrinkle: Wrinkle) -> Speeds:
    if not MADE_SOUNDS[sound.made].follows:
        return np.zeros(1)
    count = min(max(8, int(sound.length * _SPEEDS_A_SECOND)), _MOST_SPEEDS)
    return motion_speeds(wrinkle, sound.hit - sound.length / 2, sound.length, count)
