"""Following a path and cutting a subject out, over the frames of a wrinkle."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

import cv2
import numpy as np

from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.mask_edits import path_ref
from wrinkle.core.jobs import Job
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
        size = Size(*self.wrinkle.reference_size)
        return size.scaled(min(1.0, _WORKED_SHORT_SIDE / min(size)))

    def time(self, frame: int) -> Fraction:
        """The time of a frame."""
        return self.wrinkle.frame_rate.seconds(frame)

    def outline(self, frame: int) -> Outline:
        """The path on a frame."""
        return parts(path_ref(self.layer, self.mask).of(self.wrinkle).at(self.time(frame)))

    def picture(self, frame: int) -> Bytes8:
        """What the mask lies on, encoded ``(H, W, 3)``."""
        return under_masks(self.wrinkle, self.material, self.layer, self.time(frame), self.size)


Followed = dict[Fraction, tuple[Outline, float]]
"""Paths by their time, and how sure each is, 0…1."""
CutOut = list[tuple[Fraction, bytes]]
"""Times with coverage pictures as PNG files."""


def followed(order: MaskOrder, job: Job) -> Followed:
    """Carries a path along; ends early where it is too unsure, or when the job is cancelled."""
    found: Followed = {}
    # Each keyframe that a person set is a new beginning.
    starts = [0, *(i for i, n in enumerate(order.frames) if i and n in order.kept)]
    ends = [*(start + 1 for start in starts[1:]), len(order.frames)]
    for start, end in zip(starts, ends, strict=True):
        stretch = order.frames[start:end]
        steps = follow(_pictures(order, job, stretch), order.outline(stretch[0]))
        reached = 1
        for frame, step in zip(stretch[1:], steps, strict=False):
            reached += 1
            if frame not in order.kept:
                found[order.time(frame)] = (step.outline, step.confidence)
            job.tell(start + reached, len(order.frames))
        if reached < len(stretch) or job.cancelled:
            break
    return found


def cut_outs(order: MaskOrder, job: Job) -> CutOut:
    """Finds the subject inside the path on each frame; ends early when the job is cancelled."""
    middle = order.frames[0]
    onwards = [n for n in order.frames if n >= middle]
    backwards = [n for n in sorted(order.frames, reverse=True) if n <= middle]
    rough = shape_coverage(MaskShape(order.outline(middle)), order.size, order.size)
    found: dict[int, Coverage] = {}
    for way in (onwards, backwards):
        start = found.get(middle, rough)
        for frame, coverage in zip(way, cut_out(_pictures(order, job, way), start), strict=False):
            found.setdefault(frame, coverage)
            job.tell(len(found), len(order.frames))
    return [(order.time(n), grey_png(found[n])) for n in sorted(found)]


def _pictures(order: MaskOrder, job: Job, frames: Sequence[int]) -> Iterator[Bytes8]:
    for frame in frames:
        if job.cancelled:
            return
        yield order.picture(frame)


def grey_png(coverage: Coverage) -> bytes:
    """A coverage picture as the bytes of a PNG file."""
    grey = np.rint(np.clip(coverage, 0.0, 1.0) * 255.0).astype(np.uint8)
    _, content = cv2.imencode(".png", grey)
    return bytes(content.tobytes())
