"""What is there and does nothing: layers never seen, effects that rest, mattes that cut nothing."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from wrinkle.core.design.document.driven import drivers_of
from wrinkle.core.design.document.effect_use import EffectUse
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.links import LinkKind, links_of, within
from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import GIVEN, shows_given
from wrinkle.core.design.document.sources import (
    GroupSource,
    SlotSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, layer_edits, slot_edits
from wrinkle.core.design.edits.effect_edits import wanting
from wrinkle.core.measure.check import Check, Finding, Mend, frames_word
from wrinkle.core.measure.covering import covered
from wrinkle.core.measure.subject import Subject
from wrinkle.core.motion.track import Side
from wrinkle.core.motion.values import Value, parts

_SEEN = 1e-4
"""The share of the frame."""


def find_effects(subject: Subject) -> Iterator[Finding]:
    """The effects that are on, and want something or never leave their rest as designed."""
    wrinkle = subject.design
    for layer in wrinkle.layers:
        for use in layer.effects:
            if not use.shown:
                continue
            label = use.effect.label
            lacking = wanting(wrinkle, layer, use)
            if lacking:
                sentence = f"{label} on {layer.name} does nothing without {lacking}."
            elif use.layer is not None and _apart(wrinkle, layer, use.layer):
                other = wrinkle.layer(use.layer).name
                sentence = (
                    f"{label} on {layer.name} looks at {other}, which is out of its time there."
                )
            elif _always_rests(wrinkle, layer, use):
                sentence = f"{label} on {layer.name} never does anything: it is always at rest."
            else:
                continue
            address = str(next(iter(use.addresses()), ""))
            mend = Mend("remove", "Take the effect away", _without_effect(subject, layer, use))
            yield Finding(EFFECTS.key, sentence, layer.id, address, mends=(mend,))


def _apart(wrinkle: Wrinkle, layer: Layer, other: str) -> bool:
    """Whether two layers are never there on the same frame of the window."""
    times = [wrinkle.frame_rate.seconds(frame) for frame in wrinkle.frames]
    span = wrinkle.layer(other).span
    return not any(layer.span.holds(time) and span.holds(time) for time in times)


def _always_rests(wrinkle: Wrinkle, layer: Layer, use: EffectUse) -> bool:
    effect, dials = use.effect, wrinkle.dials
    keys = effect.rests_by or tuple(spec.key for spec in effect.settings)
    if any(drivers_of(dials, layer.id, str(use.address(key))) for key in keys):
        return False
    # One that looks at other things may rest by them alone.
    if effect.needs_lut or (effect.needs_layer and not keys) or not effect.settings:
        return False
    for frame in wrinkle.frames:
        time = wrinkle.frame_rate.seconds(frame)
        side, clock = Side.of(time), wrinkle.clock(layer, time)
        values: dict[str, Value] = {
            spec.key: spec.limited(use.setting(spec.key).seen(time, side, clock))
            for spec in effect.settings
        }
        if layer.span.holds(time) and not effect.resting(values):
            return False
    return True


def _without_effect(subject: Subject, layer: Layer, use: EffectUse) -> Callable[[], Wrinkle]:
    return lambda: effect_edits.remove_effect(subject.design, layer.id, use.id)


def find_layers(subject: Subject) -> Iterator[Finding]:
    """Layers that are never seen, and mattes that are not there while they are wanted."""
    wrinkle = subject.wrinkle
    used = {link.target for layer in wrinkle.layers for link in links_of(layer)}
    for layer in wrinkle.layers:
        if layer.matte is not None:
            yield from _matte(subject, layer, wrinkle.layer(layer.matte.layer))
        if layer.id in used or (shows_given(layer.source) and layer.matte is None):
            continue
        reason = _unseen(subject, layer)
        if reason:
            mend = Mend("remove", "Take the layer away", _without_layer(subject, layer))
            sentence = f"{layer.name} is never seen: {reason}."
            yield Finding(LAYERS.key, sentence, layer.id, mends=(mend,))


def _without_layer(subject: Subject, layer: Layer) -> Callable[[], Wrinkle]:
    return lambda: layer_edits.remove_layer(subject.design, layer.id)


def _unseen(subject: Subject, layer: Layer) -> str:
    """Why a layer is on no frame; empty where it is on one."""
    wrinkle = subject.wrinkle
    if isinstance(layer.source, GroupSource) and not within(wrinkle.layers, layer.id):
        return "nothing is in the group"
    times = [subject.time(frame) for frame in subject.frames]
    there = [time for time in times if layer.span.holds(time)]
    if not there:
        return "it is outside of the window"
    there = [time for time in there if layer.visible.at(time)]
    if not there:
        return "it is hidden"
    opaque = any(
        parts(layer.opacity.seen(time, Side.of(time), wrinkle.clock(layer, time)))[0] > 0.0
        for time in there
    )
    if not opaque:
        return "its opacity is 0"
    source = layer.source
    if isinstance(source, SlotSource) and source.slot not in subject.showing.material.slots:
        return ""
    if isinstance(source, TreatmentSource):
        idle = not any(use.shown for use in layer.effects) and layer.placement.still
        rests = all(
            layer.placement.setting(name).rest == layer.placement.spec(name).neutral
            for name in layer.placement.specs
        )
        driven = any(drive.layer == layer.id for dial in subject.design.dials
                     for drive in dial.drives)  # fmt: skip
        moves = any(link.kind is LinkKind.PARENT for link in links_of(layer))
        return "it treats nothing" if idle and rests and not driven and not moves else ""
    if float(covered(subject, layer).max(initial=0.0)) > _SEEN:
        return ""
    return "it is empty, or outside of the frame"


def _matte(subject: Subject, layer: Layer, cutter: Layer) -> Iterator[Finding]:
    """A matte that covers nothing, or is out of its time, while the layer it cuts is there."""
    frames = tuple(
        frame
        for frame in subject.frames
        if layer.span.holds(subject.time(frame))
        and layer.visible.at(subject.time(frame))
        and not cutter.span.holds(subject.time(frame))
    )
    if frames:

        def with_it() -> Wrinkle:
            own = subject.design.layer(layer.id).span
            return layer_edits.change_layer(subject.design, cutter.id, span=own)

        sentence = (
            f"{frames_word(frames)}: {cutter.name}, which cuts {layer.name}, is out of its time."
        )
        mends = (Mend("span", "Let both be there together", with_it),)
        weight = len(frames) / max(1, len(subject.frames))
        yield Finding(LAYERS.key, sentence, cutter.id, "", frames, frames[0], weight, mends)
        return
    slot = cutter.source.slot if isinstance(cutter.source, SlotSource) else ""
    if slot and slot not in subject.showing.material.slots:
        return
    if float(covered(subject, cutter).max(initial=0.0)) <= _SEEN:
        sentence = f"{cutter.name}, which cuts {layer.name}, is empty on every frame."
        mend = Mend(
            "uncut", "Let it cut nothing",
            lambda: layer_edits.change_layer(subject.design, layer.id, matte=None),
        )  # fmt: skip
        yield Finding(LAYERS.key, sentence, cutter.id, mends=(mend,))


def find_slots(subject: Subject) -> Iterator[Finding]:
    """Further slots that nothing shows, and that no sound or text takes."""
    wrinkle = subject.wrinkle
    shown = set()
    for layer in wrinkle.layers:
        source = layer.source
        if isinstance(source, SlotSource | WordsSource):
            shown.add(source.slot)
    for slot in wrinkle.slots:
        if slot.key in GIVEN or slot.key in shown or slot.fills is Fills.SOUND:
            continue
        mend = Mend(
            "remove", "Take the slot away",
            lambda key=slot.key: slot_edits.remove_slot(subject.design, key),  # type: ignore[misc]
        )  # fmt: skip
        yield Finding(
            SLOTS.key, f"Nothing shows the slot '{slot.label}'.", address=slot.key, mends=(mend,)
        )


EFFECTS = Check(
    "effects",
    "Effects that act",
    "An effect that is on has what it works with, and leaves its rest on some frame.",
    find_effects,
    gravity=0,
    pictures=False,
)
LAYERS = Check(
    "layers",
    "Layers that are seen",
    "Every layer is seen, and every matte is there while it is wanted.",
    find_layers,
)
SLOTS = Check(
    "slots",
    "Slots that are shown",
    "Every further slot is shown by a layer.",
    find_slots,
    gravity=0,
    pictures=False,
)
