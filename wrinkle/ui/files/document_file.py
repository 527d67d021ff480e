"""The file of an open document: asking for one, opening, saving, earlier versions."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QInputDialog, QWidget

from wrinkle.core.errors import InputError
from wrinkle.library.versions import Version, versions
from wrinkle.ui.desk.desk import Desk
from wrinkle.ui.desk.document import Document
from wrinkle.ui.desk.editing import StepOrder
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.place import WorksOn
from wrinkle.ui.safekeeping.kept_row import day_and_time
from wrinkle.ui.safekeeping.versions_dialog import VersionsDialog
from wrinkle.ui.shared.asking_files import Asking, FileEnding
from wrinkle.ui.shared.plain_text import Buttons, ask


class DocumentFile(QObject):
    """What File and Edit do for a document, whatever it is.

    Attributes:
        document: which one.
        steps: its undo.

    Signals:
        changed: its name, its file, its steps or whether it is saved.
        comparisonWanted: an earlier version is to be seen beside what is open (Version).
    """

    changed = pyqtSignal()
    comparisonWanted = pyqtSignal(object)

    def __init__(
        self,
        document: Document[Any, Any],
        steps: StepOrder,
        asking: Asking,
        messages: Messages,
        parent: QWidget,
        compares: bool = False,
    ) -> None:
        super().__init__(parent)
        self.document = document
        self.steps = steps
        self._asking = asking
        self._messages = messages
        self._over = parent
        self._compares = compares
        document.historyChanged.connect(self.changed)

    @property
    def endings(self) -> tuple[FileEnding, ...]:
        """How its files end."""
        suffixes = self.document.kind.suffixes
        return tuple(FileEnding(x.suffix, x.label) for x in suffixes if x.saved)

    def save(self) -> bool:
        """Saves to its file, or asks for one; gives whether it was written."""
        path = self.document.path
        if path is None:
            return self.save_as()
        if self.document.changed_outside:
            answer = ask(
                self._over,
                "Changed by another program",
                f"{path.name} was written by another program since it was opened here.",
                Buttons.Save | Buttons.No | Buttons.Cancel,
                Buttons.No,
                {Buttons.Save: "Write over it", Buttons.No: "Save under another name"},
            )
            if answer != Buttons.Save:
                return answer == Buttons.No and self.save_as()
        return self._write(path)

    def _write(self, path: Path) -> bool:
        """Saves to a file; where something would be missing in it, if its owner puts up with it."""
        document = self.document
        lack = document.kind.lacks(path, document.committed, document.rest)
        answer = Buttons.Save
        if lack:
            answer = ask(
                self._over, "Something is missing", lack, Buttons.Save | Buttons.Cancel,
                Buttons.Cancel, {Buttons.Save: "Save without it"},
            )  # fmt: skip
        return answer == Buttons.Save and document.save(path)

    def save_as(self) -> bool:
        """Asks for a file and saves to it; gives whether it was written."""
        word = self.document.kind.word
        goal = self._asking.goal(
            self._over, f"Save the {word}", word, self.document.name, self.endings
        )
        return goal is not None and self._write(goal)

    def new(self) -> None:
        """An empty one, if this one may go."""
        if self.may_leave():
            self.document.start_new()

    def open(self, path: Path) -> bool:
        """Opens a file, if what is open may go; gives whether it is open."""
        return self.may_leave() and self.document.open(path)

    def may_leave(self) -> bool:
        """Whether it may go: saved, or given up by its owner."""
        if not self.document.unsaved:
            return True
        answer = ask(
            self._over,
            "Unsaved changes",
            f"{self.document.name} has changes that are not saved.",
            Buttons.Save | Buttons.Discard | Buttons.Cancel,
            Buttons.Save,
        )
        if answer == Buttons.Save:
            return self.save()
        return answer == Buttons.Discard

    def rename(self) -> None:
        """Asks for another name."""
        kind = self.document.kind
        name, taken = QInputDialog.getText(
            self._over, "Rename", f"Name of the {kind.word}", text=self.document.name
        )
        if taken:
            self.document.edit("name", lambda state: kind.renamed(state, name))

    def versions(self) -> None:
        """Lists the last saved versions of the file."""
        path = self.document.path
        found = versions(path) if path is not None else []
        name = path.name if path is not None else ""
        dialog = VersionsDialog(name, found, self._compares, self._over)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.wanted.connect(self._take_back)
        dialog.comparisonWanted.connect(self.comparisonWanted)
        dialog.open()

    def _take_back(self, version: Version) -> None:
        label = f"version of {day_and_time(version.when)}"
        try:
            found = self.document.kind.read(version.path)
            self.document.put_back(label, found.state, found.rest)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))


def files_of(desk: Desk, over: QWidget) -> dict[WorksOn, DocumentFile]:
    """Those of all documents of a desk."""
    asking, messages = desk.asking, desk.messages
    return {
        WorksOn.WRINKLE: DocumentFile(desk.document, desk.steps, asking, messages, over, True),
        WorksOn.PIECE: DocumentFile(desk.piece, desk.piece.steps, asking, messages, over),
    }
