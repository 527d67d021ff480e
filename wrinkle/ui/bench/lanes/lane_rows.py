"""The pins of a lane as rows: frame, value and ease, to be read and typed into."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.design.edits.lane_edits import on_own_half, shown_keys
from wrinkle.core.errors import InputError
from wrinkle.core.motion.easing import Ease
from wrinkle.core.motion.feels import ease_text, feel_of, parse_ease
from wrinkle.core.motion.formula import calculate
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import Value
from wrinkle.ui.bench.lanes.lane_moves import PinMove, PinsEdit
from wrinkle.ui.shared.frame_table import Column
from wrinkle.ui.shared.value_words import number_words

_PAIR = ("X", "Y")
_ON = ("yes", "on", "1")


@dataclass(frozen=True)
class LanePin:
    """One pin as it is listed.

    Attributes:
        ref: its lane.
        index, side: its keyframe, and the half on which it is shown.
        time, value: as it is shown there.
        ease: from it to the next one; None for the last.
    """

    ref: SettingRef
    index: int
    side: Side
    time: Fraction
    value: Value
    ease: Ease | None


def pins_of(ref: SettingRef, wrinkle: Wrinkle) -> list[LanePin]:
    """The pins of a lane, in the order of time."""
    setting = ref.of(wrinkle)
    keys = setting.track.keys if setting.track is not None else ()
    found = [
        LanePin(ref, index, side, time, value, keys[index].ease if index + 1 < len(keys) else None)
        for index, side, time, value in shown_keys(setting)
    ]
    return sorted(found, key=lambda pin: (pin.time, pin.side is Side.INCOMING))


def frame_of(pin: LanePin, wrinkle: Wrinkle | None) -> int | None:
    """The frame of a pin."""
    return wrinkle.frame_rate.nearest_frame(pin.time) if wrinkle is not None else None


def lane_columns(
    spec: SettingSpec,
    wrinkle: Callable[[], Wrinkle | None],
    typed: Callable[[PinMove | PinsEdit], bool],
) -> list[Column]:
    """Frame, value (or both numbers of a pair) and ease.

    Args:
        spec: of the setting.
        wrinkle: gives the one that is shown.
        typed: does what was typed; gives whether it could be done.
    """

    def frame(pin: LanePin) -> str:
        found = frame_of(pin, wrinkle())
        return str(found) if found is not None else ""

    def move(pin: LanePin, text: str) -> bool:
        shown = wrinkle()
        number = _number(text.replace("−", "-"))
        if shown is None or number is None:
            return False
        time = shown.frame_rate.seconds(round(number))
        time = min(time, CUT) if pin.side is Side.OUTGOING else max(time, CUT)
        return put(pin, time, pin.value)

    def put(pin: LanePin, time: Fraction, value: Value) -> bool:
        shown = wrinkle()
        if shown is None:
            return False
        setting: Setting = pin.ref.of(shown)
        time, value = on_own_half(setting, pin.side, time, value)
        return typed(PinMove(pin.ref, pin.index, time, value))

    def set_value(number: int) -> Callable[[LanePin, str], bool]:
        def write(pin: LanePin, text: str) -> bool:
            value = _value(spec, pin.value, number, text)
            return value is not None and put(pin, pin.time, value)

        return write

    def ease(pin: LanePin) -> str:
        return "" if pin.ease is None else feel_of(pin.ease) or ease_text(pin.ease)

    def set_ease(pin: LanePin, text: str) -> bool:
        try:
            wanted = parse_ease(text)
        except InputError:
            return False
        ref, index = pin.ref, pin.index
        return typed(PinsEdit(lambda w: lane_edits.set_ease(w, ref, index, wanted)))

    def reader(number: int) -> Callable[[LanePin], str]:
        return lambda pin: number_words(spec, pin.value, number)

    pair = spec.numeric and isinstance(spec.neutral, tuple)
    suffix = spec.unit.suffix.strip()
    unit = f" ({suffix})" if suffix else ""
    labels = [f"{word}{unit}" for word in (_PAIR if pair else ("Value",))]
    plain = spec.numeric or isinstance(spec.neutral, bool | str)
    values = [
        Column(label, reader(number), set_value(number) if plain else None)
        for number, label in enumerate(labels)
    ]
    return [Column("Frame", frame, move), *values, Column("Ease to the next", ease, set_ease)]


def _value(spec: SettingSpec, before: Value, number: int, text: str) -> Value | None:
    """What was typed, as a value; None where it is none."""
    wanted: Value
    if isinstance(before, bool):
        wanted = text.strip().lower() in _ON
    elif isinstance(before, str):
        wanted = text.strip()
    else:
        found = _number(text.replace("−", "-").removesuffix(spec.unit.suffix.strip()))
        if found is None:
            return None
        wanted = found / spec.unit.shown_factor
        if isinstance(before, tuple):
            parts = list(before)
            parts[number] = wanted
            wanted = tuple(parts)
    try:
        return spec.checked(wanted)
    except InputError:
        return None


def _number(text: str) -> float | None:
    try:
        return calculate(text)
    except InputError:
        return None
