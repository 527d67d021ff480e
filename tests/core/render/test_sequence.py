import threading
import unittest

from wrinkle.core.errors import MediaError
from wrinkle.core.render.sequence import in_order


class InOrder(unittest.TestCase):
    def test_results_come_in_order_whatever_is_done_first(self) -> None:
        late = threading.Event()

        def job(frame: int) -> int:
            if frame == 0:
                late.wait(5)
            if frame == 2:
                late.set()
            return frame * 10

        self.assertEqual(list(in_order(job, range(9), 3)), [n * 10 for n in range(9)])

    def test_an_error_is_raised_where_its_result_is_due(self) -> None:
        def job(frame: int) -> int:
            if frame == 3:
                raise MediaError("frame 3")
            return frame

        seen = []
        with self.assertRaisesRegex(MediaError, "frame 3"):
            for result in in_order(job, range(50), 2):
                seen.append(result)
        self.assertEqual(seen, [0, 1, 2])

    def test_leaving_early_ends_the_threads_and_little_is_done_ahead(self) -> None:
        done = []
        frames = in_order(lambda n: done.append(n) or n, range(1000), 2)
        next(frames)
        frames.close()
        self.assertLess(len(done), 12)
        names = [thread.name for thread in threading.enumerate()]
        self.assertFalse([name for name in names if name.startswith("render")])
