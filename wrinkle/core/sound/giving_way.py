"""Music that goes quieter while something else is heard, and comes back after it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.sound.blocks import Blocks
from wrinkle.core.sound.heard import SoundSource
from wrinkle.core.sound.turning import eased, smoothed
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

_HEARD = -42.0
"""dBFS, the root of the mean square of a moment: what is softer is no reason to give way."""
_FULLY = -30.0
"""From so loud on it gives way as far as it is to."""
_MOMENT = SAMPLE_RATE // 50
"""Samples of a moment: 20 ms."""
_AHEAD = 5
"""Moments by which it begins to give way before: 100 ms."""
_STAYS = 15
"""Moments for which it stays quieter: the pauses between words."""
_RETURNS = 40
"""Moments in which it comes back from the full amount."""
_BLOCK = 50
"""Moments that are made at once: one second."""
_BEFORE = _STAYS + _RETURNS + 2


class GivingWay:
    """A sound that gives way to another one. Thread-safe.

    Args:
        sound: what gives way.
        to: what it gives way to, counted as the sound is.
        by: decibels, above 0.
    """

    def __init__(self, sound: SoundSource, to: SoundSource, by: float) -> None:
        self._sound = sound
        self._to = to
        self._by = by
        self._blocks = Blocks(self._made, _BLOCK * _MOMENT)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on.

        Raises:
            MediaError: a sound cannot be read.
        """
        return self._blocks.samples(start, count)

    def _made(self, number: int) -> Samples:
        first = number * _BLOCK
        amounts = self._amounts(first - 1, _BLOCK + 2)
        places = (np.arange(_BLOCK * _MOMENT) + 0.5) / _MOMENT + 0.5
        turned = np.interp(places, np.arange(len(amounts)), amounts) * self._by
        gains = (10.0 ** (-turned / 20.0)).astype(np.float32)
        found = self._sound.samples(first * _MOMENT, _BLOCK * _MOMENT)
        return found * gains[:, np.newaxis]

    def _amounts(self, first: int, count: int) -> NDArray[np.float64]:
        """How far it gives way at moments, 0…1."""
        begin = first - _BEFORE
        moments = count + _BEFORE + _AHEAD
        other = self._to.samples(begin * _MOMENT, moments * _MOMENT)
        power = (other.astype(np.float64) ** 2).mean(axis=1).reshape(moments, -1).mean(axis=1)
        levels = 10.0 * np.log10(np.maximum(power, 1e-12))
        wanted = np.clip((levels - _HEARD) / (_FULLY - _HEARD), 0.0, 1.0)
        amounts = smoothed(eased(wanted, _AHEAD, _STAYS, 1.0 / _RETURNS), _AHEAD // 2)
        return amounts[_BEFORE : _BEFORE + count]
