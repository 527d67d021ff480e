"""A mix that nobody waits for: what of it is not worked out yet joins in as soon as it is.

The sounds of a wrinkle are made from what moves in it, which may have to be drawn first. Whoever
presses *play* hears the rest at once. For playing alone: what is written has all of its samples.
"""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace

from wrinkle.core.errors import InputError
from wrinkle.core.sound.heard import CLICKLESS, Mix, Ramp
from wrinkle.core.synthesis.samples import Samples


class JoiningLate:
    """Samples of a mix one after the other, for one thread that asks.

    Args:
        mix: what is played.
        beside: does something on another thread.
    """

    def __init__(self, mix: Mix, beside: Callable[[Callable[[], None]], None]) -> None:
        self._mix, self._beside = mix, beside
        self._begun: set[int] = set()
        self._done: set[int] = set()
        self._missing: frozenset[int] = frozenset()

    def samples(self, start: int, count: int) -> Samples:
        """So many samples from one on, within ±1, of all parts that are worked out by now.

        Raises:
            InputError: a part cannot be heard; never the first time that it is asked for.
        """
        parts = enumerate(self._mix.parts)
        unready = {number for number, part in parts if not part.is_ready(start, count)}
        missing = frozenset(unready - self._done)
        for part in sorted(missing - self._begun):
            self._begun.add(part)
            self._beside(lambda part=part: self._work_out(part))  # type: ignore[misc]
        found = self._without(missing).samples(start, count)
        if self._missing - missing:
            # What comes in the midst of its wave would click.
            fade = min(CLICKLESS, count)
            share = Ramp(range(start, start + fade)).gains(start, fade)[:, None]
            before = self._without(self._missing).samples(start, fade)
            found[:fade] = found[:fade] * share + before * (1.0 - share)
        self._missing = missing
        return found

    def _without(self, missing: frozenset[int]) -> Mix:
        parts = enumerate(self._mix.parts)
        return replace(self._mix, parts=tuple(x for number, x in parts if number not in missing))

    def _work_out(self, number: int) -> None:
        part = self._mix.parts[number]
        try:
            # What is wrong with it is found again by whoever plays on.
            with suppress(InputError):
                part.sound.samples(part.span.start - part.place, len(part.span))
        finally:
            self._done.add(number)
