"""What the Edit menu does to the selected pins."""

from __future__ import annotations

from fractions import Fraction
from functools import reduce

from PyQt6.QtWidgets import QInputDialog, QWidget

from wrinkle.core.design.document.setting_ref import SettingRef
from wrinkle.core.design.document.wrinkle import Wrinkle
from wrinkle.core.design.edits import keyframes
from wrinkle.core.design.edits.lane_edits import set_value, shown_keys
from wrinkle.core.errors import InputError
from wrinkle.core.motion.formula import calculate
from wrinkle.ui.desk.looking import PinChoice
from wrinkle.ui.desk.parts import Designing


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
            words = "Press the thread button beside a setting first: it has no lane yet."
            desk.messages.told.emit(words)
            return
        time = desk.looking.time

        def keyed(wrinkle: Wrinkle) -> Wrinkle:
            for ref in refs:
                wrinkle = set_value(wrinkle, ref, time, ref.of(wrinkle).at(time))
            return wrinkle

        desk.document.edit("pin here", keyed)

    def go_to(self, direction: int) -> None:
        """Moves the playhead to the previous (-1) or next (1) pin of the selected layer."""
        desk = self._desk
        if not desk.looking.layer:
            return
        layer = desk.document.state.layer(desk.looking.layer)
        rate = desk.document.state.frame_rate
        frames = {
            rate.nearest_frame(time)
            for key in layer.lanes()
            for _, _, time, _ in shown_keys(layer.setting(key))
        }
        here = desk.looking.playhead
        beyond = [n for n in frames if (n - here) * direction > 0]
        if beyond:
            desk.looking.set_playhead(min(beyond, key=lambda n: abs(n - here)))

    def select_all(self) -> None:
        """Selects every pin of the selected layer."""
        desk = self._desk
        if not desk.looking.layer:
            return
        layer = desk.document.state.layer(desk.looking.layer)
        found = [
            PinChoice(SettingRef(layer.id, key), index, side)
            for key in layer.lanes()
            for index, side, _, _ in shown_keys(layer.setting(key))
        ]
        desk.looking.select_pins(frozenset(found))

    def nudge(self, frames: int) -> None:
        """Moves the selected pins by whole frames."""
        by = self._desk.document.state.frame_rate.seconds(frames)
        chosen = self._desk.looking.chosen
        if self._any(chosen):
            self._desk.document.edit("pins nudged", lambda w: keyframes.shift(w, chosen, by))

    def reverse(self) -> None:
        """Runs the selected pins backwards."""
        chosen = self._desk.looking.chosen
        if self._any(chosen):
            self._desk.document.edit("pins reversed", lambda w: keyframes.reverse(w, chosen))

    def swap_sides(self) -> None:
        """Mirrors the lanes of the selected pins about the cut."""
        refs = list(self._desk.looking.chosen)
        if self._any(self._desk.looking.chosen):
            self._desk.document.edit(
                "sides swapped", lambda w: reduce(keyframes.swap_sides, refs, w)
            )

    def scale_time(self) -> None:
        """Asks for a factor and scales the distance of the pins from the cut."""
        chosen = self._desk.looking.chosen
        factor = self._factor("Distance from the cut, in per cent") if self._any(chosen) else None
        if factor is not None:
            exact = Fraction(factor).limit_denominator(10**6)
            self._desk.document.edit(
                "pins scaled", lambda w: keyframes.scale_time(w, chosen, exact)
            )

    def scale_value(self) -> None:
        """Asks for a factor and scales the distance of the values from rest."""
        chosen = self._desk.looking.chosen
        factor = self._factor("Distance from rest, in per cent") if self._any(chosen) else None
        if factor is not None:
            self._desk.document.edit(
                "values scaled", lambda w: keyframes.scale_value(w, chosen, factor)
            )

    def _any(self, chosen: keyframes.Chosen) -> bool:
        if not chosen:
            self._desk.messages.faulted.emit("Select some pins first: press one, or draw a band.")
        return bool(chosen)

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
