"""What goes out of the piece: a video, or a timeline in which each dressed cut is a clip."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from wrinkle.core.jobs import Job
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.film import Film
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.media.pieces import media_of
from wrinkle.timeline.piece_file import SUFFIX
from wrinkle.ui.cutlist.writing_dialog import WritingDialog
from wrinkle.ui.desk.parts import Piecing
from wrinkle.ui.shared.asking_files import MP4, FileEnding

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

    def _ask_goal(self, title: str, kind: str, ending: FileEnding, write: Write) -> None:
        piece = self._document.state
        if not piece.clips:
            self._desk.messages.faulted.emit("There is nothing to write yet; add clips first.")
            return
        path = self._desk.asking.goal(self._over, title, kind, piece.title, (ending,))
        if path is not None:
            self.write(path, write)

    def write(self, path: Path, write: Write) -> WritingDialog | None:
        """Writes the piece in the background; its own files are not written over."""
        if any(Path(x.path) == path.absolute() for x in media_of(self._document.state)):
            self._desk.messages.faulted.emit(
                f"{path.name} is one of the clips of the piece; name another file."
            )
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

        return f"{write_flattened(path, film, self._desk.workers.jobs, job)} windows rendered"
