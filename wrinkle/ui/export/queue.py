"""The queue of exports: one after the other, in the background, kept from step to step."""

from __future__ import annotations

import threading
import time
from pathlib import Path

from filelock import BaseFileLock
from msgspec.structs import replace as replaced
from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, JobWithin
from wrinkle.core.piece.document import Piece
from wrinkle.exporting.item_writing import write_item
from wrinkle.library import exports
from wrinkle.library.exports import ExportItem, State
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.workers import Workers

ELSEWHERE = (
    "Another window of Wrinkle has the queue; add it there, or close that one and start this anew."
)


class ExportQueue(QObject):
    """Items in their order; the first one that waits is written while it runs.

    Signals:
        changed: the items are others, or their states.
        progressed: of the item that is written: frames done, frames in all, frames a second, and
            seconds left.
        ended: an item has ended.
        runsChanged: it runs from now on, or no longer.
    """

    changed = pyqtSignal()
    progressed = pyqtSignal(int, int, float, float)
    ended = pyqtSignal(object)
    runsChanged = pyqtSignal()

    def __init__(self, workers: Workers, messages: Messages) -> None:
        super().__init__()
        self._workers, self._messages = workers, messages
        self._items: tuple[ExportItem, ...] = ()
        self._runs = False
        self._job: Job | None = None
        self._gate = threading.Event()
        self._gate.set()
        self._lock: BaseFileLock | None = None
        self._closed = False

    @property
    def elsewhere(self) -> bool:
        """Whether another window has the queue: this one then writes nothing."""
        return self._lock is None

    def load(self) -> int:
        """Takes over what was kept; gives how many of it were not finished.

        Where another window has the queue, its items are not taken over.
        """
        try:
            self._lock = exports.hold_queue()
            if self._lock is not None:
                self._items = exports.load_queue()
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
        self.changed.emit()
        return sum(not item.ended for item in self._items)

    @property
    def items(self) -> tuple[ExportItem, ...]:
        """In the order in which they are written."""
        return self._items

    @property
    def runs(self) -> bool:
        """Whether items are written as long as there are any."""
        return self._runs

    @property
    def busy(self) -> bool:
        """Whether one is being written."""
        return self._job is not None

    def add(self, piece: Piece, item: ExportItem) -> bool:
        """One more item, which writes a piece as it is now; gives whether it could be kept."""
        if self.elsewhere:
            self._messages.faulted.emit(ELSEWHERE)
            return False
        if any(x.path == item.path and not x.ended for x in self._items):
            self._messages.faulted.emit(
                f"{Path(item.path).name} is in the queue already; name another file."
            )
            return False
        # Loaded when it is wanted: the window's first picture need not wait for it.
        from wrinkle.timeline.files import write_piece

        try:
            write_piece(exports.piece_path(item.piece), piece, PieceFile(), without_missing=True)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        return self._become((*self._items, item))

    def start(self) -> None:
        """Writes what waits, and goes on with what was held."""
        self._gate.set()
        if not self._runs:
            self._runs = True
            self.runsChanged.emit()
        self._next()

    def pause(self) -> None:
        """Holds what is being written where it is; nothing new begins."""
        self._gate.clear()
        self._runs = False
        self.runsChanged.emit()

    def cancel(self, item_id: str) -> None:
        """Ends an item; what is being written leaves nothing behind."""
        item = self._item(item_id)
        if item is None or item.ended:
            return
        if item.state is State.WRITING and self._job is not None:
            self._job.cancel()
            self._gate.set()
        else:
            self._mark(item_id, State.CANCELLED, "Cancelled.")

    def again(self, item_id: str) -> None:
        """Lets an item that ended wait once more."""
        item = self._item(item_id)
        if item is not None and item.ended:
            self._mark(item_id, State.WAITING, "")
            self._next()

    def remove(self, item_id: str) -> None:
        """Takes an item off the list; the file that it wrote stays."""
        item = self._item(item_id)
        if item is not None and item.state is not State.WRITING:
            self._become(tuple(x for x in self._items if x.id != item_id))

    def move(self, item_id: str, by: int) -> None:
        """Moves an item up (below 0) or down."""
        items = list(self._items)
        place = next((n for n, x in enumerate(items) if x.id == item_id), None)
        if place is not None:
            items.insert(min(max(place + by, 0), len(items) - 1), items.pop(place))
            self._become(tuple(items))

    def close_down(self) -> None:
        """What is being written waits for the next start."""
        self._runs, self._closed = False, True
        if self._job is not None:
            self._job.cancel()
        self._gate.set()
        if self._lock is not None:
            self._lock.release()

    def _item(self, item_id: str) -> ExportItem | None:
        return next((x for x in self._items if x.id == item_id), None)

    def _become(self, items: tuple[ExportItem, ...]) -> bool:
        self._items = items
        try:
            exports.save_queue(items)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        finally:
            self.changed.emit()
        return True

    def _mark(self, item_id: str, state: State, told: str) -> None:
        self._become(
            tuple(
                replaced(x, state=state, told=told) if x.id == item_id else x for x in self._items
            )
        )

    def _next(self) -> None:
        waiting = [x for x in self._items if x.state is State.WAITING]
        if not self._runs or self._job is not None:
            return
        if not waiting:
            self._runs = False
            self.runsChanged.emit()
            return
        item = waiting[0]
        self._mark(item.id, State.WRITING, "")
        workers, gate = self._workers, self._gate
        self._job = workers.jobs.start(
            lambda job: write_item(
                item, workers.pool, workers.store, workers.jobs, _Held(job, gate)
            ),
            lambda told: self._over(item, State.DONE, told),
            lambda fault: self._over(item, State.FAILED, fault),
            f"{Path(item.path).name} cannot be written",
            self._far,
            lambda: self._over(item, State.CANCELLED, "Cancelled; no file was left."),
        )
        self.changed.emit()

    def _far(self, done: int, total: int, left: float) -> None:
        pace = (total - done) / left if left > 0 else 0.0
        self.progressed.emit(done, total, pace, left)

    def _over(self, item: ExportItem, state: State, told: str) -> None:
        self._job = None
        if self._closed:
            # It is kept as being written, and so waits at the next start.
            return
        self._mark(item.id, state, told)
        found = self._item(item.id)
        if found is not None:
            self.ended.emit(found)
        self._next()


class _Held(JobWithin):
    """A job that stands still while its queue is held; only the one who writes waits."""

    def __init__(self, job: Job, gate: threading.Event) -> None:
        super().__init__(job)
        self._gate = gate

    def tell(self, done: int, total: int) -> None:
        """Says how far it is; waits while the queue is held."""
        if not self._gate.is_set():
            since = time.monotonic()
            self._gate.wait()
            self._job.stood_still(time.monotonic() - since)
        self._job.tell(done, total)
