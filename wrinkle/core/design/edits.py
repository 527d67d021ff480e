"""The edits: named functions from a wrinkle to a new one that shares what did not change.

Each raises InputError, naming the value and what is allowed, and leaves the given wrinkle as it is.
"""

from __future__ import annotations

from fractions import Fraction
from typing import Any, NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document import Layer, Wrinkle, clip_layer
from wrinkle.core.design.links import inside
from wrinkle.core.design.setting import Jitter, Setting
from wrinkle.core.design.settings import spec_of
from wrinkle.core.design.sources import (
    GroupSource,
    ShapeSource,
    SlotSource,
    Source,
    WordsSource,
)
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease, Linear
from wrinkle.core.motion.seam import SeamFault, met_at_cut, seam_fault
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Side, Track
from wrinkle.core.motion.values import Value, reflected
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.resample import EdgeCover
from wrinkle.core.time.rate import FrameRate

_WITHOUT_EDGES = GroupSource | ShapeSource | WordsSource


class SettingRef(NamedTuple):
    """One setting of one layer."""

    layer: str
    key: str

    def of(self, wrinkle: Wrinkle) -> Setting:
        """The setting in a wrinkle."""
        return wrinkle.layer(self.layer).setting(self.key)


def rename(wrinkle: Wrinkle, name: str) -> Wrinkle:
    """Gives the wrinkle another name."""
    return replace(wrinkle, name=name.strip())


def set_length(wrinkle: Wrinkle, lead: Fraction, tail: Fraction) -> Wrinkle:
    """Sets the lengths before and after the cut, in seconds."""
    return replace(wrinkle, lead=lead, tail=tail)


def set_shutter(wrinkle: Wrinkle, angle: float, phase: float | None = None) -> Wrinkle:
    """Sets the shutter angle of the motion blur, and its phase, in degrees."""
    phase = wrinkle.shutter_phase if phase is None else phase
    return replace(wrinkle, shutter_angle=angle, shutter_phase=phase)


def set_frame(wrinkle: Wrinkle, size: Size, rate: FrameRate) -> Wrinkle:
    """Sets the frame that the wrinkle is designed in; all times stay as they are in seconds."""
    return replace(wrinkle, reference_size=size, frame_rate=rate)


def add_layer(wrinkle: Wrinkle, name: str, source: Source, above: str | None = None) -> Wrinkle:
    """Puts a new layer over the layer ``above`` in its group, by default in front of all.

    A further view of a clip is there on the clip's side of the cut. What is drawn or composed has
    nothing outside itself to be mirrored.
    """
    layer_id = free_id(wrinkle, name)
    if isinstance(source, SlotSource):
        layer = clip_layer(layer_id, name, source.slot)
    else:
        layer = Layer(id=layer_id, name=name, source=source)
        if isinstance(source, _WITHOUT_EDGES):
            layer = replace(layer, edge_cover=Setting(EdgeCover.BARE.value))
    if above is not None:
        layer = replace(layer, group=wrinkle.layer(above).group)
    place = len(wrinkle.layers) if above is None else _index(wrinkle, above) + 1
    return with_layers(wrinkle, (*wrinkle.layers[:place], layer, *wrinkle.layers[place:]))


def remove_layer(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """Takes a layer out, a group with all it holds; links to what is gone are dropped."""
    gone = {layer_id, *(x.id for x in inside(wrinkle.layers, layer_id))}
    kept = []
    for layer in wrinkle.layers:
        if layer.id in gone:
            continue
        if layer.parent in gone:
            layer = replace(layer, parent=None)
        if layer.matte is not None and layer.matte.layer in gone:
            layer = replace(layer, matte=None)
        if any(use.layer in gone for use in layer.effects):
            uses = (replace(x, layer=None) if x.layer in gone else x for x in layer.effects)
            layer = replace(layer, effects=tuple(uses))
        kept.append(layer)
    return with_layers(wrinkle, tuple(kept))


def change_layer(wrinkle: Wrinkle, layer_id: str, **fields: Any) -> Wrinkle:
    """Sets plain fields of a layer: name, parent, matte, source, span, timing.

    Raises:
        InputError: the name is empty.
    """
    if not str(fields.get("name", "-")).strip():
        raise InputError("A layer needs a name.")
    return with_layer(wrinkle, replace(wrinkle.layer(layer_id), **fields))


def set_value(wrinkle: Wrinkle, ref: SettingRef, time: Fraction, value: Value) -> Wrinkle:
    """Sets a setting: its rest value, or the keyframe at ``time`` if it is a lane.

    A formula gives way to the value.
    """
    spec_of(ref.key).checked(value)
    setting = replace(ref.of(wrinkle), formula=None)
    if setting.track is None:
        return _with_setting(wrinkle, ref, replace(setting, rest=value))
    time, value = _on_own_half(setting, time, value)
    keys = list(setting.track.keys)
    at = _key_at(keys, time)
    if at is not None:
        keys[at] = replace(keys[at], value=value)
    else:
        place = sum(key.time < time for key in keys)
        ease = keys[place - 1].ease if place else Linear()
        keys.insert(place, Keyframe(time, value, ease))
    return _with_keys(wrinkle, ref, keys)


def make_lane(wrinkle: Wrinkle, ref: SettingRef, time: Fraction) -> Wrinkle:
    """Animates a setting: one keyframe at ``time`` with the value it has."""
    setting = ref.of(wrinkle)
    if setting.track is not None:
        return wrinkle
    track = Track((Keyframe(time, setting.rest),))
    return _with_setting(wrinkle, ref, replace(setting, track=track))


def drop_lane(wrinkle: Wrinkle, ref: SettingRef, time: Fraction) -> Wrinkle:
    """Ends the animation of a setting; it keeps the value it has at ``time``."""
    setting = ref.of(wrinkle)
    return _with_setting(wrinkle, ref, replace(setting, rest=setting.at(time), track=None))


def set_formula(wrinkle: Wrinkle, ref: SettingRef, text: str | None) -> Wrinkle:
    """Lets a formula give the value of a setting, or no longer.

    Raises:
        InputError: it cannot be read, or has no finite or no allowed value on some frame.
    """
    setting = replace(ref.of(wrinkle), formula=text.strip() if text else None)
    changed = _with_setting(wrinkle, ref, setting)
    layer, spec = changed.layer(ref.layer), spec_of(ref.key)
    for frame in wrinkle.frames:
        time = wrinkle.frame_rate.seconds(frame)
        spec.checked(
            replace(setting, jitter=None).seen(time, Side.of(time), changed.clock(layer, time))
        )
    return changed


def set_jitter(wrinkle: Wrinkle, ref: SettingRef, jitter: Jitter | None) -> Wrinkle:
    """Adds random movement to a setting, changes it or takes it away."""
    return _with_setting(wrinkle, ref, replace(ref.of(wrinkle), jitter=jitter))


def move_key(
    wrinkle: Wrinkle, ref: SettingRef, index: int, time: Fraction, value: Value
) -> Wrinkle:
    """Moves a keyframe in time and value; it stops short of its neighbours."""
    track = track_of(wrinkle, ref)
    spec_of(ref.key).checked(value)
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
        return _with_setting(wrinkle, ref, setting)
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
        return _with_setting(wrinkle, ref, replace(setting, track=track.released(setting.rest)))
    keys = [key for key in track.keys if key.time <= CUT]
    if len(keys) > 1 and keys[-2].time == CUT:
        keys.pop()
    if not keys:
        keys = [Keyframe(CUT, setting.at(CUT))]
    return _with_setting(wrinkle, ref, replace(setting, track=Track(tuple(keys), half)))


def meet_at_cut(wrinkle: Wrinkle, ref: SettingRef) -> Wrinkle:
    """Lets the incoming half of a lane begin at the speed with which the outgoing one ends."""
    setting = ref.of(wrinkle)
    met = met_at_cut(track_of(wrinkle, ref), setting.rest)
    return _with_setting(wrinkle, ref, replace(setting, track=met))


def fault_at_cut(wrinkle: Wrinkle, ref: SettingRef) -> SeamFault | None:
    """What breaks the motion of a lane at the cut; nothing where its layer is on one side only."""
    setting, span = ref.of(wrinkle), wrinkle.layer(ref.layer).span
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


def on_own_half(
    setting: Setting, side: Side, time: Fraction, value: Value
) -> tuple[Fraction, Value]:
    """Where a pin dragged on ``side`` puts its keyframe: the mirrored pin moves the original."""
    track = setting.track
    if track is None or track.incoming is IncomingHalf.OWN or side is Side.OUTGOING:
        return time, value
    return _across(setting, time, value)


def _on_own_half(setting: Setting, time: Fraction, value: Value) -> tuple[Fraction, Value]:
    return on_own_half(setting, Side.of(time), time, value)


def _across(setting: Setting, time: Fraction, value: Value) -> tuple[Fraction, Value]:
    if setting.track is not None and setting.track.incoming is IncomingHalf.CARRY_ON:
        value = reflected(value, setting.rest)
    return -time, value


def _past(neighbour: Fraction, own: Fraction, frame: Fraction) -> Fraction:
    """The earliest time after an earlier neighbour: one frame, less if it is closer already."""
    return neighbour + min(frame, own - neighbour)


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
        raise InputError(f"{spec_of(ref.key).label} has no keyframes; make it a lane first.")
    return track


def _with_keys(wrinkle: Wrinkle, ref: SettingRef, keys: list[Keyframe]) -> Wrinkle:
    return with_track(wrinkle, ref, replace(track_of(wrinkle, ref), keys=tuple(keys)))


def with_track(wrinkle: Wrinkle, ref: SettingRef, track: Track) -> Wrinkle:
    """Exchanges the keyframes of a setting."""
    return _with_setting(wrinkle, ref, replace(ref.of(wrinkle), track=track))


def _with_setting(wrinkle: Wrinkle, ref: SettingRef, setting: Setting) -> Wrinkle:
    return with_layer(wrinkle, wrinkle.layer(ref.layer).with_setting(ref.key, setting))


def with_layer(wrinkle: Wrinkle, layer: Layer) -> Wrinkle:
    """Exchanges the layer of that id."""
    return with_layers(wrinkle, tuple(layer if x.id == layer.id else x for x in wrinkle.layers))


def with_layers(wrinkle: Wrinkle, layers: tuple[Layer, ...]) -> Wrinkle:
    """Exchanges all layers, from the back to the front."""
    return replace(wrinkle, layers=layers)


def _index(wrinkle: Wrinkle, layer_id: str) -> int:
    return wrinkle.layers.index(wrinkle.layer(layer_id))


def free_id(wrinkle: Wrinkle, name: str) -> str:
    """An id for a new layer, made from its name."""
    base = "-".join(name.lower().split()) or "layer"
    taken = {layer.id for layer in wrinkle.layers}
    number = 1
    while (found := base if number == 1 else f"{base}-{number}") in taken:
        number += 1
    return found
