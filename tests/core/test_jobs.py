"""Work in the background: order, results, faults, dropping, and the end of it."""

import threading
import unittest
from collections.abc import Callable

from wrinkle.core.errors import Cancelled, InputError, MediaError
from wrinkle.core.jobs import Job, Jobs, Urgency, WorkLine


class WithJobs(unittest.TestCase):
    workers = 2

    def setUp(self) -> None:
        self.jobs = Jobs(self.workers)
        self.addCleanup(self.end)

    def end(self) -> None:
        self.jobs.stop()
        left = [x.name for x in threading.enumerate() if x.name.startswith("jobs")]
        self.assertEqual(left, [])


class InOrder(WithJobs):
    def test_results_come_in_order_whatever_is_done_first(self) -> None:
        late = threading.Event()

        def job(frame: int) -> int:
            if frame == 0:
                late.wait(5)
            if frame == 2:
                late.set()
            return frame * 10

        self.assertEqual(list(self.jobs.in_order(job, range(9))), [n * 10 for n in range(9)])

    def test_an_error_is_raised_where_its_result_is_due(self) -> None:
        def job(frame: int) -> int:
            if frame == 3:
                raise MediaError("frame 3")
            return frame

        seen = []
        with self.assertRaisesRegex(MediaError, "frame 3"):
            for result in self.jobs.in_order(job, range(50)):
                seen.append(result)
        self.assertEqual(seen, [0, 1, 2])

    def test_leaving_early_ends_the_work_and_little_is_done_ahead(self) -> None:
        done = []
        frames = self.jobs.in_order(lambda n: done.append(n) or n, range(1000))
        next(frames)
        frames.close()
        self.assertLess(len(done), 12)

    def test_who_waits_for_stopped_workers_is_told(self) -> None:
        gate, told = threading.Event(), []

        def wait() -> None:
            try:
                list(self.jobs.in_order(lambda n: gate.wait(5), range(50)))
            except Cancelled:
                told.append("cancelled")

        waiting = threading.Thread(target=wait)
        waiting.start()
        threading.Timer(0.05, gate.set).start()
        self.jobs.stop()
        waiting.join(5)
        self.assertEqual(told, ["cancelled"])


class Lines(WithJobs):
    workers = 1

    def setUp(self) -> None:
        super().setUp()
        self.told: list[object] = []
        self.gate, self.idle = threading.Event(), threading.Event()

    def line(self, urgency: Urgency = Urgency.ASKED, **how) -> WorkLine:
        return WorkLine(self.jobs, urgency, "That did not work", self.told.append, **how)

    def held_up(self, line: WorkLine) -> None:
        """The only worker waits for the gate."""
        begun = threading.Event()
        line.put(lambda job: begun.set() or self.gate.wait(5), lambda was: None)
        begun.wait(5)

    def finished(self, line: WorkLine) -> None:
        line.put(lambda job: self.idle.set(), lambda was: None)
        self.gate.set()
        self.assertTrue(self.idle.wait(5))

    def test_the_most_urgent_comes_first_and_each_line_keeps_its_order(self) -> None:
        tiles, asked = self.line(Urgency.TILES), self.line(Urgency.ASKED)
        self.held_up(asked)
        for n in range(3):
            tiles.put(lambda job, n=n: f"tile {n}", self.told.append)
            asked.put(lambda job, n=n: f"asked {n}", self.told.append)
        self.finished(tiles)
        self.assertEqual(self.told, ["asked 0", "asked 1", "asked 2", "tile 0", "tile 1", "tile 2"])

    def test_what_is_seen_does_not_wait_for_what_goes_on_beside(self) -> None:
        beside = self.line(Urgency.MEASURING)
        self.held_up(beside)
        done = threading.Event()
        self.line(Urgency.LOOKED_AT).put(lambda job: done.set(), lambda was: None)
        self.assertTrue(done.wait(60), "it is done while the other is held up")
        self.gate.set()

    def test_what_ends_its_rest_between_two_questions_is_done(self) -> None:
        done = threading.Event()

        class Resting:
            """Its rest is over as soon as it was asked how long it still is."""

            over = False

            def urgency(self) -> tuple[int, float] | None:
                return (Urgency.ASKED, 0.0) if self.over and not done.is_set() else None

            def rests_for(self) -> float | None:
                self.over = True
                return None

            def take(self) -> Callable[[], None]:
                return done.set

        self.jobs.add(Resting())
        self.assertTrue(done.wait(60))

    def test_the_newest_first_and_no_more_than_so_many(self) -> None:
        line, last = self.line(newest_first=True, most=2), self.line(Urgency.TILES)
        self.held_up(line)
        for n in range(4):
            line.put(lambda job, n=n: n, self.told.append)
        self.finished(last)
        self.assertEqual(self.told, [3, 2])

    def test_a_fault_is_told_and_the_next_piece_is_done(self) -> None:
        def fail(job: Job) -> None:
            raise InputError("clip.mp4 cannot be opened.")

        def err(job: Job) -> None:
            raise RuntimeError("no")

        line = self.line()
        with self.assertLogs("wrinkle") as logged:
            line.put(fail, self.told.append)
            line.put(err, self.told.append)
            line.put(lambda job: "done", self.told.append)
            self.finished(line)
        self.assertEqual(len(logged.records), 1)
        self.assertEqual(
            self.told,
            ["clip.mp4 cannot be opened.", "That did not work: RuntimeError('no').", "done"],
        )

    def test_what_is_dropped_or_cancelled_is_not_done_and_later_work_is(self) -> None:
        line = self.line()
        self.held_up(line)
        line.put(lambda job: "dropped", self.told.append)
        line.drop()
        cancelled = line.put(lambda job: "cancelled", self.told.append)
        cancelled.cancel()
        line.put(lambda job: "later", self.told.append)
        self.finished(line)
        self.assertEqual(self.told, ["later"])

    def test_what_has_not_begun_is_dropped_at_the_end(self) -> None:
        line = self.line()
        self.held_up(line)
        line.put(lambda job: self.told.append("begun"), self.told.append)
        threading.Timer(0.05, self.gate.set).start()
        self.jobs.stop()
        self.assertEqual(self.told, [])


class Long(WithJobs):
    def run_to_its_end(self, work) -> list[object]:
        told: list[object] = []
        over = threading.Event()

        def end(what: object = "cancelled") -> None:
            told.append(what)
            over.set()

        self.job = self.jobs.start(
            work, end, end, "No video", lambda *far: told.append(far[:2]), end
        )
        self.assertTrue(over.wait(5))
        return told

    def test_progress_and_result_are_told(self) -> None:
        def work(job: Job) -> str:
            job.report(1, 2)
            job.report(2, 2)
            return "written"

        self.assertEqual(self.run_to_its_end(work), [(1, 2), (2, 2), "written"])

    def test_it_ends_at_its_next_report_when_it_is_cancelled(self) -> None:
        def work(job: Job) -> str:
            job.cancel()
            job.report(1, 2)
            return "never"

        self.assertEqual(self.run_to_its_end(work), ["cancelled"])

    def test_a_fault_is_one_sentence(self) -> None:
        def work(job: Job) -> None:
            raise MemoryError

        self.assertRegex(str(self.run_to_its_end(work)), "not enough memory")
