"""The piece and its timeline file."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QWidget

from wrinkle import library
from wrinkle.timeline.piece_file import BUNDLED, SUFFIX, SUFFIXES
from wrinkle.ui.desk.editing import Steps
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.files.open_file import OpenFile
from wrinkle.ui.preferences import Preferences

_FILTER = f"Timelines (*{SUFFIX} *{BUNDLED})"
_SAVED = f"Timeline (*{SUFFIX});;Timeline with its media (*{BUNDLED})"


class PieceOnFile(OpenFile):
    """Opens and saves the piece."""

    def __init__(self, document: PieceDocument, preferences: Preferences, parent: QWidget) -> None:
        super().__init__(parent)
        self._document = document
        self._preferences = preferences
        document.fileChanged.connect(self.changed)
        document.set_still(preferences.still)
        document.stillChanged.connect(self._keep_still)

    @property
    def name(self) -> str:
        """Its title."""
        return self._document.piece.title

    @property
    def unsaved(self) -> bool:
        """Whether it differs from its file."""
        return self._document.unsaved

    @property
    def steps(self) -> Steps:
        """Its undo."""
        return self._document.steps

    def start_new(self) -> None:
        """An empty piece."""
        self._document.start_new()

    def ask_file(self) -> None:
        """Asks for a timeline and opens it."""
        name, _ = QFileDialog.getOpenFileName(
            self.window, "Open a timeline", self._preferences.folder, _FILTER
        )
        if name:
            self.open_file(Path(name))

    def open_file(self, path: Path) -> bool:
        """Opens a timeline; on a fault what is open stays untouched."""
        if not self._document.open(path):
            return False
        self._preferences.folder = str(path.parent)
        return True

    @property
    def path(self) -> Path | None:
        """Its file, if there is one yet."""
        return self._document.path

    @property
    def changed_outside(self) -> bool:
        """Whether another program has written the file since it was opened or saved."""
        return self._document.changed_outside

    def save_to(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written."""
        return self._document.save(path)

    def save_as(self) -> bool:
        """Asks for a file and saves to it."""
        folder = Path(self._preferences.folder or library.own_folder())
        proposal = folder / f"{self.name}{SUFFIX}"
        name, kind = QFileDialog.getSaveFileName(
            self.window, "Save the piece", str(proposal), _SAVED
        )
        if not name:
            return False
        path = Path(name)
        if path.suffix.lower() not in SUFFIXES:
            path = path.with_name(path.name + (BUNDLED if BUNDLED in kind else SUFFIX))
        self._preferences.folder = str(path.parent)
        return self._document.save(path)

    def _keep_still(self) -> None:
        self._preferences.still = self._document.still

    def rename(self) -> None:
        """Asks for another title."""
        title, taken = QInputDialog.getText(
            self.window, "Rename", "Title of the piece", text=self.name
        )
        if taken:
            self._document.edit("title", lambda piece: replace(piece, title=title.strip()))
