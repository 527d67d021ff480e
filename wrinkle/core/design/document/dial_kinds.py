"""The list of the kinds of dials, and which of them a setting or a file asks for."""

from __future__ import annotations

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
