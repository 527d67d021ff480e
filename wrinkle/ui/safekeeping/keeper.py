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
from wrinkle.library.versions import MOST, keep_version
from wrinkle.ui.desk.document import Document, Rest, State
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.safekeeping.beside import Beside

_SOON = 600
"""Milliseconds from the first edit until the work is kept; writing it takes some more."""
_PICTURE_EACH = 5.0
"""Seconds between two pictures of unsaved work."""
_AGAIN = 3_000
"""Milliseconds until what could not be kept is tried again, without any edit."""
_TOLD_EACH = 10.0
"""Seconds between two words on what cannot be kept."""


class Keeper(QObject, Generic[State, Rest]):
    """Watches a document and keeps it while it differs from its file, with all its steps.

    Args:
        document: that is kept.
        beside: what is kept with it.
        messages: where it is told that something cannot be kept.
        folder: where it is kept; by default where the next start looks.
        versions: how many saved versions of a file are kept.

    Signals:
        failed: one sentence on what could not be kept.
        kept: what could not be kept is kept now.
    """

    failed = pyqtSignal(str)
    kept = pyqtSignal()
    _stumbled = pyqtSignal(str)

    def __init__(
        self,
        document: Document[State, Rest],
        beside: Beside,
        messages: Messages,
        folder: Path | None = None,
        versions: Callable[[], int] = lambda: MOST,
    ) -> None:
        super().__init__()
        self._versions = versions
        word = document.kind.word
        self._document = document
        self.beside = beside
        self._autosave = Autosave(document.kind.codec, folder)
        self._writing = Lock()
        self._drawn = 0.0
        self._gathered_yet = self._kept = 0
        self._stumbles = False
        self._told = -_TOLD_EACH
        self._ended = False
        self._soon, self._again = QTimer(self), QTimer(self)
        for timer, milliseconds in ((self._soon, _SOON), (self._again, _AGAIN)):
            timer.setSingleShot(True)
            timer.setInterval(milliseconds)
            timer.timeout.connect(self._hand_over)
        self._left: list[LeftWork] = []
        for signal in (document.historyChanged, *beside.changes()):
            signal.connect(self._start)
        document.saved.connect(self._keep_version)
        self.failed.connect(messages.faulted)
        self.kept.connect(lambda: messages.told.emit(f"The unsaved {word} is kept again."))
        self._stumbled.connect(self._try_again)
        self._latest: Callable[[], None] | None = None
        self._drawing: Thread | None = None
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
        # It is the only copy until this one is kept: it goes when that is done, now or later.
        self._left.append(left)
        self.now()

    def end(self) -> None:
        """The window is closed, and nothing is to be kept."""
        if self._ended:
            return
        self._stop()
        with self._writing:
            self._autosave.remove()
            self._remove_left()

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
            self._put(self._forget)
            return
        (number, work), draw = self._gathered(), self._picture_wanted()

        def keep() -> None:
            self._keep(number, work)
            if draw is not None and not self._draws():
                self._drawing = Thread(target=self._keep_picture, args=(draw,), daemon=True)
                self._drawing.start()

        self._put(keep)

    def _draws(self) -> bool:
        return self._drawing is not None and self._drawing.is_alive()

    def _keep_picture(self, draw: Callable[[], bytes]) -> None:
        """In a thread of its own: the next edits are kept while a large picture is drawn."""
        with suppress(OSError):
            picture = _drawn(draw)
            if picture:
                with self._writing:
                    self._autosave.keep_picture(picture)

    def _put(self, act: Callable[[], None]) -> None:
        """Does the latest of what was wanted: what waited until then would be late for nothing."""
        self._latest = act
        self._wanted.put(self._do_latest)

    def _do_latest(self) -> None:
        act, self._latest = self._latest, None
        if act is not None:
            act()

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
        state, rest, most = self._document.committed, self._document.rest, self._versions()

        def keep() -> None:
            suffix, picture = kind.suffixes[0].suffix, _drawn(draw)
            keep_version(path, suffix, lambda copy: kind.write(copy, state, rest), picture, most)

        self._wanted.put(keep)

    # In the thread that writes

    def _work(self) -> None:
        while (act := self._wanted.get()) is not None:
            try:
                act()
            except Exception as fault:  # noqa: BLE001 - what cannot be kept must be told
                self._tell(fault)

    def _keep(self, number: int, work: Work[State, Rest]) -> None:
        with self._writing:
            # What waited in the line must not take the place of what was kept at once.
            if number > self._kept:
                self._autosave.keep(work)
                self._kept = number
                self._remove_left()
        if self._stumbles:
            self._stumbles = False
            self.kept.emit()

    def _forget(self) -> None:
        with self._writing:
            self._autosave.remove()
            self._remove_left()

    def _remove_left(self) -> None:
        while self._left:
            self._left.pop().remove()

    def _tell(self, fault: Exception) -> None:
        self._stumbles = True
        self._stumbled.emit(getattr(fault, "strerror", None) or str(fault))

    def _try_again(self, reason: str) -> None:
        """It is tried anew after each edit, and without one; told now and then until it works."""
        if not self._ended:
            self._again.start()
        if time.monotonic() - self._told >= _TOLD_EACH:
            self._told = time.monotonic()
            word = self._document.kind.word
            self.failed.emit(f"The unsaved {word} cannot be kept ({reason}); save it now and then.")

    def _stop(self) -> None:
        self._ended = True
        self._soon.stop()
        self._again.stop()
        self._wanted.put(None)
        self._thread.join()
        if self._drawing is not None:
            self._drawing.join()


def _drawn(draw: Callable[[], bytes] | None) -> bytes:
    """The picture, or nothing where what it shows cannot be read: the work is kept all the same."""
    if draw is not None:
        with suppress(InputError):
            return draw()
    return b""
