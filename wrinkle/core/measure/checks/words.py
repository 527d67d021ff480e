"""Words outside the safe area, or shown for less than they take to read."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.lane_edits import with_setting
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word
from wrinkle.core.measure.limits import SHORTEST_WORDS, WORDS_A_SECOND
from wrinkle.core.measure.mending import scaled_alike
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.values import Value, pair_of
from wrinkle.core.picture.safe_area import SAFE
from wrinkle.core.render.compose import draw_layer
from wrinkle.core.render.plan import plan_layer

_VISIBLE = 0.3
"""The share of its most that a layer of words covers while it can be read."""
_INK = 0.25
"""Coverage from which a pixel belongs to a letter."""
_LONGER = (1.25, 1.5, 2.0, 2.5, 3.0, 4.0, 6.0, 8.0)


def find(subject: Subject) -> Iterator[Finding]:
    """What is wrong with each layer of words; the same words on several count together."""
    shown: dict[str, tuple[Layer, set[int]]] = {}
    for layer in subject.wrinkle.layers:
        source = layer.source
        if not isinstance(source, WordsSource) or not source.text.strip():
            continue
        boxes = {frame: _box(subject, layer, frame) for frame in subject.frames}
        most = max((box.ink for box in boxes.values() if box is not None), default=0.0)
        seen = [x for x, box in boxes.items() if box is not None and box.ink >= _VISIBLE * most]
        if seen:
            yield from _outside(subject, layer, boxes, seen)
            shown.setdefault(source.text, (layer, set()))[1].update(seen)
    for text, (layer, frames) in shown.items():
        yield from _brief(subject, layer, text, len(frames))


class _Box:
    """Where letters lie, in parts of the frame, and how much ink they have."""

    def __init__(self, alpha: np.ndarray) -> None:
        rows, columns = (np.flatnonzero((alpha > _INK).any(axis=x)) for x in (1, 0))
        height, width = alpha.shape
        self.ink = float(alpha.mean())
        self.there = bool(len(rows) and len(columns))
        if self.there:
            self.left, self.right = columns[0] / width, (columns[-1] + 1) / width
            self.top, self.bottom = rows[0] / height, (rows[-1] + 1) / height

    @property
    def away(self) -> float:
        """By how much the worst side lies outside the safe area, in parts of the frame."""
        margin = (1.0 - SAFE) / 2.0
        sides = margin - self.left, margin - self.top
        ends = self.right - 1.0 + margin, self.bottom - 1.0 + margin
        return float(max(*sides, *ends))


def _box(subject: Subject, layer: Layer, frame: int) -> _Box | None:
    showing, time = subject.showing, subject.time(frame)
    if not layer.visible.at(time):
        return None
    planned = plan_layer(showing.wrinkle, showing.material, layer.id, time, showing.size)
    if planned is None:
        return None
    alpha = draw_layer(planned, showing.size, showing.material).pixels[..., 3]
    box = _Box(alpha * planned.opacity)
    return box if box.there else None


def _outside(
    subject: Subject, layer: Layer, boxes: dict[int, _Box | None], seen: list[int]
) -> Iterator[Finding]:
    # Where all of it is there: on their way in and out words may be anywhere.
    whole = max(boxes[x].ink for x in seen)  # type: ignore[union-attr]
    still = [x for x in seen if boxes[x].ink >= 0.95 * whole]  # type: ignore[union-attr]
    beyond = {x: boxes[x].away for x in still}  # type: ignore[union-attr]
    frames = tuple(x for x, away in beyond.items() if away > 1e-3)
    if len(frames) < max(1, len(still) // 2):
        return
    worst = max(frames, key=lambda x: beyond[x])
    sentence = (
        f"Frame {frame_word(worst)}: {layer.name} reaches {beyond[worst] * 100:.0f} % of the frame "
        f"beyond the safe area ({SAFE * 100:.0f} % of width and height)."
    )
    mends = (
        Mend("keep", "Keep it inside", _keeper(subject, layer)),
        Mend("move", "Move it inside", _mover(subject, layer, worst)),
        Mend("shrink", "Make it smaller", _shrinker(subject, layer)),
    )
    weight = beyond[worst] * 10.0
    yield Finding(CHECK.key, sentence, layer.id, "position", frames, worst, weight, mends)


def _safe(subject: Subject, wrinkle: Wrinkle, layer: Layer) -> bool:
    after = subject.changed(wrinkle)
    return not any(x.layer == layer.id and x.address == "position" for x in find(after))


def _mover(subject: Subject, layer: Layer, worst: int) -> Callable[[], Wrinkle]:
    def moved() -> Wrinkle:
        box = _box(subject, layer, worst)
        margin = (1.0 - SAFE) / 2.0 + 0.004
        wrinkle, ref = subject.design, SettingRef(layer.id, "position")
        if box is not None:
            across = max(margin - box.left, 0.0) or min(1.0 - margin - box.right, 0.0)
            down = max(margin - box.top, 0.0) or min(1.0 - margin - box.bottom, 0.0)

            def shifted(own: Value) -> Value:
                x, y = pair_of(own)
                return x + across, y + down

            wrinkle = with_setting(wrinkle, ref, ref.of(wrinkle).mapped(shifted))
        if not _safe(subject, wrinkle, layer):
            raise InputError(f"{layer.name} is too large for the safe area; make it smaller.")
        return wrinkle

    return moved


def _keeper(subject: Subject, layer: Layer) -> Callable[[], Wrinkle]:
    def kept() -> Wrinkle:
        ref = SettingRef(layer.id, "source.keep_inside")
        wrinkle = with_setting(subject.design, ref, Setting(True))
        if not _safe(subject, wrinkle, layer):
            raise InputError(f"{layer.name} is moved out of the safe area; move it inside.")
        return wrinkle

    return kept


def _shrinker(subject: Subject, layer: Layer) -> Callable[[], Wrinkle]:
    def smaller() -> Wrinkle:
        for percent in range(95, 15, -5):
            ref = SettingRef(layer.id, "source.size")
            wrinkle = scaled_alike(subject.design, ref, percent / 100.0)
            if _safe(subject, wrinkle, layer):
                return wrinkle
        raise InputError(f"{layer.name} is outside at any size; move it inside.")

    return smaller


def _needed(text: str) -> float:
    return max(SHORTEST_WORDS, len(text.split()) / WORDS_A_SECOND)


def _brief(subject: Subject, layer: Layer, text: str, count: int) -> Iterator[Finding]:
    shown = count / subject.survey.per_second
    needed = _needed(text)
    if shown >= needed - 1.5 / subject.survey.per_second:
        return
    words = len(text.split())
    sentence = (
        f"{layer.name} can be read for {shown:.2g} seconds; {words} "
        f"word{'s take' if words > 1 else ' takes'} about {needed:.2g}."
    )
    mend = Mend("lengthen", "Lengthen the wrinkle", _lengthener(subject, layer))
    yield Finding(
        CHECK.key, sentence, layer.id, "source.text", (), 0, needed / shown - 1.0, (mend,)
    )


def _lengthener(subject: Subject, layer: Layer) -> Callable[[], Wrinkle]:
    def longer() -> Wrinkle:
        design, rate = subject.design, subject.design.frame_rate
        for factor in _LONGER:
            lead, tail = (
                rate.seconds(math.ceil(x * Fraction(factor) * rate.per_second))
                for x in (design.lead, design.tail)
            )
            if max(lead, tail) > LONGEST_HALF:
                break
            wrinkle = retime(design, Retiming(rate, lead, tail, stretch=True))
            after = subject.changed(wrinkle)
            if not any(x.about == (CHECK.key, layer.id, "source.text") for x in find(after)):
                return wrinkle
        raise InputError(f"No length lets {layer.name} be read; let it be there for longer.")

    return longer


CHECK = Check(
    "words",
    "Words that can be read",
    "Words are inside the safe area, and are seen for about as long as they take to read.",
    find,
)
