"""What checks find and a designer wants so: set aside, with the reason, and kept in the file."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec

from wrinkle.core.design.document.layer import Layer
from wrinkle.core.design.document.limits import MOST_CHARACTERS, check_count
from wrinkle.core.errors import InputError

About = tuple[str, str, str]
"""The key of a check, the id of a layer and the address of a setting; empty where it is of none."""


class SetAside(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One finding that does not count for this wrinkle.

    Attributes:
        check: the key of the check.
        reason: why it is wanted so.
        layer, address: what it is about; empty where no single layer or setting is the cause.

    Raises:
        InputError: there is no reason.
    """

    check: str
    reason: str
    layer: str = ""
    address: str = ""

    def __post_init__(self) -> None:
        if not self.reason.strip():
            raise InputError("Say why it is set aside: whoever uses the wrinkle reads it.")
        check_count("characters in a reason", self.reason, MOST_CHARACTERS)

    @property
    def about(self) -> About:
        """What it is about."""
        return self.check, self.layer, self.address


def still_aside(asides: Sequence[SetAside], layers: Sequence[Layer]) -> tuple[SetAside, ...]:
    """Those that are about layers that are there."""
    ids = {layer.id for layer in layers}
    return tuple(x for x in asides if not x.layer or x.layer in ids)
