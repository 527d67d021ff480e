"""The piece whose cuts are dressed: what its kind brings to the shell, and its edits."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal

from wrinkle.core.design.document.history import History
from wrinkle.core.errors import InputError
from wrinkle.core.picture.image import Size
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.time.rate import FrameRate
from wrinkle.media.clip import Clip
from wrinkle.media.pieces import media_of, shots
from wrinkle.timeline.kept_piece import PieceCodec
from wrinkle.timeline.piece_file import BUNDLED, EDIT_LIST, SUFFIX, UNSAID, PieceFile, under_new_ids
from wrinkle.ui.desk.document import Document, DocumentKind, FileContent, Suffix
from wrinkle.ui.desk.editing import StepOrder
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_media import PieceMedia


def _read(path: Path) -> FileContent[Piece, PieceFile]:
    # The library is loaded when a timeline is wanted: the window's first picture need not wait for
    # it.
    from wrinkle.timeline.files import read_piece

    piece, file = read_piece(path)
    if path.suffix.lower() == EDIT_LIST:
        return FileContent(piece, file, False, UNSAID)
    return FileContent(piece, file, file.ours, file.unseen_words)


def _write(path: Path, piece: Piece, file: PieceFile) -> None:
    from wrinkle.timeline.files import write_piece

    # What is missing was asked about before.
    write_piece(path, piece, file, without_missing=True)


def _lacks(path: Path, piece: Piece, file: PieceFile) -> str:
    from wrinkle.timeline.files import check_files

    try:
        if path.suffix.lower() == BUNDLED:
            check_files(path, piece, file)
    except InputError as fault:
        return str(fault)
    return ""


PIECES: DocumentKind[Piece, PieceFile] = DocumentKind(
    word="piece",
    suffixes=(
        Suffix(SUFFIX, "Timeline"),
        Suffix(BUNDLED, "Timeline with its media"),
        Suffix(EDIT_LIST, "Edit list", saved=False),
    ),
    codec=PieceCodec(),
    empty=Piece,
    no_rest=PieceFile,
    renamed=lambda piece, title: replace(piece, title=title.strip()),
    read=_read,
    write=_write,
    lacks=_lacks,
)


class PieceDocument(Document[Piece, PieceFile]):
    """A piece with undo of its own; its rest is what it was read from.

    Attributes:
        steps: its undo.
        media: its files.

    Signals:
        stillChanged: pictures that are added are seen for another time from now on.
    """

    stillChanged = pyqtSignal()

    def __init__(self, media: PieceMedia, messages: Messages) -> None:
        self.steps = StepOrder()
        super().__init__(PIECES, self.steps, messages)
        self.media = media
        self._still = edits.STILL_SECONDS
        self.changed.connect(self._read_files)
        self.opened.connect(media.forget_faults)
        media.changed.connect(self._settle)

    def add_files(self, place: int, paths: Sequence[Path]) -> None:
        """Reads files and puts them in as clips; what cannot be read is told."""
        if paths:
            clips = self.state.clips
            before = clips[min(place, len(clips)) - 1].id if place and clips else ""
            self.media.read_new(paths, partial(self._add, before), self._messages.faulted.emit)

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
            def in_place(piece: Piece) -> Piece:
                if all(clip.id != clip_id for clip in piece.clips):
                    raise InputError(f"The clip that {media.name} was meant for is gone by now.")
                return edits.put_in_place(piece, clip_id, media)

            self.edit(f"{media.name} in its place", in_place)

        self._read_one(path, put)

    def fill_slot(
        self, clip_ids: Sequence[str], slot: str, path: Path, heard: bool = False
    ) -> None:
        """Reads a file and fills a further slot of the uses on some cuts with it.

        Args:
            clip_ids: of the clips after the cuts.
            slot: its key.
            path: of the file.
            heard: whether it is a slot for sound.
        """

        def put(media: Media) -> None:
            self.edit(f"{media.name} for {slot}", lambda x: _filled(x, clip_ids, slot, media))

        self._read_one(path, put, heard)

    def _read_one(self, path: Path, put: Callable[[Media], None], heard: bool = False) -> None:
        def came(found: list[Media]) -> None:
            if found:
                put(found[0])

        self.media.read_new([path], came, self._messages.faulted.emit, heard)

    def _add(self, before: str, media: list[Media]) -> None:
        """Puts clips in behind one; at the end where that is gone, at the beginning for none."""
        if not media:
            return
        label = media[0].name if len(media) == 1 else f"{len(media)} clips"

        def added(piece: Piece) -> Piece:
            places = {clip.id: place + 1 for place, clip in enumerate(piece.clips)}
            place = places.get(before, len(piece.clips)) if before else 0
            return edits.add_clips(self._shaped(piece, media), place, media, self._still)

        self.edit(label, added)

    def _shaped(self, piece: Piece, media: list[Media]) -> Piece:
        """A piece that is empty yet takes the frame of its first clip."""
        moving = next((x for x in media if not x.still), None)
        if piece.clips or moving is None or moving.size is None or not self.frame_follows:
            return piece
        source = self.media.sources[moving.path]
        rate = source.facts.rate if isinstance(source, Clip) else piece.rate
        return replace(piece, size=moving.size.even, rate=rate)

    def find_missing(self, folder: Path) -> None:
        """Looks in a folder, and in those in it, for the files that cannot be read."""
        missing = {x.name for x in media_of(self.state) if self.media.fault(x.path)}
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
        count += before.bed != self.committed.bed
        if count:
            self._messages.told.emit(f"{count} file{'s' if count != 1 else ''} found again.")
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

    def begin(self, state: Piece) -> None:
        """Another piece takes the place."""
        super().begin(state)
        # Some of its files may have been read for the piece before.
        self._settle()

    def resume(self, history: History[Piece], saved: Piece) -> None:
        """Takes up a piece where it was left."""
        super().resume(history, saved)
        self._settle()

    def show_copy(self, path: Path) -> bool:
        """Opens a file as a piece that is not saved over it; gives whether it is open."""
        opened = self.open(path)
        if opened:
            self._path = None
        return opened

    def put_back(self, label: str, piece: Piece, file: PieceFile) -> bool:
        """Puts an earlier version in the place of the piece, as a step."""
        from wrinkle.timeline.places import in_folder

        home = self.rest.folder or file.folder
        file = in_folder(file, home)
        # What both were read from is known by the ids of the clips.
        known = (*self.state.clips, *(x for one in self.rest.segments for x in one.clips))
        piece, segments = under_new_ids(piece, file, {clip.id for clip in known})
        held = (*self.rest.segments, *segments)
        self.use_rest(replace(self.rest, segments=held, folder=home))
        return self.edit(label, lambda _: piece)

    def _read_files(self) -> None:
        self.media.read_all(self.state)

    def _settle(self) -> None:
        """What a timeline did not say of a file is known once it was read; that is no step."""
        shaped = not self.rest.ours and not self.undo_label
        self.amend(lambda piece: _settled(piece, self.media.facts, shaped))
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
