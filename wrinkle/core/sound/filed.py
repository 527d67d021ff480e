"""A file in a slot for sound, as it is heard in a wrinkle: trimmed, turned, stretched, faded."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from threading import Lock
from weakref import WeakKeyDictionary

import numpy as np

from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.sounds import FileFit, FileUse
from wrinkle.core.sound.clip_sound import sound_of
from wrinkle.core.sound.heard import Fixed, Ramp, SoundSource
from wrinkle.core.sound.onsets import strongest
from wrinkle.core.sound.resampling import Resampled
from wrinkle.core.sound.stretching import FASTEST, SLOWEST, stretched
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_REACH = int(LONGEST_HALF) * SAMPLE_RATE
"""Samples on each side of the hit that are heard at most: what is longer is music."""
_BEFORE, _AFTER = SAMPLE_RATE // 80, SAMPLE_RATE // 20
"""Samples about the hit that are left as they are."""
_SEAM = SAMPLE_RATE // 400


@dataclass(frozen=True, eq=False)
class SlotSound:
    """What fills a slot for sound.

    Attributes:
        sound: of the file.
        count: its samples.
    """

    sound: SoundSource
    count: int


@dataclass(frozen=True, eq=False)
class Played:
    """A file as it is heard.

    Attributes:
        samples: ``(N, 2)``.
        hit: the one of them that falls on the hit.
    """

    samples: Samples
    hit: int


def slot_sound(source: object) -> SlotSound | None:
    """What a file gives a slot for sound: its first sound; None where it has none."""
    sound, duration = sound_of(source), getattr(source, "duration", None)
    if sound is None or not isinstance(duration, Fraction):
        return None
    return SlotSound(sound, max(round(duration * SAMPLE_RATE), 0))


def hit_in(filled: SlotSound, use: FileUse) -> int:
    """The sample of a file that falls on the hit: the one that is said, else the strongest onset.

    Raises:
        MediaError: the file cannot be read.
    """
    span = _span(filled, use)
    if use.hit is not None:
        return min(max(round(use.hit * SAMPLE_RATE), span.start), max(span.stop - 1, span.start))
    return span.start + _found(filled, span)


def played(filled: SlotSound, use: FileUse, pitch: float, seconds: float) -> Played:
    """A file as a sound plays it.

    Args:
        filled: the file.
        use: what is heard of it.
        pitch: times as it is; its length stays.
        seconds: how long it is to be, where that is asked for.

    Raises:
        MediaError: the file cannot be read.
    """
    span, hit = _span(filled, use), hit_in(filled, use)
    span = range(max(span.start, hit - _REACH), min(span.stop, hit + _REACH))
    whole = filled.sound.samples(span.start, len(span))
    place = hit - span.start
    if use.backwards:
        whole, place = whole[::-1], len(whole) - 1 - place
    if not len(whole):
        return Played(whole, 0)
    wanted = max(round(seconds * SAMPLE_RATE), 1)
    if use.fit is FileFit.CUT and wanted < len(whole):
        # As much is kept before the hit as there was, in proportion.
        first = round(place * (1.0 - wanted / len(whole)))
        whole, place = whole[first : first + wanted], place - first
    length = wanted if use.fit is FileFit.STRETCHED else len(whole)
    whole, place = _stretched(whole, place, length, pitch)
    whole = np.array(whole, np.float32)
    rise, fall = (round((x or 0) * SAMPLE_RATE) for x in (use.rise, use.fall))
    count = len(whole)
    gains = Ramp(range(rise)).gains(0, count)
    gains *= Ramp(range(count - fall, count)).gains(0, count, falling=True)
    return Played(whole * gains[:, np.newaxis], place)


def _stretched(whole: Samples, place: int, length: int, pitch: float) -> tuple[Samples, int]:
    """Samples in another length and pitch, and where the hit is in them.

    What strikes is not stretched itself: grains would blur it. What lies before and after is.
    """
    higher = Fraction(pitch).limit_denominator(1000)
    if higher != 1:
        count = round(len(whole) / higher)
        whole, place = (
            Resampled(Fixed(whole), Fraction(0), higher).samples(0, count),
            round(place / higher),
        )
    if length == len(whole):
        return whole, place
    first, end = max(place - _BEFORE, 0), min(place + _AFTER, len(whole))
    left = length - (end - first)
    rest = len(whole) - (end - first)
    if left <= 0 or rest <= 0:
        # There is nothing but the strike.
        return whole, place
    speed = min(max(Fraction(rest, left), SLOWEST), FASTEST).limit_denominator(10_000)
    # Each reaches into the strike by a seam; of what strikes nothing is heard before.
    to, over = round(first / speed), round((len(whole) - end) / speed)
    before = stretched(Fixed(whole[:place]), 0, speed).samples(0, to + _SEAM if first else 0)
    after = stretched(Fixed(whole), end, speed).samples(-_SEAM, over + _SEAM if over else 0)
    return _joined(_joined(before, whole[first:end]), after), to + place - first


def _joined(one: Samples, other: Samples) -> Samples:
    """Samples after others, over a few thousandths of a second from these to those."""
    if not len(one) or not len(other):
        return np.concatenate([one, other])
    over = min(_SEAM, len(one), len(other))
    share = np.linspace(0.0, 1.0, over, dtype=np.float32)[:, np.newaxis]
    middle = one[len(one) - over :] * (1.0 - share) + other[:over] * share
    return np.concatenate([one[: len(one) - over], middle, other[over:]])


def _span(filled: SlotSound, use: FileUse) -> range:
    first = min(round((use.start or 0) * SAMPLE_RATE), filled.count)
    end = filled.count if use.end is None else min(round(use.end * SAMPLE_RATE), filled.count)
    return range(first, max(end, first))


_hits: WeakKeyDictionary[SoundSource, dict[range, int]] = WeakKeyDictionary()
_looking = Lock()


def _found(filled: SlotSound, span: range) -> int:
    """The strongest onset: looked for once, however often the wrinkle is changed."""
    with _looking:
        known = _hits.setdefault(filled.sound, {})
        if span not in known:
            known[span] = strongest(_From(filled.sound, span.start), min(len(span), 2 * _REACH))
        return known[span]


@dataclass(frozen=True, eq=False)
class _From:
    """A sound from one of its samples on."""

    sound: SoundSource
    first: int

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on."""
        return self.sound.samples(self.first + start, count)
