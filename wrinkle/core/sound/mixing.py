"""The sounds of a wrinkle, placed about its cut."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.sounds import OPEN_HIGH, OPEN_LOW, FileFit, MovedBy, WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.sound.along import Along, along, at_hit
from wrinkle.core.sound.filed import SlotSound, hit_in, played
from wrinkle.core.sound.heard import Dip, MixPart, Ramp, factor
from wrinkle.core.sound.motion import Movement, movement
from wrinkle.core.sound.seen_motion import seen_movement
from wrinkle.core.sound.tone import cut, sides
from wrinkle.core.synthesis.made_sounds import MadeSound, Speeds, Voice, made
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_MOMENTS_A_SECOND = 1_000
_MOST_MOMENTS = 20_000
_DYING = 0.04
"""Seconds in which air comes to rest by itself, to a third: as cloth or a swung stick sounds."""
_PASSES_IN = 0.12
"""The share of its length in which something that passes falls in pitch."""


@dataclass(frozen=True, eq=False)
class WrinkleSounds:
    """The sounds of a plain wrinkle, counted from its cut; made when they are first heard.

    Attributes:
        wrinkle: whose they are.
        files: what fills its slots for sound, by their key.
    """

    wrinkle: Wrinkle
    files: Mapping[str, SlotSound] = field(default_factory=dict)

    @cached_property
    def span(self) -> range:
        """From where the first one begins until the last one has ended.

        Raises:
            MediaError: a file cannot be read.
        """
        spans = [x.span for x in self.each.values() if x.span]
        if not spans:
            return range(0)
        return range(min(x.start for x in spans), max(x.stop for x in spans))

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on; may be louder than ±1 where sounds meet.

        Raises:
            MediaError: a file cannot be read.
        """
        found: Samples = np.zeros((count, 2), np.float32)
        for placed in self.each.values():
            placed.add_to(found, start)
        return found

    def is_ready(self, start: int, count: int) -> bool:
        """Whether what is heard in these samples is made."""
        stop = start + count
        return all(
            x.is_made or x.span.start >= stop or x.span.stop <= start for x in self.each.values()
        )

    def part(self, cut: int) -> MixPart:
        """What of them is in a mix whose cut lies at a sample."""
        span = range(cut + self.span.start, cut + self.span.stop)
        # They begin and end as they are made to.
        return MixPart(self, cut, span, rise=Ramp(range(span.start, span.start)),
                    fall=Ramp(range(span.stop, span.stop)))  # fmt: skip

    def dips(self, cut: int) -> tuple[Dip, ...]:
        """Where the clips are quieter, in a mix whose cut lies at a sample."""
        return tuple(
            Dip(range(x.span.start + cut, x.span.stop + cut), factor(min(x.value("level"), 0.0)))
            for x in map(self._placed, self.wrinkle.sounds)
            if x.sound.hushes and x.value("heard")
        )

    @cached_property
    def each(self) -> dict[str, PlacedSound]:
        """The sounds that are heard themselves, by their id."""
        return {
            x.id: self._placed(x)
            for x in self.wrinkle.sounds
            if not x.hushes and (not x.slot or x.slot in self.files)
        }

    def _placed(self, sound: WrinkleSound) -> PlacedSound:
        return PlacedSound(self.wrinkle, sound, self.files.get(sound.slot))


@dataclass(frozen=True, eq=False)
class PlacedSound:
    """One sound of a wrinkle.

    Attributes:
        wrinkle: whose it is.
        sound: which one.
        file: what fills its slot.
    """

    wrinkle: Wrinkle
    sound: WrinkleSound
    file: SlotSound | None = None

    @cached_property
    def span(self) -> range:
        """Its samples, counted from the cut.

        Raises:
            MediaError: its file cannot be read.
        """
        sound = self.sound
        if self.file is not None:
            if not self.value("heard") and sound.heard.still:
                return range(0)
            first = round(sound.hit * SAMPLE_RATE) - self._played[1]
            return range(first, first + len(self._played[0]))
        seconds = self.value("length")
        first = round(sound.hit * SAMPLE_RATE - sound.hit_share * seconds * SAMPLE_RATE)
        return range(first, first + max(1, round(seconds * SAMPLE_RATE)))

    def add_to(self, found: Samples, start: int) -> None:
        """Adds it to samples ``(N, 2)``, of which the first is so many from the cut.

        It is made whole when it is first heard: nobody waits for a sound that comes later.

        Raises:
            MediaError: its file cannot be read.
        """
        low, high = max(start, self.span.start), min(start + len(found), self.span.stop)
        if low < high:
            own = self.samples[low - self.span.start : high - self.span.start]
            found[low - start : high - start] += own

    @property
    def is_made(self) -> bool:
        """Whether its samples are there."""
        return "samples" in self.__dict__

    def file_time(self, time: Fraction) -> Fraction:
        """What of its file is heard at a time from the cut, in seconds of the file, as it runs now.

        Raises:
            MediaError: its file cannot be read.
        """
        assert self.file is not None
        use, heard = self.sound.file, len(self._played[0])
        length = min(self.file.count, round((use.end or self.file.count) * SAMPLE_RATE))
        whole = length - round((use.start or 0) * SAMPLE_RATE)
        times = whole / heard if use.fit is FileFit.STRETCHED and heard else 1.0
        away = float(time - self.sound.hit) * times * (-1.0 if use.backwards else 1.0)
        found = hit_in(self.file, use) / SAMPLE_RATE + away
        return Fraction(min(max(found, 0.0), length / SAMPLE_RATE)).limit_denominator(SAMPLE_RATE)

    def value(self, key: str) -> float:
        """What it has of a setting at its hit."""
        return at_hit(self.wrinkle, self.sound, key)

    @cached_property
    def samples(self) -> Samples:
        """``(N, 2)``, as they are to be heard.

        Raises:
            MediaError: its file cannot be read.
        """
        sound = self.sound
        if sound.heard.still and not self.value("heard"):
            return np.zeros((len(self.span), 2), np.float32)
        pan: Along = self._along("pan")
        if self.file is not None:
            found = self._played[0]
        else:
            kind, moves = sound.kind, self._movement
            assert kind is not None
            mono = made(kind, self._voice(kind, moves))
            found = np.repeat(mono[:, np.newaxis], 2, axis=1)
            pan = pan + self._along("side") * _spread(moves.sides, len(mono))
        lows, highs = self._along("low_cut"), self._along("high_cut")
        found = cut(found, lows, highs, OPEN_LOW, OPEN_HIGH)
        gain = 10.0 ** (np.asarray(self._along("level")) / 20.0)
        if not sound.heard.still:
            gain = gain * self._along("heard")
        gains = np.stack(np.broadcast_arrays(*(gain * side for side in sides(pan))), -1)
        return np.asarray(found * gains.astype(np.float32), np.float32)

    @cached_property
    def _played(self) -> tuple[Samples, int]:
        assert self.file is not None
        pitch, seconds = self.value("pitch") / 100.0, self.value("length")
        found = played(self.file, self.sound.file, pitch, seconds)
        return found.samples, found.hit

    def _along(self, key: str) -> Along:
        return along(self.wrinkle, self.sound, key, self.span.start, len(self.span))

    def _voice(self, kind: MadeSound, moves: Movement) -> Voice:
        count = len(self.span)
        dice = np.random.default_rng([round(self.value("seed")), kind.number])
        pitch: Along = np.asarray(self._along("pitch")) / 100.0
        fall = self._along("fall") if kind.follows else 0.0
        if np.any(fall):
            # Half above and half below, about the moment at which it passes.
            places = np.arange(count) - kind.hit * count
            passed = np.tanh(places / (_PASSES_IN * count))
            pitch = pitch * 2.0 ** (-np.asarray(fall) / 24.0 * passed)
        return Voice(count, pitch, dice, moves.speeds)

    @cached_property
    def _movement(self) -> Movement:
        sound, wrinkle = self.sound, self.wrinkle
        if not sound.follows:
            return Movement(np.zeros(2), np.zeros(2))
        start = Fraction(self.span.start, SAMPLE_RATE)
        length = Fraction(len(self.span), SAMPLE_RATE)
        if sound.moved_by is MovedBy.PICTURE:
            seen = seen_movement(wrinkle, start, length)
            if seen is not None:
                return seen
        layers = wrinkle.layers
        if sound.moved_by is MovedBy.LAYER:
            layers = tuple(x for x in layers if x.id == sound.layer) or layers
        count = min(max(8, round(length * _MOMENTS_A_SECOND)), _MOST_MOMENTS) + 1
        speeds, sides_ = movement(wrinkle, layers, start, length, count)
        return Movement(_dying_away(speeds, float(length) / (count - 1)), sides_)


def _dying_away(speeds: Speeds, step: float) -> Speeds:
    """Speeds as air has them: it goes on for a moment where what moved it stops at once."""
    found, share = speeds.copy(), math.exp(-step / _DYING)
    for at in range(1, len(found)):
        found[at] = max(found[at], found[at - 1] * share)
    return found


def _spread(values: NDArray[np.float64], count: int) -> NDArray[np.float64]:
    """Values that lie evenly from the first to the last of so many samples."""
    return np.interp(np.linspace(0.0, 1.0, count), np.linspace(0.0, 1.0, len(values)), values)
