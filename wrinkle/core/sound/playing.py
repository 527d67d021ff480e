"""Sound on its way to a device: made a little ahead, in a thread of its own, and counted.

Whoever plays takes samples as it needs them and is never kept waiting: where none are made yet it
gets silence, which is not counted. So what was counted says which moment is heard.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from threading import Condition, Thread

import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.sound.heard import Mix, SoundSource
from wrinkle.core.sound.joining_late import JoiningLate
from wrinkle.core.sound.stretching import stretched
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples

AHEAD = SAMPLE_RATE // 2
"""Samples that are made before they are needed."""
_FIRST, _BLOCK = SAMPLE_RATE // 40, SAMPLE_RATE // 10
"""Samples that are made at once; at first few, so that something is heard soon."""
_REMEMBERED = 256
"""Times that samples were taken: more than any device holds."""


@dataclass(frozen=True, eq=False)
class Looped:
    """A stretch of something over and over.

    Attributes:
        heard: what of.
        span: its samples from the first one to the one after the last.
        speed: slower than 1 it is drawn out at the same pitch.
    """

    heard: SoundSource
    span: range
    speed: Fraction = Fraction(1)

    @property
    def count(self) -> int:
        """The samples of one round as they are played."""
        return max(round(len(self.span) / self.speed), 1)

    def run(self, beside: Callable[[Callable[[], None]], None]) -> SoundSource:
        """What is played, from its first sample on; within one round.

        Args:
            beside: works out on another thread what is not there yet.
        """
        if self.speed != 1:
            return stretched(self.heard, self.span.start, self.speed)
        heard = self.heard
        prompt = JoiningLate(heard, beside) if isinstance(heard, Mix) else heard
        return _From(prompt, self.span.start)


@dataclass(frozen=True, eq=False)
class _From:
    heard: SoundSource
    zero: int

    def samples(self, start: int, count: int) -> Samples:
        return self.heard.samples(start + self.zero, count)


class Pump:
    """Makes the samples of a loop ahead of whoever takes them.

    Args:
        loop: what is played.
        start: the sample of the round with which it begins.
    """

    def __init__(self, loop: Looped, start: int) -> None:
        self._beside: list[Thread] = []
        self._loop, self._run = loop, loop.run(self._start_beside)
        self._place = start
        self._made: deque[Samples] = deque()
        self._ahead = 0
        self._taken = 0
        self._given: deque[tuple[int, int]] = deque(maxlen=_REMEMBERED)
        self._number = 0
        self._closed = False
        self._wake = Condition()
        self._thread = Thread(target=self._work, name="jobs-sound", daemon=True)
        self._thread.start()

    @property
    def taken(self) -> int:
        """Samples that were taken, without the silence between them."""
        return self._taken

    def played(self, waiting: int) -> int:
        """Samples that were heard, without the silence between them.

        Args:
            waiting: how many of all that were taken, silence as well, are not heard yet.
        """
        with self._wake:
            unheard = 0
            # Of what was taken last, silence lies behind the samples.
            for samples, silence in reversed(self._given):
                waiting -= silence
                unheard += min(max(waiting, 0), samples)
                waiting -= samples
                if waiting <= 0:
                    break
            return self._taken - unheard

    @property
    def works(self) -> bool:
        """Whether a thread of its is still there."""
        return any(thread.is_alive() for thread in (self._thread, *self._beside))

    def take(self, count: int) -> Samples:
        """So many samples ``(count, 2)``; silence where they are not made yet."""
        found: Samples = np.zeros((count, 2), np.float32)
        done = 0
        with self._wake:
            while self._made and done < count:
                block = self._made.popleft()
                part = block[: count - done]
                found[done : done + len(part)] = part
                done += len(part)
                if len(part) < len(block):
                    self._made.appendleft(block[len(part) :])
            self._ahead -= done
            self._taken += done
            self._given.append((done, count - done))
            self._wake.notify_all()
        return found

    def change(self, loop: Looped) -> None:
        """Plays on at the same place in something else: what was made ahead is dropped."""
        with self._wake:
            here = (self._place - self._ahead) % self._loop.count
            share = Fraction(here, self._loop.count) if loop.count != self._loop.count else None
            self._loop, self._run = loop, loop.run(self._start_beside)
            self._place = here if share is None else int(share * loop.count)
            self._made.clear()
            self._ahead = 0
            self._number += 1
            self._wake.notify_all()

    def close(self, wait: bool = False) -> None:
        """Nothing more is made.

        Args:
            wait: until its threads have ended, which may be reading a file.
        """
        with self._wake:
            self._closed = True
            self._wake.notify_all()
        if wait:
            self._thread.join()
            for thread in self._beside:
                thread.join()

    def _start_beside(self, work: Callable[[], None]) -> None:
        thread = Thread(target=work, name="jobs-sound-made", daemon=True)
        self._beside = [*(x for x in self._beside if x.is_alive()), thread]
        thread.start()

    def _work(self) -> None:
        while True:
            with self._wake:
                self._wake.wait_for(lambda: self._closed or self._ahead < AHEAD)
                if self._closed:
                    return
                run, number = self._run, self._number
                place = self._place % self._loop.count
                size = _BLOCK if self._ahead else _FIRST
                count = min(size, self._loop.count - place)
            try:
                block = run.samples(place, count)
            except InputError:
                # What cannot be read or worked out is told where its pictures are; the rest is
                # heard.
                block = np.zeros((count, 2), np.float32)
            with self._wake:
                # What was asked for meanwhile is something else.
                if number == self._number:
                    self._made.append(block)
                    self._ahead += count
                    self._place = place + count
