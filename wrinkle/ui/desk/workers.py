"""Who works in the background of a window, and what they share: made once, ended once."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle.core.jobs import Job, Jobs, Urgency, WorkLine, sentence_for
from wrinkle.core.store import DEFAULT_BUDGET, Store
from wrinkle.media.clip import Clip
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.pieces import check_name
from wrinkle.ui.desk.memory import budget_within, give_back, taken
from wrinkle.ui.desk.messages import Messages

_STEP = 32 << 20
_IDLE = 3.0
"""Seconds after which a clip's file is let go of; to open it again takes some milliseconds."""


class _Post(QObject):
    """Brings what was done elsewhere to the window's thread."""

    came = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        # Across threads a signal waits until the window's thread comes to it.
        self.came.connect(lambda act: act())


class Workers:
    """The jobs of a window with the store and the clips that they share.

    Attributes:
        jobs: who works; what came of it is told in the window's thread.
        store: what was made, within the program's one budget.
        pool: the clips that are open.
        asked: the line of short work that a person waits for.
    """

    def __init__(self, messages: Messages, budget: int = DEFAULT_BUDGET) -> None:
        # Workers hand the interpreter over quickly, so that the window answers while they plan.
        sys.setswitchinterval(0.0001)
        self._post = _Post()
        self._messages = messages
        self._ended = False
        self.jobs = Jobs(deliver=self._deliver)
        self.store = Store(budget)
        self._allowed = budget
        self.pool = ClipPool(self.store)
        self._tidying = QTimer()
        self._tidying.timeout.connect(self._tidy)
        self._tidying.start(round(_IDLE * 1e3))
        self.asked = WorkLine(self.jobs, Urgency.ASKED, "That did not work", messages.faulted.emit)

    def read_clip(
        self, path: Path, then: Callable[[Clip], None], failed: Callable[[str], None]
    ) -> None:
        """Reads a clip; ``then`` gets it, or ``failed`` one sentence. What is odd in it is told."""

        def read(job: Job) -> Clip | str:
            try:
                check_name(path)
                return self.pool.clip(path)
            except Exception as fault:  # noqa: BLE001 - whoever waits for it must be told
                return sentence_for(fault, f"{path.name} cannot be read")

        def came(found: Clip | str) -> None:
            if isinstance(found, str):
                failed(found)
                return
            then(found)
            if found.facts.notes:
                self._messages.told.emit(f"{path.name}: {'; '.join(found.facts.notes)}.")

        self.asked.put(read, came)

    def _tidy(self) -> None:
        """Lets go of files and of memory."""
        self.pool.close_idle(_IDLE)

        def tidied(job: Job) -> int:
            give_back()
            return taken()

        self.asked.put(tidied, self._stay_within)

    @property
    def allowed(self) -> int:
        """Bytes that a person allowed for kept pictures."""
        return self._allowed

    def allow(self, budget: int) -> None:
        """Allows so many bytes; what else the program takes counts too."""
        self._allowed = self.store.budget = budget

    def _stay_within(self, now: int) -> None:
        budget = budget_within(self._allowed, self.store.used, now)
        # Small steps would make room, and fill it, over and over.
        if abs(budget - self.store.budget) > _STEP:
            self.store.budget = budget

    def stop(self) -> None:
        """Ends all work and lets go of all files."""
        self._ended = True
        self._tidying.stop()
        self.jobs.stop()
        self.pool.close()

    def _deliver(self, act: Callable[[], None]) -> None:
        if not self._ended:
            self._post.came.emit(act)
