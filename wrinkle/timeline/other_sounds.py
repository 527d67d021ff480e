"""The sound tracks that another program put into a timeline: what of them is heard."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from opentimelineio import schema

from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.other_sound import OtherSound
from wrinkle.timeline.bed_track import is_bed
from wrinkle.timeline.places import path_of
from wrinkle.timeline.times import seconds

MOST = 2_000
"""Stretches that are heard; a long film has some hundreds."""


def other_sounds(
    timeline: schema.Timeline, folder: Path, piece: Piece
) -> tuple[tuple[OtherSound, ...], set[int]]:
    """What is heard of the sound tracks of others, and the numbers of the tracks that are.

    What is a clip's own sound, from the same file at the same time, is heard with the clip and not
    twice. A track with something in it that is not understood is heard as far as the rest goes, and
    is not among the numbers.

    Args:
        timeline: as it was read.
        folder: of its file.
        piece: what its pictures came to.
    """
    found: list[OtherSound] = []
    whole: set[int] = set()
    for number, track in enumerate(timeline.tracks):
        if not is_sound(track) or is_bed(track) or not track.enabled:
            continue
        understood = True
        for child in track:
            if isinstance(child, schema.Gap):
                continue
            one = _heard(child, track, folder) if isinstance(child, schema.Clip) else None
            understood = understood and one is not None
            if one is not None and not _own(one, piece) and len(found) < MOST:
                found.append(one)
        if understood:
            whole.add(number)
    return tuple(found), whole


def is_sound(track: object) -> bool:
    """Whether a track is one of sound."""
    return isinstance(track, schema.Track) and track.kind == schema.TrackKind.Audio


def _heard(clip: schema.Clip, track: schema.Track, folder: Path) -> OtherSound | None:
    """A clip with a file as it is heard; None where it is not, or not so."""
    reference = clip.media_reference
    if not isinstance(reference, schema.ExternalReference) or not clip.enabled or clip.effects:
        return None
    place = path_of(reference.target_url, folder) if reference.target_url else None
    if place is None:
        return None
    available = reference.available_range
    shown = clip.source_range or available
    if shown is None:
        return None
    begins = seconds(available.start_time if available is not None else None)
    start, length = seconds(shown.start_time) - begins, seconds(shown.duration)
    at = seconds(track.range_of_child(clip).start_time)
    if start < 0 or length <= 0 or at < 0:
        return None
    lasts = seconds(available.duration) if available is not None else start + length
    media = Media(str(place), place.name, max(lasts, start + length))
    return OtherSound(media, at, start, length)


def _own(one: OtherSound, piece: Piece) -> bool:
    """Whether it is the sound of a clip of the piece, which is heard with it."""
    frame = piece.rate.seconds(1)
    starts: Sequence[int] = piece.starts
    for number, clip in enumerate(piece.clips):
        near = abs(piece.rate.seconds(starts[number]) - one.at) <= frame
        same = clip.media.path == one.media.path and abs(clip.start - one.start) <= frame
        if near and same and clip.plain:
            return True
    return False
