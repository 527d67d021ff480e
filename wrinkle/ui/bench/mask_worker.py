"""What the window does with a path that is followed or cut out: starts, tells, and takes over."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design import mask_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.mask_edits import path_ref
from wrinkle.core.design.masking import PaintedFrame
from wrinkle.core.picture.paths import Outline
from wrinkle.ui.mask_job import MaskJob, MaskOrder
from wrinkle.ui.session import Session
from wrinkle.ui.shared.picture_view import frame_label

_NEWLY_SOFT = 0.6


class MaskWorker(QObject):
    """One job at a time; a second order cancels the first.

    Signals:
        busyChanged: whether a job is running.
    """

    busyChanged = pyqtSignal(bool)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._job: MaskJob | None = None

    @property
    def busy(self) -> bool:
        """Whether a job is running."""
        return self._job is not None

    def follow(self, layer: str, mask: str, step: int) -> None:
        """Carries a path on (1) or back (-1) from the playhead as far as the layer is there."""
        session = self._session
        if self._job is not None:
            self._job.cancel()
            return
        frames = self._frames(layer)
        here = session.playhead
        ordered = tuple(range(here, frames.stop if step > 0 else frames.start - 1, step))
        if here not in frames or len(ordered) < 2:
            session.faulted.emit("There is no further frame of this layer to follow to.")
            return
        wrinkle = session.wrinkle
        found = wrinkle.layer(layer).mask(mask)
        sure = {time for time, _ in found.confidence}
        track = found.path.track
        rate = wrinkle.frame_rate
        own = {key.time for key in track.keys} - sure if track is not None else set()
        kept = frozenset(n for n in ordered if rate.seconds(n) in own)
        order = MaskOrder(wrinkle, session.material(), layer, mask, ordered, kept)
        self._start(MaskJob(order, False, self))

    def cut_out(self, layer: str, mask: str) -> None:
        """Cuts the subject inside a path out, on all frames of the layer."""
        session = self._session
        if self._job is not None:
            self._job.cancel()
            return
        frames = self._frames(layer)
        if session.playhead not in frames:
            session.faulted.emit("Move the playhead to a frame of this layer first.")
            return
        others = [n for n in frames if n != session.playhead]
        ordered = (session.playhead, *others)
        order = MaskOrder(session.wrinkle, session.material(), layer, mask, ordered)
        self._start(MaskJob(order, True, self))

    def stop(self) -> None:
        """Ends the job and waits for it."""
        if self._job is not None:
            self._job.cancel()
            self._job.wait()
            self._job = None

    def _frames(self, layer: str) -> range:
        wrinkle = self._session.wrinkle
        clock = wrinkle.clock(wrinkle.layer(layer), Fraction(0))
        rate = wrinkle.frame_rate
        first = max(wrinkle.first_frame, rate.frames_until(clock.start))
        return range(first, min(wrinkle.end_frame, rate.frames_until(clock.end)))

    def _start(self, job: MaskJob) -> None:
        self._job = job
        job.progressed.connect(self._tell)
        job.followed.connect(self._take_path)
        job.cut.connect(self._take_coverage)
        job.failed.connect(self._fail)
        self.busyChanged.emit(True)
        job.start()

    def _tell(self, done: int, total: int) -> None:
        self._session.told.emit(f"Following: {done} of {total} frames. Press again to stop.")

    def _fail(self, sentence: str) -> None:
        self._end()
        self._session.faulted.emit(sentence)

    def _end(self) -> MaskOrder | None:
        job, self._job = self._job, None
        self.busyChanged.emit(False)
        if job is None:
            return None
        job.wait()
        job.deleteLater()
        order = job.order
        wrinkle = self._session.wrinkle
        there = any(
            x.id == order.layer and any(m.id == order.mask for m in x.masks) for x in wrinkle.layers
        )
        return order if there else None

    def _take_path(self, found: dict[Fraction, tuple[Outline, float]]) -> None:
        order = self._end()
        if order is None:
            return
        session = self._session
        if not found:
            session.faulted.emit(
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

        session.edit("path followed", followed)
        rate = session.wrinkle.frame_rate
        last = max(found, key=lambda time: abs(time - order.time(start)))
        end = rate.nearest_frame(last)
        weak = [rate.nearest_frame(t) for t, (_, sure) in found.items() if sure < _NEWLY_SOFT]
        words = f"Followed to frame {frame_label(end)}"
        if end != order.frames[-1]:
            words += ", where it was lost; correct that frame and follow on"
        if weak:
            words += f"; look at frame {frame_label(weak[0])}, it is unsure"
        session.told.emit(words + ".")

    def _take_coverage(self, found: list[tuple[Fraction, bytes]]) -> None:
        order = self._end()
        if order is None or not found:
            return
        session = self._session
        painted = tuple(
            PaintedFrame(time, session.keep_asset("cut-out.png", content))
            for time, content in found
        )
        session.edit(
            "cut-out",
            lambda w: mask_edits.change_mask(w, order.layer, order.mask, painted=painted),
        )
        session.told.emit(
            f"Cut out on {len(painted)} frames. Press Paint to mend it where it is wrong."
        )
