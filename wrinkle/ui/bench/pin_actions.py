"""What the Edit menu does to the selected pins."""

from __future__ import annotations

from fractions import Fraction
from functools import reduce

from PyQt6.QtWidgets import QInputDialog, QWidget

from wrinkle.core.design import pins
from wrinkle.core.design.lane_edits import shown_keys
from wrinkle.core.design.setting_ref import SettingRef
from wrinkle.core.errors import InputError
from wrinkle.core.motion.formula import calculate
from wrinkle.ui.session import PinChoice, Session


class PinActions:
    """Each action is one undo step; what is not possible is told in the status line."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self._session = session
        self._parent = parent

    def select_all(self) -> None:
        """Selects every pin of the selected layer."""
        session = self._session
        if not session.layer:
            return
        layer = session.wrinkle.layer(session.layer)
        found = [
            PinChoice(SettingRef(layer.id, key), index, side)
            for key in layer.lanes()
            for index, side, _, _ in shown_keys(layer.setting(key))
        ]
        session.select_pins(frozenset(found))

    def nudge(self, frames: int) -> None:
        """Moves the selected pins by whole frames."""
        by = self._session.wrinkle.frame_rate.seconds(frames)
        chosen = self._session.chosen
        if self._any(chosen):
            self._session.edit("pins nudged", lambda w: pins.shift(w, chosen, by))

    def reverse(self) -> None:
        """Runs the selected pins backwards."""
        chosen = self._session.chosen
        if self._any(chosen):
            self._session.edit("pins reversed", lambda w: pins.reverse(w, chosen))

    def swap_sides(self) -> None:
        """Mirrors the lanes of the selected pins about the cut."""
        refs = list(self._session.chosen)
        if self._any(self._session.chosen):
            self._session.edit("sides swapped", lambda w: reduce(pins.swap_sides, refs, w))

    def scale_time(self) -> None:
        """Asks for a factor and scales the distance of the pins from the cut."""
        chosen = self._session.chosen
        factor = self._factor("Distance from the cut, in per cent") if self._any(chosen) else None
        if factor is not None:
            exact = Fraction(factor).limit_denominator(10**6)
            self._session.edit("pins scaled", lambda w: pins.scale_time(w, chosen, exact))

    def scale_value(self) -> None:
        """Asks for a factor and scales the distance of the values from rest."""
        chosen = self._session.chosen
        factor = self._factor("Distance from rest, in per cent") if self._any(chosen) else None
        if factor is not None:
            self._session.edit("values scaled", lambda w: pins.scale_value(w, chosen, factor))

    def _any(self, chosen: pins.Chosen) -> bool:
        if not chosen:
            self._session.faulted.emit("Select some pins first: press one, or draw a band.")
        return bool(chosen)

    def _factor(self, question: str) -> float | None:
        text, taken = QInputDialog.getText(self._parent, "Scale the pins", question, text="100")
        if not taken:
            return None
        try:
            return calculate(text.replace("%", "")) / 100.0
        except InputError as fault:
            self._session.faulted.emit(str(fault))
            return None
