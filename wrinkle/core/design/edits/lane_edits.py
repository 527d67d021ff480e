"""Edits of one setting: its value, keyframes, formula and jitter.

Each raises InputError, naming the value and what is allowed, and leaves the given wrinkle as it is.
"""

from __future__ import annotations

from fractions import Fraction

import numpy as np
from msgspec.structs import replace

from wrinkle.core.design.document.driven import set_by
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Jitter, Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.layer_edits import with_owner
from wrinkle.core.effects.families.curves import curve_values
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease, Linear
from wrinkle.core.motion.held_at import HeldAt
from wrinkle.core.motion.seam import SeamFault, met_at_cut, seam_fault
from wrinkle.core.motion.setting_spec import CurveSpec, SettingSpec
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Side, Track
from wrinkle.core.motion.values import Value, parts, reflected
from wrinkle.core.picture.paths import knots, polygon


def set_value(wrinkle: Wrinkle, ref: SettingRef, time: Fraction, value: Value) -> Wrinkle:
    """Sets a setting: its rest value, or the keyframe at ``time`` if it is a lane.

    A formula gives way to the value. Where a curve gets or loses points, all its keyframes do: each
    keeps its form, and has points at the same places as the new one.
    """
    spec = ref.spec(wrinkle)
    spec.checked(value)
    setting = replace(ref.of(wrinkle), formula=None)
    track = setting.track
    if track is None:
        return with_setting(wrinkle, ref, replace(setting, rest=value))
    time, value = _on_own_half(setting, time, value)
    if isinstance(spec, CurveSpec) and len(parts(setting.rest)) != len(parts(value)):
        setting = setting.mapped(lambda old: _with_places(spec, old, value))
        track = setting.track or track
    keys = list(track.keys)
    at = _key_at(keys, time)
    if at is not None:
        keys[at] = replace(keys[at], value=value)
    else:
        place = sum(key.time < time for key in keys)
        ease = keys[place - 1].ease if place else Linear()
        keys.insert(place, Keyframe(time, value, ease))
    return with_setting(wrinkle, ref, replace(setting, track=replace(track, keys=tuple(keys))))


def _with_places(spec: SettingSpec, curve: Value, wanted: Value) -> Value:
    """A curve with points at the places of another one's."""
    if spec.changes_nothing(curve):
        return spec.flat(wanted)
    places = np.array([knot.x for knot in knots(parts(wanted))])
    return polygon(zip(places, curve_values(parts(curve), places), strict=True))


def make_lane(wrinkle: Wrinkle, ref: SettingRef, time: Fraction) -> Wrinkle:
    """Animates a setting: one keyframe at ``time`` with the value it has."""
    setting = ref.of(wrinkle)
    if setting.track is not None:
        return wrinkle
    track = Track((Keyframe(time, setting.rest),))
    return with_setting(wrinkle, ref, replace(setting, track=track))


def drop_lane(wrinkle: Wrinkle, ref: SettingRef, time: Fraction) -> Wrinkle:
    """Ends the animation of a setting; it keeps the value it has at ``time``."""
    setting = ref.of(wrinkle)
    return with_setting(wrinkle, ref, replace(setting, rest=setting.at(time), track=None))


def set_formula(wrinkle: Wrinkle, ref: SettingRef, text: str | None) -> Wrinkle:
    """Lets a formula give the value of a setting, or no longer.

    Raises:
        InputError: it cannot be read, or has no finite or no allowed value on some frame.
    """
    setting = replace(ref.of(wrinkle), formula=text.strip() if text else None)
    changed = with_setting(wrinkle, ref, setting)
    owner, spec = changed.owner(ref.layer), ref.spec(wrinkle)
    for frame in wrinkle.frames:
        time = wrinkle.frame_rate.seconds(frame)
        spec.checked(
            replace(setting, jitter=None).seen(time, Side.of(time), changed.clock(owner, time))
        )
    return changed


def set_jitter(wrinkle: Wrinkle, ref: SettingRef, jitter: Jitter | None) -> Wrinkle:
    """Adds random movement to a setting, changes it or takes it away."""
    return with_setting(wrinkle, ref, replace(ref.of(wrinkle), jitter=jitter))


def move_key(
    wrinkle: Wrinkle, ref: SettingRef, index: int, time: Fraction, value: Value
) -> Wrinkle:
    """Moves a keyframe in time and value; it stops short of its neighbours."""
    track = track_of(wrinkle, ref)
    ref.spec(wrinkle).checked(value)
    frame = wrinkle.frame_rate.seconds(1)
    low, high = -wrinkle.lead, wrinkle.tail
    if index > 0:
        low = _past(track.keys[index - 1].time, track.keys[index].time, frame)
    if index + 1 < len(track.keys):
        high = -_past(-track.keys[index + 1].time, -track.keys[index].time, frame)
    if track.incoming is not IncomingHalf.OWN:
        high = min(high, CUT)
    keys = list(track.keys)
    keys[index] = replace(keys[index], time=min(max(time, low), high), value=value)
    return _with_keys(wrinkle, ref, keys)


def remove_key(wrinkle: Wrinkle, ref: SettingRef, index: int) -> Wrinkle:
    """Takes a keyframe out; with the last one the setting stops being a lane."""
    keys = list(track_of(wrinkle, ref).keys)
    gone = keys.pop(index)
    if not keys:
        setting = replace(ref.of(wrinkle), rest=gone.value, track=None)
        return with_setting(wrinkle, ref, setting)
    return _with_keys(wrinkle, ref, keys)


def set_ease(wrinkle: Wrinkle, ref: SettingRef, index: int, ease: Ease) -> Wrinkle:
    """Sets the ease that leads from keyframe ``index`` to the next one."""
    keys = list(track_of(wrinkle, ref).keys)
    keys[index] = replace(keys[index], ease=ease)
    return _with_keys(wrinkle, ref, keys)


def set_incoming(wrinkle: Wrinkle, ref: SettingRef, half: IncomingHalf) -> Wrinkle:
    """Sets how the incoming half comes about.

    From return or carry on to own, the values stay and get keyframes. The other way, the
    keyframes after the cut give way to the mirrored ones.
    """
    setting = ref.of(wrinkle)
    track = track_of(wrinkle, ref)
    if half is track.incoming:
        return wrinkle
    if half is IncomingHalf.OWN:
        return with_setting(wrinkle, ref, replace(setting, track=track.released(setting.rest)))
    keys = [key for key in track.keys if key.time <= CUT]
    if len(keys) > 1 and keys[-2].time == CUT:
        keys.pop()
    if not keys:
        keys = [Keyframe(CUT, setting.at(CUT))]
    return with_setting(wrinkle, ref, replace(setting, track=Track(tuple(keys), half)))


def meet_at_cut(wrinkle: Wrinkle, ref: SettingRef) -> Wrinkle:
    """Lets the incoming half of a lane begin at the speed with which the outgoing one ends."""
    setting = ref.of(wrinkle)
    met = met_at_cut(track_of(wrinkle, ref), setting.rest)
    return with_setting(wrinkle, ref, replace(setting, track=met))


def fault_at_cut(wrinkle: Wrinkle, ref: SettingRef) -> SeamFault | None:
    """What breaks the motion of a lane at the cut; nothing where its layer is on one side only."""
    setting, owner = ref.of(wrinkle), wrinkle.owner(ref.layer)
    if not isinstance(owner, Layer):
        # A sound may well change at once.
        return None
    span = owner.span
    crosses = (span.start is None or span.start < CUT) and (span.end is None or span.end > CUT)
    if setting.track is None or not crosses:
        return None
    return seam_fault(setting.track, setting.rest)


def shown_keys(setting: Setting) -> tuple[tuple[int, Side, Fraction, Value], ...]:
    """The pins of a lane: index of the keyframe, side, time and value.

    A lane whose incoming half is mirrored shows each keyframe twice.
    """
    track = setting.track
    if track is None:
        return ()
    shown = []
    for index, key in enumerate(track.keys):
        ends_half = key.time == CUT and (
            track.incoming is not IncomingHalf.OWN
            or (index + 1 < len(track.keys) and track.keys[index + 1].time == CUT)
        )
        side = Side.OUTGOING if ends_half else Side.of(key.time)
        shown.append((index, side, key.time, key.value))
    if track.incoming is not IncomingHalf.OWN:
        for index, key in enumerate(track.keys):
            shown.append((index, Side.INCOMING, *_across(setting, key.time, key.value)))
    return tuple(shown)


def shown_key(setting: Setting, index: int, side: Side) -> tuple[Fraction, Value]:
    """Time and value of one pin of a lane, as it is seen on a side of the cut.

    Raises:
        StopIteration: the lane has no such pin.
    """
    return next((t, v) for i, s, t, v in shown_keys(setting) if (i, s) == (index, side))


def on_own_half(
    setting: Setting, side: Side, time: Fraction, value: Value
) -> tuple[Fraction, Value]:
    """Where a pin dragged on ``side`` puts its keyframe: the mirrored pin moves the original."""
    track = setting.track
    if track is None or track.incoming is IncomingHalf.OWN or side is Side.OUTGOING:
        return time, value
    return _across(setting, time, value)


def step_key(wrinkle: Wrinkle, ref: SettingRef, index: int, side: Side, steps: int) -> Wrinkle:
    """Changes a keyframe by so many steps of its setting, as it is seen on a side of the cut.

    Raises:
        InputError: such values have no steps.
    """
    setting, spec = ref.of(wrinkle), ref.spec(wrinkle)
    if not spec.stepping:
        raise InputError(f"{spec.label} has no steps; choose it in its field.")
    time, value = shown_key(setting, index, side)
    stepped = on_own_half(setting, side, time, spec.stepped(value, steps))
    return move_key(wrinkle, ref, index, *stepped)


def _on_own_half(setting: Setting, time: Fraction, value: Value) -> tuple[Fraction, Value]:
    return on_own_half(setting, Side.of(time), time, value)


def _across(setting: Setting, time: Fraction, value: Value) -> tuple[Fraction, Value]:
    if setting.track is not None and setting.track.incoming is IncomingHalf.CARRY_ON:
        value = reflected(value, setting.rest)
    return -time, value


def _past(neighbour: Fraction, own: Fraction, step: Fraction) -> Fraction:
    """The earliest time after an earlier neighbour: one frame, less if it is closer already."""
    return neighbour + min(step, own - neighbour)


def _key_at(keys: list[Keyframe], time: Fraction) -> int | None:
    """The keyframe at a time; of two at the cut the incoming one, as a frame there sees it."""
    return next((i for i in range(len(keys) - 1, -1, -1) if keys[i].time == time), None)


def track_of(wrinkle: Wrinkle, ref: SettingRef) -> Track:
    """The keyframes of a setting.

    Raises:
        InputError: it is no lane.
    """
    track = ref.of(wrinkle).track
    if track is None:
        raise InputError(f"{ref.spec(wrinkle).label} has no pins; make it a lane first.")
    return track


def _with_keys(wrinkle: Wrinkle, ref: SettingRef, keys: list[Keyframe]) -> Wrinkle:
    return with_track(wrinkle, ref, replace(track_of(wrinkle, ref), keys=tuple(keys)))


def set_keeps(wrinkle: Wrinkle, ref: SettingRef, held: HeldAt | None) -> Wrinkle:
    """Lets a lane keep its length when the wrinkle gets another one, or stretch with it."""
    return with_track(wrinkle, ref, replace(track_of(wrinkle, ref), keeps=held))


def with_track(wrinkle: Wrinkle, ref: SettingRef, track: Track) -> Wrinkle:
    """Exchanges the keyframes of a setting."""
    return with_setting(wrinkle, ref, replace(ref.of(wrinkle), track=track))


def with_setting(wrinkle: Wrinkle, ref: SettingRef, setting: Setting) -> Wrinkle:
    """Exchanges a setting.

    Raises:
        InputError: a dial sets it.
    """
    dial, before = set_by(wrinkle.dials, ref.layer, ref.key), ref.of(wrinkle)
    if dial is not None and replace(setting, jitter=before.jitter) != before:
        label = ref.spec(wrinkle).label
        if setting.animated:
            raise InputError(
                f"{label} is set by the dial '{dial.name}' and cannot be animated; let the dial "
                "act by times or plus, or take the setting off it."
            )
        raise InputError(
            f"{label} is set by the dial '{dial.name}'; turn the dial, or take the setting off it."
        )
    return with_owner(wrinkle, wrinkle.owner(ref.layer).with_setting(ref.key, setting))
