"""What the Edit menu does to the selected pins."""

from __future__ import annotations

from fractions import Fraction
from functools import reduce

from PyQt6.QtWidgets import QInputDialog, QWidget

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import keyframes
from wrinkle.core.design.edits.lane_edits import set_value, shown_key, shown_keys, step_key
from wrinkle.core.errors import InputError
from wrinkle.core.motion.formula import calculate
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Designing
from wrinkle.ui.shared.value_words import pin_words

NO_PINS = (
    "Select a pin first: {bench.next-pin} and {bench.previous-pin} go from pin to pin; "
    "or press one."
)
_NO_LANE = "Nothing of the layer moves yet: the wave beside a setting makes a lane of it."


class PinActions:
    """Each action is one undo step; what is not possible is told in the status line."""

    def __init__(self, desk: Designing, parent: QWidget) -> None:
        self._desk = desk
        self._parent = parent

    def set_here(self) -> None:
        """Sets a pin at the playhead in every lane of the selected layer."""
        desk = self._desk
        if not desk.looking.layer:
            return
        layer = desk.document.state.layer(desk.looking.layer)
        refs = [SettingRef(layer.id, key) for key in layer.lanes()]
        if desk.looking.pin is not None:
            refs = [desk.looking.pin.ref]
        if not refs:
            desk.messages.told.emit(_NO_LANE)
            return
        time = desk.looking.time

        def keyed(wrinkle: Wrinkle) -> Wrinkle:
            for ref in refs:
                wrinkle = set_value(wrinkle, ref, time, ref.of(wrinkle).at(time))
            return wrinkle

        desk.document.edit("pin here", keyed)

    def go_to(self, direction: int) -> None:
        """Selects the previous (-1) or next (1) pin of the selected layer, in its lane if it can.

        Where none is selected, one at the playhead is the first.
        """
        pins, looking = self._pins(), self._desk.looking
        here, chosen = looking.playhead, looking.pin
        at_first = chosen is None and here in pins
        there = [n for n in pins if (n - here) * direction > 0 or (at_first and n == here)]
        if there:
            frame = min(there, key=lambda n: abs(n - here))
            lane = chosen.ref if chosen is not None else None
            self._choose(frame, next((x for x in pins[frame] if x.ref == lane), pins[frame][0]))
        elif pins:
            end = "last" if direction > 0 else "first"
            self._desk.messages.told.emit(f"This is the {end} pin of the layer.")
        else:
            self._desk.messages.told.emit(_NO_LANE)

    def go_across(self, direction: int) -> None:
        """Selects the pin nearest to the playhead in the lane above (-1) or below (1)."""
        pins, looking = self._pins(), self._desk.looking
        found = {x.ref: n for n in pins for x in pins[n]}
        lanes = [ref for ref in self._lanes() if ref in found]
        if not lanes:
            self._desk.messages.told.emit(_NO_LANE)
            return
        lane = looking.pin.ref if looking.pin is not None else None
        place = lanes.index(lane) + direction if lane in lanes else 0
        wanted = lanes[min(max(place, 0), len(lanes) - 1)]
        near = min(
            ((n, x) for n in pins for x in pins[n] if x.ref == wanted),
            key=lambda one: abs(one[0] - looking.playhead),
        )
        self._choose(*near)

    def step(self, steps: int) -> None:
        """Raises the values of the selected pins by so many steps, or lowers them."""
        chosen = self._desk.looking.pins
        # A keyframe that is seen on both sides of the cut is one, and moves once.
        one_each = {(x.ref, x.index): x for x in sorted(chosen, key=lambda x: x.side.value)}

        def stepped(wrinkle: Wrinkle) -> Wrinkle:
            for pin in one_each.values():
                wrinkle = step_key(wrinkle, pin.ref, pin.index, pin.side, steps)
            return wrinkle

        if one_each:
            self._desk.document.edit("value of a pin", stepped)

    def _choose(self, frame: int, pin: PinChoice) -> None:
        """Looks at a pin, and says what it is."""
        looking, wrinkle = self._desk.looking, self._desk.document.state
        looking.set_playhead(frame)
        looking.select_pin(pin)
        setting, spec = pin.ref.of(wrinkle), pin.ref.spec(wrinkle)
        _, value = shown_key(setting, pin.index, pin.side)
        self._desk.messages.told.emit(pin_words(spec, frame, value))

    def _lanes(self) -> list[SettingRef]:
        """The lanes of the selected layer, from above."""
        layer = self._desk.looking.layer
        keys = self._desk.document.state.layer(layer).lanes() if layer else ()
        return [SettingRef(layer, key) for key in keys]

    def _pins(self) -> dict[int, list[PinChoice]]:
        """The pins of the selected layer by their frames."""
        wrinkle = self._desk.document.state
        found: dict[int, list[PinChoice]] = {}
        for ref in self._lanes():
            for index, side, time, _ in shown_keys(ref.of(wrinkle)):
                frame = wrinkle.frame_rate.nearest_frame(time)
                found.setdefault(frame, []).append(PinChoice(ref, index, side))
        return found

    def select_all(self) -> None:
        """Selects every pin of the selected layer."""
        found = [pin for pins in self._pins().values() for pin in pins]
        self._desk.looking.select_pins(frozenset(found))

    def nudge(self, frames: int) -> None:
        """Moves the selected pins by whole frames."""
        by = self._desk.document.state.frame_rate.seconds(frames)
        chosen = self._desk.looking.chosen
        if chosen:
            self._desk.document.edit("pins nudged", lambda w: keyframes.shift(w, chosen, by))

    def reverse(self) -> None:
        """Runs the selected pins backwards."""
        chosen = self._desk.looking.chosen
        if chosen:
            self._desk.document.edit("pins reversed", lambda w: keyframes.reverse(w, chosen))

    def swap_sides(self) -> None:
        """Mirrors the lanes of the selected pins about the cut."""
        refs = list(self._desk.looking.chosen)
        if refs:
            self._desk.document.edit(
                "sides swapped", lambda w: reduce(keyframes.swap_sides, refs, w)
            )

    def scale_time(self) -> None:
        """Asks for a factor and scales the distance of the pins from the cut."""
        chosen = self._desk.looking.chosen
        factor = self._factor("Distance from the cut, in per cent") if chosen else None
        if factor is not None:
            exact = Fraction(factor).limit_denominator(10**6)
            self._desk.document.edit(
                "pins scaled", lambda w: keyframes.scale_time(w, chosen, exact)
            )

    def scale_value(self) -> None:
        """Asks for a factor and scales the distance of the values from rest."""
        chosen = self._desk.looking.chosen
        factor = self._factor("Distance from rest, in per cent") if chosen else None
        if factor is not None:
            self._desk.document.edit(
                "values scaled", lambda w: keyframes.scale_value(w, chosen, factor)
            )

    def _factor(self, question: str) -> float | None:
        text, taken = QInputDialog.getText(self._parent, "Scale the pins", question, text="100")
        if not taken:
            return None
        try:
            return calculate(text.replace("%", "")) / 100.0
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return None


def remove_pins(desk: Designing) -> None:
    """Takes the selected pins out."""
    chosen = desk.looking.chosen
    if chosen:
        desk.document.edit("pins removed", lambda w: keyframes.remove(w, chosen))
