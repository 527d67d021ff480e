"""Masks and mattes in the document."""

from __future__ import annotations

from collections.abc import Mapping
from enum import Enum
from fractions import Fraction
from typing import ClassVar

import msgspec

from wrinkle.core.design.document import limits
from wrinkle.core.design.document.setting import HasSettings, Setting, neutral
from wrinkle.core.design.document.setting_specs import MASK_SETTINGS
from wrinkle.core.design.document.sources import check_asset
from wrinkle.core.errors import InputError
from wrinkle.core.motion.direction import Direction
from wrinkle.core.motion.setting_spec import SettingSpec


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


class Mask(HasSettings, frozen=True):
    """One mask of a layer; it stands in the layer's own frame and moves with it.

    Attributes:
        id: unique within the layer.
        name: what the window calls it.
        shown: whether it acts at all.
        painted: coverage frame by frame, in the order of time, instead of the path (a cut-out).
        mirrored: what of it was exchanged since it was drawn: painted pictures are turned so, and
            edges drawn so that they are the mirror image to the last bit.
        confidence: where the path was followed: how sure each frame is, 0…1, by its time.
    """

    specs: ClassVar[Mapping[str, SettingSpec]] = MASK_SETTINGS

    id: str
    name: str
    shown: bool = True
    path: Setting = neutral(MASK_SETTINGS["path"])
    combine: Setting = neutral(MASK_SETTINGS["combine"])
    inverted: Setting = neutral(MASK_SETTINGS["inverted"])
    feather: Setting = neutral(MASK_SETTINGS["feather"])
    expansion: Setting = neutral(MASK_SETTINGS["expansion"])
    opacity: Setting = neutral(MASK_SETTINGS["opacity"])
    keeps_form: Setting = neutral(MASK_SETTINGS["keeps_form"])
    painted: tuple[PaintedFrame, ...] = ()
    mirrored: Direction = Direction.AS_MADE
    confidence: tuple[tuple[Fraction, float], ...] = ()

    def __post_init__(self) -> None:
        if not self.id or "." in self.id:
            raise InputError("A mask needs an id without dots.")
        super().__post_init__()
        limits.check_count(f"painted frames in '{self.name}'", self.painted, limits.MOST_PAINTED)
        limits.check_count(
            f"followed frames in '{self.name}'", self.confidence, limits.MOST_PAINTED
        )
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
