"""What is heard of each sound: whether it is, how loud it is beside the clips, and when."""

from __future__ import annotations

import math
from collections.abc import Iterator
from fractions import Fraction
from functools import partial

import numpy as np

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.sound_edits import change_file, change_sound, remove_sound
from wrinkle.core.measure.check import Check, Finding, Mend
from wrinkle.core.measure.checks.sound import in_a_row
from wrinkle.core.measure.limits import (
    HIT_AWAY,
    INAUDIBLE,
    LOUDEST_ALONE,
    LOUDEST_OVER,
    OUT_OF_STEP,
    SOFTEST_ALONE,
    SOFTEST_UNDER,
)
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.values import parts
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.loudness import MOMENT, SILENCE, measured
from wrinkle.core.sound.mixing import PlacedSound, WrinkleSounds
from wrinkle.core.sound.motion import movement
from wrinkle.core.synthesis.samples import SAMPLE_RATE

_USUAL = -9.0
_MARGIN = 3.0
"""LU within what is allowed, where a mend leads to."""
_MOMENTS = 240
_PEAK, _BESIDE = 0.7, 0.8
"""A moment that is so fast, and as much slower three frames away, is one that is seen."""
_AT_ONCE = 0.02
"""A wave that begins or ends so high within a thousandth of a second clicks."""
_SOFTENED = Fraction(1, 100)
"""Seconds."""


def find_silent(subject: Subject) -> Iterator[Finding]:
    """Sounds that are there and cannot be heard."""
    design, sounds = subject.design, subject.sounds()
    for sound in subject.wrinkle.sounds:
        if sound.hushes or not _wanted(sound):
            continue
        remove = Mend("remove", f"Remove {sound.name}", partial(remove_sound, design, sound.id))
        placed = sounds.each.get(sound.id)
        if placed is None:
            sentence = f"{sound.name} is silent: nothing fills its slot and nothing stands in."
            yield Finding(SILENT.key, sentence, "", sound.id, weight=1.0, mends=(remove,))
            continue
        most = float(np.abs(placed.samples).max(initial=0.0))
        if most > 10.0 ** (INAUDIBLE / 20.0):
            continue
        louder = Mend(
            "louder", "Set its level as it is at first", partial(_as_usual, design, sound.id)
        )
        words = f"its loudest moment has {20 * math.log10(most):.0f} dB" if most else "it is silent"
        yield Finding(
            SILENT.key,
            f"{sound.name} cannot be heard: {words}.",
            "",
            sound.id,
            weight=1.0,
            mends=(louder, remove),
        )


def find_loudness(subject: Subject) -> Iterator[Finding]:
    """The wrinkle's sounds much louder or softer than the clips beside them."""
    sounds = subject.sounds()
    if not sounds.span:
        return
    # With silence around it: what is shorter than a moment is measured too.
    around = range(sounds.span.start - MOMENT, sounds.span.stop + MOMENT)
    own = measured(Mix((sounds.part(0),), around)).momentary
    heard = subject.heard()
    every = heard.parts if heard is not None else ()
    clips = tuple(part for part in every if not isinstance(part.sound, WrinkleSounds))
    beside = measured(Mix(clips, heard.span)).momentary if heard and clips else SILENCE
    if own <= SILENCE:
        return
    if beside > SILENCE:
        low, high = beside - SOFTEST_UNDER, beside + LOUDEST_OVER
        than = f"the clips ({beside:.0f} LUFS)"
    else:
        low, high, than = SOFTEST_ALONE, LOUDEST_ALONE, "sounds alone are"
    if low <= own <= high:
        return
    loud = own > high
    by = (high - _MARGIN if loud else low + _MARGIN) - own
    word = "louder" if loud else "softer"
    sentence = f"The sounds come to {own:.0f} LUFS at their loudest: much {word} than {than}."
    mend = Mend(
        "level",
        f"{'Lower' if loud else 'Raise'} them by {abs(by):.0f} dB",
        partial(_shifted, subject.design, by),
    )
    yield Finding(LOUDNESS.key, sentence, weight=abs(by), mends=(mend,))


def find_out_of_step(subject: Subject) -> Iterator[Finding]:
    """Sounds that strike beside the moment that is fastest to the eye."""
    wrinkle = subject.design
    frame = wrinkle.frame_rate.seconds(1)
    striking = [x for x in wrinkle.sounds if x.strikes and _wanted(x) and not x.hushes]
    if not striking:
        return
    for sound in striking:
        if abs(sound.hit) <= HIT_AWAY * frame or in_a_row(sound, striking, OUT_OF_STEP * frame):
            # The one is looked at by the check of hits on the cut; the other has a beat of its own.
            continue
        near = _fastest_near(wrinkle, sound.hit, OUT_OF_STEP * frame)
        if near is None or not frame < abs(near - sound.hit) <= OUT_OF_STEP * frame:
            continue
        goal = wrinkle.frame_rate.seconds(wrinkle.frame_rate.nearest_frame(near))
        away = float((sound.hit - near) / frame)
        side = "after" if away > 0 else "before"
        sentence = (
            f"{sound.name} strikes {abs(away):.1f} frames {side} the picture is fastest there."
        )
        mend = Mend(
            "in-step", "Put it on that moment", partial(change_sound, wrinkle, sound.id, hit=goal)
        )
        at = wrinkle.frame_rate.nearest_frame(sound.hit)
        yield Finding(STEP.key, sentence, "", sound.id, (at,), at, weight=abs(away), mends=(mend,))


def find_clicks(subject: Subject) -> Iterator[Finding]:
    """Files that begin or end in the middle of a wave."""
    for key, placed in subject.sounds().each.items():
        if placed.file is None or not _wanted(placed.sound):
            continue
        ends = _clicking(placed)
        if not ends:
            continue
        fields = {"rise" if end == "begins" else "fall": _SOFTENED for end in ends}
        sentence = f"{placed.sound.name} clicks where it {' and '.join(ends)}: its wave is cut off."
        mend = Mend(
            "fade",
            "Fade it in a hundredth of a second",
            partial(change_file, subject.design, key, **fields),
        )
        yield Finding(CLICKS.key, sentence, "", key, weight=float(len(ends)), mends=(mend,))


def _wanted(sound: WrinkleSound) -> bool:
    """Whether a sound is meant to be heard at all."""
    return not sound.heard.still or bool(sound.heard.rest)


def _clicking(placed: PlacedSound) -> list[str]:
    found, near = placed.samples, SAMPLE_RATE // 1000
    if len(found) < 2 * near:
        return []
    ends = []
    hit = round(placed.sound.hit * SAMPLE_RATE) - placed.span.start
    # What strikes as it begins is meant to.
    if float(np.abs(found[:near]).max()) > _AT_ONCE and hit > 2 * near:
        ends.append("begins")
    if float(np.abs(found[-near:]).max()) > _AT_ONCE and hit < len(found) - 2 * near:
        ends.append("ends")
    return ends


def _fastest_near(wrinkle: Wrinkle, time: Fraction, within: Fraction) -> Fraction | None:
    """The moment near a time at which the picture is fastest; None where none stands out."""
    frame = float(wrinkle.frame_rate.seconds(1))
    length = wrinkle.lead + wrinkle.tail
    count = max(int(float(length) / frame * 8), 16) + 1
    speeds = movement(wrinkle, wrinkle.layers, -wrinkle.lead, length, count).speeds
    times = np.linspace(float(-wrinkle.lead), float(wrinkle.tail), count)
    beside = max(round(3 * frame * (count - 1) / float(length)), 1)
    best = None
    for at in np.flatnonzero(np.abs(times - float(time)) <= float(within)).tolist():
        low, high = speeds[max(at - beside, 0)], speeds[min(at + beside, count - 1)]
        peak = speeds[at]
        local = speeds[max(at - beside, 0) : at + beside + 1].max()
        stands_out = peak >= _PEAK and peak == local and max(low, high) <= _BESIDE * peak
        if stands_out and (best is None or peak > speeds[best]):
            best = at
    return None if best is None else Fraction(float(times[best])).limit_denominator(100_000)


def _shifted(design: Wrinkle, by: float) -> Wrinkle:
    for sound in design.sounds:
        if not sound.hushes:
            spec = sound.spec("level")
            level = sound.level.mapped(lambda own, s=spec: s.limited(parts(own)[0] + by))  # type: ignore[misc]
            design = change_sound(design, sound.id, level=level)
    return design


def _as_usual(design: Wrinkle, sound_id: str) -> Wrinkle:
    """A sound as loud as a new one, and with nothing cut."""
    sound = next(x for x in design.sounds if x.id == sound_id)
    cuts = {key: Setting(sound.spec(key).neutral) for key in ("low_cut", "high_cut")}
    return change_sound(design, sound_id, level=Setting(_USUAL), **cuts)


SILENT = Check(
    "silent",
    "Sounds that are heard",
    "A sound that is there and not muted can be heard.",
    find_silent,
)
LOUDNESS = Check(
    "loudness",
    "As loud as the clips",
    "The wrinkle's sounds are not much louder or softer than the clips beside them.",
    find_loudness,
    trace="loudness",
)
STEP = Check(
    "step",
    "Sound in step",
    "What strikes near the moment at which the picture is fastest strikes on it.",
    find_out_of_step,
)
CLICKS = Check(
    "clicks",
    "Nothing clicks",
    "A file begins and ends without a wave that is cut off.",
    find_clicks,
)
