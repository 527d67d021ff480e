"""Frames of a piece that the workers of a cluster draw, in their order.

Frames are pure, so it does not matter who draws a range, nor how often. A range whose worker died
is drawn again (Dask's own care); one that a slow worker sits on is given to an idle one as well,
and whoever is first counts.
"""

from __future__ import annotations

import threading
import time
from asyncio import CancelledError
from collections.abc import Generator, Iterator, Sequence
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from statistics import median
from typing import Any

from av.video.frame import VideoFrame
from distributed import Client, KilledWorker
from distributed.client import FutureCancelledError
from distributed.comm import CommClosedError

from wrinkle.cluster.order import Order, order_of
from wrinkle.cluster.packing import unpack
from wrinkle.cluster.quiet import be_quiet
from wrinkle.cluster.versions import versions
from wrinkle.cluster.worker import Drawn, draw, receive
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.piece.document import Piece
from wrinkle.media.exporting.parts import What
from wrinkle.media.output.format import Into
from wrinkle.media.output.output import Output, write_output

_BYTES_A_RANGE, _MOST_FRAMES = 16 << 20, 4
"""A wrinkle can be a hundred times as costly as a plain frame: long ranges leave workers idle."""
_AHEAD, _BYTES_AHEAD = 6, 512 << 20
"""Ranges for each worker that are given out or wait for their turn, and what all may take."""
_SOON, _SLOW = 5.0, 4.0
"""Seconds after which, and how many times as long as usual, until a range is given out again."""
_LOOK = 0.2
"""Seconds between two looks at whether it is still wanted."""
_ANSWERS_WITHIN = 10.0
_FETCHED_WITHIN = 15.0
"""Seconds in which a worker hands over what it has drawn; after that it is taken for silent."""
_ROUNDS = 3.0
"""After so many times as long a range is given to workers that are busy too."""
_WITHOUT_WORKERS = 20.0
_CHUNK = 8 << 20


def write_elsewhere(
    address: str, output: Output, piece: Piece, what: What, jobs: Jobs, job: Job
) -> int:
    """Writes an output whose frames are drawn elsewhere; gives their number.

    The frames come as the encoder takes them, bit for bit, and are encoded here: the file is the
    same as if all of it had been done here.

    Args:
        address: ``HOST:PORT`` of a scheduler.
        output: what is written.
        piece: what it shows, in its size and at its rate.
        what: of the pictures.
        jobs: of this process.
        job: told of each frame.

    Raises:
        InputError, MediaError, Cancelled: as for ``write_output`` and ``frames_elsewhere``.
    """
    if output.form.into in (Into.SHEET, Into.SOUND):
        raise InputError(f"{output.form.label} is made here alone; choose no other machines.")
    output.check()
    order = order_of(piece, output.rendition, what)
    coming = frames_elsewhere(address, order, output.frames, _bytes_of(output), job)
    return write_output(output, jobs, job, coming)


def _bytes_of(output: Output) -> int:
    frame = VideoFrame(*output.shown.size, output.rendition.sent)
    return sum(plane.buffer_size for plane in frame.planes)


def frames_elsewhere(
    address: str, order: Order, frames: range, bytes_a_frame: int, job: Job
) -> Generator[VideoFrame, None, None]:
    """Frames of an order, drawn by the workers of a cluster.

    Args:
        address: ``HOST:PORT`` of its scheduler.
        order: what is drawn.
        frames: which of it.
        bytes_a_frame: about how large one is: by that ranges are chosen.
        job: says whether it is still wanted.

    Raises:
        MediaError: the cluster does not answer, has no worker, or has one that is another version.
        InputError: a file of the order cannot be used.
        Cancelled: nobody wants it any more.
    """
    be_quiet()
    try:
        client = Client(f"tcp://{address}", timeout=_ANSWERS_WITHIN, set_as_default=False)
    except (OSError, TimeoutError, ValueError) as fault:
        raise MediaError(
            f"No scheduler answers at {address} ({type(fault).__name__}); start one with "
            "'./run workers --scheduler', or leave that field empty."
        ) from None
    try:
        with closing(_Giving(client, address, order, job).frames(frames, bytes_a_frame)) as coming:
            yield from coming
    finally:
        with suppress(Exception):
            client.close(timeout=2)


class _Giving:
    """One order on one cluster."""

    def __init__(self, client: Any, address: str, order: Order, job: Job) -> None:
        self._client, self._address, self._order, self._job = client, address, order, job
        self._running: dict[Any, tuple[int, float]] = {}
        """The future of each range that is given out, with its number, and when that was."""
        self._sent: dict[tuple[str, str], float] = {}
        """When a file was sent to a folder."""
        self._news = threading.Event()
        self._done: dict[int, Drawn] = {}
        self._since: dict[int, float] = {}
        self._tried: dict[int, set[str]] = {}
        """The workers that each range has been given to by name."""
        self._silent: set[str] = set()
        """Those that do not hand over what they have drawn."""
        self._took: list[float] = []
        self._alone_since: float | None = None

    def frames(self, frames: range, bytes_a_frame: int) -> Generator[VideoFrame, None, None]:
        ranges = self._ranges = _ranges(frames, bytes_a_frame)
        room = max(_BYTES_AHEAD // (len(ranges[0]) * bytes_a_frame), 1)
        given = 0
        try:
            for due in range(len(ranges)):
                while due not in self._done:
                    workers = self._workers()
                    most = due + max(min(_AHEAD * len(workers), room), len(workers), 1)
                    while given < min(most, len(ranges)):
                        self._give(given)
                        given += 1
                    self._give_again(workers)
                    self._gather()
                for packed in self._done.pop(due).frames:
                    yield unpack(packed)
        finally:
            for future in self._running:
                with suppress(Exception):
                    future.cancel()

    def _give(self, number: int, to: str = "") -> None:
        part, now = self._ranges[number], time.monotonic()
        if to:
            self._tried.setdefault(number, set()).add(to)
        speaking = [to] if to else self._speaking()
        with self._told():
            future = self._client.submit(
                # The order goes with each range: where it lay with one worker, all would wait
                # for that one.
                draw, self._order, dict(versions()), part.start, part.stop,
                # What comes first in the file is drawn first.
                pure=False, priority=-number, **({"workers": speaking} if speaking else {}),
            )  # fmt: skip
            future.add_done_callback(lambda over: self._news.set())
            self._running[future] = number, now
        self._since.setdefault(number, now)

    def _speaking(self) -> list[str]:
        """The workers that are not silent, where some are; else none is named."""
        return [x for x in self._workers() if x not in self._silent] if self._silent else []

    def _give_again(self, workers: Sequence[str]) -> None:
        """A range that one worker sits on for long is given to another, to one that is idle first.

        A worker that stands still may hold several, and one that is idle may be the one that
        stands still: so it goes round until one has drawn it.
        """
        with self._told():
            busy = {worker: set(keys) for worker, keys in self._client.processing().items()}
        long, now = max(_SOON, _SLOW * median(self._took or [_SOON])), time.monotonic()
        free = [worker for worker in workers if not busy.get(worker)]
        for number in sorted({number for number, _ in self._running.values()}):
            given = [(x.key, at) for x, (other, at) in self._running.items() if other == number]
            waited = now - max(at for _, at in given)
            if waited <= long:
                continue
            keys = {key for key, _ in given}
            held = {x for x, sits in busy.items() if keys & sits} | self._tried.get(number, set())
            others = [x for x in free if x not in held]
            if not others and waited > _ROUNDS * long:
                others = [x for x in workers if x not in held and x not in self._silent]
            if others:
                self._give(number, others[0])
                free = [x for x in free if x != others[0]]

    def _gather(self) -> None:
        """Takes what is done; waits a moment for it."""
        self._job.check()
        self._news.wait(_LOOK)
        self._news.clear()
        for future in [x for x in self._running if x.done()]:
            number, given = self._running.pop(future, (-1, 0.0))
            if number < 0:
                # Its twin was taken just now.
                continue
            found = self._fetched(future)
            if found is None:
                if all(other != number for other, _ in self._running.values()):
                    self._give(number)
                continue
            if found.fault:
                raise InputError(found.fault)
            if found.differs:
                raise MediaError(
                    f"The worker at {found.worker} is another version ({found.differs}); install "
                    "the same there, or leave it out."
                )
            if found.lacks:
                for path in found.lacks:
                    self._send(found, path, given)
                self._give(number)
                continue
            self._done[number] = found
            self._took.append(time.monotonic() - self._since[number])
            self._forget(number)

    def _fetched(self, future: Any) -> Drawn | None:
        """What a range came to; None where whoever drew it does not hand it over."""
        with self._told():
            holding = self._holding(future) if self._silent else set()
            # Where nobody holds anything, it failed, and says so when it is fetched.
            if holding and holding <= self._silent:
                return None
            try:
                found: Drawn = future.result(timeout=_FETCHED_WITHIN)
            except TimeoutError:
                self._silent |= self._holding(future)
                with suppress(Exception):
                    future.cancel()
                return None
        return found

    def _holding(self, future: Any) -> set[str]:
        """The workers with which a result lies."""
        return {worker for found in self._client.who_has([future]).values() for worker in found}

    def _forget(self, number: int) -> None:
        for future in [x for x, (other, _) in self._running.items() if other == number]:
            del self._running[future]
            with suppress(Exception):
                future.cancel()

    def _send(self, found: Drawn, path: str, given: float) -> None:
        """Sends a worker a file that it lacked in a range that was given to it at a time.

        Raises:
            MediaError: it has been sent, and is not there.
        """
        content = dict(self._order.media)[path]
        sent = self._sent.get((found.folder, path))
        if sent is not None:
            if given > sent:
                raise MediaError(
                    f"The worker at {found.worker} could not take {Path(path).name}; make room "
                    "there, or share the folder with it."
                )
            return
        try:
            size = Path(path).stat().st_size
            with Path(path).open("rb") as file:
                for offset in range(0, max(size, 1), _CHUNK):
                    self._job.check()
                    chunk, last = file.read(_CHUNK), offset + _CHUNK >= size
                    # Where it died meanwhile, the range is drawn by another.
                    with suppress(Exception):
                        self._client.run(
                            receive, content, path, offset, chunk, last, workers=[found.worker]
                        )
        except OSError as fault:
            raise MediaError(f"{Path(path).name} cannot be read: {fault.strerror}.") from None
        self._sent[found.folder, path] = time.monotonic()

    def _workers(self) -> list[str]:
        """Their addresses.

        Raises:
            MediaError: there has been none for a while.
        """
        with self._told():
            found = list(self._client.nthreads())
        if found:
            self._alone_since = None
        elif self._alone_since is None:
            self._alone_since = time.monotonic()
        elif time.monotonic() - self._alone_since > _WITHOUT_WORKERS:
            raise MediaError(
                f"The scheduler at {self._address} has no worker; start some with "
                f"'./run workers --at {self._address}'."
            )
        return found

    @contextmanager
    def _told(self) -> Iterator[None]:
        """Says in a sentence that the cluster went away."""
        try:
            yield
        except KilledWorker:
            raise MediaError(
                f"Several workers at {self._address} ended while they drew the same frames; see "
                "what they say, or write here."
            ) from None
        except (CommClosedError, FutureCancelledError, CancelledError, OSError):
            raise MediaError(
                f"The scheduler at {self._address} answers no more; start it again, or write here."
            ) from None


def _ranges(frames: range, bytes_a_frame: int) -> list[range]:
    """Parts of a range, none of which is too large to be sent at once."""
    long = min(max(_BYTES_A_RANGE // max(bytes_a_frame, 1), 1), _MOST_FRAMES)
    return [
        range(first, min(first + long, frames.stop))
        for first in range(frames.start, frames.stop, long)
    ]
