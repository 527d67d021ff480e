"""Short work that would hold the window up, done on a thread, one piece after the other."""

from __future__ import annotations

import traceback
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.errors import InputError

Result = TypeVar("Result")


class Background(QObject):
    """Does work on a thread of its own, and tells the window's thread what came of it.

    Args:
        parent: as for every QObject.
        what: is said, before the reason, where the work fails as nobody foresaw.

    Signals:
        failed: one sentence.
    """

    failed = pyqtSignal(str)
    _came = pyqtSignal(object)

    def __init__(self, parent: QObject | None = None, what: str = "That did not work") -> None:
        super().__init__(parent)
        self._what = what
        self._pool: ThreadPoolExecutor | None = None
        self._waiting: list[Future[None]] = []
        # Across threads a signal waits until the window's thread comes to it.
        self._came.connect(lambda act: act())

    def run(self, work: Callable[[], Result], then: Callable[[Result], None]) -> None:
        """Does some work; ``then`` gets its result in the window's thread."""
        if self._pool is None:
            self._pool = ThreadPoolExecutor(1, thread_name_prefix="frames-background")
        self._waiting = [one for one in self._waiting if not one.done()]
        self._waiting.append(self._pool.submit(self._work, work, then))

    def drop(self) -> None:
        """What has not begun is dropped; what has goes on, and nothing waits for it."""
        for one in self._waiting:
            one.cancel()
        self._waiting.clear()

    def stop(self) -> None:
        """What has not begun is dropped; waits for what has."""
        self.drop()
        if self._pool is not None:
            self._pool.shutdown(wait=True)
            self._pool = None

    def _work(self, work: Callable[[], Result], then: Callable[[Result], None]) -> None:
        try:
            found = work()
        except InputError as fault:
            self.failed.emit(str(fault))
        except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
            traceback.print_exc()
            self.failed.emit(f"{self._what}: {fault!r}.")
        else:
            self._came.emit(lambda: then(found))
