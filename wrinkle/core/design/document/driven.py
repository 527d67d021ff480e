"""What dials can drive, and how a driven setting finds its dials."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document.address import Address
from wrinkle.core.design.document.dials import (
    LEAD,
    TAIL,
    TEXT,
    WRINKLE,
    Dial,
    Drive,
    DrivenSetting,
    How,
)
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.sounds import WrinkleSound
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import NumberSpec, SettingSpec, TextSpec, Unit

_TEXT_SPEC = TextSpec("text", "Words", "What is written.", "")


def _of_all(key: str, label: str, unit: Unit, low: float, high: float) -> SettingSpec:
    return NumberSpec(key, label, "Of the whole wrinkle.", 0.0, low, high, unit)


WRINKLE_SETTINGS: Mapping[str, SettingSpec] = {
    spec.key: spec
    for spec in (
        _of_all("shutter_angle", "Shutter angle", Unit.DEGREES, 0.0, 720.0),
        _of_all("shutter_phase", "Shutter phase", Unit.DEGREES, -360.0, 360.0),
        _of_all(LEAD, "Lead", Unit.NONE, 0.0, float(LONGEST_HALF)),
        _of_all(TAIL, "Tail", Unit.NONE, 0.0, float(LONGEST_HALF)),
    )
}
"""The settings of the whole wrinkle that dials can drive; lengths are in seconds."""


AnyOwner = Layer | WrinkleSound
Owners = Sequence[AnyOwner]
"""All of a wrinkle that has settings."""


class Driving(NamedTuple):
    """A dial, and one setting that it drives."""

    dial: Dial
    drive: Drive


def drivings(dials: Sequence[Dial]) -> Iterator[Driving]:
    """All that dials drive, in their order."""
    return (Driving(dial, drive) for dial in dials for drive in dial.drives)


def drivers_of(dials: Sequence[Dial], layer: str, key: str) -> tuple[Driving, ...]:
    """The dials that drive one setting."""
    return tuple(x for x in drivings(dials) if (x.drive.layer, x.drive.key) == (layer, key))


def set_by(dials: Sequence[Dial], layer: str, key: str) -> Dial | None:
    """The dial that sets a setting; None where it has its own value."""
    found = (x.dial for x in drivers_of(dials, layer, key) if x.drive.how is How.SET)
    return next(found, None)


def driven_spec(owners: Owners, drive: Drive) -> SettingSpec:
    """The declaration of what is driven.

    Raises:
        KeyError: there is no such setting.
    """
    if drive.layer == WRINKLE:
        return WRINKLE_SETTINGS[drive.key]
    owner = next((x for x in owners if x.id == drive.layer), None)
    if owner is None:
        raise KeyError(drive.layer)
    if drive.key == TEXT:
        if not isinstance(owner, Layer) or not isinstance(owner.source, WordsSource):
            raise KeyError(drive.key)
        return _TEXT_SPEC
    owner.setting(drive.key)
    return owner.spec(drive.key)


def driven_label(owners: Owners, drive: Drive) -> str:
    """What is driven, in words."""
    spec = driven_spec(owners, drive)
    name = next((x.name for x in owners if x.id == drive.layer), "")
    address = Address(drive.key)
    for layer in owners:
        if not isinstance(layer, Layer) or layer.id != drive.layer:
            continue
        if address.effect:
            name = f"{name} · {layer.effect_use(address.effect).effect.label}"
        if address.mask:
            name = f"{name} · {layer.mask(address.mask).name}"
    return f"{name} · {spec.label}" if name else spec.label


def standing(dials: Sequence[Dial], owners: Owners) -> tuple[Dial, ...]:
    """The dials without what they can no longer drive; those that had only that are gone."""
    found = []
    for dial in dials:
        drives = tuple(drive for drive in dial.drives if _exists(owners, dial, drive))
        if len(drives) == len(dial.drives):
            found.append(dial)
        elif drives:
            found.append(replace(dial, drives=drives))
    return tuple(found)


def copied_drives(dials: Sequence[Dial], new_ids: Mapping[str, str]) -> tuple[Dial, ...]:
    """The dials, which drive copies of layers as they drive the originals."""
    found = []
    for dial in dials:
        more = tuple(
            replace(drive, layer=new_ids[drive.layer])
            for drive in dial.drives
            if drive.layer in new_ids
        )
        found.append(replace(dial, drives=(*dial.drives, *more)) if more else dial)
    return tuple(found)


def check_dials(dials: Sequence[Dial], owners: Owners) -> None:
    """Refuses dials that drive what there is not, or what another one sets.

    Raises:
        InputError: names the dial and the setting.
    """
    taken: dict[tuple[str, str], How] = {}
    for dial, drive in drivings(dials):
        try:
            spec = driven_spec(owners, drive)
        except KeyError:
            raise InputError(
                f"The dial '{dial.name}' drives '{drive.key}' of '{drive.layer}', which does not "
                "exist."
            ) from None
        place = (drive.layer, drive.key)
        before = taken.get(place)
        if before is not None and How.SET in (before, drive.how):
            raise InputError(
                f"{driven_label(owners, drive)} is set by a dial already; let both act by times or "
                "plus, or take it off one of them."
            )
        taken[place] = drive.how
        dial.check_drive(drive, _driven(owners, drive, spec))


def _exists(owners: Owners, dial: Dial, drive: Drive) -> bool:
    try:
        spec = driven_spec(owners, drive)
    except KeyError:
        return False
    return dial.can_drive(_driven(owners, drive, spec))


def _driven(owners: Owners, drive: Drive, spec: SettingSpec) -> DrivenSetting:
    setting = None
    if drive.layer != WRINKLE and drive.key != TEXT:
        setting = next(x for x in owners if x.id == drive.layer).setting(drive.key)
    return DrivenSetting(lambda: driven_label(owners, drive), spec, setting)
