"""What is heard: hits that just miss the cut, and sounds that are too loud together."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from fractions import Fraction

import numpy as np

from wrinkle.core.design.document.sounds import QUIETEST, WrinkleSound
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.sound_edits import change_sound
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word, frames_word
from wrinkle.core.measure.limits import HIT_AWAY, OUT_OF_STEP
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import CUT
from wrinkle.core.motion.values import parts
from wrinkle.core.sound.heard import Mix
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.synthesis.samples import SAMPLE_RATE

_MARGIN = 0.1
"""Decibels below what is just possible."""


def find_missed(subject: Subject) -> Iterator[Finding]:
    """Sounds whose hit is so near to the cut that it can only be meant to be on it."""
    design = subject.design
    frame = design.frame_rate.seconds(1)
    for sound in design.sounds:
        if not sound.strikes or not 0 < abs(sound.hit) <= HIT_AWAY * frame:
            continue
        if in_a_row(sound, design.sounds, OUT_OF_STEP * frame):
            continue
        away = sound.hit / frame
        side = "after" if away > 0 else "before"
        sentence = (
            f"{sound.name} strikes {float(abs(away)):.2g} frame"
            f"{'s' if abs(away) > 1 else ''} {side} the cut."
        )
        mend = Mend("onto-cut", "Put it on the cut", lambda sound=sound: _on_cut(design, sound))  # type: ignore[misc]
        near = round(away)
        yield Finding(HITS.key, sentence, "", sound.id, (near,), near, mends=(mend,))


def in_a_row(sound: WrinkleSound, sounds: Sequence[WrinkleSound], within: Fraction) -> bool:
    """Whether the same strikes again soon before or after: several have a beat of their own."""
    others = (x for x in sounds if x is not sound and (x.made, x.slot) == (sound.made, sound.slot))
    return any(abs(x.hit - sound.hit) <= within for x in others)


def _on_cut(design: Wrinkle, sound: WrinkleSound) -> Wrinkle:
    return change_sound(design, sound.id, hit=CUT)


def find_overload(subject: Subject) -> Iterator[Finding]:
    """Samples that are louder than any file can hold, because of the wrinkle's sounds."""
    wrinkle = subject.wrinkle
    sounds = subject.sounds()
    if not sounds.span:
        return
    span = sounds.span
    heard = subject.heard() or Mix((sounds.part(0),), span)
    whole = np.abs(heard.unlimited(span.start, len(span))).max(axis=1)
    most = float(whole.max(initial=0.0))
    if most <= 1.0:
        return
    places = (np.flatnonzero(whole > 1.0) + span.start) / SAMPLE_RATE
    per_second = float(wrinkle.frame_rate.per_second)
    frames = tuple(sorted({math.floor(place * per_second) for place in places.tolist()}))
    loudest = (int(whole.argmax()) + span.start) / SAMPLE_RATE
    worst = math.floor(loudest * per_second)
    over = 20.0 * math.log10(most)
    sentence = (
        f"{frames_word(frames)}: what is heard is {over:.1f} dB too loud on frame "
        f"{frame_word(worst)}, and is cut off."
    )
    mend = Mend("lower", "Lower the sounds until nothing is cut off",
                lambda: _lowered(subject, heard, sounds))  # fmt: skip
    yield Finding(
        OVERLOAD.key, sentence, frames=frames, worst=worst, weight=most - 1.0, mends=(mend,)
    )


def _lowered(subject: Subject, heard: Mix, sounds: WrinkleSounds) -> Wrinkle:
    """All sounds of the wrinkle lower by as much as is needed.

    Raises:
        InputError: the clips alone are too loud.
    """
    start, count = sounds.span.start, len(sounds.span)
    own = sounds.samples(start, count)
    others = heard.unlimited(start, count) - own
    if float(np.abs(others).max(initial=0.0)) > 1.0:
        raise InputError("The clips alone are too loud; lower their level in the Cut list.")
    # The largest share of the sounds with which no sample is above 1.
    room = np.where(own * others >= 0.0, 1.0 - np.abs(others), 1.0 + np.abs(others))
    share = float((room / np.maximum(np.abs(own), 1e-9)).min())
    lower = 20.0 * math.log10(max(min(share, 1.0), 1e-6)) - _MARGIN
    design = subject.design
    for sound in design.sounds:
        if not sound.hushes:
            level = sound.level.mapped(lambda own: max(parts(own)[0] + lower, QUIETEST))
            design = change_sound(design, sound.id, level=level)
    return design


HITS = Check(
    "hits",
    "Hits on the cut",
    "A sound that strikes next to the cut strikes on it.",
    find_missed,
    gravity=1,
    pictures=False,
)
OVERLOAD = Check(
    "overload",
    "Sound within its limits",
    "What is heard with the wrinkle's sounds is not cut off.",
    find_overload,
    gravity=2,
    trace="loudness",
)
