"""Many frames in order, computed side by side, as a file or a contact sheet needs them."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Generator, Iterable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

Result = TypeVar("Result")


def in_order(
    job: Callable[[int], Result], frames: Iterable[int], workers: int
) -> Generator[Result, None, None]:
    """``job(frame)`` for each frame, in their order, a few ahead on threads.

    An error in a job is raised where its result is due; closing the iterator ends the threads.
    """
    with ThreadPoolExecutor(workers, thread_name_prefix="render") as pool:
        waiting: deque[Future[Result]] = deque()
        try:
            for frame in frames:
                waiting.append(pool.submit(job, frame))
                if len(waiting) > 2 * workers:
                    yield waiting.popleft().result()
            while waiting:
                yield waiting.popleft().result()
        finally:
            for future in waiting:
                future.cancel()
