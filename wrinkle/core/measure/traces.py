"""All traces by key. A new one is one more declaration here."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from wrinkle.core.measure.covering import covered, has_cover
from wrinkle.core.measure.flashes import MOST_FLASHES
from wrinkle.core.measure.limits import BARE, BEYOND_WHITE
from wrinkle.core.measure.look import FrameLook
from wrinkle.core.measure.subject import Subject
from wrinkle.core.measure.trace import Limit, Trace, TraceLine
from wrinkle.core.registering import Registry
from wrinkle.core.sound.loudness import MOMENT, SILENCE, momentary
from wrinkle.core.synthesis.samples import SAMPLE_RATE


def _of_look(value: Callable[[FrameLook], float]) -> Callable[[Subject], Sequence[TraceLine]]:
    """A share of each frame by itself, in per cent."""
    return lambda subject: (TraceLine("", subject.survey.series(value) * 100.0),)


def _changed(subject: Subject) -> Sequence[TraceLine]:
    return (TraceLine("", np.array([x.changed for x in subject.survey.steps]) * 100.0),)


def _cover(subject: Subject) -> Sequence[TraceLine]:
    return tuple(
        TraceLine(layer.name, covered(subject, layer) * 100.0)
        for layer in subject.wrinkle.layers
        if has_cover(subject, layer)
    )


def _speed(subject: Subject) -> Sequence[TraceLine]:
    """In per cent of the short side a frame; nothing where the picture cannot be followed."""
    unit = min(subject.showing.size) / 100.0
    seen = [
        x.motion.speed if x.motion.trusted and frame else np.nan
        for frame, x in zip(subject.frames, subject.survey.steps, strict=True)
    ]
    return TraceLine("seen", np.array(seen) / unit), TraceLine(
        "by the lanes", subject.lane_speeds / unit
    )


def _flash(subject: Subject) -> Sequence[TraceLine]:
    found = subject.survey.flashing
    return TraceLine("general", found.general), TraceLine("red", found.red)


def _loudness(subject: Subject) -> Sequence[TraceLine]:
    heard = subject.heard()
    if heard is None:
        return ()
    half = subject.wrinkle.frame_rate.seconds(1) / 2
    middles = np.array([round((subject.time(x) + half) * SAMPLE_RATE) for x in subject.frames])
    first, end = int(middles[0]) - MOMENT, int(middles[-1]) + MOMENT
    return (TraceLine("", momentary(heard.samples(first, end - first), middles - first)),)


TRACES: Registry[Trace] = Registry(
    "trace",
    (
        Trace("brightness", "Brightness", "The mean brightness of the frame.", "%", 100.0,
              _of_look(lambda x: x.brightness)),
        Trace("change", "Change", "The share of the frame that differs from the frame before.",
              "%", 100.0, _changed),
        Trace("cover", "Cover", "The share of the frame that each overlay or matte covers.", "%",
              100.0, _cover),
        Trace("bare", "Bare", "The share of the frame that no picture reaches.", "%", 5.0,
              _of_look(lambda x: x.bare), (Limit(BARE * 100.0, "bare"),), 2),
        Trace("speed", "Speed", "How far the picture goes in a frame, seen and by the lanes, in "
              "per cent of the short side.", "%", 20.0, _speed),
        Trace("sharpness", "Sharpness", "How much fine detail there is.", "%", 5.0,
              _of_look(lambda x: x.sharpness), digits=2),
        Trace("saturation", "Saturation", "How far the colours are from grey.", "%", 100.0,
              _of_look(lambda x: x.saturation)),
        Trace("beyond", "Beyond white", "The share of the frame that is brighter than white and "
              "loses detail by it.", "%", 100.0, _of_look(lambda x: x.beyond),
              (Limit(BEYOND_WHITE * 100.0, "clipped"),)),
        Trace("flash", "Flashes", "Flashes in the second that ends with the frame, in pairs of "
              "changes.", "/s", 6.0, _flash, (Limit(MOST_FLASHES, "three in a second"),)),
        Trace("loudness", "Loudness", "The momentary loudness of a piece with its clips, else of "
              "the wrinkle's own sounds.",
              "LUFS", 0.0, _loudness, low=SILENCE),
    ),
)  # fmt: skip
