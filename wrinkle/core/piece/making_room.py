"""Clips trimmed at their cuts by exactly what their handles lack for the wrinkles there."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from wrinkle.core.errors import InputError
from wrinkle.core.piece import edits
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.running import windows


@dataclass(frozen=True)
class Room:
    """What making room comes to.

    Attributes:
        piece: as it would be.
        trimmed: by how many frames clips get shorter, by their names, in order.
    """

    piece: Piece
    trimmed: tuple[tuple[str, int], ...]

    def words(self, before: Piece) -> str:
        """What is done, and how long the piece is then."""
        parts = ", ".join(f"'{name}' by {frames}" for name, frames in self.trimmed)
        now = self.piece.frame_count
        return (
            f"Trims {parts} frame{'s' if self.trimmed[-1][1] != 1 else ''}; the piece has {now} "
            f"frames then, {before.frame_count - now} fewer."
        )


def make_room(piece: Piece, cuts: Collection[str] | None = None) -> Room:
    """Trims the clips beside cuts so that their handles reach for the wrinkles.

    Args:
        piece: as it is.
        cuts: the ids of the clips into which the cuts lead; all where nothing is said.

    Raises:
        InputError: nothing is missing there, or a clip is too short for it; names it.
    """
    wanted: dict[str, list[int]] = {}
    for window in windows(piece):
        if cuts is not None and window.clip not in cuts:
            continue
        place = piece.index(window.clip)
        before, clip = piece.clips[place - 1], piece.clips[place]
        after = window.reach.after - before.spare(piece.rate)[1]
        ahead = window.reach.before - clip.spare(piece.rate)[0]
        if after > 0 and not before.stands:
            wanted.setdefault(before.id, [0, 0])[1] = after
        if ahead > 0 and not clip.stands:
            wanted.setdefault(clip.id, [0, 0])[0] = ahead
    if not wanted:
        raise InputError("No handle is too short there; there is room already.")
    trimmed = []
    made = piece
    for clip in piece.clips:
        first, last = wanted.get(clip.id, (0, 0))
        if not first and not last:
            continue
        if piece.frames_of(clip) <= first + last:
            raise InputError(
                f"'{clip.name}' is too short to make room: it has {piece.frames_of(clip)} frames, "
                f"and {first + last} are missing. Make the wrinkle shorter, or slow the clip."
            )
        made = edits.trim(made, clip.id, first, -last)
        trimmed.append((clip.name, first + last))
    return Room(made, tuple(trimmed))
