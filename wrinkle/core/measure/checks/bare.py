"""Frames on which no picture reaches some of the frame: bare corners and edges."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.slots import INCOMING, OUTGOING
from wrinkle.core.design.document.wrinkle import Wrinkle, clip_layer
from wrinkle.core.design.edits.layer_edits import free_id, with_layer, with_layers
from wrinkle.core.errors import InputError
from wrinkle.core.measure.causes import Cause, responsible
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word
from wrinkle.core.measure.checks import rest
from wrinkle.core.measure.checks.seam import find_in_lanes
from wrinkle.core.measure.enlarging import MOST, enlarged, needed_on
from wrinkle.core.measure.limits import BARE
from wrinkle.core.measure.subject import Subject
from wrinkle.core.picture.edge_cover import EdgeCover

_TRIES = 4
"""Halvings."""
_MORE = 1.06
"""What is added where effects bend the picture, until it is enough."""


def find(subject: Subject) -> Iterator[Finding]:
    """One finding for the window, if a frame of it is bare."""
    shares = {frame: subject.survey.look(frame).bare for frame in subject.frames}
    frames = tuple(frame for frame, share in shares.items() if share > BARE)
    if not frames:
        return
    worst = max(frames, key=lambda frame: shares[frame])
    look = subject.survey.look(worst)
    sentence = (
        f"Frame {frame_word(worst)}: the picture is bare in {_percent(look.bare)} of the frame, "
        f"{look.where}{_others(len(frames) - 1)}."
    )
    found = _edges(subject, frames)
    if found:
        mends = [
            Mend("enlarge-there", "Enlarge where it is bare",
                 lambda: _enlarged(subject, found, frames, throughout=False)),
            Mend("enlarge", "Enlarge for the whole window",
                 lambda: _enlarged(subject, found, frames, throughout=True)),
            Mend("cover", "Mirror the edges", lambda: _covered(subject, found)),
        ]  # fmt: skip
    else:
        mends = [Mend("lay", "Lay the plain clips below", lambda: _laid(subject, frames))]
    layer = found[0].layer if found else ""
    weight = look.bare / BARE - 1.0
    yield Finding(CHECK.key, sentence, layer, "", frames, worst, weight, tuple(mends))


def _percent(share: float) -> str:
    return f"{share * 100:.1f} %" if share >= 0.001 else "less than 0.1 %"


def _others(count: int) -> str:
    if count == 0:
        return ""
    return f", and {count} more frame{'s are' if count > 1 else ' is'} bare"


def _worst(subject: Subject, frames: tuple[int, ...]) -> float:
    return max(subject.survey.look(frame).bare for frame in frames) / BARE


def _edges(subject: Subject, frames: tuple[int, ...]) -> list[Cause]:
    """The layers whose edges are seen: where they are covered, nothing is bare."""
    sample = frames if len(frames) <= 3 else (frames[0], frames[len(frames) // 2], frames[-1])
    worst = max(frames, key=lambda frame: subject.survey.look(frame).bare)
    sample = tuple(sorted({*sample, worst}))
    among = [
        Cause(x.id, "", f"the edges of {x.name}", weakened=_covering(x.id))
        for x in subject.design.layers
        if x.edge_cover.rest == EdgeCover.BARE.value or x.edge_cover.track is not None
    ]
    return responsible(subject, lambda other: _worst(other, sample), among)


def _covering(layer_id: str) -> Callable[[Wrinkle, float], Wrinkle]:
    def covered(wrinkle: Wrinkle, share: float) -> Wrinkle:
        layer = wrinkle.layer(layer_id)
        return with_layer(wrinkle, replace(layer, edge_cover=Setting(EdgeCover.MIRROR.value)))

    return covered


def _covered(subject: Subject, found: list[Cause]) -> Wrinkle:
    wrinkle = subject.design
    for cause in found:
        wrinkle = cause.weakened(wrinkle, 0.0)
    return wrinkle


def _laid(subject: Subject, frames: tuple[int, ...]) -> Wrinkle:
    """Both clips behind everything else."""
    wrinkle = subject.design
    below: list[Layer] = []
    for name, slot in (("Below, outgoing", OUTGOING.key), ("Below, incoming", INCOMING.key)):
        taken = [x.id for x in below]
        below.append(clip_layer(free_id(wrinkle, name, taken), name, slot))
    wrinkle = with_layers(wrinkle, (*below, *wrinkle.layers))
    if _worst(subject.changed(wrinkle), frames) > 1.0:
        raise InputError("It is bare in front of the clips too; look at what treats them.")
    return wrinkle


def _enlarged(
    subject: Subject, found: list[Cause], frames: tuple[int, ...], throughout: bool
) -> Wrinkle:
    """The smallest enlargement: worked out where layers are placed, looked for where they bend."""
    layers = [cause.layer for cause in found]
    broken = {x.about for x in find_in_lanes(subject)}
    rests = not any(rest.find(subject))
    needed: dict[int, float] = {}
    for frame in frames:
        each = [needed_on(subject, subject.wrinkle.layer(x), frame) for x in layers]
        sane = [x for x in each if math.isfinite(x)]
        needed[frame] = max([1.0, *sane])

    def tried(more: float) -> Wrinkle | None:
        """The design with a little more than was worked out, if that is enough."""
        scaled = {frame: x * more for frame, x in needed.items()}
        if max(scaled.values()) <= 1.0:
            return None
        wrinkle = enlarged(subject, layers, scaled, throughout)
        after = subject.changed(wrinkle)
        if not {x.about for x in find_in_lanes(after)} <= broken:
            raise InputError(
                "An enlargement would break the motion through the cut; choose another edge cover."
            )
        if rests and any(rest.find(after)):
            raise InputError(
                "The enlargement would not be gone at the ends of the window; choose another edge "
                "cover."
            )
        left = [x for x in after.frames if after.survey.look(x).bare > BARE]
        needed.update({frame: needed.get(frame, 1.0) for frame in left})
        return wrinkle if not left else None

    before = more = 1.0
    while (found_one := tried(more)) is None:
        before, more = more, more * _MORE
        if max(needed.values()) * more > MOST:
            raise InputError("No enlargement covers the frame; choose another edge cover instead.")
    for _ in range(_TRIES if more > 1.0 else 0):
        middle = (before + more) / 2.0
        nearer = tried(middle)
        if nearer is None:
            before = middle
        else:
            found_one, more = nearer, middle
    return found_one


CHECK = Check(
    "bare",
    "No bare edges",
    "A picture reaches every part of every frame.",
    find,
    gravity=2,
    trace="bare",
)
