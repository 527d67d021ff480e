"""Whole lanes at once: from rest to a value and back, as nearly every lane of a transition goes.

A treatment, and the two given clips, must be at rest where the window begins and ends: what is
done to them rises from rest, or comes to rest again. Where a layer begins or ends within the
window, its value stands there.
"""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.driven import AnyOwner
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.slots import shows_given
from wrinkle.core.design.document.sources import (
    FillSource,
    NoiseSource,
    PictureSource,
    ShapeSource,
    TreatmentSource,
    WordsSource,
)
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import effect_edits, time_edits
from wrinkle.core.design.edits.lane_edits import with_setting
from wrinkle.core.motion.feels import FEELS
from wrinkle.core.motion.mirroring import Mirroring
from wrinkle.core.motion.setting_spec import CurveSpec
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Track
from wrinkle.core.motion.values import Value, discrete, parts, reflected


class LaneShape(Enum):
    """How a lane goes; the value is its word."""

    RETURNS = "to the cut and back"
    CARRIES_ON = "on through the cut"
    RISES = "from rest to its end"
    SETTLES = "from its start to rest"
    CROSSES = "from one side to the other"
    ONE = "one pin here"


_FEELS = {
    LaneShape.RETURNS: "swell",
    LaneShape.CARRIES_ON: "rush",
    LaneShape.RISES: "rush",
    LaneShape.SETTLES: "brake",
    LaneShape.CROSSES: "gentle",
}
_HALVES = {
    LaneShape.RETURNS: IncomingHalf.RETURN,
    LaneShape.CARRIES_ON: IncomingHalf.CARRY_ON,
}
_ON_THE_WAY = (Mirroring.VECTOR, Mirroring.TURN)
_LIES_OVER = FillSource | ShapeSource | WordsSource | PictureSource | NoiseSource
_SHORTEST = 3
"""Frames in which a lane has room to rise or to settle."""


def usual_shape(wrinkle: Wrinkle, ref: SettingRef) -> LaneShape:
    """The shape that a new lane has: it follows from when its layer is there.

    What goes on its way, such as a turn, carries on through the cut; what lies over the clips
    crosses the frame; all else comes back.
    """
    spec = ref.spec(wrinkle)
    if not spec.numeric and not isinstance(spec, CurveSpec):
        return LaneShape.ONE
    return _way(wrinkle, ref)


def _way(wrinkle: Wrinkle, ref: SettingRef) -> LaneShape:
    spec, layer = ref.spec(wrinkle), wrinkle.owner(ref.layer)
    if not isinstance(layer, Layer):
        # What a sound has while it lasts is no departure from rest.
        return LaneShape.ONE
    if isinstance(layer.source, WordsSource) and ref.address.effect:
        return LaneShape.SETTLES
    opens, closes = _open_ends(wrinkle, layer)
    start, end = ends(wrinkle, layer)
    if not closes and (opens or end <= CUT):
        return LaneShape.RISES
    if not opens and (closes or start >= CUT):
        return LaneShape.SETTLES
    address = ref.address
    goes_on = spec.mirror in _ON_THE_WAY and not address.effect and not address.is_jitter
    if not goes_on:
        return LaneShape.RETURNS
    crosses = isinstance(layer.source, _LIES_OVER) and spec.mirror is Mirroring.VECTOR
    return LaneShape.CROSSES if crosses else LaneShape.CARRIES_ON


def shaped(
    wrinkle: Wrinkle, ref: SettingRef, shape: LaneShape, here: Fraction, value: Value | None = None
) -> Wrinkle:
    """A setting as a lane of a shape.

    Args:
        wrinkle, ref: which setting.
        shape: how it goes.
        here: where the one keyframe is set, if that is the shape.
        value: that it goes to; by default the one that is farthest from rest, of those it has.

    Raises:
        InputError: a dial sets it.
    """
    if shape is LaneShape.ONE:
        setting = ref.of(wrinkle)
        track = Track((Keyframe(here, setting.at(here)),))
        return with_setting(wrinkle, ref, replace(setting, track=track))
    return with_setting(wrinkle, ref, _as_lane(wrinkle, ref, shape, value))


def _as_lane(
    wrinkle: Wrinkle, ref: SettingRef, shape: LaneShape, value: Value | None = None
) -> Setting:
    """The setting as ``shaped`` makes it; not for one keyframe."""
    setting, spec = ref.of(wrinkle), ref.spec(wrinkle)
    rest = _rest(wrinkle, ref)
    if value is None:
        value = _goal(setting, rest)
        if ref.key == "opacity" and value == rest:
            # What is seen now fades: nothing else can be meant.
            value = 0.0
    start, end = ends(wrinkle, wrinkle.owner(ref.layer))
    half = IncomingHalf.OWN
    if shape is LaneShape.RISES:
        keys = [(start, rest), (end, value)]
    elif shape is LaneShape.SETTLES:
        keys = [(start, value), (end, rest)]
    elif shape is LaneShape.CROSSES:
        keys = [(start, value), (end, reflected(value, rest))]
    elif start < CUT < end:
        # The mirrored half ends as long after the cut as the first one begins before it.
        keys, half = [(max(start, -end), rest), (CUT, value)], _HALVES[shape]
    else:
        keys = [(start, rest), ((start + end) / 2, value), (end, rest)]
    ease = FEELS[_FEELS[shape]]
    track = Track(tuple(Keyframe(time, at, ease) for time, at in keys), half)
    return replace(setting, rest=spec.flat(value), track=track)


def begin_lane(wrinkle: Wrinkle, ref: SettingRef, here: Fraction) -> Wrinkle:
    """A setting as a lane of its usual shape, which goes to the value that it has."""
    if ref.of(wrinkle).track is not None:
        return wrinkle
    return shaped(wrinkle, ref, usual_shape(wrinkle, ref), here)


def with_effect(wrinkle: Wrinkle, layer_id: str, kind: str, form: str = "") -> Wrinkle:
    """A new effect, as lanes where what is done to its layer must come to rest.

    Args:
        wrinkle, layer_id: where it is added.
        kind: which one.
        form: one of its forms, if it has any; by default that which it starts with.

    Raises:
        InputError: there is no such effect.
    """
    wrinkle, use_id = effect_edits.add_effect(wrinkle, layer_id, kind, form)
    layer = wrinkle.layer(layer_id)
    if not _comes_clean(wrinkle, layer):
        return wrinkle
    use = layer.effect_use(use_id)
    for key in use.effect.rests_by or tuple(use.effect.starts_with):
        ref = SettingRef(layer_id, use.address(key))
        value, neutral = use.setting(key).rest, use.spec(key).neutral
        if value != neutral and not discrete(neutral):
            way = _way(wrinkle, ref)
            wrinkle = shaped(wrinkle, ref, way, CUT, use.effect.ends_with.get(key))
    return wrinkle


def jitter_at_rest(wrinkle: Wrinkle, ref: SettingRef) -> Wrinkle:
    """The amount of a new jitter as a lane, where what is done to its layer must come to rest."""
    if not _comes_clean(wrinkle, wrinkle.owner(ref.layer)):
        return wrinkle
    return begin_lane(wrinkle, ref.jitter, CUT)


def set_span(
    wrinkle: Wrinkle, layer_id: str, start: Fraction | None, end: Fraction | None
) -> Wrinkle:
    """``time_edits.set_span``; lanes that have their usual shape have it afterwards too.

    Where there is no room to rise or to settle, the value stands.

    Raises:
        InputError: as there.
    """
    refs = [SettingRef(layer_id, key) for key in wrinkle.layer(layer_id).lanes()]
    followers = [ref for ref in refs if _as_usual(wrinkle, ref)]
    changed = time_edits.set_span(wrinkle, layer_id, start, end)
    first, last = ends(changed, changed.layer(layer_id))
    room = last - first >= changed.frame_rate.seconds(_SHORTEST)
    for ref in followers:
        if room:
            changed = shaped(changed, ref, usual_shape(changed, ref), CUT)
        else:
            setting = ref.of(changed)
            still = replace(setting, rest=_goal(setting, _rest(changed, ref)), track=None)
            changed = with_setting(changed, ref, still)
    return changed


def kept_within(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """A new layer that lies over the clips is not there on the window's first and last frame.

    Noise, which would cover all, fades in and out.
    """
    source, frame = wrinkle.layer(layer_id).source, wrinkle.frame_rate.seconds(1)
    if not isinstance(source, _LIES_OVER) or 2 * frame >= wrinkle.lead + wrinkle.tail:
        return wrinkle
    end = wrinkle.tail - frame
    wrinkle = time_edits.set_span(wrinkle, layer_id, -wrinkle.lead + frame, end)
    return fading(wrinkle, layer_id) if isinstance(source, NoiseSource) else wrinkle


def fading(wrinkle: Wrinkle, layer_id: str) -> Wrinkle:
    """A layer that fades in and out, as usual."""
    return begin_lane(wrinkle, SettingRef(layer_id, "opacity"), CUT)


def ends(wrinkle: Wrinkle, layer: AnyOwner) -> tuple[Fraction, Fraction]:
    """Where a lane begins and ends: so that the window's first and last frame are at rest.

    The shutter of the last frame opens before it.
    """
    frame = wrinkle.frame_rate.seconds(1)
    start, end = wrinkle.ends(layer)
    if not isinstance(layer, Layer):
        return max(start, -wrinkle.lead), min(end, wrinkle.tail)
    opens, closes = _open_ends(wrinkle, layer)
    inner = (start + frame if opens else start, end - 2 * frame if closes else end)
    return inner if inner[0] < inner[1] else (start, end)


def _open_ends(wrinkle: Wrinkle, layer: Layer) -> tuple[bool, bool]:
    """Whether a layer is there on the first and on the last frame of the window."""
    start, end = wrinkle.ends(layer)
    return start <= -wrinkle.lead, end >= wrinkle.tail


def _must_rest(wrinkle: Wrinkle, layer: AnyOwner) -> bool:
    """Whether what is done to a layer must be at rest at an end of the window."""
    if not isinstance(layer, Layer):
        return False
    plain = shows_given(layer.source) or isinstance(layer.source, TreatmentSource)
    return plain and any(_open_ends(wrinkle, layer))


def _comes_clean(wrinkle: Wrinkle, layer: AnyOwner) -> bool:
    """Whether what is done to a layer comes to rest: a title is read then, too."""
    if not isinstance(layer, Layer):
        return False
    return isinstance(layer.source, WordsSource) or _must_rest(wrinkle, layer)


def _as_usual(wrinkle: Wrinkle, ref: SettingRef) -> bool:
    """Whether a lane is still as it was made whole."""
    shape = usual_shape(wrinkle, ref)
    return shape is not LaneShape.ONE and _as_lane(wrinkle, ref, shape) == ref.of(wrinkle)


def _rest(wrinkle: Wrinkle, ref: SettingRef) -> Value:
    """Where a lane rests: what lies over the clips is not there then."""
    if ref.key == "opacity" and not _must_rest(wrinkle, wrinkle.owner(ref.layer)):
        return 0.0
    return ref.spec(wrinkle).flat(ref.of(wrinkle).rest)


def _goal(setting: Setting, rest: Value) -> Value:
    """The value that is farthest from rest, of those that a setting has."""
    had = [key.value for key in setting.track.keys] if setting.track is not None else []
    return max(had or [setting.rest], key=lambda value: _far(value, rest))


def _far(value: Value, rest: Value) -> float:
    return sum(abs(a - b) for a, b in zip(parts(value), parts(rest), strict=True))
