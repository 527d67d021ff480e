"""Makes the files of sound that ship: each strikes once, at a moment that is said here.

Apart from the recipes: another encoder gives other bytes for the same samples.
"""

from __future__ import annotations

import numpy as np

from wrinkle.core.sound.heard import Fixed, Mix, MixPart, Ramp, factor
from wrinkle.core.synthesis.made_sounds import (
    AIR,
    CRACKLE,
    DROP,
    HIT,
    MADE_SOUNDS,
    RISE,
    TICK,
    Voice,
    made,
)
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.library.stand_in_sounds import STAND_IN_SOUNDS
from wrinkle.media.sound_writing import write_sound

Strike = tuple[str, float, float, float, float, int]
"""A made sound, when its hit falls in the file, how long it is, its level, its pitch and seed."""
HITS = {"surge": 0.9, "thump": 0.1, "snap": 0.08, "swish": 0.45}
"""Seconds at which each strikes."""
_MADE: dict[str, list[Strike]] = {
    "surge": [(RISE, 0.9, 0.9, -8.0, 1.0, 3), (HIT, 0.9, 0.9, -3.0, 0.8, 5),
              (DROP, 0.9, 0.9, -12.0, 0.6, 1)],
    "thump": [(HIT, 0.1, 0.7, -2.0, 0.7, 2)],
    "snap": [(TICK, 0.08, 0.06, -2.0, 0.9, 1), (CRACKLE, 0.08, 0.12, -9.0, 1.0, 4)],
    "swish": [(AIR, 0.45, 0.9, -12.0, 1.1, 6), (TICK, 0.45, 0.05, -6.0, 1.2, 1)],
}  # fmt: skip
_LONGEST = 2.0


def mix(name: str) -> Mix:
    """All that is heard in one of them."""
    parts = []
    for kind, hit, seconds, level, pitch, seed in _MADE[name]:
        sound, count = MADE_SOUNDS[kind], round(seconds * SAMPLE_RATE)
        swell = np.sin(np.linspace(0.0, np.pi, 200)) ** 3
        voice = Voice(count, pitch, np.random.default_rng([seed, sound.number]), swell)
        samples = np.repeat(made(sound, voice)[:, np.newaxis], 2, axis=1)
        first = round(hit * SAMPLE_RATE - sound.hit * count)
        whole = range(first, first + count)
        parts.append(MixPart(Fixed(samples), first, whole, factor(level),
                          rise=Ramp(range(first, first))))  # fmt: skip
    end = min(max(part.span.stop for part in parts), round(_LONGEST * SAMPLE_RATE))
    return Mix(tuple(parts), range(end))


def main() -> None:
    """Each into its place."""
    for name, path in STAND_IN_SOUNDS.items():
        path.parent.mkdir(exist_ok=True)
        write_sound(path, mix(name))


if __name__ == "__main__":
    main()
