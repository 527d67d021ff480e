"""A use as it is heard: its clips, as they meet at the cut, and the sounds of its wrinkle."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from wrinkle.core.design.document.slot_kinds import Fills
from wrinkle.core.design.document.slots import INCOMING, OUTGOING, Unfilled
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.render.material import Filling
from wrinkle.core.reuse.sound_along import along_pictures
from wrinkle.core.reuse.use import Use, resolved
from wrinkle.core.sound.clip_sound import running, sound_of
from wrinkle.core.sound.filed import SlotSound, slot_sound
from wrinkle.core.sound.heard import Mix, MixPart, Ramp
from wrinkle.core.sound.hears import Hears
from wrinkle.core.sound.mixing import WrinkleSounds
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.core.time.rate import FrameRate

NOTHING_CARRIED: Mapping[str, object] = MappingProxyType({})


def in_slots(
    wrinkle: Wrinkle, chosen: Mapping[str, object], carried: Mapping[str, object]
) -> dict[str, SlotSound]:
    """What is heard in each slot for sound: what was chosen, or what stands in where it is empty.

    Args:
        wrinkle: whose slots they are.
        chosen: what fills them, by their key; each is something that sounds.
        carried: the sounds among the wrinkle's assets, by their name.
    """
    found: dict[str, SlotSound] = {}
    for slot in wrinkle.slots:
        if slot.fills is not Fills.SOUND:
            continue
        stands_in = carried.get(slot.stand_in) if slot.unfilled is Unfilled.STAND_IN else None
        filled = slot_sound(chosen.get(slot.key) or stands_in)
        if filled is not None:
            found[slot.key] = filled
    return found


def hearing(
    use: Use,
    rate: FrameRate,
    frames: range,
    hears: Hears = Hears.BOTH,
    carried: Mapping[str, object] = NOTHING_CARRIED,
) -> Mix:
    """What is heard of a use, twin of what is shown of it. Sample 0 lies at the cut.

    Args:
        use: what is put on the cut.
        rate: of the frames.
        frames: which ones, counted from the cut.
        hears: what of it.
        carried: the sounds among the wrinkle's assets, by their name.

    Raises:
        InputError: something chosen is not possible.
        MediaError: a file in a slot cannot be read.
    """
    wrinkle = resolved(use, rate)
    first, end = (sample_at(rate, frame) for frame in (frames.start, frames.stop))
    parts: list[MixPart] = []
    sounds = WrinkleSounds(wrinkle, in_slots(wrinkle, use.sounds, carried))
    dips = sounds.dips(0) if hears.wrinkles else ()
    if hears.clips:
        going, coming = (use.fillings.get(slot.key) for slot in (OUTGOING, INCOMING))
        join = use.choices.join.meeting(-wrinkle.first_frame, wrinkle.end_frame)
        met = join.within(-_reach(coming, rate, before=True), _reach(going, rate, before=False))
        starts, ends = sample_at(rate, met.starts), sample_at(rate, met.ends)
        ramp = Ramp(range(starts, ends), power=True) if starts < ends else None
        # What comes before and after goes on: at the ends of the frames nothing fades.
        before = _clip(wrinkle, OUTGOING.key, going, range(first, ends), _step(first), ramp)
        after = _clip(wrinkle, INCOMING.key, coming, range(starts, end), ramp, _step(end))
        parts += [replace(part, dips=dips) for part in (before, after) if part is not None]
    if hears.wrinkles and sounds.span:
        parts.append(sounds.part(0))
    return Mix(tuple(parts), range(first, end))


def _clip(
    wrinkle: Wrinkle,
    slot: str,
    filling: Filling | None,
    span: range,
    rise: Ramp | None,
    fall: Ramp | None,
) -> MixPart | None:
    sound = sound_of(filling.source) if filling is not None else None
    if filling is None or sound is None or not span:
        return None
    run = running(sound, filling.cut)
    if run is None:
        return None
    return MixPart(along_pictures(wrinkle, slot, run, 0), 0, span, rise=rise, fall=fall)


def _reach(filling: Filling | None, rate: FrameRate, before: bool) -> int:
    """The whole frames that a clip has before or after its cut."""
    if filling is None:
        return 0
    return rate.frame_at(filling.cut if before else filling.source.duration - filling.cut)


def _step(sample: int) -> Ramp:
    return Ramp(range(sample, sample))
