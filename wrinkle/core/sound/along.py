"""What a setting of a sound is along it, for each of its samples."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import parts
from wrinkle.core.synthesis.samples import SAMPLE_RATE

Along = float | NDArray[np.float64]
"""One value, or one for each sample ``(N,)``."""
_EVERY = SAMPLE_RATE // 200
_MOST = 4_000


def at_hit(wrinkle: Wrinkle, sound: WrinkleSound, key: str) -> float:
    """The value of a setting at the hit of its sound.

    Raises:
        InputError: a formula has no value there.
    """
    return _at(wrinkle, sound, key, sound.hit)


def along(wrinkle: Wrinkle, sound: WrinkleSound, key: str, start: int, count: int) -> Along:
    """The values of a setting along its sound.

    Args:
        wrinkle, sound: whose.
        key: the address of the setting.
        start: the sample with which the sound begins, counted from the cut.
        count: its samples.

    Raises:
        InputError: a formula has no value there.
    """
    if sound.setting(key).still:
        return at_hit(wrinkle, sound, key)
    steps = min(max(2, count // _EVERY), _MOST)
    places = np.linspace(0, count, steps + 1)
    times = [Fraction(start + round(x), SAMPLE_RATE) for x in places.tolist()]
    values = [_at(wrinkle, sound, key, time) for time in times]
    return np.asarray(np.interp(np.arange(count), places, values))


def _at(wrinkle: Wrinkle, sound: WrinkleSound, key: str, time: Fraction) -> float:
    setting, clock = sound.setting(key), wrinkle.clock(sound, time)
    seen = setting.seen(time, Side.of(time), clock)
    found = sound.spec(key).limited(seen)
    return float(found if isinstance(found, bool) else parts(found)[0])
