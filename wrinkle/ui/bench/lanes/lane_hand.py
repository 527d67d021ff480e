"""The pins of a lane by keys: one is chosen, picked up, carried by frames and steps, put down."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import Protocol

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.edits.lane_edits import on_own_half
from wrinkle.core.motion.setting_spec import SettingSpec
from wrinkle.core.motion.track import CUT, Side
from wrinkle.core.motion.values import Value
from wrinkle.ui.bench.lanes.lane_geometry import LaneGeometry, Pin
from wrinkle.ui.bench.lanes.lane_moves import PinMove
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.shared.value_words import pin_words


class Lane(Protocol):
    """What of a lane is carried by keys."""

    @property
    def geometry_now(self) -> LaneGeometry | None:
        """What is where."""

    @property
    def pin(self) -> PinChoice | None:
        """The selected pin, of this lane or another."""

    @property
    def playhead(self) -> int:
        """The frame that is looked at."""

    def hold_range(self, held: bool) -> None:
        """The numbers at its head and foot stand still while something is carried."""


class LaneHand:
    """What keys do in a lane.

    Args:
        lane: in which.
        ref, spec: its setting.
        choose: selects a pin and moves the playhead to it.
        change: shows what is carried.
        put: makes it one step of this name.
        let_go: gives it up.
    """

    def __init__(
        self,
        lane: Lane,
        ref: SettingRef,
        spec: SettingSpec,
        choose: Callable[[PinChoice, int], object],
        change: Callable[[PinMove], object],
        put: Callable[[str], object],
        let_go: Callable[[], object],
    ) -> None:
        self._lane = lane
        self._ref = ref
        self._spec = spec
        self._choose = choose
        self._change = change
        self._put = put
        self._let_go = let_go
        self._taken: tuple[LaneGeometry, Pin] | None = None

    def choose(self, by: int) -> str:
        """Selects the next pin, or the one before, of the selected one or of the playhead."""
        geometry, pins = self._pins()
        if geometry is None or not pins:
            return ""
        chosen = self._chosen(pins)
        if chosen is not None:
            place = min(max(pins.index(chosen) + by, 0), len(pins) - 1)
        else:
            here = [n for n, pin in enumerate(pins) if self._frame(geometry, pin.time)
                    <= self._lane.playhead]  # fmt: skip
            place = here[-1] if here else 0
        return self._select(geometry, pins[place])

    def take(self) -> str:
        """Takes the selected pin, or the nearest one to the playhead."""
        geometry, pins = self._pins()
        if geometry is None or not pins:
            return ""
        here = self._lane.playhead
        pin = self._chosen(pins) or min(
            pins, key=lambda pin: abs(self._frame(geometry, pin.time) - here)
        )
        words = self._select(geometry, pin)
        self._lane.hold_range(True)
        self._taken = geometry, pin
        return words

    def carry(self, across: int, up: int) -> str:
        """By so many frames, on its side of the cut, and so many steps of the value."""
        if self._taken is None:
            return ""
        geometry, pin = self._taken
        time = pin.time + Fraction(across) / geometry.rate
        time = min(time, CUT) if pin.choice.side is Side.OUTGOING else max(time, CUT)
        value = self._spec.stepped(pin.value, up)
        own_time, own_value = on_own_half(geometry.setting, pin.choice.side, time, value)
        self._change(PinMove(self._ref, pin.choice.index, own_time, own_value))
        return self._words(geometry, time, value)

    def put(self) -> None:
        """One step."""
        self._end()
        self._put(f"pin of {self._spec.label.lower()}")

    def let_go(self) -> None:
        """No step."""
        self._end()
        self._let_go()

    def _end(self) -> None:
        self._taken = None
        self._lane.hold_range(False)

    def _pins(self) -> tuple[LaneGeometry | None, list[Pin]]:
        """One pin for each keyframe that is seen, in the order of time."""
        geometry = self._lane.geometry_now
        found = [pin for pin in geometry.pins() if pin.part == 0] if geometry is not None else []
        return geometry, sorted(found, key=lambda pin: pin.time)

    def _chosen(self, pins: list[Pin]) -> Pin | None:
        return next((pin for pin in pins if pin.choice == self._lane.pin), None)

    def _select(self, geometry: LaneGeometry, pin: Pin) -> str:
        self._choose(pin.choice, self._frame(geometry, pin.time))
        return self._words(geometry, pin.time, pin.value)

    def _words(self, geometry: LaneGeometry, time: Fraction, value: Value) -> str:
        return pin_words(self._spec, self._frame(geometry, time), value)

    def _frame(self, geometry: LaneGeometry, time: Fraction) -> int:
        return round(time * geometry.rate)
