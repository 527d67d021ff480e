"""Asking for files: one way for all dialogs, which remember for each kind the folder used last."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path

from PyQt6.QtCore import QObject, QStandardPaths, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from wrinkle.core.errors import InputError
from wrinkle.files.presence import is_folder, is_there
from wrinkle.files.targets import free_path, spare
from wrinkle.ui.shared.plain_text import Buttons, ask

_PLACES = {
    "clip": QStandardPaths.StandardLocation.MoviesLocation,
    "video": QStandardPaths.StandardLocation.MoviesLocation,
    "picture": QStandardPaths.StandardLocation.PicturesLocation,
}
"""Where files of a kind are looked for first; all others in the person's documents."""


@dataclass(frozen=True)
class FileEnding:
    """A way in which a written file can end.

    Attributes:
        suffix: with its dot.
        label: what the dialog calls such files.
    """

    suffix: str
    label: str

    @property
    def filter(self) -> str:
        """As Qt wants it."""
        return f"{self.label} (*{self.suffix})"


MP4 = FileEnding(".mp4", "MP4 video")


class Asking(QObject):
    """Asks, over a widget, with a title, for files of a kind: wrinkle, piece, clip, picture, …

    Attributes:
        footage: gives the files that are open and must not be written over.

    Signals:
        remembered: another folder was used: the kind, and the folder.
    """

    remembered = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._folders: dict[str, str] = {}
        self.footage: Callable[[], Iterable[Path]] = tuple

    def remember(self, kind: str, folder: str) -> None:
        """Begins in a folder when a file of a kind is asked for next."""
        if folder and self._folders.get(kind) != folder:
            self._folders[kind] = folder
            self.remembered.emit(kind, folder)

    def folder_of(self, kind: str) -> str:
        """Where files of a kind are looked for: where they were last, or where one has them."""
        found = self._folders.get(kind, "")
        if found and is_folder(Path(found)):
            return found
        place = _PLACES.get(kind, QStandardPaths.StandardLocation.DocumentsLocation)
        usual = QStandardPaths.writableLocation(place)
        return usual if is_folder(Path(usual)) else str(Path.home())

    def file(self, over: QWidget, title: str, kind: str, filters: str) -> Path | None:
        """A file that is there; None where nobody chose one."""
        name, _ = QFileDialog.getOpenFileName(over, title, self.folder_of(kind), filters)
        return self._noted(kind, Path(name)) if name else None

    def files(self, over: QWidget, title: str, kind: str, filters: str) -> list[Path]:
        """Files that are there; empty where nobody chose any."""
        names, _ = QFileDialog.getOpenFileNames(over, title, self.folder_of(kind), filters)
        return [self._noted(kind, Path(name)) for name in names]

    def folder(self, over: QWidget, title: str, kind: str) -> Path | None:
        """A folder that is there; None where nobody chose one."""
        name = QFileDialog.getExistingDirectory(over, title, self.folder_of(kind))
        if name:
            self.remember(kind, name)
        return Path(name) if name else None

    def goal(
        self,
        over: QWidget,
        title: str,
        kind: str,
        name: str,
        endings: Sequence[FileEnding],
        read: Iterable[Path] = (),
        free: bool = False,
    ) -> Path | None:
        """A file to write to; what is there already is only given where the person agreed.

        Args:
            over, title, kind: as for the others.
            name: what is proposed, with or without an ending.
            endings: those that there are; a name with none of them gets the chosen one.
            read: what is read for it, besides the footage.
            free: whether a name is proposed that nothing has yet.
        """
        proposal = Path(self.folder_of(kind)) / _with_ending(_as_name(name), endings[0], endings)
        filters = ";;".join(x.filter for x in endings)
        if free:
            proposal = free_path(proposal)
        found, chosen = QFileDialog.getSaveFileName(over, title, str(proposal), filters)
        if not found:
            return None
        typed = Path(found)
        ending = next((x for x in endings if x.filter == chosen), endings[0])
        goal = typed.with_name(_with_ending(typed.name, ending, endings))
        # The dialog has asked about the name that was typed, and not about this one.
        if goal != typed and is_there(goal) and not may_replace(over, goal):
            return None
        try:
            spare(goal, [*self.footage(), *read])
        except InputError as fault:
            ask(over, "This file is in use", str(fault), Buttons.Ok, Buttons.Ok)
            return None
        return self._noted(kind, goal)

    def _noted(self, kind: str, path: Path) -> Path:
        self.remember(kind, str(path.parent))
        return path


def _as_name(name: str) -> str:
    """A name that a file can have: what is a folder's, or none at all, is not."""
    return name.replace("/", "-").replace("\0", "").strip().lstrip(".") or "untitled"


def _with_ending(name: str, ending: FileEnding, endings: Sequence[FileEnding]) -> str:
    if any(name.lower().endswith(x.suffix) for x in endings):
        return name
    return name + ending.suffix


def may_replace(over: QWidget, goal: Path) -> bool:
    """Whether the person agrees that what is there gives way."""
    answer = ask(
        over,
        "Replace the file",
        f"{goal.name} is there already.",
        Buttons.Save | Buttons.Cancel,
        Buttons.Cancel,
        {Buttons.Save: "Replace it"},
    )
    return answer == Buttons.Save
