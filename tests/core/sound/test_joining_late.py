"""What is played at once, and what joins in later."""

import threading
import unittest

import numpy as np

from wrinkle.core.errors import InputError
from wrinkle.core.sound.heard import CLICKLESS, Mix, MixPart, Ramp
from wrinkle.core.sound.joining_late import JoiningLate
from wrinkle.core.sound.playing import Looped, Pump
from wrinkle.core.synthesis.samples import Samples

LENGTH = 96_000
AT_ONCE = Ramp(range(0))
TO_THE_END = Ramp(range(LENGTH, LENGTH))


class Level:
    """The same value at all times."""

    def __init__(self, value: float) -> None:
        self.value = value

    def samples(self, start: int, count: int) -> Samples:
        return np.full((count, 2), self.value, np.float32)


class Slow(Level):
    """Is worked out when it may be, by whoever waits for it."""

    def __init__(self, value: float) -> None:
        super().__init__(value)
        self.may, self.ready = threading.Event(), False

    def is_ready(self, start: int, count: int) -> bool:
        return self.ready

    def samples(self, start: int, count: int) -> Samples:
        self.may.wait(60)
        self.ready = True
        return super().samples(start, count)


class Faulty(Slow):
    def samples(self, start: int, count: int) -> Samples:
        raise InputError("It has no value; write another.")


def mixed(*sounds: Level) -> Mix:
    parts = (MixPart(x, 0, range(LENGTH), rise=AT_ONCE, fall=TO_THE_END) for x in sounds)
    return Mix(tuple(parts), range(LENGTH))


class Joining(unittest.TestCase):
    def setUp(self) -> None:
        self.begun: list[threading.Thread] = []

    def beside(self, work) -> None:  # type: ignore[no-untyped-def]
        self.begun.append(threading.Thread(target=work))
        self.begun[-1].start()

    def test_what_is_there_is_heard_at_once_and_the_rest_fades_in(self) -> None:
        slow = Slow(0.5)
        self.addCleanup(slow.may.set)
        played = JoiningLate(mixed(Level(0.25), slow), self.beside)
        for block in range(3):
            np.testing.assert_array_equal(played.samples(block * 1_200, 1_200), 0.25)
        self.assertEqual(len(self.begun), 1, "it is worked out once")
        slow.may.set()
        self.begun[0].join()
        found = played.samples(3_600, 4_800)[:, 0]
        self.assertLess(float(found[0]), 0.26)
        # A line from one to the other, as all that is cut off has it.
        np.testing.assert_allclose(np.diff(found[:CLICKLESS]), 0.5 / CLICKLESS, rtol=1e-3)
        np.testing.assert_array_equal(found[CLICKLESS:], 0.75)
        np.testing.assert_array_equal(played.samples(8_400, 4_800), 0.75)

    def test_what_has_no_value_is_told_to_whoever_plays_on(self) -> None:
        played = JoiningLate(mixed(Level(0.25), Faulty(0.5)), self.beside)
        np.testing.assert_array_equal(played.samples(0, 1_200), 0.25)
        self.begun[0].join()
        with self.assertRaisesRegex(InputError, "no value"):
            played.samples(1_200, 1_200)

    def test_whoever_takes_from_a_pump_gets_the_rest_meanwhile(self) -> None:
        slow = Slow(0.5)
        self.addCleanup(slow.may.set)
        pump = Pump(Looped(mixed(Level(0.25), slow), range(LENGTH)), 0)
        self.addCleanup(pump.close, wait=True)
        while pump.taken < 12_000:
            block = pump.take(240)[:, 0]
            self.assertTrue(set(np.unique(block)) <= {0.0, 0.25})
        pump.close()
        self.assertTrue(pump.works, "it still works something out")
        slow.may.set()
