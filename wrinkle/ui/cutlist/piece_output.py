"""What goes out of the piece: a video, a timeline in which dressed cuts are clips, an edit list."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.film import Film
from wrinkle.files.presence import is_there
from wrinkle.files.targets import spare
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.media.pieces import paths_of
from wrinkle.timeline.piece_file import EDIT_LIST, SUFFIX
from wrinkle.ui.cutlist.writing_dialog import WritingDialog
from wrinkle.ui.desk.parts import Piecing
from wrinkle.ui.shared.asking_files import MP4, FileEnding, may_replace
from wrinkle.ui.shared.plain_text import Buttons, ask

Write = Callable[[Film, Path, Job], str]
"""Writes a film to a file; gives what was written, in words."""


class PieceOutput(QObject):
    """Asks for a file, and writes it in the background.

    Signals:
        begun: something is being written.
    """

    begun = pyqtSignal()

    def __init__(self, desk: Piecing, over: QWidget) -> None:
        super().__init__(over)
        self._desk = desk
        self._document = desk.piece
        self._over = over

    def ask_video_goal(self) -> None:
        """Asks for a file and renders the piece into it."""
        self._ask_goal("Render the piece", "video", MP4, self.render)

    def ask_flat_goal(self) -> None:
        """Asks for a timeline in which every dressed window is a rendered clip of its own."""
        self._ask_goal("Flatten the piece", "piece", FileEnding(SUFFIX, "Timeline"), self.flatten)

    def ask_edit_list_goal(self) -> None:
        """Asks for a file and writes the piece as an edit list; says what it does not hold."""
        from wrinkle.timeline.edit_list import write_edit_list

        piece = self._document.state
        ending = FileEnding(EDIT_LIST, "Edit list")
        path = self._desk.asking.goal(self._over, "Write an edit list", "piece", piece.title,
                                      (ending,))  # fmt: skip
        if path is None:
            return
        try:
            unsaid = write_edit_list(path, piece)
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return
        self._desk.messages.told.emit(" ".join((f"{path.name} is written.", *unsaid)))

    def _ask_goal(self, title: str, kind: str, ending: FileEnding, write: Write) -> None:
        piece = self._document.state
        if not piece.clips:
            self._desk.messages.faulted.emit("There is nothing to write yet; add clips first.")
            return
        path = self._desk.asking.goal(self._over, title, kind, piece.title, (ending,))
        if path is not None and self._may_lack(path):
            self.write(path, write)

    def _may_lack(self, path: Path) -> bool:
        """Whether all files of the piece are there, or the person puts up with the gaps."""
        from wrinkle.timeline.files import check_files

        try:
            check_files(path, self._document.state, self._document.rest)
        except InputError as fault:
            answer = ask(
                self._over, "Files are missing", str(fault), Buttons.Save | Buttons.Cancel,
                Buttons.Cancel, {Buttons.Save: "Write it with dark clips"},
            )  # fmt: skip
            return answer == Buttons.Save
        return True

    def write(self, path: Path, write: Write) -> WritingDialog | None:
        """Writes the piece in the background; its own files are not written over."""
        from wrinkle.timeline.flattening import windows_folder

        try:
            spare(path, paths_of(self._document.state))
        except InputError as fault:
            self._desk.messages.faulted.emit(str(fault))
            return None
        folder = windows_folder(path)
        flat = write == self.flatten
        if flat and is_there(folder) and not may_replace(self._over, folder):
            return None
        self.begun.emit()
        piece = self._document.state
        film = self._document.media.film(piece, piece.size, Quality.FINAL)
        desk = self._desk
        dialog = WritingDialog(
            path, lambda goal, job: write(film, goal, job), desk.workers, desk.messages, self._over
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.show()
        return dialog

    def render(self, film: Film, path: Path, job: Job) -> str:
        """As one video."""
        return f"{write_film(path, film, self._desk.workers.jobs, job)} frames"

    def flatten(self, film: Film, path: Path, job: Job) -> str:
        """As a timeline of rendered clips."""
        from wrinkle.timeline.flattening import write_flattened

        # Whether what lies there may be replaced was asked before.
        count = write_flattened(path, film, self._desk.workers.jobs, job, overwrite=True)
        return f"{count} windows rendered"
