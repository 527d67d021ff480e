"""The list of the kinds of dials, and which of them a setting or a file asks for."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from wrinkle.core.design.document.dials import Dial, DialKind, WantedDial
from wrinkle.core.design.document.named_dials import (
    ChoiceDial,
    ColourDial,
    SwitchDial,
    WordsDial,
    new_choice,
    new_colour,
    new_switch,
    new_words,
)
from wrinkle.core.design.document.ranged_dials import (
    AmountDial,
    SeedDial,
    TimeDial,
    new_amount,
    new_length,
    new_seed,
)
from wrinkle.core.design.document.tagged import struct_from
from wrinkle.core.errors import InputError
from wrinkle.core.motion.setting_spec import OutlineSpec
from wrinkle.core.registering import Registry

DIAL_KINDS: Registry[DialKind] = Registry(
    "kind of dial",
    (
        DialKind(AmountDial, new_amount),
        DialKind(ChoiceDial, new_choice),
        DialKind(ColourDial, new_colour),
        DialKind(WordsDial, new_words),
        DialKind(SwitchDial, new_switch),
        DialKind(SeedDial, new_seed),
        DialKind(TimeDial, new_length),
    ),
)
"""In the order in which they are asked for a setting, the last one first."""


def dial_for(wanted: WantedDial) -> Dial:
    """A new dial of the kind that fits a setting; the kind declared last is asked first.

    Raises:
        InputError: there is none; names the setting.
    """
    for kind in reversed(DIAL_KINDS.values()):
        dial = kind.offered(wanted)
        if dial is not None:
            return dial
    what = "an outline, which" if isinstance(wanted.spec, OutlineSpec) else "of a kind that"
    raise InputError(f"{wanted.spec.label} is {what} no dial can drive.")


def dial_from(raw: Any, from_json: Callable[[type, Any], Any]) -> Dial:
    """A dial from plain values, as they stand in a file.

    Args:
        raw: an object with its kind.
        from_json: reads what msgspec cannot by itself.

    Raises:
        ValueError: it is none, of no known kind, or not possible; says where.
    """
    kinds = {kind.key: kind.dial for kind in DIAL_KINDS.values()}
    return struct_from(raw, "a kind of dial", kinds, from_json)
