"""Frames made in the background for whoever shows or measures them, and kept in the store.

A viewer asks for the frames of one showing; what it asked before is dropped. Its frames come in
the order of their distance from the one that is looked at. As many are made as the store has room
for, so that those that are near are never given up for those that are far.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import IntEnum
from functools import cached_property
from typing import Protocol, Self, cast

import cv2

from wrinkle.core.errors import Cancelled
from wrinkle.core.jobs import Jobs, Urgency, sentence_for
from wrinkle.core.picture.image import Bytes8, Image, Size
from wrinkle.core.render.compose import Manner
from wrinkle.core.render.planned import FramePlan
from wrinkle.core.store import Store

_BYTES_A_PIXEL = 4
WORTH_ROUGH = 200_000
"""Pixels."""
_ROUGH, _DRAGGED = 0.5, 0.25
"""The rough picture's share of each side, and while something is dragged."""
_QUICKLY, _REST = 0.15, 0.07
"""Seconds: what is asked so soon after the last time is dragged; and it rests when it stood still
for so long."""
FINE = 1e6
"""Frames are ranked by their distance; fine ones come so much later than rough ones."""


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


_SOON = 3
"""Frames from the one that is looked at: one steps there next."""


class Stage(IntEnum):
    """How a frame is made: with fewer pixels first, so that something is seen soon."""

    ROUGH = 0
    FINE = 1


class Shown(Protocol):
    """Frames by number: of one wrinkle, or of a whole piece."""

    @property
    def size(self) -> Size:
        """Of the pictures."""

    def resized(self, size: Size) -> Self:
        """The same in another size."""

    def plan(self, frame: int) -> FramePlan:
        """All that the picture of a frame depends on."""

    def drawn(self, frame: int, plan: FramePlan, manner: Manner) -> Image:
        """The picture of a frame, from its plan."""

    def is_costly(self, frame: int) -> bool:
        """Whether more than a plain clip is seen."""

    def is_beside(self, frame: int) -> bool:
        """Whether a frame is less looked at than the others."""


_Piece = tuple[int, Stage]
_Ranked = tuple[tuple[int, float], _Piece]


@dataclass(frozen=True, eq=False)
class _Asked:
    """What a viewer wants, with a number that grows from one time to the next."""

    number: int
    showing: Shown
    frames: frozenset[int]
    before: Shown | None
    dragged: bool
    worth: int

    @cached_property
    def rough(self) -> frozenset[int]:
        """The frames that are worth a rough picture: small and plain ones are fine as quickly."""
        if math.prod(self.showing.size) < self.worth:
            return frozenset()
        return frozenset(filter(self.showing.is_costly, self.frames))

    def showings(self, stage: Stage) -> tuple[Shown, ...]:
        """What is made in a stage."""
        both = tuple(x for x in (self.showing, self.before) if x is not None)
        if stage is Stage.FINE:
            return both
        share = _DRAGGED if self.dragged else _ROUGH
        return tuple(x.resized(x.size.scaled(share)) for x in both)


@dataclass(frozen=True)
class Listener:
    """Who is told of a viewer's frames, in the thread to which the jobs deliver.

    Attributes:
        ready: gets the number of a frame that has come.
        progressed: gets how many frames are ready, and how many are made in all.
        failed: gets one sentence on the first frame that could not be made; the rest goes on.
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
        clock: seconds that only ever grow.
        worth_rough: from so many pixels on a frame is seen roughly first.
    """

    def __init__(
        self,
        jobs: Jobs,
        store: Store,
        urgency: Urgency,
        listener: Listener,
        clock: Callable[[], float] = time.monotonic,
        worth_rough: int = WORTH_ROUGH,
    ) -> None:
        self._worth_rough = worth_rough
        self._jobs = jobs
        self._store = store
        self._urgency = urgency
        self._listener = listener
        self._clock = clock
        self._asked: _Asked | None = None
        self._focus = 0
        self._rest = self._asked_at = 0.0
        self._alone = False
        self._seen, self._hurried = True, False
        self._waiting: set[_Piece] = set()
        # Each look for work would rank hundreds of pieces otherwise, most of them for nothing.
        self._ranked: list[_Ranked] | None = None
        self._wanted: frozenset[int] = frozenset()
        self._plans: dict[int, tuple[FramePlan, ...]] = {}
        self._shown: dict[int, tuple[int, Stage]] = {}
        self._oldest = 0
        self._ready: set[int] = set()
        self._faults: dict[int, str] = {}
        jobs.add(self)

    def ask(
        self,
        showing: Shown,
        frames: Sequence[int],
        focus: int,
        before: Shown | None = None,
        dragged: bool = False,
    ) -> None:
        """Asks for frames; what was asked before is dropped.

        Args:
            showing: what of.
            frames: which ones, counted from the cut.
            focus: the one that is looked at.
            before: what each frame is compared with, if it is.
            dragged: whether a next one is sure to follow; it is taken so too where one ask follows
                quickly on another.
        """
        old = self._asked
        number = old.number + 1 if old is not None else 1
        if old is not None and old.showing.size != showing.size:
            self.forget()
        self._ready.clear()
        self._faults.clear()
        with self._jobs.wake:
            now = self._clock()
            # While something is dragged only the frame that is looked at keeps up.
            dragged = dragged or now - self._asked_at < _QUICKLY
            self._rest = now + _REST if dragged else now
            self._asked_at = now
            self._asked = _Asked(
                number, showing, frozenset(frames), before, dragged, self._worth_rough
            )
            self._focus = focus
            self._wanted = self._nearest()
            self._waiting = self._pieces(self._wanted)
            self._look_anew()
        self._listener.progressed(0, len(self._wanted))

    def be_seen(self, seen: bool) -> None:
        """Somebody looks on, or nobody does: then everything that is seen is made before."""
        with self._jobs.wake:
            self._seen = seen
            self._look_anew()

    def hurry(self, hurried: bool) -> None:
        """All frames are about to be seen, one after the other, or no longer."""
        with self._jobs.wake:
            self._hurried = hurried
            self._look_anew()

    def focus_on(self, frame: int) -> None:
        """The frames nearest to this one come first."""
        with self._jobs.wake:
            self._focus = frame
            self._ranked = None
            if self._asked is None or len(self._wanted) == len(self._asked.frames):
                return
            # There is no room for all: the far ones make room for the near ones.
            self._wanted = self._nearest()
            self._ready &= self._wanted
            self._waiting = self._pieces(self._wanted - self._ready)
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

    def fault(self, number: int) -> str | None:
        """Why a frame has no picture as it was asked for; None where it has or will have."""
        return self._faults.get(number)

    @property
    def all_ready(self) -> bool:
        """Whether every frame that was asked for, as far as there is room, is made or faulty."""
        return self._asked is not None and self._ready | self._faults.keys() >= self._wanted

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
        """That of its most urgent frame."""
        found = self._first()
        return found[0] if found is not None else None

    def rests_for(self) -> float | None:
        """How long the frames beside the one that is looked at still wait, if they do."""
        rest = self._rest - self._clock()
        return rest if rest > 0.0 and self._waiting and not self._alone else None

    def take(self) -> Callable[[], None]:
        """Its most urgent frame."""
        found, asked = self._first(), self._asked
        if found is None or asked is None:
            return lambda: None
        frame, stage = piece = found[1]
        self._waiting.discard(piece)
        # What was dragged is seen as it is before anything else takes a share of the machine.
        alone = self._alone = asked.dragged and piece == (self._focus, Stage.FINE)
        manner = Manner(
            self._jobs.strips if alone else None, lambda: self._check_wanted(asked, stage)
        )

        def make() -> None:
            try:
                reached, plans = self._made(asked, frame, stage, manner)
            except Cancelled:
                pass
            except Exception as fault:  # noqa: BLE001 - a worker must not die without a word
                what, way_out = f"Frame {frame} cannot be rendered", "Undo the last step."
                sentence = sentence_for(fault, what, way_out)
                self._jobs.deliver(lambda: self._failed(asked, frame, sentence))
            else:
                self._jobs.deliver(lambda: self._came(asked, frame, reached, plans))
            if alone:
                with self._jobs.wake:
                    self._alone = False
                    self._jobs.wake.notify_all()

        return make

    def _look_anew(self) -> None:
        """Another piece may come first: workers look, and find them ranked anew."""
        self._ranked = None
        self._jobs.wake.notify_all()

    def _first(self) -> _Ranked | None:
        """The most urgent frame, with its urgency; None while all that is left rests."""
        asked = self._asked
        if asked is None or (self._alone and self._clock() >= self._rest):
            return None
        if self._clock() < self._rest:
            soonest = self._focus, Stage.ROUGH if self._focus in asked.rough else Stage.FINE
            return (self._rank(asked, *soonest), soonest) if soonest in self._waiting else None
        if self._ranked is None:
            ranked = ((self._rank(asked, *piece), piece) for piece in self._waiting)
            self._ranked = sorted(ranked, reverse=True)
        while self._ranked and self._ranked[-1][1] not in self._waiting:
            self._ranked.pop()
        return self._ranked[-1] if self._ranked else None

    def _rank(self, asked: _Asked, frame: int, stage: Stage) -> tuple[int, float]:
        """The frame that is looked at first, then all roughly, then all; what is around last.

        As long as nothing plays, other things that are seen come before the frames around it.
        """
        if not self._seen:
            return Urgency.MEASURING, float(stage)
        away = float(abs(frame - self._focus))
        if frame == self._focus:
            return self._urgency, stage - 2.0
        # Plain frames are fine as quickly as others are rough.
        away += FINE if stage is Stage.FINE and frame in asked.rough else 0.0
        beside = asked.showing.is_beside(frame)
        if beside:
            away += 2.0 * FINE
        soon = stage is Stage.ROUGH and abs(frame - self._focus) <= _SOON
        if beside or not (soon or self._hurried):
            return max(self._urgency, Urgency.AROUND), away
        return self._urgency, away

    def _check_wanted(self, asked: _Asked, stage: Stage) -> None:
        """What is seen next does not wait for a fine picture that nobody wants any more.

        The rough ones of a drag are all seen.

        Raises:
            Cancelled: it is one.
        """
        if stage is Stage.FINE and self._asked is not asked:
            raise Cancelled

    def _made(
        self, asked: _Asked, frame: int, stage: Stage, manner: Manner
    ) -> tuple[Stage, tuple[FramePlan, ...]]:
        """Makes a frame, unless it is kept; gives the stage that is there now, and its plans."""
        if stage is Stage.ROUGH and not asked.dragged:
            fine = tuple(showing.plan(frame) for showing in asked.showings(Stage.FINE))
            if all(self._store.frame(plan) is not None for plan in fine):
                return Stage.FINE, fine
        plans = tuple((showing, showing.plan(frame)) for showing in asked.showings(stage))
        for showing, plan in plans:
            if self._store.frame(plan) is None:
                picture = showing.drawn(frame, plan, manner)
                self._store.keep_frame(plan, screen_frame(picture))
        return stage, tuple(plan for _, plan in plans)

    # In the thread of the listener

    def _came(self, asked: _Asked, frame: int, stage: Stage, plans: tuple[FramePlan, ...]) -> None:
        now, seen = self._asked, (asked.number, stage)
        # While something is dragged each move asks anew: the pictures of older moves are shown
        # too, but never after newer ones.
        late = asked.number < self._oldest or seen < self._shown.get(frame, (0, Stage.ROUGH))
        if now is None or frame not in now.frames or late:
            return
        if frame in self._shown and self._shown[frame][1] is Stage.ROUGH:
            # What came may be what was shown, and of a frame that was far its plans are forgotten.
            for plan in set(self._plans.get(frame, ())) - set(plans):
                self._store.drop_frame(plan)
        self._plans[frame], self._shown[frame] = plans, seen
        if asked is now and stage is Stage.FINE:
            with self._jobs.wake:
                self._waiting.discard((frame, Stage.FINE))
            self._ready.add(frame)
        self._listener.ready(frame)
        self._listener.progressed(len(self._ready & self._wanted), len(self._wanted))

    def _failed(self, asked: _Asked, frame: int, sentence: str) -> None:
        if asked is not self._asked or frame in self._faults:
            return
        self._faults[frame] = sentence
        with self._jobs.wake:
            self._waiting -= {(frame, Stage.ROUGH), (frame, Stage.FINE)}
        self._listener.ready(frame)
        # The others are made all the same; one sentence is enough.
        if len(self._faults) == 1:
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
                self._waiting.add((number, Stage.FINE))
                self._look_anew()
        return cast("ScreenFrame | None", found)

    def _pieces(self, frames: frozenset[int]) -> set[_Piece]:
        """What is to be made of frames."""
        asked = self._asked
        if asked is None:
            return set()
        rough = {(frame, Stage.ROUGH) for frame in frames & asked.rough}
        return rough | {(frame, Stage.FINE) for frame in frames}

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
