"""Clips that run out within the window, whose pictures repeat, or which are too small."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slots import shows_given
from wrinkle.core.design.document.sources import SlotSource
from wrinkle.core.design.document.timing import Beyond
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.design.edits.time_edits import freeze_from, freeze_layer, split_layer
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Check, Finding, Mend, frames_word
from wrinkle.core.measure.checks import rest, seam
from wrinkle.core.measure.enlarging import design_time
from wrinkle.core.measure.limits import ENLARGED, LONG_ENOUGH, STILL
from wrinkle.core.measure.mending import scaled_alike
from wrinkle.core.measure.subject import Subject
from wrinkle.core.render.material import Filling
from wrinkle.core.render.plan import plan_layer
from wrinkle.core.render.planned import SourceFrame, matrix_of

_SHORTER = 8


def find_short(subject: Subject) -> Iterator[Finding]:
    """Clips whose first or last picture is held because there is no more of them."""
    for layer in subject.wrinkle.layers:
        lacking = _lacking(subject, layer)
        if not lacking:
            continue
        name = _filling(subject, layer).source.name  # type: ignore[union-attr]
        end = "last" if lacking[-1] >= 0 else "first"
        count = f"{len(lacking)} frame{'s' if len(lacking) > 1 else ''}"
        sentence = (
            f"{frames_word(lacking)}: '{name}' has {count} too few for {layer.name}; its {end} "
            "picture is held."
        )
        mends = (
            Mend("freeze", "Freeze it there", _freezer(subject, layer, lacking)),
            Mend("slow", "Slow the clip", _slower(subject, layer)),
            Mend("shorten", "Shorten the wrinkle", _shorter(subject, layer, lacking[-1] >= 0)),
        )
        yield Finding(
            SHORT.key, sentence, layer.id, "", lacking, lacking[0], len(lacking) / 6, mends
        )


def _filling(subject: Subject, layer: Layer) -> Filling | None:
    if not shows_given(layer.source) or not isinstance(layer.source, SlotSource):
        return None
    return subject.showing.material.slots.get(layer.source.slot)


def _lacking(subject: Subject, layer: Layer) -> tuple[int, ...]:
    """The frames on which a layer asks for more than its clip has."""
    filling, timing = _filling(subject, layer), layer.timing
    if filling is None or timing.beyond is Beyond.LOOP or timing.freeze is not None:
        return ()
    wrinkle = subject.wrinkle
    found = []
    for frame in subject.frames:
        time = subject.time(frame)
        if not layer.span.holds(time) or not layer.visible.at(time):
            continue
        seconds = filling.cut + timing.clip_time(time, wrinkle.clock(layer, time))
        if not 0 <= seconds < filling.source.duration:
            found.append(frame)
    return tuple(found)


def _checked(subject: Subject, layer: Layer, wrinkle: Wrinkle) -> bool:
    """Whether a design leaves this layer enough, and no other one less than before."""
    return short_ones(subject.changed(wrinkle)) <= short_ones(subject) - {layer.id}


def short_ones(subject: Subject) -> set[str]:
    """The layers whose clips run out."""
    return {layer.id for layer in subject.wrinkle.layers if _lacking(subject, layer)}


def _freezer(subject: Subject, layer: Layer, lacking: tuple[int, ...]) -> Callable[[], Wrinkle]:
    def frozen() -> Wrinkle:
        if lacking[-1] >= 0:
            time = design_time(subject, Fraction(lacking[0] - 1))
            wrinkle, _ = freeze_from(subject.design, layer.id, time)
        else:
            time = design_time(subject, Fraction(lacking[-1] + 1))
            wrinkle, _ = split_layer(subject.design, layer.id, time)
            wrinkle = freeze_layer(wrinkle, layer.id, time)
        if not _checked(subject, layer, wrinkle):
            raise InputError(f"{layer.name} cannot be frozen there; shorten the wrinkle.")
        return wrinkle

    return frozen


def _slower(subject: Subject, layer: Layer) -> Callable[[], Wrinkle]:
    def slow() -> Wrinkle:
        for percent in range(95, 4, -5):
            ref = SettingRef(layer.id, "timing.speed")
            wrinkle = scaled_alike(subject.design, ref, percent / 100.0)
            if _checked(subject, layer, wrinkle):
                return wrinkle
        raise InputError(f"{layer.name} has nothing of its clip to slow; shorten the wrinkle.")

    return slow


def _shorter(subject: Subject, layer: Layer, after: bool) -> Callable[[], Wrinkle]:
    def made_shorter() -> Wrinkle:
        design, rate = subject.design, subject.design.frame_rate
        lead, tail = design.lead, design.tail
        rests = not any(rest.find(subject))
        broken = {x.about for x in seam.find_in_lanes(subject)}
        for step in range(1, _SHORTER):
            share = Fraction(_SHORTER - step, _SHORTER)
            end = rate.seconds(max(1, rate.nearest_frame((tail if after else lead) * share)))
            wanted = Retiming(rate, lead if after else end, end if after else tail, stretch=True)
            wrinkle = retime(design, wanted)
            if not _checked(subject, layer, wrinkle):
                continue
            shorter = subject.changed(wrinkle)
            if rests and any(rest.find(shorter)):
                raise InputError("It would be too short to come to rest; freeze or slow the clip.")
            if not {x.about for x in seam.find_in_lanes(shorter)} <= broken:
                raise InputError("Its motion would break at the cut; freeze or slow the clip.")
            return wrinkle
        raise InputError("No length is short enough; trim the clip, or freeze it.")

    return made_shorter


def find_small(subject: Subject) -> Iterator[Finding]:
    """Clips that are seen larger than their pixels allow while they hardly move."""
    factor = min(subject.frame_size) / min(subject.showing.size)
    short = min(subject.showing.size)
    told: set[str] = set()
    for layer in subject.wrinkle.layers:
        filling = _filling(subject, layer)
        if filling is None or filling.source.name in told:
            continue
        own = filling.source.size
        most, at, frames = 0.0, 0, []
        for frame in subject.frames:
            time, showing = subject.time(frame), subject.showing
            planned = plan_layer(subject.wrinkle, showing.material, layer.id, time, showing.size)
            if planned is None or not isinstance(planned.content, SourceFrame):
                continue
            if not subject.way_of(layer, frame)[1] <= STILL * short / 100.0:
                continue
            matrix = matrix_of(planned.placements[0]) @ matrix_of(planned.fit)
            area = abs(float(np.linalg.det(matrix[:2, :2])))
            scale = math.sqrt(area) * planned.content.size.width / own.width * factor
            if scale > ENLARGED:
                frames.append(frame)
            if scale > most:
                most, at = scale, frame
        if len(frames) >= LONG_ENOUGH:
            told.add(filling.source.name)
            sentence = (
                f"{frames_word(tuple(frames))}: '{filling.source.name}' ({own.label}) is shown at "
                f"{most * 100:.0f} % of its pixels, above {ENLARGED * 100:.0f} % it looks soft."
            )
            yield Finding(
                SMALL.key, sentence, layer.id, "", tuple(frames), at, most / ENLARGED - 1.0
            )


def find_uneven(subject: Subject) -> Iterator[Finding]:
    """Clips of another rate, of which pictures are repeated or dropped unevenly."""
    rate = subject.wrinkle.frame_rate
    told: set[str] = set()
    for layer in subject.wrinkle.layers:
        filling = _filling(subject, layer)
        timing = layer.timing
        if (
            filling is None
            or filling.source.name in told
            or timing.frame_blending
            or timing.along_motion
            or not timing.speed.still
        ):
            continue
        if timing.speed.rest != 100.0 or not timing.stutter.still or timing.stutter.rest:
            continue
        count = max(2, rate.nearest_frame(Fraction(1)))
        middle = filling.source.duration / 2
        start = min(middle, max(Fraction(0), filling.source.duration - 1))
        indices = [filling.source.index_at(start + rate.seconds(n)) for n in range(count + 1)]
        steps = np.diff(indices)
        if _is_even(steps):
            continue
        told.add(filling.source.name)
        repeated = int(np.count_nonzero(steps == 0))
        dropped = int(np.maximum(steps - 1, 0).sum())
        does = f"{repeated} of its pictures are repeated" if repeated else f"{dropped} are dropped"
        sentence = (
            f"'{filling.source.name}' runs at another rate: in each second {does} at {rate.label} "
            "frames a second."
        )

        yield Finding(
            UNEVEN.key, sentence, layer.id, "timing.speed", (), 0,
            (repeated + dropped) / count,
        )  # fmt: skip


def _is_even(steps: NDArray[np.int64]) -> bool:
    """Whether each picture is shown as long as the others, and every so manieth is shown."""
    changes = np.flatnonzero(steps)
    if len(changes) < 2:
        return True
    runs, jumps = np.diff(changes), steps[changes]
    return bool((runs == runs[0]).all() and (jumps == jumps[0]).all())


SHORT = Check(
    "handles",
    "Handles",
    "Both clips have enough before and after the cut.",
    find_short,
    gravity=2,
)
SMALL = Check(
    "pixels",
    "Enough pixels",
    f"No clip is shown larger than {ENLARGED * 100:.0f} % of its pixels where it stands still.",
    find_small,
)
UNEVEN = Check(
    "rate",
    "Even pictures",
    "No pictures of a clip are repeated or dropped unevenly.",
    find_uneven,
)
