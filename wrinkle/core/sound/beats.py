"""The beats of music: its tempo from how onsets repeat, and the beats that fit it best.

D. P. W. Ellis, "Beat tracking by dynamic programming", Journal of New Music Research 36 (2007).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.sound.onsets import HOP, strengths
from wrinkle.core.sound.turning import smoothed
from wrinkle.core.synthesis.samples import SAMPLE_RATE

_SLOWEST, _FASTEST = 55.0, 195.0
"""Beats a minute that are looked for."""
_USUAL, _WIDTH = 110.0, 1.6
"""What is likely, and how many octaves away it is still."""
_AS_STRONG = 0.82
"""Twice as fast is taken where it repeats nearly as strongly."""
_TIGHT = 400.0
"""How much a beat that is not on time costs (Ellis has 100 to 680)."""
_SMOOTH = 3
"""Moments over which an onset is spread."""
_LATE = 0.0033
"""Seconds by which the strength of an onset is told too early: measured on clicks."""
_A_MINUTE = 60.0 * SAMPLE_RATE / HOP


@dataclass(frozen=True)
class Beats:
    """The beats of some music.

    Attributes:
        tempo: beats a minute; 0 where there are none.
        times: of each, in seconds.
    """

    tempo: float
    times: tuple[float, ...]


def beats_of(
    sound: SoundSource,
    count: int,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> Beats:
    """The beats of a sound.

    Args:
        sound: what is listened to.
        count: its samples, from 0 on.
        progress: told how many moments of how many are done; may raise to stop.

    Raises:
        MediaError: the sound cannot be read.
    """
    onsets = strengths(sound, count, progress)
    if len(onsets) < _A_MINUTE / _SLOWEST * 3 or not onsets.any():
        return Beats(0.0, ())
    onsets = onsets / onsets.std()
    smooth = smoothed(onsets, _SMOOTH)
    period = _period(smooth)
    places = _tracked(smooth, period)
    if len(places) < 3:
        return Beats(0.0, ())
    exact = np.array([_between(smooth, place) for place in places])
    numbers = np.round((exact - exact[0]) / period)
    step = float(np.polyfit(numbers, exact, 1)[0])
    times = exact * HOP / SAMPLE_RATE + _LATE
    return Beats(_A_MINUTE / step, tuple(float(x) for x in times))


def _period(onsets: NDArray[np.float64]) -> float:
    """The moments from one beat to the next."""
    longest = int(_A_MINUTE / _SLOWEST * 4) + 2
    size = 1 << (len(onsets) + longest).bit_length()
    spectrum = np.abs(np.fft.rfft(onsets - onsets.mean(), size)) ** 2
    alike = np.fft.irfft(spectrum)[: longest + 1]
    # Longer shifts have less to compare.
    alike = alike / np.maximum(len(onsets) - np.arange(len(alike)), 1.0)
    lags = np.arange(_A_MINUTE / _FASTEST, _A_MINUTE / _SLOWEST, 0.25)
    every = np.arange(len(alike))
    scores = sum(np.interp(lags * k, every, alike) for k in (1, 2, 3, 4)) / 4.0
    likely = np.exp(-0.5 * (np.log2(_A_MINUTE / lags / _USUAL) / _WIDTH) ** 2)
    best = float(lags[int(np.argmax(scores * likely))])
    half = best / 2.0
    if _A_MINUTE / half <= _FASTEST:
        found = lags[np.abs(lags - half) <= 2.0]
        faster = np.interp(found, lags, scores)
        if float(faster.max(initial=0.0)) >= _AS_STRONG * float(np.interp(best, lags, scores)):
            best = float(found[int(np.argmax(faster))])
    return best


def _tracked(onsets: NDArray[np.float64], period: float) -> list[int]:
    """The moments of beats about so far apart that lie on the strongest onsets."""
    count = len(onsets)
    steps = np.arange(-round(2 * period), -round(period / 2) + 1)
    costs = -_TIGHT * np.log(-steps / period) ** 2
    best, before = onsets.copy(), np.full(count, -1)
    for place in range(-int(steps[-1]), count):
        there = place + steps
        inside = there >= 0
        scores = best[there[inside]] + costs[inside]
        found = int(np.argmax(scores))
        if scores[found] > 0.0:
            best[place] += scores[found]
            before[place] = there[inside][found]
    last = count - 1 - int(np.argmax(best[::-1][: max(round(period), 1)]))
    places = []
    while last >= 0:
        places.append(last)
        last = int(before[last])
    return _without_silence(places[::-1], onsets)


def _without_silence(places: list[int], onsets: NDArray[np.float64]) -> list[int]:
    """Without the beats at both ends on which nothing begins (Ellis, section 3)."""
    strong = np.array([onsets[max(x - 4, 0) : x + 5].max() for x in places])
    if not len(strong):
        return []
    enough = np.flatnonzero(strong > 0.5 * np.sqrt((strong**2).mean()))
    return places[int(enough[0]) : int(enough[-1]) + 1] if len(enough) else []


def _between(onsets: NDArray[np.float64], place: int) -> float:
    """The peak next to a moment, between the moments."""
    low, high = max(place - 3, 1), min(place + 4, len(onsets) - 1)
    if low >= high:
        return float(place)
    peak = low + int(np.argmax(onsets[low:high]))
    before, at, after = onsets[peak - 1 : peak + 2]
    bend = before - 2.0 * at + after
    return peak + (0.5 * float((before - after) / bend) if bend < 0.0 else 0.0)
