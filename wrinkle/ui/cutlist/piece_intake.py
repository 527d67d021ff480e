"""What comes into the piece: clips, finished videos, files that were missing, another frame."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import QWidget

from wrinkle.media.clip import Clip
from wrinkle.media.fillings import SOUNDS
from wrinkle.timeline.piece_file import EDIT_LIST, SUFFIXES
from wrinkle.ui.cutlist.cuts_dialog import CutsDialog
from wrinkle.ui.cutlist.frame_dialog import FrameDialog
from wrinkle.ui.cutlist.piece_looking import PieceLooking
from wrinkle.ui.desk.parts import Piecing
from wrinkle.ui.pictures.clip_pictures import ClipPictures
from wrinkle.ui.shared.drops import CLIP_FILTER, PICTURE_AND_CLIP_FILTER


class PieceIntake(QObject):
    """Asks for files, and takes them in.

    Signals:
        timelineWanted: a timeline was among them, which is opened instead (Path).
        musicDropped: a file of sound was among them (Path).
    """

    timelineWanted = pyqtSignal(object)
    musicDropped = pyqtSignal(object)

    def __init__(
        self, desk: Piecing, looking: PieceLooking, clip_pictures: ClipPictures, over: QWidget
    ) -> None:
        super().__init__(over)
        self._desk = desk
        self._document = desk.piece
        self._looking = looking
        self._clip_pictures = clip_pictures
        self._over = over

    def ask_clips(self) -> None:
        """Asks for files and puts them in after the chosen row."""
        asking = self._desk.asking
        paths = asking.files(self._over, "Add clips", "clip", PICTURE_AND_CLIP_FILTER)
        self.take_files(paths, self._place_after)

    @property
    def _place_after(self) -> int:
        clips = self._document.state.clips
        ids = [clip.id for clip in clips]
        clip = self._looking.clip
        return ids.index(clip.id) + 1 if clip is not None else len(clips)

    def take_files(self, paths: Sequence[Path], place: int) -> None:
        """Takes files in as clips, in the order of their names.

        A timeline is opened, and what is heard and not seen lies under the piece as its music.
        """
        timelines = [path for path in paths if path.suffix.lower() in (*SUFFIXES, EDIT_LIST)]
        if timelines:
            self.timelineWanted.emit(timelines[0])
            return
        tunes = [path for path in paths if path.suffix.lower() in SOUNDS]
        if tunes:
            self.musicDropped.emit(tunes[0])
        seen = [path for path in paths if path not in tunes]
        if seen:
            self._document.add_files(place, seen)

    def ask_video(self) -> None:
        """Asks for a finished video and finds its cuts."""
        path = self._desk.asking.file(self._over, "A finished video", "clip", CLIP_FILTER)
        if path is not None:
            workers, faulted = self._desk.workers, self._desk.messages.faulted
            workers.read_clip(path, self.find_cuts, faulted.emit)

    def find_cuts(self, clip: Clip) -> None:
        """Finds the cuts of a video; those that are taken become clips."""
        dialog = CutsDialog(clip, self._desk.workers, self._clip_pictures, self._over)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.taken.connect(lambda clip, cuts: self._document.take_shots(clip, cuts))
        dialog.open()

    def ask_folder(self) -> None:
        """Asks for a folder and looks there for the files that are missing."""
        folder = self._desk.asking.folder(self._over, "Where the files are now", "clip")
        if folder is not None:
            self._document.find_missing(folder)

    def ask_frame(self) -> None:
        """Asks for the frame size and the rate of the piece."""
        dialog = FrameDialog(self._document.state, self._document.still, self._over)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.chosen.connect(self._document.set_frame)
        dialog.stillChosen.connect(self._document.set_still)
        dialog.open()
