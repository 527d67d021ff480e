"""What is done in the background comes to the window's thread, and ends with the window."""

import threading
import unittest
from unittest import mock

from tests.ui.window_case import application, demo_clip, wait_for
from wrinkle.ui.desk.memory import budget_within, taken
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.workers import Workers


class Background(unittest.TestCase):
    def setUp(self) -> None:
        application()
        self.messages = Messages()
        self.workers = Workers(self.messages)
        self.addCleanup(self.workers.stop)

    def test_the_work_runs_elsewhere_and_its_result_comes_here(self) -> None:
        told: list[tuple[int, int]] = []
        here = threading.get_ident()
        self.workers.asked.put(
            lambda job: threading.get_ident(),
            lambda there: told.append((there, threading.get_ident())),
        )
        self.assertEqual(told, [], "nothing comes before the window listens")
        wait_for(lambda: bool(told), "the result")
        there, came = told[0]
        self.assertNotEqual(there, here)
        self.assertEqual(came, here)

    def test_clips_are_read_elsewhere_and_shared(self) -> None:
        threads: list[int] = []
        read = self.workers.pool.clip

        def noted(path):  # type: ignore[no-untyped-def]
            threads.append(threading.get_ident())
            return read(path)

        self.workers.pool.clip = noted  # type: ignore[method-assign]
        found: list[object] = []
        faults: list[str] = []
        for _ in range(2):
            self.workers.read_clip(demo_clip("pier"), found.append, faults.append)
        self.workers.read_clip(demo_clip("pier").parent, found.append, faults.append)
        wait_for(lambda: len(found) + len(faults) == 3, "the clips")
        self.assertIs(found[0], found[1])
        self.assertIn("is a folder; choose a video file", faults[0])
        self.assertNotIn(threading.get_ident(), threads)

    def test_kept_pictures_make_room_for_the_rest_of_the_program(self) -> None:
        mebi = 1 << 20
        # What is not known changes nothing; else the whole stays near what is allowed.
        self.assertEqual(budget_within(1000 * mebi, 0, 0), 1000 * mebi)
        self.assertEqual(budget_within(1000 * mebi, 300 * mebi, 350 * mebi), 950 * mebi)
        found = budget_within(1000 * mebi, 900 * mebi, 1600 * mebi)
        self.assertAlmostEqual(found / mebi, 300, delta=1)
        # However much the rest takes, some pictures are kept.
        self.assertEqual(budget_within(1000 * mebi, 10 * mebi, 5000 * mebi), 160 * mebi)
        self.assertEqual(budget_within(100 * mebi, 10 * mebi, 5000 * mebi), 100 * mebi)
        self.assertGreater(taken(), 50 * mebi)
        workers = self.workers
        workers.allow(700 * mebi)
        with mock.patch("wrinkle.ui.desk.workers.taken", return_value=900 * mebi):
            workers._tidy()
            wait_for(lambda: workers.store.budget < 700 * mebi, "less is kept")
        self.assertEqual(workers.allowed, 700 * mebi)
        with mock.patch("wrinkle.ui.desk.workers.taken", return_value=20 * mebi):
            workers._tidy()
            wait_for(lambda: workers.store.budget == 680 * mebi, "all but what the rest takes")

    def test_nothing_comes_after_the_end(self) -> None:
        told: list[object] = []
        gate = threading.Event()
        self.workers.asked.put(lambda job: gate.wait(5), told.append)
        threading.Timer(0.05, gate.set).start()
        self.workers.stop()
        application().processEvents()
        self.assertEqual(told, [])
