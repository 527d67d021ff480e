"""What the window does with a path that is followed or cut out: starts, tells, and takes over."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document.masking import PaintedFrame
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import mask_edits
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.jobs import Job
from wrinkle.core.render.mask_following import CutOut, Followed, MaskOrder, cut_outs, followed
from wrinkle.ui.desk.parts import Supplying
from wrinkle.ui.shared.picture_view import frame_label

Found = TypeVar("Found")
_NEWLY_SOFT = 0.6


class MaskWorker(QObject):
    """One job at a time; a second order cancels the first.

    Signals:
        busyChanged: whether a job is running.
    """

    busyChanged = pyqtSignal(bool)

    def __init__(self, desk: Supplying, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._desk = desk
        self._job: Job | None = None
        desk.document.opened.connect(self._drop)

    @property
    def busy(self) -> bool:
        """Whether a job is running."""
        return self._job is not None

    def follow(self, layer: str, mask: str, step: int) -> None:
        """Carries a path on (1) or back (-1) from the playhead as far as the layer is there."""
        desk = self._desk
        if self._job is not None:
            self._job.cancel()
            return
        frames = self._frames(layer)
        here = desk.looking.playhead
        ordered = tuple(range(here, frames.stop if step > 0 else frames.start - 1, step))
        if here not in frames or len(ordered) < 2:
            desk.messages.faulted.emit("There is no further frame of this layer to follow to.")
            return
        wrinkle = desk.document.state
        found = wrinkle.layer(layer).mask(mask)
        sure = {time for time, _ in found.confidence}
        track = found.path.track
        rate = wrinkle.frame_rate
        own = {key.time for key in track.keys} - sure if track is not None else set()
        kept = frozenset(n for n in ordered if rate.seconds(n) in own)
        order = MaskOrder(wrinkle, desk.material(), layer, mask, ordered, kept)
        self._start(order, partial(followed, order), self._take_path)

    def cut_out(self, layer: str, mask: str) -> None:
        """Cuts the subject inside a path out, on all frames of the layer."""
        desk = self._desk
        if self._job is not None:
            self._job.cancel()
            return
        frames = self._frames(layer)
        if desk.looking.playhead not in frames:
            desk.messages.faulted.emit("Move the playhead to a frame of this layer first.")
            return
        others = [n for n in frames if n != desk.looking.playhead]
        ordered = (desk.looking.playhead, *others)
        order = MaskOrder(desk.document.state, desk.material(), layer, mask, ordered)
        self._start(order, partial(cut_outs, order), self._take_coverage)

    def _frames(self, layer: str) -> range:
        wrinkle = self._desk.document.state
        clock = wrinkle.clock(wrinkle.layer(layer), Fraction(0))
        rate = wrinkle.frame_rate
        first = max(wrinkle.first_frame, rate.frames_until(clock.start))
        return range(first, min(wrinkle.end_frame, rate.frames_until(clock.end)))

    def _start(
        self,
        order: MaskOrder,
        work: Callable[[Job], Found],
        then: Callable[[MaskOrder, Found], None],
    ) -> None:
        def end(found: Found) -> None:
            self._over()
            then(order, found)

        self._job = self._desk.workers.jobs.start(
            work, end, self._fail, "The mask cannot be followed", self._tell, self._over
        )
        self.busyChanged.emit(True)

    def _drop(self) -> None:
        """Another document takes the place of the one whose mask it is."""
        if self._job is not None:
            self._job.cancel()

    def _tell(self, done: int, total: int, left: float) -> None:
        self._desk.messages.told.emit(
            f"Following: {done} of {total} frames, {left:.0f} s left. Press again to stop."
        )

    def _fail(self, sentence: str) -> None:
        self._over()
        self._desk.messages.faulted.emit(sentence)

    def _over(self) -> None:
        self._job = None
        self.busyChanged.emit(False)

    def _take_path(self, order: MaskOrder, found: Followed) -> None:
        desk = self._desk
        if not found:
            desk.messages.faulted.emit(
                "The picture under the path cannot be followed from here: nothing in it moves "
                "with it. Draw the next frame by hand."
            )
            return
        start = order.frames[0]
        ref = path_ref(order.layer, order.mask)

        def followed(wrinkle: Wrinkle) -> Wrinkle:
            here = order.time(start)
            wrinkle = mask_edits.set_path(wrinkle, ref, here, order.outline(start), True)
            return mask_edits.set_followed(wrinkle, order.layer, order.mask, found)

        if not desk.document.edit_from(order.wrinkle, "path followed", followed):
            return
        rate = desk.document.state.frame_rate
        last = max(found, key=lambda time: abs(time - order.time(start)))
        end = rate.nearest_frame(last)
        weak = [rate.nearest_frame(t) for t, (_, sure) in found.items() if sure < _NEWLY_SOFT]
        words = f"Followed to frame {frame_label(end)}"
        if end != order.frames[-1]:
            words += ", where it was lost; correct that frame and follow on"
        if weak:
            words += f"; look at frame {frame_label(weak[0])}, it is unsure"
        desk.messages.told.emit(words + ".")

    def _take_coverage(self, order: MaskOrder, found: CutOut) -> None:
        if not found:
            return
        desk = self._desk
        painted = tuple(
            PaintedFrame(time, desk.document.keep_asset("cut-out.png", content))
            for time, content in found
        )
        if not desk.document.edit_from(
            order.wrinkle,
            "cut-out",
            lambda w: mask_edits.change_mask(w, order.layer, order.mask, painted=painted),
        ):
            return
        desk.messages.told.emit(
            f"Cut out on {len(painted)} frames. Press Paint to mend it where it is wrong."
        )
