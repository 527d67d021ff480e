"""Masks and mattes in the document."""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

import msgspec

from wrinkle.core.design.setting import Setting, check_settings
from wrinkle.core.design.settings import MASK_SETTINGS, MASKS
from wrinkle.core.design.sources import check_asset
from wrinkle.core.errors import InputError


def _neutral(key: str) -> Setting:
    return Setting(MASK_SETTINGS[key].neutral)


class PaintedFrame(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A coverage picture of a cut-out: from ``time`` until the next one.

    Attributes:
        time: in seconds from the cut.
        asset: the grey picture's name within the wrinkle's assets; it covers the frame.
    """

    time: Fraction
    asset: str

    def __post_init__(self) -> None:
        check_asset(self.asset)


class Mask(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """One mask of a layer; it stands in the layer's own frame and moves with it.

    Attributes:
        id: unique within the layer.
        name: what the window calls it.
        shown: whether it acts at all.
        painted: coverage frame by frame, in the order of time, instead of the path (a cut-out).
        confidence: where the path was followed: how sure each frame is, 0…1, by its time.
    """

    id: str
    name: str
    shown: bool = True
    path: Setting = _neutral("path")
    combine: Setting = _neutral("combine")
    inverted: Setting = _neutral("inverted")
    feather: Setting = _neutral("feather")
    expansion: Setting = _neutral("expansion")
    opacity: Setting = _neutral("opacity")
    painted: tuple[PaintedFrame, ...] = ()
    confidence: tuple[tuple[Fraction, float], ...] = ()

    def __post_init__(self) -> None:
        if not self.id or "." in self.id:
            raise InputError("A mask needs an id without dots.")
        check_settings(self, f"{MASKS}.{self.id}.")
        times = [frame.time for frame in self.painted]
        if times != sorted(set(times)):
            raise InputError(f"The painted frames of '{self.name}' must be in the order of time.")

    def painted_at(self, time: Fraction) -> str:
        """The asset that covers a time; before the first one the first."""
        past = [frame.asset for frame in self.painted if frame.time <= time]
        return past[-1] if past else self.painted[0].asset


class MatteBy(Enum):
    """What of the matte layer cuts."""

    BRIGHTNESS = "brightness"
    COVERAGE = "coverage"


class Matte(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """The layer is cut by another one, whether that one is itself shown or hidden.

    Attributes:
        layer: the id of the matte.
        by: its brightness (luma matte) or its coverage (alpha matte).
        inverted: what the matte does not have is shown.
    """

    layer: str
    by: MatteBy = MatteBy.BRIGHTNESS
    inverted: bool = False
