"""What is examined: a plain wrinkle on its clips, with its frames measured."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from fractions import Fraction
from functools import cached_property
from threading import Event

import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import within
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.sources import SlotSource, TreatmentSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import Cancelled
from wrinkle.core.measure.look import measured_size
from wrinkle.core.measure.survey import Measurable, Series, Survey
from wrinkle.core.picture.image import Image, Size
from wrinkle.core.picture.placement import Matrix
from wrinkle.core.render.material import Material
from wrinkle.core.render.placing import layer_matrix, shown_matrix
from wrinkle.core.render.planned import FramePlan
from wrinkle.core.render.showing import Showing
from wrinkle.core.reuse.hearing import in_slots
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.store import Store

Hears = Callable[[Wrinkle], Mix]
"""Gives what is heard with a design, its sample 0 at the cut."""
_GRID = 5
"""Points across and down whose way stands for the picture's."""


@dataclass(frozen=True)
class Around:
    """Frames of something longer, counted from a cut within it."""

    shown: Measurable
    cut: int

    def plan(self, frame: int) -> FramePlan:
        """All that the picture of a frame depends on."""
        return self.shown.plan(frame + self.cut)

    def drawn(self, frame: int, plan: FramePlan) -> Image:
        """The picture of a frame, from its plan."""
        return self.shown.drawn(frame + self.cut, plan)


@dataclass(frozen=True, eq=False)
class Subject:
    """What is examined.

    Attributes:
        showing: the plain wrinkle on its clips, in the size that is measured.
        frame_size: of the frames that are written in the end.
        survey: its frames as they are measured.
        design: the wrinkle as it was designed, which mends change.
        plain: gives the plain wrinkle that a design comes to here.
        hears: gives what is heard about the cut with a design; None where nothing is.
        given_up: is set where nobody wants to know any more what a change would come to.
    """

    showing: Showing
    frame_size: Size
    survey: Survey
    design: Wrinkle
    plain: Callable[[Wrinkle], Wrinkle]
    hears: Hears | None = None
    given_up: Event = field(default_factory=Event)

    @classmethod
    def of(
        cls,
        showing: Showing,
        design: Wrinkle | None = None,
        plain: Callable[[Wrinkle], Wrinkle] = lambda design: design,
        around: Measurable | None = None,
        hears: Hears | None = None,
    ) -> Subject:
        """A wrinkle on its clips.

        Args:
            showing: in the size that is written in the end.
            design: as it was designed; by default what is shown.
            plain: gives the plain wrinkle that a design comes to here.
            around: its frames with what lies around them; by default the clips run on plainly.
            hears: gives what is heard there with a design.
        """
        small = showing.resized(measured_size(showing.size))
        wrinkle = showing.wrinkle
        rate = float(wrinkle.frame_rate.per_second)
        frames = around if around is not None else small
        survey = Survey(frames, wrinkle.frames, rate, showing.material.store)
        return cls(small, showing.size, survey, design or wrinkle, plain, hears)

    @classmethod
    def of_document(cls, wrinkle: Wrinkle) -> Subject:
        """A wrinkle without anything to see, for what is told from the document alone."""
        showing = Showing(wrinkle, Material(store=Store(1 << 20)), Size(*wrinkle.reference_size))
        return cls.of(showing)

    @property
    def wrinkle(self) -> Wrinkle:
        """What is examined."""
        return self.showing.wrinkle

    @property
    def frames(self) -> range:
        """The frames of its window."""
        return self.survey.frames

    def changed(self, design: Wrinkle) -> Subject:
        """Another design on the same clips, to be measured.

        Raises:
            InputError: it does not come to a plain wrinkle here.
            Cancelled: nobody wants to know any more.
        """
        if self.given_up.is_set():
            raise Cancelled
        return self.with_design(design)

    def with_design(self, design: Wrinkle) -> Subject:
        """Another design on the same clips, which run on plainly around it.

        Raises:
            InputError: it does not come to a plain wrinkle here.
        """
        wrinkle = self.plain(design)
        showing = replace(self.showing, wrinkle=wrinkle)
        rate = float(wrinkle.frame_rate.per_second)
        survey = Survey(showing, wrinkle.frames, rate, self.survey.store)
        return replace(self, showing=showing, survey=survey, design=design)

    def heard(self) -> Mix | None:
        """What is heard about the cut; None where nothing is."""
        return self._heard

    @cached_property
    def _heard(self) -> Mix | None:
        heard = self.hears(self.design) if self.hears is not None else None
        return heard if heard is not None and heard.parts else None

    def sounds(self) -> WrinkleSounds:
        """The sounds of the plain wrinkle; what stands in is heard in its slots."""
        return self._sounds

    @cached_property
    def _sounds(self) -> WrinkleSounds:
        heard = self.heard() if not any(sound.slot for sound in self.wrinkle.sounds) else None
        for part in heard.parts if heard is not None else ():
            if isinstance(part.sound, WrinkleSounds) and part.sound.wrinkle == self.wrinkle:
                # They are made once for all that listens to them.
                return part.sound
        carried = in_slots(self.wrinkle, {}, self.showing.material.sounds)
        return WrinkleSounds(self.wrinkle, carried)

    def time(self, frame: int) -> Fraction:
        """The time of a frame from the cut, in seconds."""
        return self.wrinkle.frame_rate.seconds(frame)

    @cached_property
    def lane_ways(self) -> np.ndarray:
        """How far lanes move the clip that is seen, from the frame before to each frame.

        ``(N, 2)``: to the right and down, in pixels of the measured frame, the mean over the
        frame; NaN on the frame after the cut, where another clip is seen.
        """
        return np.array([way for way, _ in self._ways])

    @cached_property
    def lane_speeds(self) -> Series:
        """How fast lanes move the clip that is seen: the median over the frame, in pixels."""
        return np.array([speed for _, speed in self._ways])

    @cached_property
    def _ways(self) -> list[tuple[tuple[float, float], float]]:
        return [self._way(frame) for frame in self.frames]

    def _way(self, frame: int) -> tuple[tuple[float, float], float]:
        if frame == 0:
            return (np.nan, np.nan), np.nan
        slot = OUTGOING.key if frame < 0 else INCOMING.key
        layer = next(
            (
                x
                for x in reversed(self.wrinkle.layers)
                if isinstance(x.source, SlotSource)
                and x.source.slot == slot
                and x.span.holds(self.time(frame))
                and x.span.holds(self.time(frame - 1))
            ),
            None,
        )
        return self.way_of(layer, frame) if layer is not None else ((0.0, 0.0), 0.0)

    def way_of(self, layer: Layer, frame: int) -> tuple[tuple[float, float], float]:
        """How far a layer is moved from the frame before: the mean way, and the median distance."""
        before, after = self._seen(layer, frame - 1), self._seen(layer, frame)
        width, height = self.showing.size
        xs, ys = np.meshgrid(np.linspace(0, width, _GRID), np.linspace(0, height, _GRID))
        spots = np.stack([xs.ravel(), ys.ravel(), np.ones(xs.size)])
        if abs(np.linalg.det(before)) < 1e-9:
            return (np.nan, np.nan), np.nan
        moved = after @ np.linalg.solve(before, spots)
        way = (moved[:2] / np.maximum(np.abs(moved[2]), 1e-6)) - spots[:2]
        mean = float(way[0].mean()), float(way[1].mean())
        return mean, float(np.median(np.hypot(*way)))

    def _seen(self, layer: Layer, frame: int) -> Matrix:
        """Where a point of a layer's frame is seen, with the treatments in front of it."""
        time, size, wrinkle = self.time(frame), self.showing.size, self.wrinkle
        matrix = shown_matrix(wrinkle, layer, time, size)
        ground: Layer | None = layer
        while ground is not None:
            beside = within(wrinkle.layers, ground.group)
            for front in beside[beside.index(ground) + 1 :]:
                treats = isinstance(front.source, TreatmentSource) and not front.masks
                if treats and front.visible.at(time) and front.span.holds(time):
                    matrix = layer_matrix(wrinkle, front, time, time, size) @ matrix
            ground = wrinkle.layer(ground.group) if ground.group is not None else None
        return matrix
