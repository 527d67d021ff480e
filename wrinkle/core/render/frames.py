"""Frames made in the background for whoever shows or measures them, and kept in the store.

A viewer asks for the frames of one showing; what it asked before is dropped. Its frames come in
the order of their distance from the one that is looked at. As many are made as the store has room
for, so that those that are near are never given up for those that are far.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import cast

import cv2

from wrinkle.core.jobs import Jobs, Urgency, sentence_for
from wrinkle.core.picture.image import Bytes8, Image, Size
from wrinkle.core.render.compose import draw
from wrinkle.core.render.planned import FramePlan
from wrinkle.core.render.showing import Showing
from wrinkle.core.store import Store

_BYTES_A_PIXEL = 4


@dataclass(frozen=True, eq=False)
class ScreenFrame:
    """A picture for the screen; nobody writes into it.

    Attributes:
        pixels: encoded 8-bit ``(H, W, 4)``, premultiplied, in the order blue, green, red, alpha,
            which screens take several times faster than any other.
        opaque: alpha is 255 everywhere.
    """

    pixels: Bytes8
    opaque: bool

    @property
    def size(self) -> Size:
        """Width and height."""
        height, width = self.pixels.shape[:2]
        return Size(width, height)

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return self.pixels.nbytes


def screen_frame(image: Image) -> ScreenFrame:
    """A picture for the screen."""
    return ScreenFrame(cv2.cvtColor(image.to_bytes8(), cv2.COLOR_RGBA2BGRA), image.opaque)


@dataclass(frozen=True, eq=False)
class _Asked:
    """What a viewer wants, with a number that grows from one time to the next."""

    number: int
    showing: Showing
    frames: frozenset[int]
    before: Showing | None


@dataclass(frozen=True)
class Listener:
    """Who is told of a viewer's frames, in the thread to which the jobs deliver.

    Attributes:
        ready: gets the number of a frame that has come.
        progressed: gets how many frames are ready, and how many are made in all.
        failed: gets one sentence on what could not be made; the rest is given up.
    """

    ready: Callable[[int], None]
    progressed: Callable[[int, int], None] = lambda ready, wanted: None
    failed: Callable[[str], None] = lambda sentence: None


class FrameViewer:
    """Keeps the frames coming that someone looks at. All but the workers use it from one thread.

    Args:
        jobs: who makes them.
        store: where they are kept.
        urgency: against other work.
        listener: who is told.
    """

    def __init__(self, jobs: Jobs, store: Store, urgency: Urgency, listener: Listener) -> None:
        self._jobs = jobs
        self._store = store
        self._urgency = urgency
        self._listener = listener
        self._asked: _Asked | None = None
        self._focus = 0
        self._waiting: set[int] = set()
        self._wanted: frozenset[int] = frozenset()
        self._plans: dict[int, tuple[FramePlan, ...]] = {}
        self._shown: dict[int, int] = {}
        self._oldest = 0
        self._ready: set[int] = set()
        jobs.add(self)

    def ask(
        self,
        showing: Showing,
        frames: Sequence[int],
        focus: int,
        before: Showing | None = None,
    ) -> None:
        """Asks for frames; what was asked before is dropped.

        Args:
            showing: what of.
            frames: which ones, counted from the cut.
            focus: the one that is looked at.
            before: what each frame is compared with, if it is.
        """
        old = self._asked
        number = old.number + 1 if old is not None else 1
        if old is not None and old.showing.size != showing.size:
            self.forget()
        self._ready.clear()
        with self._jobs.wake:
            self._asked = _Asked(number, showing, frozenset(frames), before)
            self._focus = focus
            self._wanted = self._nearest()
            self._waiting = set(self._wanted)
            self._jobs.wake.notify_all()
        self._listener.progressed(0, len(self._wanted))

    def focus_on(self, frame: int) -> None:
        """The frames nearest to this one come first."""
        with self._jobs.wake:
            self._focus = frame
            if self._asked is None or len(self._wanted) == len(self._asked.frames):
                return
            # There is no room for all: the far ones make room for the near ones.
            self._wanted = self._nearest()
            self._ready &= self._wanted
            self._waiting = set(self._wanted - self._ready)
            self._plans = {n: x for n, x in self._plans.items() if n in self._wanted}
            self._jobs.wake.notify_all()

    def frame(self, number: int) -> ScreenFrame | None:
        """The newest picture of a frame; an older one until the one that was asked for is done."""
        return self._kept(number, 0)

    def before(self, number: int) -> ScreenFrame | None:
        """What the frame's picture is compared with; None where it is not."""
        compared = self._asked is not None and self._asked.before is not None
        return self._kept(number, 1) if compared else None

    def is_ready(self, number: int) -> bool:
        """Whether the frame's picture is the one that was asked for last."""
        return number in self._ready

    @property
    def all_ready(self) -> bool:
        """Whether every frame that was asked for, as far as there is room, is made."""
        return self._asked is not None and self._ready >= self._wanted

    def forget(self) -> None:
        """Drops the pictures of what was asked before: they belong to something else."""
        self._oldest = self._asked.number + 1 if self._asked is not None else 0
        self._plans.clear()
        self._shown.clear()
        self._ready.clear()

    def close(self) -> None:
        """Nothing more is made."""
        with self._jobs.wake:
            self._waiting.clear()
            self._asked = None
        self._jobs.remove(self)

    # For the workers

    def urgency(self) -> tuple[int, float] | None:
        """That of the frame nearest to the one that is looked at."""
        if not self._waiting:
            return None
        return self._urgency, float(min(abs(n - self._focus) for n in self._waiting))

    def take(self) -> Callable[[], None]:
        """The frame nearest to the one that is looked at."""
        frame = min(self._waiting, key=lambda n: (abs(n - self._focus), n))
        self._waiting.discard(frame)
        asked = self._asked

        def make() -> None:
            if asked is None:
                return
            try:
                plans = tuple(
                    self._made(showing, frame)
                    for showing in (asked.showing, asked.before)
                    if showing is not None
                )
            except Exception as fault:  # noqa: BLE001 - a worker must not die without a word
                what, way_out = f"Frame {frame} cannot be rendered", "Undo the last step."
                sentence = sentence_for(fault, what, way_out)
                self._jobs.deliver(lambda: self._failed(asked, sentence))
            else:
                self._jobs.deliver(lambda: self._came(asked, frame, plans))

        return make

    def _made(self, showing: Showing, frame: int) -> FramePlan:
        plan = showing.plan(frame)
        if self._store.frame(plan) is None:
            self._store.keep_frame(plan, screen_frame(draw(plan, showing.material)))
        return plan

    # In the thread of the listener

    def _came(self, asked: _Asked, frame: int, plans: tuple[FramePlan, ...]) -> None:
        now = self._asked
        # While something is dragged each move asks anew: the pictures of older moves are shown
        # too, but never after newer ones.
        late = asked.number < max(self._oldest, self._shown.get(frame, 0))
        if now is None or frame not in now.frames or late:
            return
        self._plans[frame], self._shown[frame] = plans, asked.number
        if asked is now:
            self._ready.add(frame)
        self._listener.ready(frame)
        self._listener.progressed(len(self._ready & self._wanted), len(self._wanted))

    def _failed(self, asked: _Asked, sentence: str) -> None:
        if asked is not self._asked:
            return
        with self._jobs.wake:
            self._waiting.clear()
        self._listener.failed(sentence)

    def _kept(self, number: int, which: int) -> ScreenFrame | None:
        plans = self._plans.get(number, ())
        if which >= len(plans):
            return None
        found = self._store.frame(plans[which])
        if found is None and number in self._ready:
            # Something else needed the room since.
            self._ready.discard(number)
            with self._jobs.wake:
                self._waiting.add(number)
                self._jobs.wake.notify()
        return cast("ScreenFrame | None", found)

    def _nearest(self) -> frozenset[int]:
        """Those of the wanted frames that there is room for, nearest first."""
        asked = self._asked
        if asked is None:
            return frozenset()
        compared = 1 if asked.before is None else 2
        width, height = asked.showing.size
        each = width * height * _BYTES_A_PIXEL * compared
        count = max(1, self._store.room_for_frames // each)
        if count >= len(asked.frames):
            return asked.frames
        ordered = sorted(asked.frames, key=lambda n: (abs(n - self._focus), n))
        return frozenset(ordered[:count])
