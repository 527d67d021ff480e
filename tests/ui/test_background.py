"""Work in the background: its result comes to the window's thread, its faults as sentences."""

import threading
import unittest

from tests.ui.window_case import application, wait_for
from wrinkle.core.errors import InputError
from wrinkle.ui.background import Background


class Work(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.background = Background()
        self.addCleanup(self.background.stop)

    def test_the_work_runs_elsewhere_and_its_result_comes_here(self) -> None:
        told: list[tuple[int, int]] = []
        here = threading.get_ident()
        self.background.run(
            threading.get_ident, lambda there: told.append((there, threading.get_ident()))
        )
        self.assertEqual(told, [], "nothing comes before the window listens")
        wait_for(lambda: bool(told), "the result")
        there, came = told[0]
        self.assertNotEqual(there, here)
        self.assertEqual(came, here)

    def test_a_fault_is_told_and_the_next_piece_is_done(self) -> None:
        told: list[str] = []
        self.background.failed.connect(told.append)

        def fail() -> str:
            raise InputError("clip.mp4 cannot be opened.")

        self.background.run(fail, told.append)
        self.background.run(lambda: "done", told.append)
        wait_for(lambda: len(told) == 2, "both")
        self.assertEqual(told, ["clip.mp4 cannot be opened.", "done"])

    def test_what_has_not_begun_is_dropped_at_the_end(self) -> None:
        gate, done = threading.Event(), []
        self.background.run(gate.wait, lambda was: done.append("first"))
        self.background.run(lambda: done.append("begun"), done.append)
        threading.Timer(0.05, gate.set).start()
        self.background.stop()
        self.assertEqual(done, [])

    def test_what_is_dropped_is_not_done_and_later_work_is(self) -> None:
        gate, done = threading.Event(), []
        self.background.run(gate.wait, lambda was: done.append("first"))
        self.background.run(lambda: "dropped", done.append)
        self.background.drop()
        self.background.run(lambda: "later", done.append)
        gate.set()
        wait_for(lambda: "later" in done, "the later work")
        self.assertEqual(done, ["first", "later"])
