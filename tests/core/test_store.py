import unittest
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier, Event

import numpy as np

from wrinkle.core.errors import Cancelled
from wrinkle.core.store import Store


def some(count: int) -> np.ndarray:
    return np.zeros(count, np.uint8)


class Kept(unittest.TestCase):
    def test_the_least_recently_used_goes_first_and_the_bytes_are_right(self) -> None:
        store = Store(10)
        first = some(4)
        store.keep_frame("a", first)
        store.keep_frame("b", some(4))
        self.assertIs(store.frame("a"), first)
        store.keep_frame("c", some(3))
        self.assertIsNone(store.frame("b"))
        self.assertIs(store.frame("a"), first)
        self.assertEqual(store.used, 7)
        store.keep_frame("a", some(1))
        self.assertEqual(store.used, 4)

    def test_one_that_is_too_large_is_kept_alone(self) -> None:
        store = Store(3)
        store.keep_part("a", some(2))
        store.keep_part("b", some(5))
        self.assertIsNone(store.part("a"))
        self.assertEqual((len(store.part("b")), store.used), (5, 5))

    def test_frames_and_parts_each_keep_half_of_the_room(self) -> None:
        store = Store(100)
        for n in range(20):
            store.keep_frame(n, some(10))
        self.assertEqual(store.used, 100)
        for n in range(20):
            store.keep_part(n, some(10))
            self.assertLessEqual(store.used, 100)
        frames = sum(store.frame(n) is not None for n in range(20))
        parts = sum(store.part(n) is not None for n in range(20))
        self.assertEqual((frames, parts), (5, 5))
        store.budget = 40
        self.assertLessEqual(store.used, 40)

    def test_a_part_is_made_once(self) -> None:
        store, made = Store(), []
        for _ in range(3):
            store.made("x", lambda: made.append(1) or some(1))
        self.assertEqual(len(made), 1)

    def test_what_may_never_be_wanted_again_is_kept_from_the_second_time_on(self) -> None:
        store, made = Store(), []
        for wanted in (1, 2, 2, 2):
            store.made_twice("x", lambda: made.append(1) or some(1))
            self.assertEqual(len(made), wanted)
        for number in range(1000):
            store.made_twice(number, lambda: some(1))
        self.assertEqual(store.used, 1)

    def test_of_several_that_ask_at_once_one_makes_it_and_the_others_wait(self) -> None:
        store, made, entered, may_end = Store(), [], Event(), Event()

        def make() -> np.ndarray:
            made.append(1)
            entered.set()
            may_end.wait()
            return some(1)

        with ThreadPoolExecutor(4) as threads:
            asked = [threads.submit(store.made, "x", make) for _ in range(4)]
            entered.wait()
            self.assertFalse(any(one.done() for one in asked))
            may_end.set()
            found = {id(one.result()) for one in asked}
        self.assertEqual((len(found), len(made)), (1, 1))

    def test_where_one_fails_the_next_one_makes_it(self) -> None:
        store, tries, both = Store(), [], Barrier(2)

        def make() -> np.ndarray:
            tries.append(1)
            if len(tries) == 1:
                both.wait()
                raise Cancelled
            return some(1)

        with ThreadPoolExecutor(2) as threads:
            first = threads.submit(store.made, "x", make)
            second = threads.submit(lambda: (both.wait(), store.made("x", make))[1])
            self.assertEqual(len(second.result()), 1)
            self.assertIsInstance(first.exception(), Cancelled)
        self.assertEqual(len(tries), 2)
        self.assertEqual(len(store.made("y", lambda: store.made("y", lambda: some(3)))), 3)
