"""As loud as is asked for, and no peak above a ceiling: a gain, and a limiter that looks ahead."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from wrinkle.core.sound.blocks import Blocks
from wrinkle.core.sound.heard import Heard, factor
from wrinkle.core.sound.loudness import SILENCE, Loudness, between, measured
from wrinkle.core.sound.turning import eased, smoothed
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

TARGET, CEILING = -14.0, -1.0
"""LUFS and dBTP: common practice for videos on the web."""
QUIETEST, LOUDEST = -40.0, -5.0
"""LUFS that can be asked for."""
_AHEAD = SAMPLE_RATE // 200
"""Samples that the limiter looks ahead: 5 ms."""
_RELEASE = 80.0 / SAMPLE_RATE
"""Decibels a sample by which it lets go again."""
_BEFORE = SAMPLE_RATE // 2
"""Samples that are looked at before a block: 40 dB have been let go by then."""
_MARGIN = 0.1
"""Decibels: a wave that is turned down while it passes can rise a little between its samples."""
_BLOCK = SAMPLE_RATE
_ROUNDS = 4
_NEAR = 0.05
"""LU that are near enough."""
_MOST = 40.0
"""Decibels of gain: of what is all but silent nothing is made."""


class Levelled:
    """Something heard, louder or softer, its peaks held below a ceiling. Thread-safe.

    Args:
        heard: what it is made of.
        gain: in decibels.
        ceiling: that no true peak exceeds, in dBTP.
    """

    def __init__(self, heard: Heard, gain: float, ceiling: float = CEILING) -> None:
        self._heard = heard
        self._gain = np.float32(factor(gain))
        self._ceiling = ceiling - _MARGIN
        self._blocks = Blocks(self._made, _BLOCK)

    @property
    def span(self) -> range:
        """The samples there are."""
        return self._heard.span

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: a sound cannot be read.
        """
        return self._blocks.samples(start, count)

    def _made(self, number: int) -> Samples:
        first = number * _BLOCK - _BEFORE
        samples = self._heard.samples(first, _BEFORE + _BLOCK + 4 * _AHEAD) * self._gain
        found = samples[_BEFORE : _BEFORE + _BLOCK]
        most = factor(self._ceiling)
        peaks = np.abs(between(samples)).max(axis=1).reshape(len(samples), -1).max(axis=1)
        if float(peaks.max(initial=0.0)) <= most:
            return found
        over = np.maximum(20.0 * np.log10(np.maximum(peaks, 1e-9) / most), 0.0)
        turned = smoothed(eased(over, _AHEAD, _AHEAD, _RELEASE), _AHEAD)
        gains = 10.0 ** (-turned[_BEFORE : _BEFORE + _BLOCK] / 20.0)
        return found * gains.astype(np.float32)[:, np.newaxis]


def levelled(
    heard: Heard,
    target: float = TARGET,
    ceiling: float = CEILING,
    progress: Callable[[int, int], None] = lambda done, total: None,
) -> tuple[Heard, Loudness]:
    """As loud as is asked for; gives also how loud it came to be.

    What is silent stays so; peaks can keep something from being as loud as is asked for.

    Args:
        heard: what it is made of.
        target: the integrated loudness, in LUFS.
        ceiling: that no true peak exceeds, in dBTP.
        progress: as that of ``measured``.

    Raises:
        MediaError: a sound cannot be read.
    """
    now = measured(heard, progress)
    if now.integrated <= SILENCE:
        return heard, now
    gain = min(target - now.integrated, _MOST)
    found: Heard = heard
    for _ in range(_ROUNDS):
        found = Levelled(heard, gain, ceiling)
        now = measured(found, progress)
        away = target - now.integrated
        if abs(away) <= _NEAR or not math.isfinite(away):
            break
        # A limiter takes loudness away again: what is missing is asked for once more.
        gain = min(gain + away, _MOST)
    return found, now
