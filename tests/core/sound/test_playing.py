"""Sound on its way to a device: the right samples, in order, whoever takes them and however."""

import time
import unittest
from fractions import Fraction
from threading import Event

import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.sound.playing import AHEAD, Looped, Pump
from wrinkle.core.synthesis.samples import Samples


class Counted:
    """Each sample says its number."""

    def __init__(self, besides: int = 0) -> None:
        self.besides = besides
        self.asked = 0

    def samples(self, start: int, count: int) -> Samples:
        self.asked += count
        numbers = start + np.arange(count) + self.besides
        return np.stack([numbers, -numbers], 1).astype(np.float32)


class Blocked(Counted):
    """Gives nothing until it may."""

    def __init__(self) -> None:
        super().__init__()
        self.may = Event()

    def samples(self, start: int, count: int) -> Samples:
        self.may.wait()
        return super().samples(start, count)


class Broken(Counted):
    def samples(self, start: int, count: int) -> Samples:
        raise InputError("'1 / t' has no finite value at t = 0; write another.")


class Pumping(unittest.TestCase):
    def pump(self, source: Counted, span: range, start: int = 0) -> Pump:
        pump = Pump(Looped(source, span), start)
        self.addCleanup(pump.close, wait=True)
        return pump

    def taken(self, pump: Pump, count: int) -> list[int]:
        """So many samples, without the silence between them."""
        found: list[int] = []
        while len(found) < count:
            before = pump.taken
            block = pump.take(min(1_111, count - len(found)))
            found += [int(x) for x in block[: pump.taken - before, 0]]
            if pump.taken == before:
                time.sleep(0.001)
        return found

    def test_it_goes_round_from_where_it_began(self) -> None:
        pump = self.pump(Counted(), range(-500, 9_500), 9_000)
        wanted = [-500 + (9_000 + n) % 10_000 for n in range(30_000)]
        self.assertEqual(self.taken(pump, 30_000), wanted)

    def test_it_makes_no_more_ahead_than_it_says(self) -> None:
        source = Counted()
        pump = self.pump(source, range(10_000_000))
        self.taken(pump, 100)
        while source.asked < AHEAD:
            time.sleep(0.001)
        self.taken(pump, 1)
        self.assertLess(source.asked, AHEAD + 20_000)

    def test_who_takes_is_never_kept_waiting_and_silence_does_not_count(self) -> None:
        source = Blocked()
        pump = self.pump(source, range(100_000))
        self.assertFalse(pump.take(4_800).any())
        self.assertEqual(pump.taken, 0)
        source.may.set()
        self.assertEqual(self.taken(pump, 3), [0, 1, 2])

    def test_what_changes_goes_on_at_the_same_place(self) -> None:
        pump = self.pump(Counted(), range(50_000))
        self.taken(pump, 12_345)
        pump.change(Looped(Counted(1_000_000), range(50_000)))
        found = self.taken(pump, 2)
        self.assertEqual(found, [1_012_345, 1_012_346])

    def test_what_cannot_be_read_is_silent_and_the_rest_is_heard(self) -> None:
        pump = self.pump(Broken(), range(50_000))
        while pump.taken < 5_000:
            self.assertFalse(pump.take(100).any())
        pump.change(Looped(Counted(), range(50_000)))
        self.assertEqual(len(self.taken(pump, 10)), 10)

    def test_half_as_fast_one_round_lasts_twice_as_long(self) -> None:
        loop = Looped(Counted(), range(24_000), Fraction(1, 2))
        self.assertEqual(loop.count, 48_000)
        self.assertEqual(loop.run(lambda work: work()).samples(0, 10).shape, (10, 2))
