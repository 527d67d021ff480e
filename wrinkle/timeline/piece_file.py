"""What a timeline file held besides what a piece shows: it is written back as it was."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from wrinkle.core.naming import free_name
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.use import PieceUse

SUFFIX, BUNDLED = ".otio", ".otioz"
"""Of a timeline, and of one with its media."""
SUFFIXES = (SUFFIX, BUNDLED)
EDIT_LIST = ".edl"
UNSAID = (
    "An edit list says neither size nor rate: 30 frames a second are taken (File, Frame size and "
    "rate), and files are looked for by their names in its folder."
)
"""What is told where one is read."""


@dataclass(frozen=True)
class Segment:
    """A part of the track that is shown, and what stands there in the file.

    Attributes:
        clips: what it is shown as, each without the use on the cut into it.
        items: what the file holds there, as the library's JSON.
        entry: the use on the cut into it, as it was read.
        transition: what the file holds of that; empty for nothing.
    """

    clips: tuple[PieceClip, ...]
    items: tuple[str, ...]
    entry: PieceUse | None = None
    transition: str = ""


@dataclass(frozen=True)
class PieceFile:
    """A timeline file as it was read; an empty one belongs to a piece that is in none yet.

    Attributes:
        ours: Wrinkle wrote it.
        root: all of it, as the library's JSON; empty for none.
        within: which of a collection's children the timeline is; None where it is no collection.
        track: the number of the track that is shown; None where it has none.
        segments: what that track holds.
        after: what it holds after its last clip, as JSON.
        markers: those that were read from it.
        unseen: what is not shown, in plain words.
        folder: to which the addresses in it are relative; empty where that is not known.
        lost: the names of clips whose files the timeline does not name.
    """

    ours: bool = True
    root: str = ""
    within: int | None = None
    track: int | None = None
    segments: tuple[Segment, ...] = ()
    after: tuple[str, ...] = ()
    markers: tuple[Marker, ...] = ()
    unseen: Sequence[str] = ()
    folder: str = ""
    lost: Sequence[str] = ()

    @property
    def unseen_words(self) -> str:
        """One sentence on what is not shown; empty where all is."""
        if not self.unseen:
            return ""
        return f"Kept in it, and not shown: {', '.join(self.unseen)}."


def under_new_ids(
    piece: Piece, file: PieceFile, taken: set[str]
) -> tuple[Piece, tuple[Segment, ...]]:
    """A piece and what was read for it, with clips that have ids of their own.

    Args:
        piece: that was read from another file.
        file: what stood there.
        taken: the ids that are in use.
    """
    used, ids = set(taken), dict[str, str]()
    for clip in (*piece.clips, *(clip for one in file.segments for clip in one.clips)):
        if clip.id not in ids:
            ids[clip.id] = free_name(clip.id, used.__contains__)
            used.add(ids[clip.id])

    def named(clips: tuple[PieceClip, ...]) -> tuple[PieceClip, ...]:
        return tuple(replace(clip, id=ids[clip.id]) for clip in clips)

    segments = tuple(replace(one, clips=named(one.clips)) for one in file.segments)
    return piece.with_clips(*named(piece.clips)), segments
