"""Keeps an open document beside the program, within two seconds of each edit.

A thread of its own writes: no render, however long, makes it wait.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from queue import SimpleQueue
from threading import Lock, Thread
from typing import Generic

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle.core.errors import InputError
from wrinkle.library.autosaves import Autosave, LeftWork, Work
from wrinkle.library.versions import keep_version
from wrinkle.ui.desk.document import Document, Rest, State
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.safekeeping.beside import Beside

_SOON = 600
"""Milliseconds from the first edit until the work is kept; writing it takes some more."""
_PICTURE_EACH = 5.0
"""Seconds between two pictures of unsaved work."""


class Keeper(QObject, Generic[State, Rest]):
    """Watches a document and keeps it while it differs from its file, with all its steps.

    Args:
        document: that is kept.
        beside: what is kept with it.
        messages: where it is told that something cannot be kept.
        folder: where it is kept; by default where the next start looks.

    Signals:
        failed: one sentence on what could not be kept.
    """

    failed = pyqtSignal(str)

    def __init__(
        self,
        document: Document[State, Rest],
        beside: Beside,
        messages: Messages,
        folder: Path | None = None,
    ) -> None:
        super().__init__()
        self._document = document
        self.beside = beside
        self._autosave = Autosave(document.kind.codec, folder)
        self._writing = Lock()
        self._drawn = 0.0
        self._gathered_yet = self._kept = 0
        self._told = False
        self._ended = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON)
        self._soon.timeout.connect(self._hand_over)
        for signal in (document.historyChanged, *beside.changes()):
            signal.connect(self._start)
        document.saved.connect(self._keep_version)
        self.failed.connect(messages.faulted)
        self._wanted: SimpleQueue[Callable[[], None] | None] = SimpleQueue()
        name = f"keeper of the {document.kind.word}"
        self._thread = Thread(target=self._work, name=name, daemon=True)
        self._thread.start()

    def now(self) -> None:
        """Keeps the work at once: something went wrong, or the program is being ended."""
        self._soon.stop()
        if self._document.unsaved:
            number, work = self._gathered()
            try:
                self._keep(number, work)
            except Exception as fault:  # noqa: BLE001 - in the midst of another error
                self._tell(fault)

    def take_up(self, left: LeftWork) -> None:
        """Goes on with what a crash left; it is kept with this window's from now.

        Raises:
            InputError: it cannot be read; what is open stays untouched.
        """
        work = left.read(self._document.kind.codec)
        self._document.take_up(work)
        self.beside.restore(work.beside)
        self.now()
        left.remove()

    def end(self) -> None:
        """The window is closed, and nothing is to be kept."""
        if self._ended:
            return
        self._stop()
        with self._writing:
            self._autosave.remove()

    def let_go(self) -> None:
        """The program is ended from outside: what is not saved is left to the next start."""
        self._stop()
        self.now()
        with self._writing:
            self._autosave.let_go()

    def _start(self) -> None:
        # Not started anew by the next edit: whoever edits without a pause is kept as well.
        if not self._soon.isActive() and not self._ended:
            self._soon.start()

    def _hand_over(self) -> None:
        if not self._document.unsaved:
            self._wanted.put(self._forget)
            return
        (number, work), draw = self._gathered(), self._picture_wanted()

        def keep() -> None:
            self._keep(number, work)
            picture = _drawn(draw)
            if picture:
                with self._writing:
                    self._autosave.keep_picture(picture)

        self._wanted.put(keep)

    def _gathered(self) -> tuple[int, Work[State, Rest]]:
        """The work as it is now, with a number that grows."""
        self._gathered_yet += 1
        document = self._document
        work = Work(
            document.history, document.saved_state, document.rest, document.path, self.beside.kept()
        )
        return self._gathered_yet, work

    def _picture_wanted(self) -> Callable[[], bytes] | None:
        """Draws what is looked at; None while the last picture is new enough."""
        if time.monotonic() - self._drawn < _PICTURE_EACH:
            return None
        self._drawn = time.monotonic()
        return self.beside.picture()

    def _keep_version(self, path: Path) -> None:
        kind, draw = self._document.kind, self.beside.picture()
        state, rest = self._document.committed, self._document.rest

        def keep() -> None:
            suffix, picture = kind.suffixes[0].suffix, _drawn(draw)
            keep_version(path, suffix, lambda copy: kind.write(copy, state, rest), picture)

        self._wanted.put(keep)

    # In the thread that writes

    def _work(self) -> None:
        while (act := self._wanted.get()) is not None:
            try:
                act()
                self._told = False
            except Exception as fault:  # noqa: BLE001 - what cannot be kept must be told
                self._tell(fault)

    def _keep(self, number: int, work: Work[State, Rest]) -> None:
        with self._writing:
            # What waited in the line must not take the place of what was kept at once.
            if number > self._kept:
                self._autosave.keep(work)
                self._kept = number

    def _forget(self) -> None:
        with self._writing:
            self._autosave.remove()

    def _tell(self, fault: Exception) -> None:
        # Once, until it works again: it is tried anew after each edit.
        if not self._told:
            self._told = True
            reason = getattr(fault, "strerror", None) or str(fault)
            word = self._document.kind.word
            self.failed.emit(f"The unsaved {word} cannot be kept ({reason}); save it now and then.")

    def _stop(self) -> None:
        self._ended = True
        self._soon.stop()
        self._wanted.put(None)
        self._thread.join()


def _drawn(draw: Callable[[], bytes] | None) -> bytes:
    """The picture, or nothing where what it shows cannot be read: the work is kept all the same."""
    if draw is not None:
        with suppress(InputError):
            return draw()
    return b""
