"""Overlays whose densest moment misses the cut, which they are there to hide."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import cut_by
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slots import GIVEN
from wrinkle.core.design.document.sources import FillSource, PictureSource, SlotSource
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import keyframes
from wrinkle.core.design.edits.layer_edits import with_layer
from wrinkle.core.errors import InputError
from wrinkle.core.measure.check import Check, Finding, Mend, frame_word
from wrinkle.core.measure.covering import covered
from wrinkle.core.measure.limits import DENSEST_AWAY
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import CUT, IncomingHalf

_PEAK = 1.15
"""So much denser than at the cut is a peak of its own."""
_WORTH = 0.2
"""The share of the frame that an overlay covers at its densest, if it is to hide the cut."""


def find(subject: Subject) -> Iterator[Finding]:
    """Layers over both sides of the cut that are densest elsewhere."""
    for layer in subject.wrinkle.layers:
        if not _hides(subject, layer):
            continue
        away = _away(subject, layer)
        if abs(away) < DENSEST_AWAY:
            continue
        side = "before" if away < 0 else "after"
        frames = f"{abs(away)} frames {side} the cut"
        sentence = (
            f"Frame {frame_word(away)}: {layer.name} is densest {frames}, and does not hide it."
        )
        slide = Mend("slide", "Slide it onto the cut", _slider(subject, layer, away))
        yield Finding(
            CHECK.key, sentence, layer.id, "", (away,), away,
            abs(away) / DENSEST_AWAY - 1.0, (slide,),
        )  # fmt: skip


def _hides(subject: Subject, layer: Layer) -> bool:
    """Whether a layer is an overlay that is there on both sides of the cut."""
    source = layer.source
    further = isinstance(source, SlotSource) and source.slot not in GIVEN
    if not (further or isinstance(source, FillSource | PictureSource)) or layer.timing.blink:
        return False
    start, end = subject.wrinkle.ends(layer)
    crosses = start < CUT < end
    return crosses and not cut_by(subject.wrinkle.layers, layer.id)


def _away(subject: Subject, layer: Layer) -> int:
    """The frame on which it is densest; 0 where that is about the cut, or there is no such one."""
    dense = covered(subject, layer)
    places = -subject.frames.start
    if places < 1 or places >= len(dense):
        return 0
    at_cut = float(max(dense[places - 1], dense[places]))
    most = float(dense.max())
    if most < _WORTH or most < at_cut * _PEAK:
        return 0
    near = np.flatnonzero(dense >= most * 0.98)
    frame = int(near[np.argmin(np.abs(near - places))]) - places
    # The last frame before the cut is as near to it as the first one after it.
    return frame + 1 if frame < 0 else frame


def _slider(subject: Subject, layer: Layer, away: int) -> Callable[[], Wrinkle]:
    def slid() -> Wrinkle:
        by = subject.wrinkle.frame_rate.seconds(away)
        own = subject.design.layer(layer.id)
        for wrinkle in _slid(subject.design, own, by):
            after = subject.changed(wrinkle)
            if abs(_away(after, after.wrinkle.layer(layer.id))) < DENSEST_AWAY:
                return wrinkle
        raise InputError(f"{layer.name} has no moment that could be slid onto the cut.")

    return slid


def _slid(wrinkle: Wrinkle, layer: Layer, by: Fraction) -> Iterator[Wrinkle]:
    """Ways to bring what is seen of a layer at a time to the cut."""
    if isinstance(layer.source, SlotSource):
        slide = (layer.timing.slide or Fraction(0)) + (-by if layer.timing.reverse else by)
        timing = replace(layer.timing, slide=slide)
        yield with_layer(wrinkle, replace(layer, timing=timing))
    chosen = {}
    for address in layer.lanes():
        track = layer.setting(address).track
        if track is not None and track.incoming is IncomingHalf.OWN:
            chosen[SettingRef(layer.id, address)] = frozenset(range(len(track.keys)))
    if chosen:
        yield keyframes.shift(wrinkle, chosen, -by)


CHECK = Check(
    "densest",
    "Overlays hide the cut",
    "An overlay over both sides of the cut is densest there.",
    find,
    trace="cover",
)
