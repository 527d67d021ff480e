"""The music under the piece: its beats, found in the background, and how loud all of it is."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from wrinkle.core.jobs import Job, Urgency, WorkLine
from wrinkle.core.piece.beating import Moved, beat_frames, counted, snapped
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.sound.beats import Beats, beats_of
from wrinkle.core.sound.clip_sound import sound_of
from wrinkle.core.sound.loudness import Loudness, measured
from wrinkle.core.synthesis.samples import SAMPLE_RATE
from wrinkle.ui.desk.messages import Messages
from wrinkle.ui.desk.piece_document import PieceDocument
from wrinkle.ui.desk.workers import Workers

_LONGEST = 1_200
"""Seconds of music in which beats are looked for."""
_KEPT = 8


class Music(QObject):
    """What is known of the music.

    Signals:
        changed: its beats, or how loud the piece is, are others.
    """

    changed = pyqtSignal()

    def __init__(self, document: PieceDocument, workers: Workers, messages: Messages) -> None:
        super().__init__()
        self._document = document
        self._messages = messages
        self._found: dict[str, Beats] = {}
        self._asked: set[str] = set()
        self._loudness: Loudness | None = None
        self._measured: Piece | None = None
        self._job: Job | None = None
        self._line = WorkLine(
            workers.jobs, Urgency.ASKED, "The music cannot be listened to", messages.faulted.emit
        )
        document.changed.connect(self._listen)
        document.media.changed.connect(self._take_media)
        self._listen()

    @property
    def bed(self) -> Bed | None:
        """The music; None where there is none."""
        return self._document.state.bed

    @property
    def beats(self) -> Beats | None:
        """Its beats, as they are corrected; None while they are not known."""
        bed = self.bed
        found = self._found.get(bed.media.path) if bed is not None else None
        return counted(bed, found) if bed is not None and found is not None else None

    @property
    def frames(self) -> tuple[int, ...]:
        """The frames of the piece on which beats lie."""
        bed = self.bed
        found = self._found.get(bed.media.path) if bed is not None else None
        return beat_frames(self._document.state, found) if found is not None else ()

    @property
    def loudness(self) -> Loudness | None:
        """How loud the piece is as it is now; None while that is not known."""
        return self._loudness if self._measured is self._document.state else None

    def measure(self) -> None:
        """Finds out how loud the piece is."""
        piece = self._document.state
        if self._measured is piece:
            return
        if self._job is not None:
            self._job.cancel()
        heard = self._document.media.film(piece, piece.size).heard

        def work(job: Job) -> Loudness:
            return measured(heard, lambda done, total: job.check())

        def came(found: Loudness) -> None:
            self._loudness, self._measured = found, piece
            self.changed.emit()

        self._job = self._line.put(work, came)

    def choose(self, media: Media) -> None:
        """Puts a file under the piece; what was chosen for another one stays as far as it can."""

        def put(piece: Piece) -> Piece:
            if piece.bed is None:
                return replace(piece, bed=Bed(media))
            was = piece.bed
            bed = Bed(
                media, was.at, level=was.level, rise=was.rise, fall=was.fall,
                gives_way=was.gives_way,
            )  # fmt: skip
            return replace(piece, bed=bed)

        if self._document.edit(f"music {media.name}", put):
            self._messages.told.emit(
                f"{media.name} lies under the piece; “Music and loudness” in the Edit menu sets it."
            )

    def take(self, path: Path) -> None:
        """Reads a file and puts it under the piece."""

        def came(found: list[Media]) -> None:
            for media in found:
                if self._document.media.sounds(media.path):
                    self.choose(media)
                else:
                    self.faulted(f"{media.name} has no sound in it; choose another file.")

        self._document.media.read_new([path], came, self.faulted, heard=True)

    def remove(self) -> None:
        """Takes the music away."""
        self._document.edit("no music", lambda piece: replace(piece, bed=None))

    def make_loud(self, target: float | None) -> None:
        """How loud the piece is made when it is written; None as it is."""
        self._document.edit("loudness", lambda piece: replace(piece, loudness=target))

    def faulted(self, sentence: str) -> None:
        """Tells what cannot be."""
        self._messages.faulted.emit(sentence)

    def snap(self, reach: int, clips: Collection[str] | None = None) -> list[Moved]:
        """Moves cuts onto beats within so many frames, as one step, and tells which.

        Args:
            reach: in frames.
            clips: the ids of the clips after the cuts that may move; all where nothing is said.
        """
        beats = self.frames
        if not beats:
            self._messages.faulted.emit(
                "No beats are known yet; choose music, and wait until it was listened to."
            )
            return []
        _, told = snapped(self._document.state, beats, reach, clips)
        moved = [one for one in told if one.by]
        if moved:
            label = "a cut on its beat" if len(moved) == 1 else f"{len(moved)} cuts on beats"
            self._document.edit(label, lambda piece: snapped(piece, beats, reach, clips)[0])
        self._messages.told.emit(_words(told))
        return told

    def close(self) -> None:
        """Nothing more is listened to."""
        self._line.close()

    def _take_media(self) -> None:
        """Files that were read since are heard too."""
        self._measured = None
        self._listen()

    def _listen(self) -> None:
        bed = self.bed
        if bed is None or bed.media.path in self._found or bed.media.path in self._asked:
            self.changed.emit()
            return
        path = bed.media.path
        sound = sound_of(self._document.media.heard_at(path))
        if sound is None:
            self.changed.emit()
            return
        self._asked.add(path)
        count = round(min(bed.media.duration, Fraction(_LONGEST)) * SAMPLE_RATE)

        def work(job: Job) -> Beats:
            return beats_of(sound, count, lambda done, total: job.check())

        def came(found: Beats) -> None:
            self._asked.discard(path)
            self._found[path] = found
            while len(self._found) > _KEPT:
                del self._found[next(iter(self._found))]
            self.changed.emit()

        self._line.put(work, came)


def _words(told: list[Moved]) -> str:
    """What came of it, in a sentence or two."""
    moved = [f"{one.cut} by {one.by:+d}".replace("-", "−") for one in told if one.by]
    kept = [f"Cut {one.cut} stays: {one.kept}" for one in told if one.kept]
    on_beat = sum(not one.by and not one.kept for one in told)
    parts = [f"Cuts moved: {', '.join(moved)} frames." if moved else "No cut moved."]
    if on_beat:
        parts.append(f"{on_beat} stood on a beat already.")
    return " ".join([*parts, *kept])
