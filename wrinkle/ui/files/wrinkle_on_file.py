"""The wrinkle on the Bench and its file."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QInputDialog, QWidget

from wrinkle import library
from wrinkle.core.design import wrinkle_edits
from wrinkle.core.design.archive import SUFFIX, read
from wrinkle.core.errors import InputError
from wrinkle.library.shelf import Shelves
from wrinkle.library.versions import Version, versions
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.editing import Steps
from wrinkle.ui.files.open_file import OpenFile
from wrinkle.ui.place import Action
from wrinkle.ui.preferences import Preferences
from wrinkle.ui.safekeeping.kept_row import day_and_time
from wrinkle.ui.safekeeping.versions_dialog import VersionsDialog

_FILTER = f"Wrinkles (*{SUFFIX})"


class WrinkleOnFile(OpenFile):
    """Opens and saves the wrinkle.

    Signals:
        comparisonWanted: an earlier version is to be seen beside the wrinkle (Version).
    """

    comparisonWanted = pyqtSignal(object)

    def __init__(self, desk: Desk, preferences: Preferences, parent: QWidget) -> None:
        super().__init__(parent)
        self._desk = desk
        self._document = desk.document
        self._preferences = preferences
        self._document.fileChanged.connect(self.changed)
        desk.tried.changed.connect(self.changed)

    @property
    def name(self) -> str:
        """Its name."""
        return self._document.wrinkle.name

    @property
    def unsaved(self) -> bool:
        """Whether it differs from its file."""
        return self._document.unsaved

    @property
    def steps(self) -> Steps:
        """The undo of the Bench."""
        return self._desk.steps

    def actions(self) -> Sequence[Action]:
        """The Collection, and earlier versions."""
        return [
            Action("file.keep", "Keep in the Collection", self.keep, "File", 20),
            Action("file.versions", "Earlier versions…", self.versions, "File", 20),
        ]

    def start_new(self) -> None:
        """A new wrinkle."""
        self._document.start_new()

    def ask_file(self) -> None:
        """Asks for a wrinkle file and opens it."""
        folder = self._preferences.folder or str(library.own_folder())
        name, _ = QFileDialog.getOpenFileName(self.window, "Open a wrinkle", folder, _FILTER)
        if name:
            self.open_file(Path(name))

    def open_file(self, path: Path) -> bool:
        """Opens a wrinkle file; on a fault what is open stays untouched."""
        if not self._document.open(path):
            return False
        self._preferences.folder = str(path.parent)
        return True

    def open_shipped(self, path: Path) -> None:
        """Opens a shipped wrinkle as a new document on the clips that are there."""
        if self.may_leave():
            self._document.open_copy(read(path))

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
        if not self._preferences.folder:
            # Where it cannot be made the person chooses another one.
            with suppress(OSError):
                folder.mkdir(parents=True, exist_ok=True)
        proposal = folder / f"{self.name}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(
            self.window, "Save the wrinkle", str(proposal), _FILTER
        )
        if not name:
            return False
        path = Path(name)
        path = path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)
        self._preferences.folder = str(path.parent)
        return self._document.save(path)

    def keep(self) -> None:
        """Saves the wrinkle in the Collection under its own name; it is open from there then."""
        try:
            path = Shelves().keep(self._document.bundle())
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        self._document.save(path)

    def keep_copy(self) -> None:
        """Puts a copy of the wrinkle in the Collection; what is open stays so."""
        try:
            Shelves().keep(self._document.bundle())
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))

    def versions(self) -> None:
        """Lists the last saved versions of the open file."""
        path = self._document.path
        found = versions(path) if path is not None else []
        dialog = VersionsDialog(path.name if path is not None else "", found, self.window)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self._take_back)
        dialog.comparisonWanted.connect(self.comparisonWanted)
        dialog.open()

    def _take_back(self, version: Version) -> None:
        try:
            self._document.put_back(f"version of {day_and_time(version.when)}", version.read())
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))

    def rename(self) -> None:
        """Asks for another name of the wrinkle."""
        name, taken = QInputDialog.getText(
            self.window, "Rename", "Name of the wrinkle", text=self.name
        )
        if taken:
            self._document.edit("name", lambda w: wrinkle_edits.rename(w, name))
