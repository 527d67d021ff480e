"""Beats of the music under a piece: where they lie in it, and cuts that are moved onto them."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise

from wrinkle.core.errors import InputError
from wrinkle.core.piece import edits
from wrinkle.core.piece.bed import Bed
from wrinkle.core.piece.document import Piece
from wrinkle.core.sound.beats import Beats


@dataclass(frozen=True)
class Moved:
    """What came of one cut.

    Attributes:
        cut: which one, counted from 1.
        by: the frames by which it moved, later above 0.
        kept: why it stays although a beat is near; empty where it moved.
    """

    cut: int
    by: int
    kept: str = ""


def counted(bed: Bed, beats: Beats) -> Beats:
    """The beats as they were corrected: half or twice as many, the others, earlier or later."""
    times, tempo = list(beats.times), beats.tempo * float(bed.pace)
    if bed.pace < 1:
        times = times[int(bed.other) :: 2]
    elif bed.pace > 1:
        between = [(a + b) / 2.0 for a, b in pairwise(times)]
        times = sorted([*times, *between])
    return Beats(tempo, tuple(time + float(bed.moved) for time in times))


def beat_frames(piece: Piece, beats: Beats) -> tuple[int, ...]:
    """The frames of a piece that are nearest to the beats of its music, each once, in order."""
    bed = piece.bed
    if bed is None:
        return ()
    offset = float(bed.at - bed.start)
    per_second = float(piece.rate.per_second)
    heard = (x + offset for x in counted(bed, beats).times if x >= float(bed.start))
    frames = {round(time * per_second) for time in heard}
    return tuple(sorted(frame for frame in frames if 0 <= frame <= piece.frame_count))


def snapped(
    piece: Piece, beats: Sequence[int], reach: int, clips: Collection[str] | None = None
) -> tuple[Piece, list[Moved]]:
    """The piece with cuts on the nearest beats, and what came of each that has one near.

    No cut moves so far that its clips, or what its wrinkle shows of them, do not reach.

    Args:
        piece: whose cuts are moved; it lasts as long as before.
        beats: frames, in order.
        reach: within how many frames a beat is looked for.
        clips: the ids of the clips after the cuts that may move; all where nothing is said.
    """
    told: list[Moved] = []
    for place, clip in enumerate(piece.clips[1:], 1):
        if clips is not None and clip.id not in clips:
            continue
        cut = piece.starts[place]
        beat = _nearest(beats, cut)
        if beat is None or abs(beat - cut) > reach:
            continue
        if beat == cut:
            told.append(Moved(place, 0))
            continue
        try:
            piece = _moved(piece, place, beat - cut)
            told.append(Moved(place, beat - cut))
        except InputError as fault:
            told.append(Moved(place, 0, str(fault)))
    return piece, told


def _moved(piece: Piece, place: int, by: int) -> Piece:
    """The piece with a cut so many frames later.

    Raises:
        InputError: a clip does not reach so far, for itself or for the wrinkle on the cut.
    """
    found = edits.slip_cut(piece, piece.clips[place].id, by)
    use = found.clips[place].entry
    if use is not None:
        reach = use.reach(found.rate)
        after = found.clips[place - 1].spare(found.rate)[1]
        before = found.clips[place].spare(found.rate)[0]
        # What was too short before may stay so, and must not become shorter.
        was_after = piece.clips[place - 1].spare(piece.rate)[1]
        was_before = piece.clips[place].spare(piece.rate)[0]
        if after < min(reach.after, was_after) or before < min(reach.before, was_before):
            raise InputError(f"{use.wrinkle.name} on it would have too few frames to spare.")
    return found


def _nearest(beats: Sequence[int], frame: int) -> int | None:
    place = bisect_left(beats, frame)
    near = beats[max(place - 1, 0) : place + 1]
    return min(near, key=lambda beat: abs(beat - frame), default=None)


def with_bed(piece: Piece, **fields: object) -> Piece:
    """The piece with other values of its music.

    Raises:
        InputError: it has none, or a value is not possible.
    """
    if piece.bed is None:
        raise InputError("There is no music under the piece; choose a file first.")
    return replace(piece, bed=replace(piece.bed, **fields))  # type: ignore[arg-type]


def seconds_of(number: float) -> Fraction:
    """Seconds that were typed, to a thousandth."""
    return Fraction(round(number * 1000), 1000)
