"""The frames of a window as they are measured, each looked at once and kept by its plan."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import cv2
import numpy as np
from numpy.typing import NDArray

from wrinkle.core.measure.flashes import Flashing, flashing
from wrinkle.core.measure.look import FrameLook, look_at
from wrinkle.core.picture.flow import Motion, motion_between
from wrinkle.core.picture.image import Image
from wrinkle.core.render.planned import FramePlan
from wrinkle.core.store import Store

Series = NDArray[np.float64]
"""One value for each frame of the window, ``(N,)``; NaN where there is none."""
_NOTICED = 8
"""Levels by which a pixel has to differ so that it has changed."""
_OF_ITS_OWN = 5
"""Changes around one place, two and a half flashes: with fewer of the window's own it takes clips
that flash to come to more than three within a second."""
_SMALLEST = 16
"""Pixels: what the motion is looked for in."""


class Measurable(Protocol):
    """Frames by number, counted from the cut."""

    def plan(self, frame: int) -> FramePlan:
        """All that the picture of a frame depends on."""

    def drawn(self, frame: int, plan: FramePlan) -> Image:
        """The picture of a frame, from its plan."""


@dataclass(frozen=True)
class FrameStep:
    """From one frame to the next.

    Attributes:
        changed: the share of the pixels that differ, 0…1.
        apart: the mean difference of luma, 0…1.
        motion: of the picture, in pixels.
    """

    changed: float
    apart: float
    motion: Motion

    @property
    def nbytes(self) -> int:
        """Bytes of memory."""
        return 128


@dataclass(frozen=True, eq=False)
class Survey:
    """What is measured of a window. Safe to use from several threads.

    Attributes:
        shown: its frames in the size of ``measured_size``.
        frames: the numbers of its frames.
        per_second: their rate.
        store: what was measured is kept there, for as long as the frames stay the same.
    """

    shown: Measurable
    frames: range
    per_second: float
    store: Store

    def prepare(self, frame: int) -> None:
        """Measures a frame now: may be called for each of them, from several threads.

        Raises:
            MediaError: a source cannot be read.
        """
        self.look(frame)
        self.step(frame)

    def look(self, frame: int) -> FrameLook:
        """A frame by itself.

        Raises:
            MediaError: a source cannot be read.
        """
        # Kept here too while it is worked with: the store may need the room for pictures.
        found = self._looks.get(frame)
        if found is None:
            plan = self._plan(frame)
            found = self.store.made(("look", plan), lambda: look_at(self.shown.drawn(frame, plan)))
            self._looks[frame] = found
        return found

    def step(self, frame: int) -> FrameStep:
        """From the frame before to a frame.

        Raises:
            MediaError: a source cannot be read.
        """
        return self.between(frame - 1, frame)

    def between(self, one: int, other: int) -> FrameStep:
        """From a frame to another one.

        Raises:
            MediaError: a source cannot be read.
        """
        key = ("step", self._plan(one), self._plan(other))
        return self.store.made(key, lambda: _step(self.look(one), self.look(other)))

    def series(self, value: Callable[[FrameLook], float]) -> Series:
        """A value of each frame by itself."""
        return np.array([value(self.look(frame)) for frame in self.frames])

    @cached_property
    def steps(self) -> tuple[FrameStep, ...]:
        """Of all frames, from the one before the window on."""
        return tuple(self.step(frame) for frame in self.frames)

    @cached_property
    def flashing(self) -> Flashing:
        """Flashes within the window, with a second around it where it flashes itself."""
        inside = self.flashing_inside
        if inside.general.max(initial=0.0) * 2 < _OF_ITS_OWN:
            return inside
        around = max(1, round(self.per_second))
        frames = range(self.frames.start - around, self.frames.stop + around)
        # Of red ones too there have to be some of its own.
        found = self._flashing(frames, bool(inside.red.max(initial=0.0) * 2 >= _OF_ITS_OWN))
        end = around + len(self.frames)
        # What is counted in the second after the window began within it.
        return Flashing(
            general=_kept(found.general, around, end),
            screen=_kept(found.screen, around, end),
            red=np.maximum(_kept(found.red, around, end), inside.red),
            changes=tuple(x - around for x in found.changes if around <= x < end),
        )

    @cached_property
    def flashing_inside(self) -> Flashing:
        """Flashes within the window alone: those around it can only be more."""
        return self._flashing(self.frames)

    def _flashing(self, frames: range, with_red: bool = True) -> Flashing:
        pictures = (self.look(frame).colours for frame in frames)
        return flashing(pictures, self.per_second, with_red)

    def let_go(self) -> None:
        """Leaves what was measured to the store."""
        self._looks.clear()
        self._plans.clear()

    @cached_property
    def _looks(self) -> dict[int, FrameLook]:
        return {}

    @cached_property
    def _plans(self) -> dict[int, FramePlan]:
        return {}

    def _plan(self, frame: int) -> FramePlan:
        found = self._plans.get(frame)
        if found is None:
            found = self._plans[frame] = self.shown.plan(frame)
        return found


def _kept(counts: Series, start: int, end: int) -> Series:
    """The counts of the window, its last one with what comes out in the second after it."""
    kept = counts[start:end].copy()
    kept[-1] = counts[end - 1 :].max()
    return kept


def _step(before: FrameLook, after: FrameLook) -> FrameStep:
    apart = cv2.absdiff(before.grey, after.grey)
    changed = float(np.count_nonzero(apart > _NOTICED)) / apart.size
    if min(apart.shape) < _SMALLEST:
        return FrameStep(changed, cv2.mean(apart)[0] / 255.0, Motion(0.0, (0.0, 0.0), 0.0))
    motion = motion_between(before.grey, after.grey)
    return FrameStep(changed, cv2.mean(apart)[0] / 255.0, motion)
