"""Another rate or length for a wrinkle.

Keyframes stay where they are in time; those on the window's first or last instant move with it.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design import lane_edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.motion.track import CUT, Keyframe
from wrinkle.core.time.rate import FrameRate


@dataclass(frozen=True)
class Retiming:
    """What is asked for; all lengths in seconds.

    Attributes:
        rate: frames per second.
        lead, tail: the new lengths before and after the cut.
        stretch: keyframes between cut and end move in proportion, instead of staying in time.
    """

    rate: FrameRate
    lead: Fraction
    tail: Fraction
    stretch: bool = False


def retime(wrinkle: Wrinkle, wanted: Retiming) -> Wrinkle:
    """The wrinkle in another rate and length.

    A keyframe that holds its value stands on a whole frame afterwards if it did before.

    Raises:
        InputError: a length is not possible, or keyframes would be left outside of it.
    """
    if (wanted.rate, wanted.lead, wanted.tail) == (wrinkle.frame_rate, wrinkle.lead, wrinkle.tail):
        return wrinkle
    replace(wrinkle, lead=wanted.lead, tail=wanted.tail)  # refuses impossible lengths by name
    longer = replace(
        wrinkle,
        frame_rate=wanted.rate,
        lead=max(wrinkle.lead, wanted.lead),
        tail=max(wrinkle.tail, wanted.tail),
    )

    def moved(key: Keyframe) -> Keyframe:
        time = _moved(key.time, wrinkle, wanted)
        was_inside = -wrinkle.lead <= key.time <= wrinkle.tail
        if was_inside and not -wanted.lead <= time <= wanted.tail:
            frame = wrinkle.frame_rate.nearest_frame(key.time)
            raise InputError(
                f"A pin on frame {frame} would be left outside; stretch the pins with the length."
            )
        whole = (key.time * wrinkle.frame_rate.per_second).denominator == 1
        if isinstance(key.ease, Hold) and whole:
            time = wanted.rate.seconds(wanted.rate.nearest_frame(time))
        return replace(key, time=time)

    for layer in wrinkle.layers:
        for key in layer.lanes():
            ref = SettingRef(layer.id, key)
            track = ref.of(wrinkle).track
            if track is not None:
                keys = _in_order(moved(one) for one in track.keys)
                longer = lane_edits.with_track(longer, ref, replace(track, keys=keys))
    return replace(longer, lead=wanted.lead, tail=wanted.tail)


def _in_order(keys: Iterable[Keyframe]) -> tuple[Keyframe, ...]:
    """Without those that a later one has caught up with: at a lower rate frames fall together."""
    kept: list[Keyframe] = []
    for key in keys:
        while kept and (kept[-1].time > key.time or kept[-1].time == key.time != CUT):
            kept.pop()
        kept.append(key)
    return tuple(kept)


def pin_frames(wrinkle: Wrinkle) -> list[tuple[str, list[Fraction]]]:
    """The frames, whole or broken, on which each lane has keyframes."""
    found = []
    for layer in wrinkle.layers:
        for key in layer.lanes():
            track = layer.setting(key).track
            keys = track.keys if track is not None else ()
            frames = [one.time * wrinkle.frame_rate.per_second for one in keys]
            found.append((f"{layer.name} · {layer.spec(key).label}", frames))
    return found


def _moved(time: Fraction, wrinkle: Wrinkle, wanted: Retiming) -> Fraction:
    if time == -wrinkle.lead:
        return -wanted.lead
    if time == wrinkle.tail:
        return wanted.tail
    if not wanted.stretch:
        return time
    return time * (wanted.lead / wrinkle.lead if time < 0 else wanted.tail / wrinkle.tail)
