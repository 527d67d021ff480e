"""Edits of the dials of a wrinkle.

A setting that a dial sets has what the dial's default gives: each edit leaves it so.
"""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from wrinkle.core.design.document.dial_kinds import dial_for
from wrinkle.core.design.document.dials import (
    LEAD,
    TAIL,
    TEXT,
    WRINKLE,
    Dial,
    Drive,
    How,
    WantedDial,
    is_random,
)
from wrinkle.core.design.document.driven import WRINKLE_SETTINGS, AnyOwner, driven_spec
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.ranged_dials import SeedDial
from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.values import Value, same_kind
from wrinkle.core.naming import free_name

_AMOUNT = "Amount"
"""The label of how much of an effect there is: by itself it says nothing."""


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
    spec = driven_spec(wrinkle.owners, drive)
    called = setting_words(wrinkle, layer, key) or spec.label
    dial_id = free_id(wrinkle, spec.label)
    name = _free_name(wrinkle, called)
    made = dial_for(_wanted(wrinkle, dial_id, name, drive))
    return replace(wrinkle, dials=(*wrinkle.dials, made)), dial_id


def setting_words(wrinkle: Wrinkle, layer: str, key: str) -> str:
    """What a setting of an effect is called by itself; empty for any other one.

    The amount of an effect goes by the effect's name, any other setting by both.
    """
    owner = next((x for x in wrinkle.layers if x.id == layer), None)
    if owner is None:
        return ""
    address = SettingRef(layer, key).address
    if not address.effect:
        return ""
    effect, label = owner.effect_use(address.effect).effect.label, owner.spec(key).label
    return effect if label == _AMOUNT else f"{effect}: {label.lower()}"


def offer_seed(wrinkle: Wrinkle) -> tuple[Wrinkle, str]:
    """A dial for all random patterns; gives the wrinkle and the dial's id.

    Raises:
        InputError: nothing in it is random.
    """
    drives = tuple(
        Drive(owner.id, address, How.PLUS)
        for owner in wrinkle.owners
        for address in owner.addresses()
        if is_random(owner.spec(address), owner.setting(address))
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
    own = own_value(wrinkle, drive)
    drive = dial.further(drive, driven_spec(wrinkle.owners, drive), own)
    return change_dial(wrinkle, dial_id, drives=(*dial.drives, drive))


def change_dial(wrinkle: Wrinkle, dial_id: str, **fields: Any) -> Wrinkle:
    """Sets fields of a dial: its name, what it says, its range, its default, its drives.

    A drive that is left without settings stays; ``remove_dial`` takes it out.

    Raises:
        InputError: a value is not possible; says why.
    """
    return _with_dial(wrinkle, replace(dial_with(wrinkle, dial_id), **fields))


def set_trait(wrinkle: Wrinkle, dial_id: str, key: str, value: object) -> Wrinkle:
    """Sets a trait of a dial, such as an end of its range.

    Raises:
        InputError: the dial is not possible with it; says why.
    """
    dial = dial_with(wrinkle, dial_id).with_trait(key, value)
    return _with_dial(wrinkle, dial)


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
    if drive.key == TEXT:
        text: str = getattr(wrinkle.layer(drive.layer).source, "text", "")
        return text
    return wrinkle.owner(drive.layer).setting(drive.key).rest


def free_id(wrinkle: Wrinkle, name: str) -> str:
    """An id for a new dial, made from its name."""
    base = "-".join(name.lower().split()) or "dial"
    return free_name(base, {dial.id for dial in wrinkle.dials}.__contains__, "-")


def _free_name(wrinkle: Wrinkle, name: str) -> str:
    return free_name(name, {dial.name for dial in wrinkle.dials}.__contains__)


def _wanted(wrinkle: Wrinkle, dial_id: str, name: str, drive: Drive) -> WantedDial:
    spec, own = driven_spec(wrinkle.owners, drive), own_value(wrinkle, drive)
    plain = drive.layer == WRINKLE or drive.key == TEXT
    return WantedDial(
        id=dial_id,
        name=name,
        drive=drive,
        spec=spec,
        own=own,
        animated=not plain and SettingRef(drive.layer, drive.key).of(wrinkle).animated,
        length=getattr(wrinkle, drive.key) if _is_length(drive) else None,
        frame=wrinkle.frame_rate.seconds(1),
    )


def _is_length(drive: Drive) -> bool:
    return drive.layer == WRINKLE and drive.key in (LEAD, TAIL)


def _with_dial(wrinkle: Wrinkle, dial: Dial) -> Wrinkle:
    """The wrinkle with another dial of that id; what it sets has what its default gives."""
    owners = {owner.id: owner for owner in wrinkle.owners}
    fields: dict[str, Any] = {}
    for drive in dial.drives:
        if drive.how is not How.SET:
            continue
        given = dial.given(drive, dial.default)
        if drive.layer == WRINKLE:
            if not _is_length(drive):
                fields[drive.key] = WRINKLE_SETTINGS[drive.key].limited(given)
        elif drive.layer in owners:
            owners[drive.layer] = _with_value(owners[drive.layer], drive.key, given)
    dials = tuple(dial if x.id == dial.id else x for x in wrinkle.dials)
    return wrinkle.with_owners(owners, dials=dials, **fields)


def _with_value(owner: AnyOwner, key: str, value: Value) -> AnyOwner:
    if key == TEXT and isinstance(owner, Layer):
        return replace(owner, source=replace(owner.source, text=str(value)))
    setting = owner.setting(key)
    if not same_kind(value, setting.rest) or setting.track is not None:
        return owner
    return owner.with_setting(key, replace(setting, rest=value))
