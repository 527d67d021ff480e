"""What is heard, as a value: samples by their number, the same ones however they are asked for.

The twin of what is shown. Whatever plays, draws, measures or writes sound takes one of these. A mix
is made of parts, each a sound with its place, its level and how it rises and falls.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

CLICKLESS = SAMPLE_RATE // 250
"""Samples over which a sound rises and falls at its ends: a wave that is cut off clicks."""


class SoundSource(Protocol):
    """Sound at ``SAMPLE_RATE``. The same samples each time, from any thread, in any stretches."""

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, silent where there is nothing.

        Raises:
            MediaError: the sound cannot be read.
        """


class Heard(SoundSource, Protocol):
    """Sound from one sample to another."""

    @property
    def span(self) -> range:
        """The samples there are; outside there is silence."""


@dataclass(frozen=True)
class Ramp:
    """How a sound rises over some samples; it falls the same way, mirrored.

    Attributes:
        span: the samples over which it does.
        power: two that cross have the same power together at each moment, as sounds need it that
            have nothing to do with each other; else the same amplitude.
    """

    span: range
    power: bool = False

    def gains(self, start: int, count: int, falling: bool = False) -> NDArray[np.float32]:
        """The factors ``(count,)`` of samples from one on, 0…1."""
        # A whole number over another: the same for each sample, wherever a stretch begins.
        places = np.arange(start - self.span.start, start - self.span.start + count) + 0.5
        share = np.clip(places / len(self.span), 0.0, 1.0) if self.span else places > 0.0
        share = 1.0 - share if falling else share * 1.0
        if self.power:
            # The squares of both directions add up to 1.
            share = np.sqrt(share * share * (3.0 - 2.0 * share))
        found: NDArray[np.float32] = share.astype(np.float32)
        return found


@dataclass(frozen=True, eq=False)
class Part:
    """A sound in a mix.

    Attributes:
        sound: what is heard.
        place: the sample of the mix at which its sample 0 lies.
        span: the samples of the mix in which it is heard.
        gain: its factor.
        rise, fall: at its ends; by default so that nothing clicks.
    """

    sound: SoundSource
    place: int
    span: range
    gain: float = 1.0
    rise: Ramp | None = None
    fall: Ramp | None = None

    def add_to(self, found: Samples, start: int) -> None:
        """Adds it to samples of the mix ``(N, 2)`` from one on.

        Raises:
            MediaError: the sound cannot be read.
        """
        low, high = max(start, self.span.start), min(start + len(found), self.span.stop)
        if low >= high:
            return
        fade = min(CLICKLESS, len(self.span) // 2)
        first, last = self.span.start, self.span.stop
        rise = self.rise or Ramp(range(first, first + fade))
        fall = self.fall or Ramp(range(last - fade, last))
        gains = rise.gains(low, high - low) * fall.gains(low, high - low, falling=True)
        part = self.sound.samples(low - self.place, high - low)
        found[low - start : high - start] += part * (gains * np.float32(self.gain))[:, np.newaxis]


@dataclass(frozen=True, eq=False)
class Mix:
    """Parts that are heard together.

    Attributes:
        parts: in the order in which they are added up.
        span: the samples there are.
    """

    parts: tuple[Part, ...]
    span: range

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, within ±1; silence outside.

        Raises:
            MediaError: a sound cannot be read.
        """
        found: Samples = np.zeros((count, 2), np.float32)
        low = min(max(start, self.span.start), start + count)
        high = max(min(start + count, self.span.stop), low)
        inside = found[low - start : high - start]
        for part in self.parts:
            part.add_to(inside, low)
        return np.clip(found, -1.0, 1.0, out=found)


@dataclass(frozen=True, eq=False)
class Fixed:
    """Samples that are there.

    Attributes:
        content: ``(N, 2)``, from sample 0 on.
    """

    content: Samples

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, silent outside."""
        found: Samples = np.zeros((count, 2), np.float32)
        low, high = max(start, 0), min(start + count, len(self.content))
        if low < high:
            found[low - start : high - start] = self.content[low:high]
        return found


@dataclass(frozen=True, eq=False)
class Moved:
    """The same, counted from another sample.

    Attributes:
        heard: what is heard.
        zero: its sample that is 0 here.
    """

    heard: Heard
    zero: int

    @property
    def span(self) -> range:
        """The samples there are."""
        return range(self.heard.span.start - self.zero, self.heard.span.stop - self.zero)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: a sound cannot be read.
        """
        return self.heard.samples(start + self.zero, count)


def factor(decibels: float) -> float:
    """What a level in decibels multiplies a wave with."""
    return float(10.0 ** (decibels / 20.0))
