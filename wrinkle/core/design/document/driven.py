"""What dials can drive, and how a driven setting finds its dials."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document.address import Address, Part
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
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.limits import LONGEST_HALF
from wrinkle.core.design.document.setting import Setting
from wrinkle.core.design.document.sources import WordsSource
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import SettingSpec, Unit
from wrinkle.core.motion.values import parts, same_kind

TEXT = Address.of(Part.SOURCE, "text")
"""The text of a layer of words, which is no setting; dials can drive it all the same."""
_TEXT_SPEC = SettingSpec("text", "Words", "What is written.", Unit.NONE, "", 0.0, 0.0, 1.0)


def _of_all(key: str, label: str, unit: Unit, low: float, high: float) -> SettingSpec:
    return SettingSpec(key, label, "Of the whole wrinkle.", unit, 0.0, low, high, 1.0)


LEAD, TAIL = "lead", "tail"
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


def driven_spec(layers: Sequence[Layer], drive: Drive) -> SettingSpec:
    """The declaration of what is driven.

    Raises:
        KeyError: there is no such setting.
    """
    if drive.layer == WRINKLE:
        return WRINKLE_SETTINGS[drive.key]
    layer = next((x for x in layers if x.id == drive.layer), None)
    if layer is None:
        raise KeyError(drive.layer)
    if drive.key == TEXT:
        if not isinstance(layer.source, WordsSource):
            raise KeyError(drive.key)
        return _TEXT_SPEC
    layer.setting(drive.key)
    return layer.spec(drive.key)


def driven_label(layers: Sequence[Layer], drive: Drive) -> str:
    """What is driven, in words."""
    spec = driven_spec(layers, drive)
    name = next((x.name for x in layers if x.id == drive.layer), "")
    address = Address(drive.key)
    for layer in layers:
        if layer.id == drive.layer and address.effect:
            name = f"{name} · {layer.effect_use(address.effect).effect.label}"
        if layer.id == drive.layer and address.mask:
            name = f"{name} · {layer.mask(address.mask).name}"
    return f"{name} · {spec.label}" if name else spec.label


def is_random(spec: SettingSpec, setting: Setting | None) -> bool:
    """Whether a setting is a seed, or has one in its jitter."""
    return spec.key == "seed" or (setting is not None and setting.jitter is not None)


def standing(dials: Sequence[Dial], layers: Sequence[Layer]) -> tuple[Dial, ...]:
    """The dials without what they can no longer drive; those that had only that are gone."""
    found = []
    for dial in dials:
        drives = tuple(drive for drive in dial.drives if _exists(layers, dial, drive))
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


def check_dials(dials: Sequence[Dial], layers: Sequence[Layer]) -> None:
    """Refuses dials that drive what there is not, or what another one sets.

    Raises:
        InputError: names the dial and the setting.
    """
    taken: dict[tuple[str, str], How] = {}
    for dial, drive in drivings(dials):
        try:
            spec = driven_spec(layers, drive)
        except KeyError:
            raise InputError(
                f"The dial '{dial.name}' drives '{drive.key}' of '{drive.layer}', which does not "
                "exist."
            ) from None
        place = (drive.layer, drive.key)
        before = taken.get(place)
        if before is not None and How.SET in (before, drive.how):
            raise InputError(
                f"{driven_label(layers, drive)} is set by a dial already; let both act by times or "
                "plus, or take it off one of them."
            )
        taken[place] = drive.how
        _CHECKS[type(dial)](dial, drive, spec, layers)


def _exists(layers: Sequence[Layer], dial: Dial, drive: Drive) -> bool:
    try:
        spec = driven_spec(layers, drive)
    except KeyError:
        return False
    return not isinstance(dial, SeedDial) or _has_seed(drive, spec, layers)


def _setting(layers: Sequence[Layer], drive: Drive) -> Setting | None:
    if drive.layer == WRINKLE or drive.key == TEXT:
        return None
    return next(x for x in layers if x.id == drive.layer).setting(drive.key)


def _check_still(dial: Dial, drive: Drive, layers: Sequence[Layer]) -> None:
    """What is set has one value, which the dial's default gives."""
    setting = _setting(layers, drive)
    if drive.how is How.SET and setting is not None and setting.animated:
        raise InputError(
            f"{driven_label(layers, drive)} is animated and cannot be set by the dial "
            f"'{dial.name}'; let the dial act by times or plus, or end the animation."
        )


def _check_numbers(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    _check_still(dial, drive, layers)
    if not spec.numeric:
        raise InputError(f"The dial '{dial.name}' needs a number to drive; {spec.label} is none.")
    for value in (drive.start, drive.end):
        if drive.how is How.SET:
            spec.checked(value)
        elif drive.how is How.TIMES and len(parts(value)) != 1:
            raise InputError(f"The dial '{dial.name}' multiplies {spec.label} by one number.")
        elif drive.how is How.PLUS and not same_kind(value, spec.neutral):
            raise InputError(f"The dial '{dial.name}' adds to {spec.label} what is of its kind.")
    if not isinstance(dial, AmountDial) or drive.how is not How.TIMES:
        return
    if parts(dial.given(drive, dial.default))[0] == 0.0:
        raise InputError(
            f"The dial '{dial.name}' gives 0 times {spec.label} at its default, so that the "
            "setting would be gone; give it another range."
        )


def _check_time(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    if drive.layer != WRINKLE or drive.key not in (LEAD, TAIL):
        raise InputError(f"The dial '{dial.name}' is a length: it can drive lead and tail.")
    _check_numbers(dial, drive, spec, layers)


def _check_options(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    _check_still(dial, drive, layers)
    for value in drive.values:
        if drive.key == TEXT:
            if not isinstance(value, str):
                raise InputError(f"The dial '{dial.name}' gives words for {spec.label}.")
        else:
            spec.checked(value)


def _check_colour(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    _check_still(dial, drive, layers)
    if len(parts(spec.neutral)) != 3:
        raise InputError(f"The dial '{dial.name}' is a colour; {spec.label} is none.")


def _check_words(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    if drive.key != TEXT:
        raise InputError(f"The dial '{dial.name}' has words; {spec.label} is no text.")


def _check_seed(dial: Dial, drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> None:
    if not _has_seed(drive, spec, layers):
        raise InputError(f"The dial '{dial.name}' is a seed; {spec.label} has none.")


def _has_seed(drive: Drive, spec: SettingSpec, layers: Sequence[Layer]) -> bool:
    return is_random(spec, _setting(layers, drive))


_Check = Callable[[Dial, Drive, SettingSpec, Sequence[Layer]], None]
_CHECKS: Mapping[type[Dial], _Check] = {
    AmountDial: _check_numbers,
    TimeDial: _check_time,
    ChoiceDial: _check_options,
    SwitchDial: _check_options,
    ColourDial: _check_colour,
    WordsDial: _check_words,
    SeedDial: _check_seed,
}
