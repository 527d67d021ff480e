"""Jitter: seeded random movement, a pure function of time and seed."""

from __future__ import annotations

import math
from fractions import Fraction

_MASK = (1 << 64) - 1
_OCTAVES = 3
# Catmull-Rom through values within ±1 leaves them by a quarter at most.
_OVERSHOOT = 1.25


def jitter_at(
    time: Fraction, rate: float, roughness: float, seed: int, channel: int, stepped: bool
) -> float:
    """The departure from the value at a time, within ±1.

    Args:
        time: in seconds from the cut.
        rate: new random values in a second; without roughness nothing swings faster than half
            of it.
        roughness: 0…1, the strength of finer movement at twice and four times the rate.
        seed: another one gives another movement.
        channel: 0 for a number or the first of a pair, 1 for the second.
        stepped: jumps from value to value instead of gliding.
    """
    if stepped:
        return _random(seed, channel, math.floor(time * Fraction(rate)))
    total, weight, reach = 0.0, 1.0, 0.0
    for octave in range(_OCTAVES if roughness > 0.0 else 1):
        place = float(time * Fraction(rate) * 2**octave)
        total += weight * _glide(place, seed + 7919 * octave, channel)
        reach += weight
        weight *= roughness
    return total / (reach * _OVERSHOOT)


def _glide(place: float, seed: int, channel: int) -> float:
    """Catmull-Rom through random values at whole places. Source: Catmull and Rom 1974."""
    left = math.floor(place)
    u = place - left
    a, b, c, d = (_random(seed, channel, left + i) for i in (-1, 0, 1, 2))
    return b + 0.5 * u * (
        (c - a) + u * ((2.0 * a - 5.0 * b + 4.0 * c - d) + u * (3.0 * (b - c) + d - a))
    )


def _random(seed: int, channel: int, place: int) -> float:
    """A number within ±1, the same each time. Source: the mixing steps of SplitMix64 (2014)."""
    mixed = (seed * 0x9E3779B97F4A7C15 + channel * 0xD1B54A32D192ED03 + place) & _MASK
    for _ in range(2):
        mixed = (mixed + 0x9E3779B97F4A7C15) & _MASK
        mixed = ((mixed ^ (mixed >> 30)) * 0xBF58476D1CE4E5B9) & _MASK
        mixed = ((mixed ^ (mixed >> 27)) * 0x94D049BB133111EB) & _MASK
        mixed ^= mixed >> 31
    return mixed / (_MASK / 2.0) - 1.0
