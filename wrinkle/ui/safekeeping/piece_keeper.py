"""Keeps the piece beside the program while it is not saved, in a thread of its own."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from queue import SimpleQueue
from threading import Lock, Thread

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle.timeline.left_pieces import KeptPiece, LeftPiece
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument

_SOON = 600
"""Milliseconds from the first edit until the piece is kept."""


class PieceKeeper(QObject):
    """Watches the piece.

    Signals:
        failed: one sentence on what could not be kept.
    """

    failed = pyqtSignal(str)

    def __init__(
        self, document: PieceDocument, messages: Messages, folder: Path | None = None
    ) -> None:
        super().__init__()
        self._document = document
        self._kept = KeptPiece(folder)
        self._writing = Lock()
        self._ended = False
        self._told = False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_SOON)
        self._soon.timeout.connect(self._hand_over)
        document.fileChanged.connect(self._start)
        self.failed.connect(messages.faulted)
        self._wanted: SimpleQueue[Callable[[], None] | None] = SimpleQueue()
        self._thread = Thread(target=self._work, name="piece keeper", daemon=True)
        self._thread.start()

    def now(self) -> None:
        """Keeps the piece at once: something went wrong, or the program is being ended."""
        self._soon.stop()
        if self._document.unsaved:
            self._do(self._keeping())

    def took_up(self, left: LeftPiece) -> None:
        """A piece that a crash left is open again: it is kept with this window's from now."""
        self.now()
        left.remove()

    def end(self) -> None:
        """The window is closed, and nothing is to be kept."""
        if not self._ended:
            self._stop()
            self._kept.remove()

    def let_go(self) -> None:
        """The program is ended from outside: what is not saved is left to the next start."""
        if not self._ended:
            self._stop()
            self.now()
            self._kept.let_go()

    def _start(self) -> None:
        # Not started anew by the next edit: whoever edits without a pause is kept as well.
        if not self._soon.isActive() and not self._ended:
            self._soon.start()

    def _hand_over(self) -> None:
        self._wanted.put(self._keeping() if self._document.unsaved else self._kept.remove)

    def _keeping(self) -> Callable[[], None]:
        document = self._document
        piece, file, path = document.committed, document.file, document.path
        return lambda: self._kept.keep(piece, file, path)

    def _work(self) -> None:
        while (act := self._wanted.get()) is not None:
            self._do(act)

    def _do(self, act: Callable[[], None]) -> None:
        try:
            with self._writing:
                act()
            self._told = False
        except Exception as fault:  # noqa: BLE001 - what cannot be kept must be told
            # Once, until it works again: it is tried anew after each edit.
            if not self._told:
                self._told = True
                self.failed.emit(
                    f"The unsaved piece cannot be kept ({fault}); save it now and then."
                )

    def _stop(self) -> None:
        self._ended = True
        self._soon.stop()
        self._wanted.put(None)
        self._thread.join()
