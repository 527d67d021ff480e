"""Work in the background: who does it, in which order, and how what came of it is told.

One ``Jobs`` serves a whole program. Its workers take pieces from sources, the most urgent first; a
``WorkLine`` is the plain source, where pieces wait their turn, and frames that are to be seen are
another. What takes long and mostly waits for pieces (a video file) has a thread of its own.
"""

from __future__ import annotations

import logging
import os
import threading
import time
from collections import deque
from collections.abc import Callable, Generator, Iterable
from concurrent.futures import Executor, Future, ThreadPoolExecutor
from enum import IntEnum
from typing import Protocol, TypeVar

from wrinkle.core.errors import Cancelled, InputError

Result = TypeVar("Result")
_POLITENESS = 4
"""Steps by which a thread stands behind others (POSIX nice) where nobody looks at what it makes. No
more: beside other programs that are busy it would hardly come to its turn, and while it holds the
interpreter's lock all others wait for it."""
_log = logging.getLogger(__name__)
_NO_MEMORY = "There is not enough memory for a picture of this size; choose a smaller one."


class Urgency(IntEnum):
    """What is done first."""

    ASKED = 0
    """Something short that a person waits for."""
    LOOKED_AT = 1
    SOURCES = 2
    AROUND = 3
    """What is seen only when the window is played."""
    TILES = 4
    MEASURING = 5
    WRITING = 6


class Source(Protocol):
    """Where workers find something to do. All is called while nobody else looks for work."""

    def urgency(self) -> tuple[int, float] | None:
        """That of its most urgent piece, smaller ones first; None where nothing waits."""

    def take(self) -> Callable[[], None]:
        """Its most urgent piece, which is the caller's from now on; it raises nothing."""

    def rests_for(self) -> float | None:
        """Seconds after which it has more to do without being told; None where it has not."""


def sentence_for(fault: Exception, what: str, way_out: str = "") -> str:
    """One sentence on a fault in the background.

    Args:
        fault: what was raised.
        what: leads in what nobody foresaw.
        way_out: what to do then.
    """
    if isinstance(fault, InputError):
        return str(fault)
    if isinstance(fault, MemoryError):
        return _NO_MEMORY
    _log.error(what, exc_info=fault)
    return f"{what}: {fault!r}. {way_out}".rstrip()


class Job:
    """Something that was asked for, from the point of view of who asked.

    Args:
        told: gets frames done, frames in all and seconds left while it runs.
    """

    def __init__(self, told: Callable[[int, int, float], None] | None = None) -> None:
        self._cancelled = threading.Event()
        self._told = told
        self._started = time.monotonic()

    @property
    def cancelled(self) -> bool:
        """Whether nobody wants it any more."""
        return self._cancelled.is_set()

    def cancel(self) -> None:
        """It is not begun, or ends as soon as it can."""
        self._cancelled.set()

    def check(self) -> None:
        """To be called at times by what runs.

        Raises:
            Cancelled: nobody wants it any more.
        """
        if self.cancelled:
            raise Cancelled

    def report(self, done: int, total: int) -> None:
        """Says how far it is, after some of it is done.

        Raises:
            Cancelled: nobody wants it any more.
        """
        self.check()
        self.tell(done, total)

    def stood_still(self, seconds: float) -> None:
        """Says that it was held for a while: that does not count as working."""
        self._started += seconds

    def tell(self, done: int, total: int) -> None:
        """Says how far it is; what was done is kept even if nobody wants more."""
        if self._told is not None:
            spent = time.monotonic() - self._started
            self._told(done, total, spent / max(done, 1) * (total - done))


class JobWithin(Job):
    """What stands for a job to some of its work; it is cancelled with it."""

    def __init__(self, job: Job) -> None:
        super().__init__()
        self._job = job

    @property
    def cancelled(self) -> bool:
        """Whether nobody wants it any more."""
        return self._job.cancelled


class Jobs:
    """The workers of a program. Someone who makes one ends it with ``stop``.

    Args:
        workers: how many pieces are done side by side, of what is seen and of what goes on beside;
            by default one for each processor.
        deliver: brings what came of a job to the thread of who asked; by default it is called
            where it was made.
    """

    def __init__(
        self,
        workers: int | None = None,
        deliver: Callable[[Callable[[], None]], None] = lambda act: act(),
    ) -> None:
        self.wake = threading.Condition()
        """Held by whoever looks for work or changes what waits in a source; all are notified, since
        not everyone takes every piece."""
        self.deliver = deliver
        self.workers = workers or os.cpu_count() or 1
        self.strips: Executor = ThreadPoolExecutor(self.workers, "jobs-strips")
        """Where strips of a picture are computed that is made alone, and that someone waits for."""
        self._sources: list[Source] = []
        self._stopping = False
        self._threads: list[threading.Thread] = []
        self._long: dict[threading.Thread, Job] = {}

    def add(self, source: Source) -> None:
        """Lets the workers look into a source; they begin when there is one."""
        with self.wake:
            self._sources.append(source)
            if not self._threads:
                self._threads = [
                    threading.Thread(target=self._work, args=(seen,), name=name, daemon=True)
                    for seen, what in ((True, "seen"), (False, "beside"))
                    for name in (f"jobs-{what}-{n}" for n in range(self.workers))
                ]
                for thread in self._threads:
                    thread.start()

    def remove(self, source: Source) -> None:
        """Lets the workers look into a source no more."""
        with self.wake:
            if source in self._sources:
                self._sources.remove(source)

    def line(self, urgency: Urgency, what: str, failed: Callable[[str], None]) -> WorkLine:
        """A new line of pieces; see ``WorkLine``."""
        return WorkLine(self, urgency, what, failed)

    def start(
        self,
        work: Callable[[Job], Result],
        then: Callable[[Result], None],
        failed: Callable[[str], None],
        what: str,
        told: Callable[[int, int, float], None] | None = None,
        cancelled: Callable[[], None] = lambda: None,
    ) -> Job:
        """Does something long on a thread of its own.

        Args:
            work: gets the job, to report how far it is.
            then, failed, cancelled: one of them is called at the end, with the result, with one
                sentence, or with nothing.
            what: begins the sentence where it fails as nobody foresaw.
            told: as for ``Job``.
        """
        job = Job(None if told is None else lambda *far: self.deliver(lambda: told(*far)))

        def run() -> None:
            try:
                result = work(job)
            except Cancelled:
                self.deliver(cancelled)
            except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
                sentence = sentence_for(fault, what)
                self.deliver(lambda: failed(sentence))
            else:
                self.deliver(lambda: then(result))
            finally:
                with self.wake:
                    self._long.pop(threading.current_thread(), None)

        thread = threading.Thread(target=run, name="jobs-long", daemon=True)
        with self.wake:
            if self._stopping:
                job.cancel()
                return job
            self._long[thread] = job
        thread.start()
        return job

    def in_order(
        self, make: Callable[[int], Result], numbers: Iterable[int]
    ) -> Generator[Result, None, None]:
        """``make(number)`` for each number, in their order, a few ahead on the workers.

        An error in one is raised where its result is due; closing the iterator drops the rest.

        Raises:
            Cancelled: the workers were stopped.
        """
        line = _Ahead(self)
        waiting: deque[Future[Result]] = deque()
        try:
            for number in numbers:
                waiting.append(line.put(make, number))
                if len(waiting) > 2 * self.workers:
                    yield waiting.popleft().result()
            while waiting:
                yield waiting.popleft().result()
        finally:
            line.close()
            # Whoever goes on may end what the last pieces still use.
            for future in waiting:
                if not future.cancelled():
                    future.exception()

    def stop(self) -> None:
        """Ends all work and waits for what has begun."""
        with self.wake:
            self._stopping = True
            for source in self._sources:
                if isinstance(source, _Ahead):
                    source.drop()
            self._sources.clear()
            long = dict(self._long)
            self.wake.notify_all()
        for job in long.values():
            job.cancel()
        for thread in (*self._threads, *long):
            thread.join()
        self.strips.shutdown()

    def _work(self, seen: bool) -> None:
        """Does what is seen, which waits for no piece of the rest; or the rest, in the meantime."""
        if not seen:
            _be_polite()
        while True:
            with self.wake:
                piece, rest = self._look(seen)
                if piece is None and seen:
                    # What goes on beside was waiting for that.
                    self.wake.notify_all()
                while piece is None:
                    if self._stopping:
                        return
                    self.wake.wait(rest)
                    piece, rest = self._look(seen)
            piece()

    def _look(self, seen: bool) -> tuple[Callable[[], None] | None, float | None]:
        """A piece to do, and how long to wait where there is none."""
        # Asked first: what ends its rest between the two questions is found by the second one.
        rests = [rest for x in self._sources if (rest := x.rests_for()) is not None]
        return self._next(seen), min(rests, default=None)

    def _next(self, seen: bool) -> Callable[[], None] | None:
        found = [(u, n) for n, x in enumerate(self._sources) if (u := x.urgency()) is not None]
        if not found or (min(found)[0][0] < Urgency.MEASURING) is not seen:
            return None
        return self._sources[min(found)[1]].take()


def _be_polite() -> None:
    # On Linux a thread has a priority of its own: the window's thread goes first.
    os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), _POLITENESS)


class WorkLine:
    """Pieces of one owner, done in their order. Thread-safe.

    Args:
        jobs: who does them.
        urgency: against other sources.
        what: begins the sentence where a piece fails as nobody foresaw.
        failed: gets one sentence.
        newest_first: what was put last is done first.
        most: so many wait at most; of more, those that would come last are dropped.
    """

    def __init__(
        self,
        jobs: Jobs,
        urgency: Urgency,
        what: str,
        failed: Callable[[str], None],
        newest_first: bool = False,
        most: int | None = None,
    ) -> None:
        self._jobs = jobs
        self._urgency = urgency
        self._what = what
        self._failed = failed
        self._newest_first = newest_first
        self._waiting: deque[Callable[[], None]] = deque(maxlen=most)
        jobs.add(self)

    def put(self, work: Callable[[Job], Result], then: Callable[[Result], None]) -> Job:
        """Does some work; ``then`` gets its result, unless the job is cancelled before."""
        job = Job()

        def run() -> None:
            if job.cancelled:
                return
            try:
                result = work(job)
            except Cancelled:
                return
            except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
                sentence = sentence_for(fault, self._what)
                self._jobs.deliver(lambda: self._failed(sentence))
                return
            self._jobs.deliver(lambda: None if job.cancelled else then(result))

        with self._jobs.wake:
            self._waiting.append(run)
            self._jobs.wake.notify_all()
        return job

    def drop(self) -> None:
        """What has not begun is dropped; what has goes on, and nothing waits for it."""
        with self._jobs.wake:
            self._waiting.clear()

    def close(self) -> None:
        """Drops what waits, for good."""
        self.drop()
        self._jobs.remove(self)

    def urgency(self) -> tuple[int, float] | None:
        """That of the line, if anything waits."""
        return (self._urgency, 0.0) if self._waiting else None

    def take(self) -> Callable[[], None]:
        """The piece whose turn it is."""
        return self._waiting.pop() if self._newest_first else self._waiting.popleft()

    def rests_for(self) -> float | None:
        """It never rests."""
        return None


class _Ahead:
    """Pieces whose results someone waits for."""

    def __init__(self, jobs: Jobs) -> None:
        self._jobs = jobs
        self._waiting: deque[tuple[Future[object], Callable[[], object]]] = deque()
        jobs.add(self)

    def put(self, make: Callable[[int], Result], number: int) -> Future[Result]:
        future: Future[Result] = Future()
        with self._jobs.wake:
            if self._jobs._stopping:
                raise Cancelled
            self._waiting.append((future, lambda: make(number)))  # type: ignore[arg-type]
            self._jobs.wake.notify_all()
        return future

    def urgency(self) -> tuple[int, float] | None:
        return (Urgency.WRITING, 0.0) if self._waiting else None

    def take(self) -> Callable[[], None]:
        future, make = self._waiting.popleft()
        future.set_running_or_notify_cancel()

        def run() -> None:
            try:
                future.set_result(make())
            except Exception as fault:  # noqa: BLE001 - it is raised where the result is due
                future.set_exception(fault)

        return run

    def rests_for(self) -> float | None:
        return None

    def drop(self) -> None:
        for future, _ in self._waiting:
            future.set_exception(Cancelled())
        self._waiting.clear()

    def close(self) -> None:
        with self._jobs.wake:
            self.drop()
        self._jobs.remove(self)
