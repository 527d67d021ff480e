"""Edits that several mends are made of. Each gives the design with the repair.

Each raises InputError where a dial or a formula stands in the way.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from msgspec.structs import replace

from wrinkle.core.design.document.setting import Jitter
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits.lane_edits import with_setting
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Bezier, Ease, Hold
from wrinkle.core.motion.track import CUT, IncomingHalf, Keyframe, Side, Track
from wrinkle.core.motion.values import Value, discrete

GENTLE = Bezier(0.42, 0.0, 0.58, 1.0)
"""The curve ease-in-out of CSS Easing Functions."""
_EASED = 6
"""Frames within which something comes to rest, where the window is long enough."""


def rested(wrinkle: Wrinkle, ref: SettingRef, rest: Value, ends: Sequence[Side]) -> Wrinkle:
    """A setting at a value on the first or the last frame of the window, or on both.

    A lane gets keyframes there; what does not move is eased in and out within some frames.

    Args:
        wrinkle: a design.
        ref: the setting.
        rest: the value.
        ends: the outgoing side for the first frame, the incoming one for the last.

    Raises:
        InputError: the setting is given by a formula.
    """
    setting = ref.of(wrinkle)
    if setting.formula is not None:
        label = ref.spec(wrinkle).label
        raise InputError(f"{label} is given by a formula; change that so that it ends at rest.")
    track = setting.track or Track((Keyframe(CUT, setting.rest),))
    for side in ends:
        track = _at_rest(wrinkle, track, rest, side)
    # The keyframe that stood for a value which never moved is wanted no more.
    if setting.track is None:
        track = Track(tuple(key for key in track.keys if key.time != CUT))
    jitter = setting.jitter
    if jitter is not None:
        jitter = _calm(wrinkle, jitter, ends)
    return with_setting(wrinkle, ref, replace(setting, track=track, jitter=jitter))


def rest_frame(wrinkle: Wrinkle, side: Side) -> int:
    """By which frame a lane is to be at rest: one early, an open shutter sees what is around."""
    first, last = wrinkle.first_frame, wrinkle.end_frame - 1
    return min(first + 1, -1) if side is Side.OUTGOING else max(last - 1, 0)


def _at_rest(wrinkle: Wrinkle, track: Track, rest: Value, side: Side) -> Track:
    """A track that is at rest on one end, and as it was up to some frames before."""
    rate = wrinkle.frame_rate
    ease: Ease = Hold() if discrete(rest) else GENTLE
    frame = rest_frame(wrinkle, side)
    if track.incoming is not IncomingHalf.OWN:
        # The last frame shows what is as far before the cut, seen backwards.
        frame = max(rest_frame(wrinkle, Side.OUTGOING), -rest_frame(wrinkle, Side.INCOMING))
        frame, side = min(frame, -1), Side.OUTGOING
    inwards = 1 if side is Side.OUTGOING else -1
    within = max(1, min(_EASED, abs(frame) // 2))
    time, full = rate.seconds(frame), rate.seconds(frame + inwards * within)
    inside = [key for key in track.keys if (key.time - time) * inwards > 0]
    resting = [Keyframe(time, rest, ease)]
    if all((key.time - full) * inwards > 0 for key in inside):
        # It stands still there: until its first keyframe, or after its last one.
        still = (inside[0] if inwards > 0 else inside[-1]) if inside else track.keys[0]
        resting.append(Keyframe(full, still.value, ease))
    keys = [*resting, *inside] if inwards > 0 else [*inside, *reversed(resting)]
    return replace(track, keys=tuple(keys))


def _calm(wrinkle: Wrinkle, jitter: Jitter, ends: Sequence[Side]) -> Jitter:
    amount = jitter.amount
    track = amount.track or Track((Keyframe(CUT, amount.rest),))
    for side in ends:
        track = _at_rest(wrinkle, track, 0.0, side)
    return replace(jitter, amount=replace(amount, track=track))


def scaled_by(
    wrinkle: Wrinkle, ref: SettingRef, factors: Sequence[tuple[Fraction, float]]
) -> Wrinkle:
    """A setting times a factor that changes with time, straight between the given ones.

    One that does not move gets a keyframe at each given time. Those of a lane stay where they are,
    so that its eases stay what they are, and each is scaled but those from which it comes and to
    which it goes.

    Args:
        wrinkle: a design.
        ref: a setting of numbers.
        factors: in the order of time.

    Raises:
        InputError: the setting is given by a formula.
    """
    setting, spec = ref.of(wrinkle), ref.spec(wrinkle)
    if setting.formula is not None:
        raise InputError(f"{spec.label} is given by a formula; enlarge it there.")
    track = setting.track or Track(tuple(Keyframe(time, setting.rest) for time, _ in factors))
    ends = {track.keys[0].time}
    if track.incoming is IncomingHalf.OWN:
        ends.add(track.keys[-1].time)
    keys = tuple(
        key
        if key.time in ends
        else replace(key, value=spec.limited(_times(key.value, _between(factors, key.time))))
        for key in track.keys
    )
    return with_setting(wrinkle, ref, replace(setting, track=replace(track, keys=keys)))


def scaled_alike(wrinkle: Wrinkle, ref: SettingRef, factor: float) -> Wrinkle:
    """A setting times one factor at all times.

    Raises:
        InputError: the setting is given by a formula.
    """
    setting, spec = ref.of(wrinkle), ref.spec(wrinkle)
    if setting.formula is not None:
        raise InputError(f"{spec.label} is given by a formula; enlarge it there.")
    changed = setting.mapped(lambda own: spec.limited(_times(own, factor)))
    return with_setting(wrinkle, ref, changed)


def _times(value: Value, factor: float) -> Value:
    if isinstance(value, tuple):
        return tuple(part * factor for part in value)
    return value * factor if isinstance(value, float | int) else value


def _between(factors: Sequence[tuple[Fraction, float]], time: Fraction) -> float:
    """The factor at a time."""
    before = [x for x in factors if x[0] <= time]
    after = [x for x in factors if x[0] >= time]
    if not before:
        return after[0][1]
    if not after:
        return before[-1][1]
    (start, one), (end, other) = before[-1], after[0]
    share = float((time - start) / (end - start)) if end > start else 0.0
    return one + (other - one) * share
