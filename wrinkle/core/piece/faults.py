"""What does not fit together in a piece, in words; nothing of it is refused while one works."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from wrinkle.core.errors import InputError
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.running import Window


@dataclass(frozen=True)
class PieceFault:
    """One thing that does not fit.

    Attributes:
        clip: the id of the clip into which the cut leads.
        sentence: what it is, and the way out.
        frames: by how many frames.
    """

    clip: str
    sentence: str
    frames: int


def faults(piece: Piece, of: Sequence[Window]) -> list[PieceFault]:
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
        words = f"At the cut from '{before.name}' to '{clip.name}'"
        for handle, needed, name, end in (
            (before.handles[1], window.reach.after, before.name, "after"),
            (clip.handles[0], window.reach.before, clip.name, "before"),
        ):
            spare = piece.rate.frame_at(handle)
            if spare < needed:
                found.append(
                    PieceFault(
                        window.clip,
                        f"{words}, '{name}' has {spare} frames to spare {end} it and needs "
                        f"{needed}: its last picture is held. Trim it, slow it, or make the "
                        "wrinkle shorter.",
                        needed - spare,
                    )
                )
        other = following.get(window.clip)
        if other is not None and other.first < window.end:
            shared = window.end - other.first
            found.append(
                PieceFault(
                    window.clip,
                    f"{words}, the wrinkle overlaps the next one by {shared} frames: the nearer "
                    "one is seen. Make one of them shorter, or the clip between them longer.",
                    shared,
                )
            )
        beyond = max(-window.first, window.end - piece.frame_count)
        if beyond > 0:
            found.append(
                PieceFault(
                    window.clip,
                    f"{words}, the wrinkle reaches {beyond} frames beyond the piece; make it "
                    "shorter, or the clip longer.",
                    beyond,
                )
            )
    return found


def _impossible(piece: Piece) -> list[PieceFault]:
    """Uses that come to nothing: the cut is plain there."""
    found = []
    for clip in piece.clips[1:]:
        try:
            if clip.entry is not None:
                clip.entry.reach(piece.rate)
        except InputError as fault:
            found.append(PieceFault(clip.id, f"At the cut into '{clip.name}': {fault}", 0))
    return found
