"""What does not fit together in a piece, in words; nothing of it is refused while one works."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from wrinkle.core.errors import InputError
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.running import Windows

_LONGEST_NAME = 40


@dataclass(frozen=True)
class PieceFault:
    """One thing that does not fit.

    Attributes:
        clip: the id of the clip into which the cut leads.
        short: what it is, in a few words.
        sentence: what it is, and the way out.
        frames: by how many frames.
    """

    clip: str
    short: str
    sentence: str
    frames: int = 0


def faults(piece: Piece, of: Windows) -> list[PieceFault]:
    """Choices that cannot be, windows that overlap or leave the piece, handles that are too short.

    Where a handle is too short, its last picture is held.

    Args:
        piece: what is looked at.
        of: its ``windows``.
    """
    found = _impossible(piece)
    places = {clip.id: place for place, clip in enumerate(piece.clips)}
    following = {one.clip: other for one, other in pairwise(of)}
    for window in of:
        place = places[window.clip]
        before, clip = piece.clips[place - 1], piece.clips[place]
        for spare, needed, name, end in (
            (before.spare(piece.rate)[1], window.reach.after, before.name, "after"),
            (clip.spare(piece.rate)[0], window.reach.before, clip.name, "before"),
        ):
            if spare < needed:
                found.append(_missing(clip.id, name, spare, needed, end))
        other = following.get(window.clip)
        if other is not None and other.first < window.end:
            shared = window.end - other.first
            found.append(
                PieceFault(
                    window.clip,
                    f"overlaps the next one by {_frames(shared)}",
                    f"The wrinkle overlaps the next one by {_frames(shared)}: the nearer one is "
                    "seen. Make one of them shorter, or the clip between them longer.",
                    shared,
                )
            )
        beyond = max(-window.first, window.end - piece.frame_count)
        if beyond > 0:
            found.append(
                PieceFault(
                    window.clip,
                    f"reaches {_frames(beyond)} beyond the piece",
                    f"The wrinkle reaches {_frames(beyond)} beyond the piece; make it shorter, or "
                    "the clip longer.",
                    beyond,
                )
            )
    return found


def place_words(piece: Piece, fault: PieceFault) -> str:
    """Which cut it is, for those who do not see it."""
    place = piece.index(fault.clip)
    return f"Cut {place}, from '{piece.clips[place - 1].name}' to '{piece.clips[place].name}'"


def _missing(clip: str, name: str, spare: int, needed: int, end: str) -> PieceFault:
    name = name if len(name) <= _LONGEST_NAME else f"{name[:18]}…{name[-18:]}"
    held = "last" if end == "after" else "first"
    return PieceFault(
        clip,
        f"{_frames(needed - spare)} missing {end} the cut",
        f"'{name}' has {_frames(spare)} to spare {end} the cut, and {needed} are needed: its "
        f"{held} picture is held. Trim it, slow it, or make the wrinkle shorter.",
        needed - spare,
    )


def _frames(count: int) -> str:
    return f"{count} frame{'s' if count != 1 else ''}"


def _impossible(piece: Piece) -> list[PieceFault]:
    """Uses that come to nothing: the cut is plain there."""
    found = []
    for clip in piece.clips[1:]:
        try:
            if clip.entry is not None:
                clip.entry.reach(piece.rate)
        except InputError as fault:
            found.append(PieceFault(clip.id, "cannot be used so", str(fault)))
    return found
