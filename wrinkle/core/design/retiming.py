"""Another rate or length for a wrinkle, and another layer like one that is there.

Keyframes stay where they are in time; those on the window's first or last instant move with it.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design import edits
from wrinkle.core.design.document import Wrinkle
from wrinkle.core.design.edits import SettingRef
from wrinkle.core.design.links import inside
from wrinkle.core.design.setting import Setting
from wrinkle.core.design.settings import spec_of
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Hold
from wrinkle.core.motion.track import Keyframe
from wrinkle.core.motion.values import Value, discrete, parts, scaled, shifted
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
                keys = tuple(moved(one) for one in track.keys)
                longer = edits.with_track(longer, ref, replace(track, keys=keys))
    return replace(longer, lead=wanted.lead, tail=wanted.tail)


def pin_frames(wrinkle: Wrinkle) -> list[tuple[str, list[Fraction]]]:
    """The frames, whole or broken, on which each lane has keyframes."""
    found = []
    for layer in wrinkle.layers:
        for key in layer.lanes():
            track = layer.setting(key).track
            keys = track.keys if track is not None else ()
            frames = [one.time * wrinkle.frame_rate.per_second for one in keys]
            found.append((f"{layer.name} · {spec_of(key).label}", frames))
    return found


def duplicate(wrinkle: Wrinkle, layer_id: str, key: str | None = None, by: Value = 0.0) -> Wrinkle:
    """A copy of a layer with all its lanes in front of it, one setting shifted by a constant.

    A group is copied with all it holds; links among the copies lead to the copies.

    Args:
        wrinkle, layer_id: what is copied.
        key: the setting that differs; by default none.
        by: what is added to its rest value and to each of its keyframes.

    Raises:
        InputError: a value would leave the setting's range.
    """
    layer = wrinkle.layer(layer_id)
    originals = [layer, *inside(wrinkle.layers, layer_id)]
    new_ids: dict[str, str] = {}
    copies = []
    taken = wrinkle
    for original in originals:
        name = f"{original.name} copy" if original is layer else original.name
        new_ids[original.id] = edits.free_id(taken, name)
        copy = replace(original, id=new_ids[original.id], name=name)
        copies.append(copy)
        taken = edits.with_layers(
            taken, (*taken.layers, replace(copy, group=None, matte=None, effects=()))
        )
    linked = []
    for copy in copies:
        matte = copy.matte
        if matte is not None:
            matte = replace(matte, layer=new_ids.get(matte.layer, matte.layer))
        parent = new_ids.get(copy.parent or "", copy.parent)
        group = new_ids.get(copy.group or "", copy.group)
        uses = tuple(
            replace(use, layer=new_ids.get(use.layer or "", use.layer)) for use in copy.effects
        )
        linked.append(replace(copy, matte=matte, parent=parent, group=group, effects=uses))
    if key is not None:
        linked[0] = linked[0].with_setting(key, _shifted(linked[0].setting(key), by))
    place = max(wrinkle.layers.index(x) for x in originals) + 1
    layers = wrinkle.layers
    return edits.with_layers(wrinkle, (*layers[:place], *linked, *layers[place:]))


def _shifted(setting: Setting, by: Value) -> Setting:
    if discrete(setting.rest):
        raise InputError("Choices and yes or no cannot be shifted; choose another setting.")
    nothing = scaled(setting.rest, 0.0)
    if isinstance(nothing, tuple) and not isinstance(by, tuple):
        by = parts(by) * len(nothing)

    def added(value: Value) -> Value:
        return shifted(value, nothing, by)

    track = setting.track
    if track is not None:
        keys = tuple(replace(one, value=added(one.value)) for one in track.keys)
        track = replace(track, keys=keys)
    return replace(setting, rest=added(setting.rest), track=track)


def _moved(time: Fraction, wrinkle: Wrinkle, wanted: Retiming) -> Fraction:
    if time == -wrinkle.lead:
        return -wanted.lead
    if time == wrinkle.tail:
        return wanted.tail
    if not wanted.stretch:
        return time
    return time * (wanted.lead / wrinkle.lead if time < 0 else wanted.tail / wrinkle.tail)
