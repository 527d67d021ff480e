"""Measures in the background what is on the desk, and keeps what was found."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass
from functools import partial
from itertools import pairwise

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from wrinkle import library
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.errors import InputError
from wrinkle.core.examine.examined import Examined
from wrinkle.core.examine.subjects import cut_subject, dressed_cuts, use_subject
from wrinkle.core.jobs import Job, Urgency
from wrinkle.core.measure.subject import Subject
from wrinkle.core.picture.image import Size
from wrinkle.core.piece.document import PieceClip
from wrinkle.core.reuse.use import Use, natural_size, possible
from wrinkle.core.time.rate import FrameRate
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.trial import Trial
from wrinkle.ui.desk.tried_clips import TriedClips
from wrinkle.ui.desk.workers import Workers
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument

_REST_MS = 400
"""What is dragged is measured once it stands still."""
WRINKLE = ""
"""The id under which the open wrinkle is examined; cuts have that of the clip after them."""


@dataclass(frozen=True)
class _Pair:
    """What a cut of the piece depends on."""

    before: PieceClip
    clip: PieceClip
    size: Size
    rate: FrameRate

    def same(self, other: _Pair | None) -> bool:
        """Whether another one is this one; clips are made anew with each change."""
        if other is None or (self.size, self.rate) != (other.size, other.rate):
            return False
        return self.before is other.before and self.clip is other.clip


class Examiner(QObject):
    """Examines the open wrinkle on the clips of the Bench, and the dressed cuts of the piece.

    Signals:
        changed: something else was found, or is being measured.
        progressed: how many frames are measured, and how many there are in all.
    """

    changed = pyqtSignal()
    progressed = pyqtSignal(int, int)

    def __init__(
        self,
        document: WrinkleDocument,
        tried: TriedClips,
        trial: Trial,
        piece: PieceDocument,
        workers: Workers,
        messages: Messages,
    ) -> None:
        super().__init__()
        self._document, self._tried, self._trial = document, tried, trial
        self._piece, self._workers, self._messages = piece, workers, messages
        self._line = workers.jobs.line(
            Urgency.MEASURING, "Measuring did not work", messages.faulted.emit
        )
        self._found: dict[str, Examined] = {}
        self._pairs: dict[str, _Pair] = {}
        self._jobs: dict[str, list[Job]] = {}
        self._done: dict[str, tuple[int, int]] = {}
        self._queue: dict[str, _Pair] = {}
        self._piece_wanted = False
        self._wrinkle_rests = self._timer(self._examine_wrinkle)
        self._piece_rests = self._timer(self._examine_piece)
        for signal in (document.changed, tried.changed, trial.changed):
            signal.connect(self._wrinkle_changed)
        document.opened.connect(partial(self._forget, WRINKLE))
        piece.changed.connect(self._piece_changed)
        piece.media.changed.connect(self._piece_changed)

    def want_piece(self) -> None:
        """From now on the cuts of the piece are examined too."""
        if not self._piece_wanted:
            self._piece_wanted = True
            self._piece_rests.start()

    def found(self, key: str = WRINKLE) -> Examined | None:
        """What was found last of the open wrinkle, or of the cut into a clip."""
        return self._found.get(key)

    def measuring(self, key: str = WRINKLE) -> bool:
        """Whether it is being measured, and what is known is of an older state."""
        waits = self._wrinkle_rests if key == WRINKLE else self._piece_rests
        return key in self._jobs or key in self._queue or waits.isActive()

    @property
    def cuts(self) -> tuple[str, ...]:
        """The cuts of the piece that are examined, by the clip after them."""
        return dressed_cuts(self._piece.state)

    def open_count(self, keys: Sequence[str]) -> int:
        """How many findings are open among some of them."""
        return sum(len(x.open) for key in keys if (x := self._found.get(key)) is not None)

    def work(
        self,
        make: Callable[[], object],
        then: Callable[[object], None],
        failed: Callable[[str], None],
        cancelled: Callable[[], None],
    ) -> Job:
        """Works out a mend in the background; one of the three is called with what came of it."""
        return self._workers.jobs.start(
            lambda job: make(), then, failed, "It could not be worked out", cancelled=cancelled
        )

    # The open wrinkle

    def _timer(self, act: Callable[[], None]) -> QTimer:
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(_REST_MS)
        timer.timeout.connect(act)
        return timer

    def _wrinkle_changed(self) -> None:
        self._drop(WRINKLE)
        self._wrinkle_rests.start()
        self.changed.emit()

    def _examine_wrinkle(self) -> None:
        wrinkle, fillings = self._document.state, self._tried.fillings()
        if any(key not in fillings for key in GIVEN):
            self._forget(WRINKLE)
            return
        use = Use(wrinkle, fillings, possible(wrinkle, self._trial.choices))
        try:
            carried = self._document.read.material(library.fonts())
            subject = use_subject(use, carried, natural_size(use), wrinkle.frame_rate)
        except InputError:
            # The pictures say what is wrong.
            self._forget(WRINKLE)
            return
        self._measure(WRINKLE, subject)

    # The piece

    def _piece_changed(self) -> None:
        if self._piece_wanted:
            self._piece_rests.start()
            self.changed.emit()

    def _examine_piece(self) -> None:
        piece = self._piece.state
        wanted = set(self.cuts)
        for key in [x for x in (*self._found, *self._jobs) if x not in wanted | {WRINKLE}]:
            self._drop(key)
            self._found.pop(key, None)
            self._pairs.pop(key, None)
        read = self._piece.media.sources
        self._queue.clear()
        for before, clip in pairwise(piece.clips):
            pair = _Pair(before, clip, piece.size, piece.rate)
            there = all(x.media.path in read for x in (before, clip))
            if clip.id in wanted and there and not pair.same(self._pairs.get(clip.id)):
                self._drop(clip.id)
                self._pairs.pop(clip.id, None)
                self._queue[clip.id] = pair
        self._next_cut()
        self.changed.emit()

    def _next_cut(self) -> None:
        """One cut after the other: each is known soon, and needs little room meanwhile."""
        while self._queue and not any(key != WRINKLE for key in self._jobs):
            key = next(iter(self._queue))
            self._pairs[key] = self._queue.pop(key)
            piece = self._piece.state
            try:
                subject = cut_subject(self._piece.media.film(piece, piece.size), key)
            except InputError:
                # The running order says what is wrong.
                self._found.pop(key, None)
            else:
                self._measure(key, subject)

    # Both

    def _measure(self, key: str, subject: Subject) -> None:
        """Each frame is a piece of work of its own, and what is found of all is the last one."""
        frames = list(subject.frames)
        self._done[key] = (0, len(frames))
        jobs = self._jobs[key] = []

        def came(result: object) -> None:
            done, total = self._done.get(key, (0, 0))
            self._done[key] = (done + 1, total)
            self._tell()
            if done + 1 == total:
                jobs.append(self._line.put(lambda job: _examined(subject), finished))

        def finished(found: Examined | str) -> None:
            self._drop(key)
            if isinstance(found, str):
                self._found.pop(key, None)
                self._messages.faulted.emit(found)
            else:
                self._found[key] = found
            self._tell()
            self._next_cut()
            self.changed.emit()

        for frame in frames:
            jobs.append(self._line.put(partial(_prepared, subject, frame), came))
        self.changed.emit()

    def _tell(self) -> None:
        done = sum(x for x, _ in self._done.values())
        self.progressed.emit(done, sum(x for _, x in self._done.values()))

    def _drop(self, key: str) -> None:
        for job in self._jobs.pop(key, ()):
            job.cancel()
        self._done.pop(key, None)

    def _forget(self, key: str) -> None:
        self._drop(key)
        self._found.pop(key, None)
        self.changed.emit()


def _prepared(subject: Subject, frame: int, job: Job) -> None:
    """Measures a frame; what cannot be read is told at the end, once."""
    with suppress(InputError):
        subject.survey.prepare(frame)


def _examined(subject: Subject) -> Examined | str:
    try:
        return Examined.of(subject)
    except InputError as fault:
        return str(fault)
