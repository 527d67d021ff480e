"""The piece whose cuts are dressed: its edits, and the file it is saved in."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.errors import InputError
from wrinkle.core.files import state_of
from wrinkle.core.jobs import sentence_for
from wrinkle.core.picture.image import Size
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.media.pieces import media_of, shots
from wrinkle.timeline.piece_file import PieceFile
from wrinkle.ui.desk.editing import Editing, Steps
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_media import PieceMedia


class PieceDocument(QObject):
    """A piece on an ``Editing``, with undo of its own.

    Attributes:
        steps: its undo.
        media: its files.

    Signals:
        changed: the piece that is seen is another one, or another of its files was read.
        fileChanged: its title, its file, its steps or whether it is saved.
        opened: another piece has taken the place.
        stillChanged: pictures that are added are seen for another time from now on.
    """

    changed = pyqtSignal()
    fileChanged = pyqtSignal()
    opened = pyqtSignal()
    stillChanged = pyqtSignal()

    def __init__(self, media: PieceMedia, messages: Messages) -> None:
        super().__init__()
        self.steps = Steps()
        self.media = media
        self._messages = messages
        self._editing: Editing[Piece] = Editing(Piece(), self.steps, messages)
        self._file = PieceFile()
        self._path: Path | None = None
        self._written: tuple[int, ...] | None = None
        self._still = edits.STILL_SECONDS
        self._editing.changed.connect(self._show)
        self._editing.historyChanged.connect(self.fileChanged)
        media.changed.connect(self._settle)

    @property
    def piece(self) -> Piece:
        """The piece as it is seen now, previews included."""
        return self._editing.state

    @property
    def committed(self) -> Piece:
        """The piece without a preview."""
        return self._editing.committed

    @property
    def path(self) -> Path | None:
        """Its file, if there is one yet."""
        return self._path

    @property
    def file(self) -> PieceFile:
        """What it was read from."""
        return self._file

    @property
    def unsaved(self) -> bool:
        """Whether it differs from its file."""
        return self._editing.unsaved

    # Edits

    def edit(self, label: str, change: Callable[[Piece], Piece]) -> bool:
        """One step. A refused value is told; gives whether it was taken."""
        return self._editing.edit(label, change)

    def preview(self, change: Callable[[Piece], Piece]) -> bool:
        """Shows what a gesture would do, starting from the piece before it."""
        return self._editing.preview(change)

    def commit(self, label: str) -> None:
        """Makes what is previewed one step."""
        self._editing.commit(label)

    def abandon(self) -> None:
        """Goes back to the piece before the gesture."""
        self._editing.abandon()

    def add_files(self, place: int, paths: Sequence[Path]) -> None:
        """Reads files and puts them in as clips; what cannot be read is told."""
        if paths:
            self.media.read_new(paths, partial(self._add, place), self._messages.faulted.emit)

    def take_shots(self, clip: Clip, cuts: Sequence[int]) -> None:
        """Takes the shots of a finished video as clips.

        Args:
            clip: the video.
            cuts: the first frame after each cut, in order.
        """
        found = shots(clip, cuts)
        self.edit(f"{len(found.clips)} shots of {clip.name}", lambda x: edits.followed_by(x, found))

    def put_in_place(self, clip_id: str, path: Path) -> None:
        """Reads a file and puts it in the place of a clip's."""

        def put(media: Media) -> None:
            self.edit(f"{media.name} in its place", lambda x: edits.put_in_place(x, clip_id, media))

        self._read_one(path, put)

    def fill_slot(self, clip_ids: Sequence[str], slot: str, path: Path) -> None:
        """Reads a file and fills a further slot of the uses on some cuts with it."""

        def put(media: Media) -> None:
            self.edit(f"{media.name} for {slot}", lambda x: _filled(x, clip_ids, slot, media))

        self._read_one(path, put)

    def _read_one(self, path: Path, put: Callable[[Media], None]) -> None:
        def came(found: list[Media]) -> None:
            if found:
                put(found[0])

        self.media.read_new([path], came, self._messages.faulted.emit)

    def _add(self, place: int, media: list[Media]) -> None:
        if not media:
            return
        label = media[0].name if len(media) == 1 else f"{len(media)} clips"
        self.edit(label, lambda piece: self._added(piece, place, media))

    def _added(self, piece: Piece, place: int, media: list[Media]) -> Piece:
        return edits.add_clips(self._shaped(piece, media), place, media, self._still)

    def _shaped(self, piece: Piece, media: list[Media]) -> Piece:
        """A piece that is empty yet takes the frame of its first clip."""
        moving = next((x for x in media if not x.still), None)
        if piece.clips or moving is None or moving.size is None:
            return piece
        source = self.media.sources[moving.path]
        rate = source.facts.rate if isinstance(source, Clip) else piece.rate
        return replace(piece, size=moving.size.even, rate=rate)

    def find_missing(self, folder: Path) -> None:
        """Looks in a folder, and in those in it, for the files that cannot be read."""
        missing = {x.name for x in media_of(self.piece) if self.media.fault(x.path)}
        if not missing:
            self._messages.told.emit("No file is missing.")
            return

        def came(found: list[Path]) -> None:
            if found:
                self.media.read_new(found, self._relink, self._messages.faulted.emit)
            else:
                self._messages.faulted.emit(
                    f"None of the {len(missing)} missing files is in {folder.name}."
                )

        self.media.look_for(folder, missing, came)

    def _relink(self, found: list[Media]) -> None:
        self.media.forget_faults()
        before = self.committed
        self.edit("files found", lambda piece: edits.relink(piece, found))
        count = sum(
            one.media != other.media
            for one, other in zip(before.clips, self.committed.clips, strict=True)
        )
        if count:
            self._messages.told.emit(f"{count} clip{'s' if count != 1 else ''} found again.")
        else:
            self._messages.faulted.emit(
                "Files of these names are there, but of another length or size."
            )

    @property
    def still(self) -> Fraction:
        """For how long a picture is seen that is added, in seconds."""
        return self._still

    def set_still(self, seconds: Fraction) -> None:
        """Pictures that are added are seen for another time from now on."""
        if seconds != self._still:
            self._still = seconds
            self.stillChanged.emit()

    def set_frame(self, size: Size, rate: FrameRate) -> None:
        """Another frame size and rate."""
        self.edit("frame", lambda piece: replace(piece, size=size, rate=rate))

    # Files

    def start_new(self) -> None:
        """An empty piece."""
        self._begin(Piece(), PieceFile(), None)

    def begin(self, piece: Piece) -> None:
        """A piece that is in no file yet."""
        self._begin(piece, PieceFile(), None)

    def open(self, path: Path) -> bool:
        """Opens a file; on a fault the open piece stays untouched."""
        # The library is loaded when a timeline is wanted: the window's first picture need not
        # wait for it.
        from wrinkle.timeline.files import read_piece

        try:
            piece, file = read_piece(path)
        except InputError as fault:
            self._messages.faulted.emit(str(fault))
            return False
        self._begin(piece, file, path if file.ours else None)
        told = f"{path.name} is open."
        self._messages.told.emit(f"{told} {file.unseen_words}".strip())
        return True

    def take_up(self, piece: Piece, file: PieceFile, path: Path | None) -> None:
        """Takes up a piece where it was left; it is not saved yet."""
        self._begin(Piece(piece.title), file, path)
        self._editing.edit("brought back", lambda _: piece)

    def show_copy(self, path: Path) -> None:
        """Opens a file as a piece of its own, which is not saved over that file."""
        if self.open(path):
            self._path = None

    def save(self, path: Path) -> bool:
        """Saves to a file; gives whether it was written."""
        from wrinkle.timeline.files import write_piece

        piece = self._editing.committed
        try:
            write_piece(path, piece, self._file)
        except Exception as fault:  # noqa: BLE001 - whatever went wrong, nothing may be lost
            self._messages.faulted.emit(sentence_for(fault, f"{path.name} cannot be saved"))
            return False
        self._path, self._written = path, state_of(path)
        self._editing.mark_saved()
        self._messages.told.emit(f"{path.name} is saved.")
        return True

    @property
    def changed_outside(self) -> bool:
        """Whether another program has written the file since it was opened or saved."""
        return self._path is not None and state_of(self._path) not in (None, self._written)

    def discard_changes(self) -> None:
        """Gives the changes up: nothing asks for them to be saved any more."""
        self._editing.mark_saved()

    def _begin(self, piece: Piece, file: PieceFile, path: Path | None) -> None:
        self._file, self._path = file, path
        self._written = state_of(path)
        self.media.forget_faults()
        self.opened.emit()
        self._editing.begin(piece)
        # Some of its files may have been read for the piece before.
        self._settle()

    def _settle(self) -> None:
        """What a timeline did not say of a file is known once it was read; that is no step."""
        shaped = not self._file.ours and not self._editing.history.undo_label
        self._editing.amend(lambda piece: _settled(piece, self.media.facts, shaped))
        self.changed.emit()

    def _show(self) -> None:
        self.media.read_all(self.piece)
        self.changed.emit()


def _filled(piece: Piece, clip_ids: Sequence[str], slot: str, media: Media) -> Piece:
    clips = []
    for clip in piece.clips:
        if clip.id in clip_ids and clip.entry is not None:
            fillings = {**clip.entry.fillings, slot: media}
            clip = replace(clip, entry=replace(clip.entry, fillings=fillings))
        clips.append(clip)
    return piece.with_clips(*clips)


def _settled(piece: Piece, facts: Callable[[str], Media | None], shaped: bool) -> Piece:
    """The piece with what is known of its files.

    Args:
        piece: as it was.
        facts: what a file is, where it was read.
        shaped: the frame is that of the first clip from now on.
    """
    clips = []
    for clip in piece.clips:
        found = facts(clip.media.path)
        # A file that is shorter than what is used of it: the last picture is held.
        if found is not None and found.duration >= clip.end and found != clip.media:
            clip = replace(clip, media=replace(found, name=clip.media.name))
        clips.append(clip)
    if tuple(clips) == piece.clips:
        return piece
    size = clips[0].media.size
    if shaped and size is not None:
        piece = replace(piece, size=size.even)
    return piece.with_clips(*clips)
