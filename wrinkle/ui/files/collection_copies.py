"""The open wrinkle and the Collection: kept there, opened from there."""

from __future__ import annotations

from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.library.shelf import Shelves
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.wrinkle_document import WrinkleDocument


def keep(document: WrinkleDocument, messages: Messages) -> Path | None:
    """Saves the wrinkle in the Collection under its own name; it is open from there then.

    Gives the file; None where it could not be written, which is told.
    """
    path = keep_copy(document, messages)
    if path is None or not document.save(path):
        return None
    messages.told.emit(f"{document.name} is in the Collection now; it can be put on every cut.")
    return path


def keep_copy(document: WrinkleDocument, messages: Messages) -> Path | None:
    """Puts a copy of the wrinkle in the Collection; what is open stays so."""
    try:
        return Shelves().keep(document.bundle())
    except InputError as fault:
        messages.faulted.emit(str(fault))
        return None
