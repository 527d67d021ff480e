"""A wrinkle with its dials turned: the settings that they drive have other values."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from typing import Any, NamedTuple

from msgspec.structs import replace

from wrinkle.core.design.document.dials import (
    LEAD,
    TAIL,
    TEXT,
    WRINKLE,
    Dial,
    DialValue,
    Drive,
    How,
)
from wrinkle.core.design.document.driven import WRINKLE_SETTINGS, AnyOwner
from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.resting import SIZES, rest_of
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.errors import InputError
from wrinkle.core.motion.departing import departing
from wrinkle.core.motion.values import parts

_FINEST_LENGTH = 10**6


class Driven(NamedTuple):
    """A wrinkle whose dials are turned; it has none any more.

    Attributes:
        wrinkle: the plain one.
        lead, tail: the lengths that the dials ask for, in seconds; it does not have them yet.
    """

    wrinkle: Wrinkle
    lead: Fraction
    tail: Fraction


def dial_of(wrinkle: Wrinkle, word: str) -> Dial:
    """The dial of that id, or of that name, whatever its letters' size.

    Raises:
        InputError: there is none; names those there are.
    """
    for dial in wrinkle.dials:
        if word == dial.id:
            return dial
    for dial in wrinkle.dials:
        if word.casefold() == dial.name.casefold():
            return dial
    names = ", ".join(f"'{dial.name}'" for dial in wrinkle.dials)
    raise InputError(f"{wrinkle.name} has no dial '{word}'; it has {names or 'none'}.")


def driven(wrinkle: Wrinkle, values: Mapping[str, DialValue]) -> Driven:
    """The wrinkle as its dials make it.

    Args:
        wrinkle: as it was designed.
        values: of dials by their id; the others are at their default, and change nothing.

    Raises:
        InputError: there is no such dial, or it cannot have that value.
    """
    turned = {dial_of(wrinkle, word).id: value for word, value in values.items()}
    if not wrinkle.dials:
        return Driven(wrinkle, wrinkle.lead, wrinkle.tail)
    owners = {owner.id: owner for owner in wrinkle.owners}
    whole: dict[str, float] = {}
    for dial in wrinkle.dials:
        value = dial.checked(turned[dial.id]) if dial.id in turned else dial.default
        if value == dial.default:
            continue
        for drive in dial.drives:
            if drive.layer == WRINKLE:
                own = whole.get(drive.key, float(getattr(wrinkle, drive.key)))
                whole[drive.key] = parts(dial.changed(drive, value, own))[0]
            else:
                owners[drive.layer] = _turned(owners[drive.layer], dial, drive, value)
    lengths = {key: whole.pop(key) for key in (LEAD, TAIL) if key in whole}
    fields: dict[str, Any] = {
        key: WRINKLE_SETTINGS[key].limited(value) for key, value in whole.items()
    }
    plain = wrinkle.with_owners(owners, dials=(), **fields)
    lead, tail = (
        Fraction(lengths[key]).limit_denominator(_FINEST_LENGTH) if key in lengths else own
        for key, own in ((LEAD, wrinkle.lead), (TAIL, wrinkle.tail))
    )
    return Driven(plain, lead, tail)


def _turned(owner: AnyOwner, dial: Dial, drive: Drive, value: Any) -> AnyOwner:
    if drive.key == TEXT and isinstance(owner, Layer):
        return replace(owner, source=replace(owner.source, text=dial.given(drive, value)))
    setting, spec = owner.setting(drive.key), owner.spec(drive.key)
    rest = None
    if drive.how is How.TIMES and isinstance(owner, Layer):
        rest = rest_of(owner, drive.key)
    if rest is None:
        return owner.with_setting(drive.key, dial.turned(drive, value, setting, spec))
    share = parts(dial.changed(drive, value, 1.0))[0]
    change = departing(rest, share, by_power=drive.key in SIZES)
    return owner.with_setting(drive.key, setting.mapped(lambda own: spec.limited(change(own))))
