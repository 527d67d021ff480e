"""Flashes that can harm: more than three within a second over a large part of the view."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import suppress
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.timing import Blink
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.lane_edits import with_setting
from wrinkle.core.design.edits.layer_edits import with_layer
from wrinkle.core.design.edits.retiming import Retiming, retime
from wrinkle.core.errors import InputError
from wrinkle.core.measure.causes import responsible, weakened_until
from wrinkle.core.measure.check import Check, Finding, Mend, frames_word
from wrinkle.core.measure.checks.handles import short_ones
from wrinkle.core.measure.flashes import MOST_FLASHES, PEAK_CANDELA, Flashing
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.setting_spec import Unit
from wrinkle.core.motion.values import scaled

_LONGER = (1.25, 1.5, 1.75, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0)


def find(subject: Subject) -> Iterator[Finding]:
    """One finding for the window, if it flashes too often."""
    found = subject.survey.flashing
    kinds = (
        ("general flashes", found.general, "WCAG 2.2, 2.3.1"),
        ("flashes of saturated red", found.red, "WCAG 2.2, 2.3.1, red flash"),
        ("flashes over a quarter of the screen", found.screen, "Rec. ITU-R BT.1702-3"),
    )
    worst = max(kinds, key=lambda kind: float(kind[1].max(initial=0.0)))
    most = float(worst[1].max(initial=0.0))
    if most <= MOST_FLASHES:
        return
    beyond = [subject.frames.start + n for n, x in enumerate(worst[1]) if x > MOST_FLASHES]
    changes = tuple(subject.frames.start + n for n in found.changes)
    frames = changes or tuple(beyond)
    by = [kind[2] for kind in kinds if float(kind[1].max(initial=0.0)) > MOST_FLASHES]
    sentence = (
        f"{frames_word(frames)}: {most:g} {worst[0]} within one second, {MOST_FLASHES:g} are the "
        f"most ({'; '.join(dict.fromkeys(by))}; on a display of {PEAK_CANDELA:g} cd/m²). This is "
        "a screening, not a certification."
    )
    mends = (
        Mend("weaken", "Lower it to just below the limit", lambda: _weakened(subject)),
        Mend("lengthen", "Lengthen it to a rate below the limit", lambda: _lengthened(subject)),
    )
    yield Finding(
        CHECK.key, sentence, frames=frames, worst=frames[0], weight=most / MOST_FLASHES - 1.0,
        mends=mends,
    )  # fmt: skip


def _score(subject: Subject) -> float:
    inside = _most(subject.survey.flashing_inside) / MOST_FLASHES
    return inside if inside > 1.0 else _most(subject.survey.flashing) / MOST_FLASHES


def _most(found: Flashing) -> float:
    return max(float(x.max(initial=0.0)) for x in (found.general, found.red, found.screen))


def _weakened(subject: Subject) -> Wrinkle:
    return weakened_until(subject, responsible(subject, _score), _score)


def _lengthened(subject: Subject) -> Wrinkle:
    """Blinks and rates a second made slower where that is enough, else the whole wrinkle longer."""
    design, rate = subject.design, subject.design.frame_rate
    short = short_ones(subject)
    for factor in _LONGER:
        slower = _slower(design, factor)
        if slower != design and _score(subject.changed(slower)) <= 1.0:
            return slower
        lead, tail = (
            rate.seconds(rate.nearest_frame(x * Fraction(factor)))
            for x in (design.lead, design.tail)
        )
        if max(lead, tail) <= LONGEST_HALF:
            longer = retime(slower, Retiming(rate, lead, tail, stretch=True))
            after = subject.changed(longer)
            if not short_ones(after) <= short:
                raise InputError("The clips are too short for a wrinkle so long; lower it instead.")
            if _score(after) <= 1.0:
                return longer
    raise InputError("It flashes too often at any length; lower it instead.")


def _slower(wrinkle: Wrinkle, factor: float) -> Wrinkle:
    """Blinks that last longer, and effects that do something less often in a second."""
    for layer in wrinkle.layers:
        blink = layer.timing.blink
        if blink is not None:
            shown, hidden = (math.ceil(x * factor) for x in (blink.shown, blink.hidden))
            timing = replace(layer.timing, blink=Blink(min(shown, 1000), min(hidden, 1000)))
            wrinkle = with_layer(wrinkle, replace(wrinkle.layer(layer.id), timing=timing))
        for use in layer.effects:
            for spec in use.effect.settings:
                setting = use.setting(spec.key)
                if spec.unit is not Unit.PER_SECOND or spec.changes_nothing(setting.rest):
                    continue
                ref = SettingRef(layer.id, str(use.address(spec.key)))
                slow = setting.mapped(lambda own: scaled(own, 1.0 / factor))
                with suppress(InputError):
                    wrinkle = with_setting(wrinkle, ref, slow)
    return wrinkle


CHECK = Check(
    "flash",
    "No harmful flashes",
    "No more than three general or red flashes within one second.",
    find,
    gravity=3,
    trace="flash",
)
