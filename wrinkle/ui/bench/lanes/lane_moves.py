"""What a drag in a lane, or what is typed of it, does to the wrinkle."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import lane_edits
from wrinkle.core.motion.easing import Bezier
from wrinkle.core.motion.values import Value


@dataclass(frozen=True)
class PinMove:
    """Where a drag puts a keyframe."""

    ref: SettingRef
    index: int
    time: Fraction
    value: Value

    def apply(self, wrinkle: Wrinkle) -> Wrinkle:
        """The edit that the drag stands for."""
        return lane_edits.move_key(wrinkle, self.ref, self.index, self.time, self.value)


@dataclass(frozen=True)
class EaseChange:
    """The ease that a drag of a handle makes."""

    ref: SettingRef
    index: int
    ease: Bezier

    def apply(self, wrinkle: Wrinkle) -> Wrinkle:
        """The edit that the drag stands for."""
        return lane_edits.set_ease(wrinkle, self.ref, self.index, self.ease)


@dataclass(frozen=True)
class PinsEdit:
    """What a drag does to several pins."""

    apply: Callable[[Wrinkle], Wrinkle]
