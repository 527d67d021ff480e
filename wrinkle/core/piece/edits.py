"""Edits of the clips of a piece. Each gives another piece, and raises InputError where it cannot.

Times that are given are whole frames of the piece's rate.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

from wrinkle.core.errors import InputError
from wrinkle.core.naming import free_name
from wrinkle.core.piece.document import Marker, Piece, PieceClip
from wrinkle.core.piece.media import Media

STILL_SECONDS = Fraction(5)
"""How long a picture is seen until somebody says otherwise."""


def add_clips(
    piece: Piece, place: int, media: Sequence[Media], still: Fraction = STILL_SECONDS
) -> Piece:
    """Whole files as clips, in their order, before the clip at ``place``.

    Args:
        piece: what they are added to.
        place: 0 to the number of its clips.
        media: the files.
        still: how long a picture is seen, in seconds.

    Raises:
        InputError: there would be too many.
    """
    ids = {clip.id for clip in piece.clips}
    new = []
    for one in media:
        clip_id = free_name("clip", ids.__contains__, "-")
        ids.add(clip_id)
        name = one.name.rpartition(".")[0] or one.name
        end = min(still, one.duration) if one.still else one.duration
        new.append(PieceClip(clip_id, name, one, Fraction(0), end))
    return piece.with_clips(*piece.clips[:place], *new, *piece.clips[place:])


def followed_by(piece: Piece, other: Piece) -> Piece:
    """A piece with the clips of another one after its own; an empty one takes its frame too.

    Raises:
        InputError: there would be too many.
    """
    if not piece.clips:
        piece = replace(piece, size=other.size, rate=other.rate)
    ids = {clip.id for clip in piece.clips}
    new = []
    for clip in other.clips:
        clip_id = free_name(clip.id, ids.__contains__, "-")
        ids.add(clip_id)
        new.append(replace(clip, id=clip_id))
    return piece.with_clips(*piece.clips, *new)


def remove(piece: Piece, clip_id: str) -> Piece:
    """Takes a clip out; the clip after it keeps what happens at the cut into it."""
    return piece.with_clips(*(clip for clip in piece.clips if clip.id != clip_id))


def move(piece: Piece, clip_id: str, place: int) -> Piece:
    """Moves a clip, with what happens at the cut into it, so that it stands at ``place``."""
    clip = piece.clip(clip_id)
    others = [x for x in piece.clips if x.id != clip_id]
    place = min(max(place, 0), len(others))
    return piece.with_clips(*others[:place], clip, *others[place:])


def trim(piece: Piece, clip_id: str, first: int, last: int) -> Piece:
    """Moves the first and the last end of a clip by frames; above 0 is later in the piece.

    Raises:
        InputError: less than a frame of it would be left, or its file does not reach so far.
    """
    return _changed(piece, _trimmed(piece, piece.clip(clip_id), first, last))


def slip(piece: Piece, clip_id: str, frames: int) -> Piece:
    """Shows a part of the file that is so many frames later, for as long as before.

    Raises:
        InputError: the file does not reach so far.
    """
    return trim(piece, clip_id, frames, frames)


def slip_cut(piece: Piece, clip_id: str, frames: int) -> Piece:
    """Moves the cut into a clip: the one before it gets longer by as much as it gets shorter.

    Raises:
        InputError: it is the first clip, one of both would be gone, or a file does not reach so
            far.
    """
    place = piece.index(clip_id)
    if not place:
        raise InputError("There is no cut before the first clip.")
    before, clip = piece.clips[place - 1], piece.clips[place]
    piece = _changed(piece, _trimmed(piece, before, 0, frames))
    return _changed(piece, _trimmed(piece, clip, frames, 0))


def slide(piece: Piece, clip_id: str, frames: int) -> Piece:
    """Moves a clip between its neighbours, which get longer and shorter by as much.

    Raises:
        InputError: it has no neighbour on either side, one of them would be gone, or a file does
            not reach so far.
    """
    place = piece.index(clip_id)
    if not 0 < place < len(piece.clips) - 1:
        raise InputError("A clip slides between two others; this one has none on one side.")
    before, after = piece.clips[place - 1], piece.clips[place + 1]
    piece = _changed(piece, _trimmed(piece, before, 0, frames))
    return _changed(piece, _trimmed(piece, after, frames, 0))


def split(piece: Piece, frame: int) -> Piece:
    """Two clips from the one that a frame of the piece lies in; the cut between them is plain.

    Raises:
        InputError: the frame is the first one of a clip, or outside the piece.
    """
    starts = piece.starts
    inside = [i for i in range(len(piece.clips)) if starts[i] < frame < starts[i + 1]]
    if not inside:
        raise InputError("A clip is split within it; move the playhead off the cut first.")
    (place,) = inside
    clip = piece.clips[place]
    at = clip.own_time(piece.rate.seconds(frame - starts[place]))
    low, high = replace(clip, end=at), replace(clip, start=at)
    one, other = (high, low) if clip.reverse else (low, high)
    new_id = free_name("clip", {x.id for x in piece.clips}.__contains__, "-")
    other = replace(other, id=new_id, entry=None)
    return piece.with_clips(*piece.clips[:place], one, other, *piece.clips[place + 1 :])


def set_speed(piece: Piece, clip_id: str, speed: Fraction, reverse: bool) -> Piece:
    """How fast a clip runs, and which way; the same part of its file is seen."""
    return _changed(piece, replace(piece.clip(clip_id), speed=speed, reverse=reverse))


def marked(piece: Piece, frame: int, text: str = "") -> Piece:
    """A marker at a frame; where one is already, it is taken away."""
    time = piece.rate.seconds(frame)
    others = [x for x in piece.markers if piece.rate.nearest_frame(x.time) != frame]
    if len(others) == len(piece.markers):
        others.append(Marker(time, text))
    return replace(piece, markers=tuple(sorted(others, key=lambda marker: marker.time)))


def change(piece: Piece, clip_id: str, **fields: object) -> Piece:
    """Plain fields of a clip: name, fit, focus, level."""
    return _changed(piece, replace(piece.clip(clip_id), **fields))  # type: ignore[arg-type]


def put_in_place(piece: Piece, clip_id: str, media: Media) -> Piece:
    """Another file instead of a clip's; length, place and all else are kept.

    A file that is shorter is seen from its beginning, as far as it goes.
    """
    clip = piece.clip(clip_id)
    length = min(clip.end - clip.start, media.duration)
    start = min(clip.start, media.duration - length)
    return _changed(piece, replace(clip, media=media, start=start, end=start + length))


def relink(piece: Piece, found: Sequence[Media]) -> Piece:
    """The piece with files where they are now, known again by name, length and size."""
    known = {one.name: one for one in found}

    def now(media: Media) -> Media:
        one = known.get(media.name, media)
        same = one.duration == media.duration and media.size in (None, one.size)
        return replace(media, path=one.path) if same else media

    def there(clip: PieceClip) -> PieceClip:
        use = clip.entry
        if use is not None and use.fillings:
            fillings = {slot: now(media) for slot, media in use.fillings.items()}
            use = replace(use, fillings=fillings)
        return replace(clip, media=now(clip.media), entry=use)

    bed = replace(piece.bed, media=now(piece.bed.media)) if piece.bed is not None else None
    others = tuple(replace(x, media=now(x.media)) for x in piece.others)
    return replace(piece, clips=tuple(map(there, piece.clips)), bed=bed, others=others)


def _changed(piece: Piece, clip: PieceClip) -> Piece:
    return piece.with_clips(*(clip if x.id == clip.id else x for x in piece.clips))


def _trimmed(piece: Piece, clip: PieceClip, first: int, last: int) -> PieceClip:
    left = piece.frames_of(clip) - first + last
    if left < 1:
        raise InputError(f"Nothing would be left of '{clip.name}'; keep a frame of it.")
    early, late = (piece.rate.seconds(frames) * clip.speed for frames in (first, last))
    if clip.stands:
        # One moment of it is like another.
        early, late = Fraction(0), late - early
    if clip.reverse:
        start, end = clip.start - late, clip.end - early
    else:
        start, end = clip.start + early, clip.end + late
    if start < 0 or end > clip.media.duration:
        spare = clip.start if start < 0 else clip.media.duration - clip.end
        frames = piece.rate.frame_at(spare / clip.speed)
        raise InputError(
            f"{clip.media.name} has only {frames} frames to spare there; move it by less, or "
            f"slow the clip."
        )
    return replace(clip, start=start, end=end)
