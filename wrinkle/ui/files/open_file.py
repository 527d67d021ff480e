"""What the window asks of a document that is open in it, whatever it is."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from wrinkle.ui.desk.editing import Steps
from wrinkle.ui.place import Action
from wrinkle.ui.shared.plain_text import Buttons, ask


class OpenFile(QObject):
    """A document with its file, its undo and its questions.

    Args:
        parent: over which questions stand.

    Signals:
        changed: its name, its file, its steps or whether it is saved.
    """

    changed = pyqtSignal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.window = parent

    @property
    @abstractmethod
    def name(self) -> str:
        """What it is called."""

    @property
    @abstractmethod
    def unsaved(self) -> bool:
        """Whether it differs from its file."""

    @property
    @abstractmethod
    def steps(self) -> Steps:
        """Its undo."""

    @abstractmethod
    def start_new(self) -> None:
        """An empty one takes its place."""

    @abstractmethod
    def ask_file(self) -> None:
        """Asks for a file and opens it."""

    @abstractmethod
    def open_file(self, path: Path) -> bool:
        """Opens a file; on a fault what is open stays untouched."""

    @property
    @abstractmethod
    def path(self) -> Path | None:
        """Its file, if there is one yet."""

    @property
    @abstractmethod
    def changed_outside(self) -> bool:
        """Whether another program has written the file since it was opened or saved."""

    @abstractmethod
    def save_to(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written."""

    @abstractmethod
    def save_as(self) -> bool:
        """Asks for a file and saves to it; gives whether it was written."""

    @abstractmethod
    def rename(self) -> None:
        """Asks for another name."""

    def actions(self) -> Sequence[Action]:
        """What can be done with it besides."""
        return ()

    def save(self) -> bool:
        """Saves to its file, or asks for one; gives whether it was written."""
        path = self.path
        if path is None:
            return self.save_as()
        if self.changed_outside:
            answer = ask(
                self.window,
                "Changed by another program",
                f"{path.name} was written by another program since it was opened here.",
                Buttons.Save | Buttons.No | Buttons.Cancel,
                Buttons.No,
                {Buttons.Save: "Write over it", Buttons.No: "Save under another name"},
            )
            if answer != Buttons.Save:
                return answer == Buttons.No and self.save_as()
        return self.save_to(path)

    def new(self) -> None:
        """An empty one, if this one may go."""
        if self.may_leave():
            self.start_new()

    def open(self) -> None:
        """Asks for a file, if this one may go."""
        if self.may_leave():
            self.ask_file()

    def may_leave(self) -> bool:
        """Whether it may go: saved, or given up by its owner."""
        if not self.unsaved:
            return True
        answer = ask(
            self.window,
            "Unsaved changes",
            f"{self.name} has changes that are not saved.",
            Buttons.Save | Buttons.Discard | Buttons.Cancel,
            Buttons.Save,
        )
        if answer == Buttons.Save:
            return self.save()
        return answer == Buttons.Discard
