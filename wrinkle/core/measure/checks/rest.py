"""Frames at the ends of the window that are not the plain clip."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.measure.causes import Cause, responsible
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word
from wrinkle.core.measure.limits import AT_REST, AT_REST_ANYWHERE
from wrinkle.core.measure.look import FrameLook, look_at
from wrinkle.core.measure.mending import rested
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import Value, parts
from wrinkle.core.render.compose import draw
from wrinkle.core.render.plan import plan_plain

_PARTS = 4
"""Across and down."""


def find(subject: Subject) -> Iterator[Finding]:
    """The first and the last frame where they differ from the plain clip, by what makes them."""
    by_cause: dict[tuple[str, str], _Ends] = {}
    for side in Side:
        frame = _end(subject, side)
        score = _score(subject, frame)
        if score <= 1.0:
            continue
        found = responsible(subject, lambda other, side=side: _score(other, _end(other, side)))  # type: ignore[misc]
        about = (found[0].layer, found[0].address) if found else ("", "")
        ends = by_cause.setdefault(about, _Ends({}, []))
        ends.scores[side] = score
        ends.causes.extend(x for x in found if x not in ends.causes)
    for ends in by_cause.values():
        yield _finding(subject, ends)


@dataclass(frozen=True)
class _Ends:
    """The ends of the window that something keeps from rest."""

    scores: dict[Side, float]
    causes: list[Cause]


def _finding(subject: Subject, ends: _Ends) -> Finding:
    frames = tuple(_end(subject, side) for side in ends.scores)
    side, score = max(ends.scores.items(), key=lambda x: x[1])
    worst = _end(subject, side)
    which = "first" if side is Side.OUTGOING else "last"
    both = ", and so does the other end" if len(frames) > 1 else ""
    sentence = (
        f"Frame {frame_word(worst)}: the {which} frame differs from the plain clip by "
        f"{score * AT_REST:.1f} levels of 255"
    )
    if not ends.causes:
        return Finding(
            CHECK.key, f"{sentence}{both}.", frames=frames, worst=worst, weight=score - 1.0
        )
    cause = ends.causes[0]
    layer = subject.wrinkle.layer(cause.layer)
    sentence += f", by {cause.words}{_value(subject, layer, cause, worst)}{both}."
    mend = Mend("rest", "Bring it to rest there", lambda: _mended(subject, ends))
    return Finding(
        CHECK.key, sentence, cause.layer, cause.address, frames, worst, score - 1.0, (mend,)
    )


def _end(subject: Subject, side: Side) -> int:
    return subject.frames.start if side is Side.OUTGOING else subject.frames.stop - 1


def _mended(subject: Subject, ends: _Ends) -> Wrinkle:
    wrinkle, sides = subject.design, tuple(ends.scores)
    for cause in ends.causes:
        for address, rest in _resting(wrinkle.layer(cause.layer), cause):
            wrinkle = rested(wrinkle, SettingRef(cause.layer, address), rest, sides)
    after = subject.changed(wrinkle)
    if any(_score(after, _end(after, side)) > 1.0 for side in sides):
        raise InputError(
            f"{ends.causes[0].words} cannot be brought to rest by pins; take it away, or end its "
            "layer earlier."
        )
    return wrinkle


def _resting(layer: Layer, cause: Cause) -> list[tuple[str, Value]]:
    """The settings of a cause that have to be at rest, and the values at which they are."""
    if not cause.effect:
        if not cause.address:
            raise InputError(f"{cause.words} cannot be eased; end it earlier.")
        if cause.address == "opacity":
            return [("opacity", 0.0)]
        return [(cause.address, layer.spec(cause.address).neutral)]
    use = layer.effect_use(cause.effect)
    keys = use.effect.rests_by or tuple(spec.key for spec in use.effect.settings)
    return [
        (str(use.address(key)), use.spec(key).flat(use.setting(key).rest))
        for key in keys
        if not use.setting(key).still or not use.spec(key).changes_nothing(use.setting(key).rest)
    ]


def _value(subject: Subject, layer: Layer, cause: Cause, frame: int) -> str:
    """The value of the first setting that is not at rest, in brackets."""
    if not cause.address:
        return ""
    time = subject.time(frame)
    address = cause.address
    if cause.effect:
        try:
            address = _resting(layer, cause)[0][0]
        except IndexError:
            return ""
    setting, spec = layer.setting(address), layer.spec(address)
    value = setting.seen(time, Side.of(time), subject.wrinkle.clock(layer, time))
    if isinstance(value, str | bool) or len(parts(value)) > 2:
        return ""
    factor = spec.unit.shown_factor
    shown = ", ".join(f"{x * factor:.3g}" for x in parts(value))
    return f" ({spec.label.lower()} {shown}{spec.unit.suffix})"


def _score(subject: Subject, frame: int) -> float:
    """How far a frame is from the plain clip; up to 1 nobody notices."""
    seen, plain = subject.survey.look(frame), _plain(subject, frame)
    apart = cv2.absdiff(seen.colours, plain.colours).astype(np.float32)
    whole = float(apart.mean(axis=(0, 1)).max())
    parts_ = cv2.resize(apart, (_PARTS, _PARTS), interpolation=cv2.INTER_AREA)
    return max(whole / AT_REST, float(parts_.max()) / AT_REST_ANYWHERE)


def _plain(subject: Subject, frame: int) -> FrameLook:
    showing = subject.showing
    plan = plan_plain(subject.wrinkle, showing.material, frame, showing.size)
    store = showing.material.store
    return store.made(("look", plan), lambda: look_at(draw(plan, showing.material)))


CHECK = Check(
    "rest",
    "At rest at both ends",
    "The first and the last frame of the window are the plain clips.",
    find,
    gravity=2,
    trace="change",
)
