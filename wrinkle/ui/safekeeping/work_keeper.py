"""Keeps the open document beside the program, within two seconds of each edit.

A thread of its own writes: no render, however long, makes it wait.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from queue import SimpleQueue
from threading import Lock, Thread

import cv2
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle.core.design.archive import Bundle
from wrinkle.core.render.showing import Showing
from wrinkle.library.autosaves import Autosave, KeptClip, LeftWork, Work
from wrinkle.library.versions import keep_version
from wrinkle.ui.desk.desk import Desk

_SOON = 600
"""Milliseconds from the first edit until the work is kept; writing it takes some more."""
_PICTURE_EACH = 5.0
"""Seconds between two pictures of unsaved work."""
_PICTURE_SIDE = 240


class WorkKeeper(QObject):
    """Watches the desk and keeps what is on it while it differs from its file.

    Signals:
        failed: one sentence on what could not be kept.
    """

    failed = pyqtSignal(str)

    def __init__(self, desk: Desk, folder: Path | None = None) -> None:
        super().__init__()
        self._desk = desk
        self._autosave = Autosave(folder)
        self._writing = Lock()
        self._drawn = 0.0
        self._gathered_yet = self._kept = 0
        self._told = False
        self._ended = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON)
        self._soon.timeout.connect(self._hand_over)
        desk.document.fileChanged.connect(self._start)
        desk.tried.changed.connect(self._start)
        desk.document.saved.connect(self._keep_version)
        self.failed.connect(desk.messages.faulted)
        self._wanted: SimpleQueue[Callable[[], None] | None] = SimpleQueue()
        self._thread = Thread(target=self._work, name="work keeper", daemon=True)
        self._thread.start()

    def now(self) -> None:
        """Keeps the work at once: something went wrong, or the program is being ended."""
        self._soon.stop()
        if self._desk.document.unsaved:
            number, work = self._gathered()
            try:
                self._keep(number, work)
            except Exception as fault:  # noqa: BLE001 - in the midst of another error
                self._tell(fault)

    def took_up(self, left: LeftWork) -> None:
        """Work that a crash left is on the desk again: it is kept with this window's from now."""
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
        if not self._desk.document.unsaved:
            self._wanted.put(self._forget)
            return
        (number, work), draw = self._gathered(), self._picture_wanted()

        def keep() -> None:
            self._keep(number, work)
            if draw is not None:
                picture = draw()
                with self._writing:
                    self._autosave.keep_picture(picture)

        self._wanted.put(keep)

    def _gathered(self) -> tuple[int, Work]:
        """The work as it is now, with a number that grows."""
        self._gathered_yet += 1
        document, looking = self._desk.document, self._desk.looking
        clips = {
            slot: KeptClip(str(tried.path), tried.cut)
            for slot, tried in self._desk.tried.clips.items()
            if tried.path is not None
        }
        work = Work(
            document.history,
            document.saved_state,
            document.path,
            dict(document.assets),
            clips,
            looking.layer,
            looking.playhead,
        )
        return self._gathered_yet, work

    def _picture_wanted(self) -> Callable[[], bytes] | None:
        """Draws the frame that is looked at; None while the last picture is new enough."""
        if time.monotonic() - self._drawn < _PICTURE_EACH:
            return None
        self._drawn = time.monotonic()
        return self._picture()

    def _picture(self) -> Callable[[], bytes]:
        size, frame = self._desk.document.frame_size, self._desk.looking.playhead
        scaled = size.scaled(min(1.0, _PICTURE_SIDE / max(size)))
        showing = self._desk.shown(scaled)
        return lambda: _png(showing, frame)

    def _keep_version(self, path: Path, bundle: Bundle) -> None:
        draw = self._picture()

        def keep() -> None:
            keep_version(path, bundle, draw())

        self._wanted.put(keep)

    # In the thread that writes

    def _work(self) -> None:
        while (act := self._wanted.get()) is not None:
            try:
                act()
                self._told = False
            except Exception as fault:  # noqa: BLE001 - what cannot be kept must be told
                self._tell(fault)

    def _keep(self, number: int, work: Work) -> None:
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
            self.failed.emit(f"Unsaved work cannot be kept ({reason}); save it now and then.")

    def _stop(self) -> None:
        self._ended = True
        self._soon.stop()
        self._wanted.put(None)
        self._thread.join()


def _png(showing: Showing, frame: int) -> bytes:
    pixels = cv2.cvtColor(showing.image(frame).to_bytes8(), cv2.COLOR_RGBA2BGRA)
    return cv2.imencode(".png", pixels)[1].tobytes()
