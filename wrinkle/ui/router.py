"""Passes on what one part of the window asks of another: to the place that takes it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.ui.files.document_file import DocumentFile
from wrinkle.ui.place import PieceWanted, Place, PlaceKind, Wanted, WorksOn, WrinkleWanted

_OPENED_BY: Mapping[WorksOn, Callable[[Path], Wanted]] = {
    WorksOn.WRINKLE: WrinkleWanted,
    WorksOn.PIECE: PieceWanted,
}


class Router(QObject):
    """Knows who takes what.

    Signals:
        placeWanted: the key of the place that has taken something, and is to be shown.
        refused: why something could not be passed on.
    """

    placeWanted = pyqtSignal(str)
    refused = pyqtSignal(str)

    def __init__(self, files: Mapping[WorksOn, DocumentFile]) -> None:
        super().__init__()
        self._files = files
        self._takers: dict[type[Wanted], tuple[str, Callable[[Any], object]]] = {}

    def add_place(self, key: str, kind: PlaceKind, made: Callable[[], Place]) -> None:
        """Passes on to a place what it takes; it is made by then."""
        for one in kind.takes:
            self.add(one, lambda wanted: made().takes()[type(wanted)](wanted), key)

    def add(self, kind: type[Wanted], act: Callable[[Any], object], place: str = "") -> None:
        """From now on something is done for a kind of request.

        Args:
            kind: of the request.
            act: does it; ``False`` says that it could not be done.
            place: the one that is shown then; empty for none.

        Raises:
            ValueError: somebody else does it already.
        """
        if kind in self._takers:
            raise ValueError(f"{kind.__name__} is taken twice")
        self._takers[kind] = place, act

    def pass_on(self, wanted: Wanted) -> bool:
        """Lets what is wanted be done; gives whether it was."""
        if wanted.replaces is not None and not self._files[wanted.replaces].may_leave():
            return False
        place, act = self._takers[type(wanted)]
        if act(wanted) is False:
            return False
        if place:
            self.placeWanted.emit(place)
        return True

    def opens(self, path: Path) -> bool:
        """Whether a file is a document of any kind, by its ending; what ships is one too."""
        return any(file.document.kind.takes(path) for file in self._files.values())

    def open(self, path: Path) -> bool:
        """Opens a file of any kind of document, and goes to its place; gives whether it is open."""
        for works_on, file in self._files.items():
            if file.document.kind.takes(path):
                return self.pass_on(_OPENED_BY[works_on](path))
        endings = ", ".join(
            suffix.suffix for file in self._files.values() for suffix in file.document.kind.suffixes
        )
        self.refused.emit(f"{path.name} is no document of Wrinkle; those end in {endings}.")
        return False
