"""Values brought nearer to where they rest, or further away from it."""

from __future__ import annotations

from collections.abc import Callable

from wrinkle.core.motion.values import Value, discrete, mix, parts, same_kind


def departing(rest: Value, share: float, by_power: bool = False) -> Callable[[Value], Value]:
    """Scales the departure of values from a value.

    Args:
        rest: where they rest.
        share: 0 is at rest, 1 as they are.
        by_power: what is smaller than at rest shrinks by a power: half of 100 % twice is a quarter,
            and never below nothing.
    """

    def shrunk(own: float, full: float) -> float:
        if by_power and 0.0 <= own < full:
            return full * (own / full) ** share if share > 0.0 else full
        return full + (own - full) * share

    def change(own: Value) -> Value:
        if discrete(own) or not same_kind(own, rest):
            return own
        if not by_power:
            return mix(rest, own, share)
        both = tuple(map(shrunk, parts(own), parts(rest)))
        return both if isinstance(own, tuple) else both[0]

    return change
