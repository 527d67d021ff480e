"""From the Bench back to the piece, with what was changed of a cut."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.files.collection_copies import keep_copy
from wrinkle.ui.shared.plain_text import Buttons, ask


def take_back(desk: Desk, over: QWidget) -> bool:
    """Puts the open cut back; asks once what a changed wrinkle is. Gives whether it was done."""
    cut, answer = desk.open_cut, Buttons.Yes
    if cut.wrinkle_changed:
        answer = ask(
            over,
            "The wrinkle was changed",
            f"{desk.document.name} is another one now than on its cut.",
            Buttons.Yes | Buttons.Save | Buttons.No | Buttons.Cancel,
            Buttons.Yes,
            {
                Buttons.Yes: "For this cut alone",
                Buttons.Save: "Keep it in the Collection too",
                Buttons.No: "Give the change up",
            },
        )
    if answer == Buttons.Cancel:
        return False
    if answer == Buttons.Save:
        keep_copy(desk.document, desk.messages)
    cut.take_back(wrinkle_too=answer != Buttons.No)
    return True
