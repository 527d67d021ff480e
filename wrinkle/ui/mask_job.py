"""Following a path and cutting a subject out, in the background, with progress and cancel."""

from __future__ import annotations

import threading
import traceback
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

import cv2
import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.mask_edits import path_ref
from wrinkle.core.errors import InputError
from wrinkle.core.mask.coverage import MaskShape, shape_coverage
from wrinkle.core.mask.cut_out import cut_out
from wrinkle.core.mask.follow import follow
from wrinkle.core.motion.values import parts
from wrinkle.core.picture.image import Bytes8, Size
from wrinkle.core.picture.paths import Outline
from wrinkle.core.picture.vector import Coverage
from wrinkle.core.render.material import Material
from wrinkle.core.render.under_masks import under_masks

_WORKED_SHORT_SIDE = 540


@dataclass(frozen=True)
class MaskOrder:
    """What is to be followed or cut out.

    Attributes:
        wrinkle, material: the document and what fills it.
        layer, mask: whose path.
        frames: in the order of following; the path is taken from the first one.
        kept: frames whose own keyframe is not to be touched; following goes on from it.
    """

    wrinkle: Wrinkle
    material: Material
    layer: str
    mask: str
    frames: tuple[int, ...]
    kept: frozenset[int] = frozenset()

    @property
    def size(self) -> Size:
        """The size at which pictures are looked at."""
        frame = Size(*self.wrinkle.reference_size)
        return frame.scaled(min(1.0, _WORKED_SHORT_SIDE / min(frame)))

    def time(self, frame: int) -> Fraction:
        """The time of a frame."""
        return self.wrinkle.frame_rate.seconds(frame)

    def outline(self, frame: int) -> Outline:
        """The path on a frame."""
        return parts(path_ref(self.layer, self.mask).of(self.wrinkle).at(self.time(frame)))

    def picture(self, frame: int) -> Bytes8:
        """What the mask lies on."""
        return under_masks(self.wrinkle, self.material, self.layer, self.time(frame), self.size)


class MaskJob(QObject):
    """One order on a thread of its own.

    Signals:
        progressed: frames done, and frames in all.
        followed: a dict of times with paths and how sure they are; ended early where too unsure.
        cut: a list of times with coverage pictures as PNG files.
        failed: one sentence.
    """

    progressed = pyqtSignal(int, int)
    followed = pyqtSignal(object)
    cut = pyqtSignal(object)
    failed = pyqtSignal(str)

    def __init__(self, order: MaskOrder, cutting: bool, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.order = order
        self._cutting = cutting
        self._cancel = threading.Event()
        self._thread = threading.Thread(target=self._work, name="frames-mask", daemon=True)

    def start(self) -> None:
        """Begins."""
        self._thread.start()

    def cancel(self) -> None:
        """Stops after the frame that is worked on; what is done so far is kept."""
        self._cancel.set()

    def wait(self) -> None:
        """Until the thread has ended."""
        self._thread.join()

    def _work(self) -> None:
        try:
            if self._cutting:
                self.cut.emit(self._cut())
            else:
                self.followed.emit(self._followed())
        except InputError as fault:
            self.failed.emit(str(fault))
        except Exception as fault:  # noqa: BLE001 - a thread must not die without a word
            traceback.print_exc()
            self.failed.emit(f"The mask cannot be followed: {fault!r}.")

    def _followed(self) -> dict[Fraction, tuple[Outline, float]]:
        order, found = self.order, {}
        # Each keyframe that a person set is a new beginning.
        starts = [0, *(i for i, n in enumerate(order.frames) if i and n in order.kept)]
        ends = [*(start + 1 for start in starts[1:]), len(order.frames)]
        for start, end in zip(starts, ends, strict=True):
            stretch = order.frames[start:end]
            steps = follow(self._greys(stretch), order.outline(stretch[0]))
            reached = 1
            for frame, step in zip(stretch[1:], steps, strict=False):
                reached += 1
                if frame not in order.kept:
                    found[order.time(frame)] = (step.outline, step.confidence)
                self.progressed.emit(start + reached, len(order.frames))
            if reached < len(stretch) or self._cancel.is_set():
                break
        return found

    def _greys(self, frames: tuple[int, ...]) -> Iterator[Bytes8]:
        for frame in frames:
            if self._cancel.is_set():
                return
            yield cv2.cvtColor(self.order.picture(frame), cv2.COLOR_RGB2GRAY)

    def _cut(self) -> list[tuple[Fraction, bytes]]:
        order = self.order
        middle = order.frames[0]
        onwards = [n for n in order.frames if n >= middle]
        backwards = [n for n in sorted(order.frames, reverse=True) if n <= middle]
        rough = shape_coverage(MaskShape(order.outline(middle)), order.size, order.size)
        found: dict[int, Coverage] = {}
        for way in (onwards, backwards):
            start = found.get(middle, rough)
            for frame, coverage in zip(way, cut_out(self._pictures(way), start), strict=False):
                found.setdefault(frame, coverage)
                self.progressed.emit(len(found), len(order.frames))
        return [(order.time(n), grey_png(found[n])) for n in sorted(found)]

    def _pictures(self, frames: list[int]) -> Iterator[Bytes8]:
        for frame in frames:
            if self._cancel.is_set():
                return
            yield self.order.picture(frame)


def grey_png(coverage: Coverage) -> bytes:
    """A coverage picture as the bytes of a PNG file."""
    grey = np.rint(np.clip(coverage, 0.0, 1.0) * 255.0).astype(np.uint8)
    _, content = cv2.imencode(".png", grey)
    return bytes(content.tobytes())
