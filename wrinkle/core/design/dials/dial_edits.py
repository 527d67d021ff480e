"""Edits of the dials of a wrinkle.

A setting that a dial sets has what the dial's default gives: each edit leaves it so.
"""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.dials import (
    WRINKLE,
    AmountDial,
    ChoiceDial,
    ColourDial,
    Dial,
    Drive,
    How,
    SeedDial,
    SwitchDial,
    TimeDial,
    WordsDial,
)
from wrinkle.core.design.document.driven import (
    LEAD,
    TAIL,
    TEXT,
    WRINKLE_SETTINGS,
    driven_spec,
    is_random,
)
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import Value, discrete, parts, same_kind
from wrinkle.core.naming import free_name
from wrinkle.core.time.rate import FrameRate

_NOTCHES = 50
"""Of a dial for a number whose hard range is far wider than what is ever wanted."""
_WIDE = 400.0


def offer(wrinkle: Wrinkle, layer: str, key: str) -> tuple[Wrinkle, str]:
    """A dial for one setting, of the kind that fits it; gives the wrinkle and the dial's id.

    What is still is set by the dial; of what moves all is multiplied.

    Args:
        wrinkle: as it is.
        layer: the id of the layer, or ``WRINKLE``.
        key: the address of the setting.

    Raises:
        InputError: the setting is no kind of thing that a dial can drive, or a dial sets it
            already.
    """
    drive = Drive(layer, key)
    spec = driven_spec(wrinkle.layers, drive)
    dial_id = free_id(wrinkle, spec.label)
    name = _free_name(wrinkle, spec.label)
    made = _made(wrinkle, dial_id, name, drive, spec)
    return replace(wrinkle, dials=(*wrinkle.dials, made)), dial_id


def offer_seed(wrinkle: Wrinkle) -> tuple[Wrinkle, str]:
    """A dial for all random patterns; gives the wrinkle and the dial's id.

    Raises:
        InputError: nothing in it is random.
    """
    drives = tuple(
        Drive(layer.id, address, How.PLUS)
        for layer in wrinkle.layers
        for address in layer.addresses()
        if is_random(layer.spec(address), layer.setting(address))
    )
    if not drives:
        raise InputError("Nothing in this wrinkle is random: there is no seed to turn.")
    dial = SeedDial(free_id(wrinkle, "seed"), _free_name(wrinkle, "Other chance"), drives=drives)
    return replace(wrinkle, dials=(*wrinkle.dials, dial)), dial.id


def add_drive(wrinkle: Wrinkle, dial_id: str, layer: str, key: str) -> Wrinkle:
    """Lets a dial drive one more setting, in proportion to what it drives already.

    Raises:
        InputError: the dial cannot drive it; says why.
    """
    dial = dial_with(wrinkle, dial_id)
    drive = Drive(layer, key)
    spec = driven_spec(wrinkle.layers, drive)
    own = own_value(wrinkle, drive)
    match dial:
        case AmountDial():
            drive = _in_proportion(dial, drive, spec)
        case TimeDial():
            drive = replace(drive, start=float(dial.low), end=float(dial.high))
        case ChoiceDial():
            drive = replace(drive, values=(own,) * len(dial.options))
        case SwitchDial():
            other: Value = (not own) if isinstance(own, bool) else own
            drive = replace(drive, values=(own, other) if not dial.default else (other, own))
        case SeedDial():
            drive = replace(drive, how=How.PLUS)
    return change_dial(wrinkle, dial_id, drives=(*dial.drives, drive))


def change_dial(wrinkle: Wrinkle, dial_id: str, **fields: Any) -> Wrinkle:
    """Sets fields of a dial: its name, what it says, its range, its default, its drives.

    A drive that is left without settings stays; ``remove_dial`` takes it out.

    Raises:
        InputError: a value is not possible; says why.
    """
    dial = replace(dial_with(wrinkle, dial_id), **fields)
    dials = tuple(dial if x.id == dial_id else x for x in wrinkle.dials)
    return _settled(wrinkle, dial, dials)


def change_drive(wrinkle: Wrinkle, dial_id: str, index: int, **fields: Any) -> Wrinkle:
    """Sets fields of one drive of a dial: how it acts, its two ends, its ease, its values."""
    drives = list(dial_with(wrinkle, dial_id).drives)
    drives[index] = replace(drives[index], **fields)
    return change_dial(wrinkle, dial_id, drives=tuple(drives))


def remove_drive(wrinkle: Wrinkle, dial_id: str, index: int) -> Wrinkle:
    """Takes a setting off a dial; with the last one the dial goes."""
    drives = dial_with(wrinkle, dial_id).drives
    left = (*drives[:index], *drives[index + 1 :])
    if not left:
        return remove_dial(wrinkle, dial_id)
    return change_dial(wrinkle, dial_id, drives=left)


def remove_dial(wrinkle: Wrinkle, dial_id: str) -> Wrinkle:
    """Takes a dial out; the settings keep what its default gives."""
    return replace(wrinkle, dials=tuple(x for x in wrinkle.dials if x.id != dial_id))


def move_dial(wrinkle: Wrinkle, dial_id: str, by: int) -> Wrinkle:
    """Moves a dial up in the order (below 0) or down, as far as there is room."""
    dials = list(wrinkle.dials)
    at = dials.index(dial_with(wrinkle, dial_id))
    dials.insert(min(max(at + by, 0), len(dials) - 1), dials.pop(at))
    return replace(wrinkle, dials=tuple(dials))


def dial_with(wrinkle: Wrinkle, dial_id: str) -> Dial:
    """The dial with that id.

    Raises:
        InputError: there is none.
    """
    for dial in wrinkle.dials:
        if dial.id == dial_id:
            return dial
    raise InputError(f"There is no dial '{dial_id}' any more.")


def own_value(wrinkle: Wrinkle, drive: Drive) -> Value:
    """The value that a driven setting has at rest."""
    if drive.layer == WRINKLE:
        return float(getattr(wrinkle, drive.key))
    layer = wrinkle.layer(drive.layer)
    if drive.key == TEXT:
        text: str = getattr(layer.source, "text", "")
        return text
    return layer.setting(drive.key).rest


def free_id(wrinkle: Wrinkle, name: str) -> str:
    """An id for a new dial, made from its name."""
    base = "-".join(name.lower().split()) or "dial"
    return free_name(base, {dial.id for dial in wrinkle.dials}.__contains__, "-")


def _free_name(wrinkle: Wrinkle, name: str) -> str:
    return free_name(name, {dial.name for dial in wrinkle.dials}.__contains__)


def _made(wrinkle: Wrinkle, dial_id: str, name: str, drive: Drive, spec: SettingSpec) -> Dial:
    own = own_value(wrinkle, drive)
    if drive.key == TEXT:
        return WordsDial(dial_id, name, drives=(drive,), default=str(own))
    if drive.layer == WRINKLE and drive.key in (LEAD, TAIL):
        return _length(wrinkle, dial_id, name, drive)
    if spec.key == "seed":
        return SeedDial(dial_id, name, drives=(replace(drive, how=How.PLUS),))
    if isinstance(own, bool):
        drives = (replace(drive, values=(False, True)),)
        return SwitchDial(dial_id, name, drives=drives, default=own)
    if discrete(own):
        drives = (replace(drive, values=spec.choices),)
        return ChoiceDial(dial_id, name, drives=drives, options=spec.choices, default=str(own))
    if spec.outline:
        raise InputError(f"{spec.label} is an outline, which no dial can drive.")
    if len(parts(own)) == 3:
        red, green, blue = parts(own)
        return ColourDial(dial_id, name, drives=(drive,), default=(red, green, blue))
    setting = None if drive.layer == WRINKLE else SettingRef(drive.layer, drive.key).of(wrinkle)
    return _amount(dial_id, name, drive, spec, own, setting)


def _amount(
    dial_id: str, name: str, drive: Drive, spec: SettingSpec, own: Value, setting: Setting | None
) -> AmountDial:
    moves = setting is not None and setting.animated
    numbers = parts(own)
    if moves or len(set(numbers)) > 1:
        times = replace(drive, how=How.TIMES, start=0.0, end=2.0)
        return AmountDial(dial_id, name, drives=(times,), high=200.0)
    number = numbers[0]
    low, high = spec.low, spec.high
    if high - low > _WIDE or spec.unit is Unit.FRAME_PART:
        reach = max(abs(number), spec.step * _NOTCHES)
        low, high = max(low, min(number, 0.0) - reach), min(high, max(number, 0.0) + reach)
        if number >= 0.0 and spec.neutral != 0.0 and spec.low >= 0.0:
            low = max(spec.low, 0.0)
    factor = spec.unit.shown_factor
    return AmountDial(
        dial_id,
        name,
        drives=(replace(drive, start=_alike(own, low), end=_alike(own, high)),),
        low=low * factor,
        high=high * factor,
        step=spec.step * factor,
        unit=Unit.PER_CENT if spec.unit is Unit.FRAME_PART else spec.unit,
        default=number * factor,
    )


def _length(wrinkle: Wrinkle, dial_id: str, name: str, drive: Drive) -> TimeDial:
    rate: FrameRate = wrinkle.frame_rate
    own = wrinkle.lead if drive.key == LEAD else wrinkle.tail
    low, high = min(own, rate.seconds(1)), own * 2
    drives = (replace(drive, start=float(low), end=float(high)),)
    return TimeDial(id=dial_id, name=name, low=low, high=high, default=own, drives=drives)


def _in_proportion(dial: AmountDial, drive: Drive, spec: SettingSpec) -> Drive:
    if not spec.numeric:
        raise InputError(f"The dial '{dial.name}' needs a number to drive; {spec.label} is none.")
    if dial.default != 0.0:
        start, end = dial.low / dial.default, dial.high / dial.default
        return replace(drive, how=How.TIMES, start=start, end=end)
    reach = spec.step * _NOTCHES
    span = dial.high - dial.low
    low, high = dial.low / span * reach, dial.high / span * reach
    return replace(
        drive, how=How.PLUS, start=_alike(spec.neutral, low), end=_alike(spec.neutral, high)
    )


def _alike(pattern: Value, number: float) -> Value:
    return (number,) * len(pattern) if isinstance(pattern, tuple) else number


def _settled(wrinkle: Wrinkle, dial: Dial, dials: tuple[Dial, ...]) -> Wrinkle:
    """The wrinkle with other dials, in which what ``dial`` sets has what its default gives."""
    layers = {layer.id: layer for layer in wrinkle.layers}
    fields: dict[str, Any] = {}
    for drive in dial.drives:
        if drive.how is not How.SET:
            continue
        given = dial.given(drive, dial.default)  # type: ignore[arg-type]
        if drive.layer == WRINKLE:
            if drive.key not in (LEAD, TAIL):
                fields[drive.key] = WRINKLE_SETTINGS[drive.key].limited(given)
        elif drive.layer in layers:
            layers[drive.layer] = _with_value(layers[drive.layer], drive.key, given)
    return replace(
        wrinkle, dials=dials, layers=tuple(layers[x.id] for x in wrinkle.layers), **fields
    )


def _with_value(layer: Layer, key: str, value: Value) -> Layer:
    if key == TEXT:
        return replace(layer, source=replace(layer.source, text=str(value)))
    setting = layer.setting(key)
    if not same_kind(value, setting.rest) or setting.track is not None:
        return layer
    return layer.with_setting(key, replace(setting, rest=value))
