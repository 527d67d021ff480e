"""What is heard, as a value: samples by their number, the same ones however they are asked for.

The twin of what is shown. Whatever plays, draws, measures or writes sound takes one of these. A mix
is made of parts, each a sound with its place, its level and how it rises and falls.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol, runtime_checkable

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

CLICKLESS = SAMPLE_RATE // 250
"""Samples over which a sound rises and falls at its ends: a wave that is cut off clicks."""
_ATTACK, _RELEASE = SAMPLE_RATE * 6 // 100, SAMPLE_RATE * 15 // 100
"""Samples in which a dip begins and ends: 60 and 150 ms."""
_AT_ONCE = 1e-6
"""Samples of a ramp that is a step."""


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


@runtime_checkable
class WorkedOut(SoundSource, Protocol):
    """Sound that has to be worked out before it is heard, and is kept then."""

    def is_ready(self, start: int, count: int) -> bool:
        """Whether these samples are worked out already."""


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

    def earlier(self, by: int) -> Ramp:
        """The same, so many samples before."""
        return replace(self, span=_earlier(self.span, by))

    def gains(self, start: int, count: int, falling: bool = False) -> NDArray[np.float32]:
        """The factors ``(count,)`` of samples from one on, 0…1."""
        # A whole number over another: the same for each sample, wherever a stretch begins.
        places = np.arange(start - self.span.start, start - self.span.start + count) + 0.5
        whole = len(self.span) or _AT_ONCE
        share = np.clip(places / whole, 0.0, 1.0)
        share = 1.0 - share if falling else share
        if self.power:
            # The squares of both directions add up to 1.
            share = np.sqrt(share * share * (3.0 - 2.0 * share))
        found: NDArray[np.float32] = share.astype(np.float32)
        return found


@dataclass(frozen=True)
class Dip:
    """Samples over which something is quieter.

    Attributes:
        span: from where it begins to where all is over.
        gain: its factor within.
    """

    span: range
    gain: float

    def earlier(self, by: int) -> Dip:
        """The same, so many samples before."""
        return replace(self, span=_earlier(self.span, by))

    def gains(self, start: int, count: int) -> NDArray[np.float32]:
        """The factors ``(count,)`` of samples from one on."""
        first, last = self.span.start, self.span.stop
        attack = min(_ATTACK, len(self.span) // 3)
        release = min(_RELEASE, len(self.span) // 2)
        within = Ramp(range(first, first + attack)).gains(start, count)
        within *= Ramp(range(last - release, last)).gains(start, count, falling=True)
        return np.float32(1.0) - within * np.float32(1.0 - self.gain)


@dataclass(frozen=True, eq=False)
class MixPart:
    """A sound in a mix.

    Attributes:
        sound: what is heard.
        place: the sample of the mix at which its sample 0 lies.
        span: the samples of the mix in which it is heard.
        gain: its factor.
        rise, fall: at its ends; by default so that nothing clicks.
        dips: where it is quieter.
    """

    sound: SoundSource
    place: int
    span: range
    gain: float = 1.0
    rise: Ramp | None = None
    fall: Ramp | None = None
    dips: tuple[Dip, ...] = ()

    def earlier(self, by: int) -> MixPart:
        """The same, so many samples before."""
        ramps = (self.rise, self.fall)
        rise, fall = (ramp.earlier(by) if ramp is not None else None for ramp in ramps)
        span = _earlier(self.span, by)
        dips = tuple(dip.earlier(by) for dip in self.dips)
        return replace(self, place=self.place - by, span=span, rise=rise, fall=fall, dips=dips)

    def is_ready(self, start: int, count: int) -> bool:
        """Whether its samples in a stretch of the mix are there without being worked out."""
        low, high = max(start, self.span.start), min(start + count, self.span.stop)
        if low >= high or not isinstance(self.sound, WorkedOut):
            return True
        return self.sound.is_ready(low - self.place, high - low)

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
        for dip in self.dips:
            if dip.span.start < high and low < dip.span.stop:
                gains = gains * dip.gains(low, high - low)
        part = self.sound.samples(low - self.place, high - low)
        found[low - start : high - start] += part * (gains * np.float32(self.gain))[:, np.newaxis]


@dataclass(frozen=True, eq=False)
class Mix:
    """Parts that are heard together.

    Attributes:
        parts: in the order in which they are added up.
        span: the samples there are.
    """

    parts: tuple[MixPart, ...]
    span: range

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, within ±1; silence outside.

        Raises:
            MediaError: a sound cannot be read.
        """
        found = self.unlimited(start, count)
        return np.clip(found, -1.0, 1.0, out=found)

    def unlimited(self, start: int, count: int) -> Samples:
        """The same as it adds up, however loud.

        Raises:
            MediaError: a sound cannot be read.
        """
        found: Samples = np.zeros((count, 2), np.float32)
        low = min(max(start, self.span.start), start + count)
        high = max(min(start + count, self.span.stop), low)
        inside = found[low - start : high - start]
        for part in self.parts:
            part.add_to(inside, low)
        return found

    def from_(self, zero: int) -> Mix:
        """The same, counted from one of its samples."""
        parts = tuple(part.earlier(zero) for part in self.parts)
        return Mix(parts, _earlier(self.span, zero))


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


def _earlier(span: range, by: int) -> range:
    return range(span.start - by, span.stop - by)


def factor(decibels: float) -> float:
    """What a level in decibels multiplies a wave with."""
    return float(10.0 ** (decibels / 20.0))
