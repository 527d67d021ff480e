"""Edits of several keyframes at once, across the lanes of a layer.

Keyframes are chosen by setting and index. Each edit raises InputError, naming what is in the way,
and leaves the given wrinkle as it is.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.errors import InputError
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Track
from wrinkle.core.motion.values import discrete, mix, same_kind

Chosen = Mapping[SettingRef, frozenset[int]]
"""The indices of the chosen keyframes of each setting."""


class CopiedLane(NamedTuple):
    """Keyframes of one setting.

    Attributes:
        key: the address of the setting in its layer.
        label: its name in the window.
        keys: their times are counted from the earliest of all that were copied.
    """

    key: str
    label: str
    keys: tuple[Keyframe, ...]


@dataclass(frozen=True)
class CopiedKeyframes:
    """Keyframes to be pasted."""

    lanes: tuple[CopiedLane, ...]


def shift(wrinkle: Wrinkle, chosen: Chosen, by: Fraction) -> Wrinkle:
    """Moves keyframes in time, in seconds."""
    return _each(wrinkle, chosen, lambda key, _: replace(key, time=key.time + by))


def scale_time(wrinkle: Wrinkle, chosen: Chosen, factor: Fraction) -> Wrinkle:
    """Multiplies the distance of keyframes from the cut; they land on whole frames."""
    if factor <= 0:
        raise InputError("The time of pins can be scaled by factors above 0 only.")
    rate = wrinkle.frame_rate

    def scaled(key: Keyframe, _: Setting) -> Keyframe:
        return replace(key, time=rate.seconds(rate.nearest_frame(key.time * factor)))

    return _each(wrinkle, chosen, scaled)


def scale_value(wrinkle: Wrinkle, chosen: Chosen, factor: float) -> Wrinkle:
    """Multiplies the distance of values from the rest value."""

    def scaled(key: Keyframe, setting: Setting) -> Keyframe:
        if discrete(key.value):
            raise InputError("Choices and yes or no have no distance from rest to scale.")
        return replace(key, value=mix(setting.rest, key.value, factor))

    return _each(wrinkle, chosen, scaled)


def remove(wrinkle: Wrinkle, chosen: Chosen) -> Wrinkle:
    """Takes keyframes out; a lane that loses all stops being one."""
    for ref, indices in chosen.items():
        for index in sorted(indices, reverse=True):
            wrinkle = lane_edits.remove_key(wrinkle, ref, index)
    return wrinkle


def reverse(wrinkle: Wrinkle, chosen: Chosen) -> Wrinkle:
    """Runs neighbouring keyframes backwards in time, their eases too."""
    for ref, indices in chosen.items():
        track = lane_edits.track_of(wrinkle, ref)
        first, last = min(indices), max(indices)
        if indices != frozenset(range(first, last + 1)) or first == last:
            raise InputError("Choose two or more neighbouring pins of a lane to reverse them.")
        part = track.keys[first : last + 1]
        turned = _backwards(part, part[0].time + part[-1].time, part[-1])
        keys = (*track.keys[:first], *turned, *track.keys[last + 1 :])
        wrinkle = lane_edits.with_track(wrinkle, ref, replace(track, keys=keys))
    return wrinkle


def swap_sides(wrinkle: Wrinkle, ref: SettingRef) -> Wrinkle:
    """Mirrors a whole lane about the cut: what happened before it happens after it, backwards."""
    track = lane_edits.track_of(wrinkle, ref)
    if track.incoming is not IncomingHalf.OWN:
        raise InputError("The incoming half follows the outgoing one; make it its own first.")
    turned = _backwards(track.keys, CUT, track.keys[-1])
    return lane_edits.with_track(wrinkle, ref, Track(_within(wrinkle, turned)))


def copy(wrinkle: Wrinkle, chosen: Chosen) -> CopiedKeyframes:
    """Keyframes for pasting."""
    picked = {
        ref: [lane_edits.track_of(wrinkle, ref).keys[index] for index in sorted(indices)]
        for ref, indices in chosen.items()
        if indices
    }
    if not picked:
        raise InputError("Choose the pins to copy first.")
    start = min(keys[0].time for keys in picked.values())
    return CopiedKeyframes(
        tuple(
            CopiedLane(
                ref.key,
                ref.spec(wrinkle).label,
                tuple(replace(key, time=key.time - start) for key in keys),
            )
            for ref, keys in picked.items()
        )
    )


def paste(
    wrinkle: Wrinkle, copied: CopiedKeyframes, layer: str, time: Fraction, onto: str | None = None
) -> Wrinkle:
    """Puts copied keyframes into a layer's settings, the earliest at ``time``.

    Args:
        wrinkle, copied: where and what.
        layer: the id of the layer that gets them.
        time: of the earliest one.
        onto: the key of the setting that gets a single copied lane; by default its own.

    Raises:
        InputError: there is no such setting, it is of another kind, or a keyframe would leave the
            window or the setting's range.
    """
    for key, label, keys in copied.lanes:
        ref = SettingRef(layer, onto if onto is not None and len(copied.lanes) == 1 else key)
        if not ref.exists(wrinkle):
            raise InputError(
                f"'{wrinkle.layer(layer).name}' has no {label.lower()} that could take these pins."
            )
        setting = ref.of(wrinkle)
        if not same_kind(setting.rest, keys[0].value):
            raise InputError(
                f"Pins of {label.lower()} do not fit {ref.spec(wrinkle).label.lower()}: they take "
                "values of different kinds."
            )
        placed = [replace(one, time=one.time + time) for one in keys]
        taken = {one.time for one in placed}
        old = setting.track.keys if setting.track is not None else ()
        kept = [one for one in old if one.time not in taken]
        half = setting.track.incoming if setting.track is not None else IncomingHalf.OWN
        whole = _within(wrinkle, sorted([*kept, *placed], key=lambda one: one.time))
        wrinkle = lane_edits.with_track(wrinkle, ref, Track(whole, half))
    return wrinkle


def _backwards(keys: Iterable[Keyframe], about: Fraction, end: Keyframe) -> tuple[Keyframe, ...]:
    """Keyframes mirrored in time: key t stands at about - t. The last one keeps ``end``'s ease."""
    forward = tuple(keys)
    turned = []
    for index in range(len(forward) - 1, -1, -1):
        ease = forward[index - 1].ease.reversed() if index else end.ease
        turned.append(Keyframe(about - forward[index].time, forward[index].value, ease))
    return tuple(turned)


def _each(
    wrinkle: Wrinkle, chosen: Chosen, change: Callable[[Keyframe, Setting], Keyframe]
) -> Wrinkle:
    for ref, indices in chosen.items():
        setting, track = ref.of(wrinkle), lane_edits.track_of(wrinkle, ref)
        keys = [
            change(key, setting) if index in indices else key
            for index, key in enumerate(track.keys)
        ]
        ordered = sorted(keys, key=lambda key: key.time)
        changed = replace(track, keys=_within(wrinkle, ordered))
        wrinkle = lane_edits.with_track(wrinkle, ref, changed)
    return wrinkle


def _within(wrinkle: Wrinkle, keys: Iterable[Keyframe]) -> tuple[Keyframe, ...]:
    whole = tuple(keys)
    if any(not -wrinkle.lead <= key.time <= wrinkle.tail for key in whole):
        raise InputError("A pin would leave the window; make the lead or the tail longer first.")
    return whole
