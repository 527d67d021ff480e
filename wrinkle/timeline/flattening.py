"""A dressed piece as plain clips: every window rendered as one of its own, for any program."""

from __future__ import annotations

import math
from contextlib import closing
from dataclasses import replace
from fractions import Fraction
from itertools import groupby
from pathlib import Path

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Image
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.running import ClipFrame, UseFrame, seen
from wrinkle.media.exporting.piece_video import sound_from
from wrinkle.media.video_file import check_video_size, write_video
from wrinkle.timeline.files import write_piece
from wrinkle.timeline.piece_file import PieceFile

HANDLE = Fraction(1, 2)
"""Seconds of the piece that a rendered clip has before and after its window."""


def write_flattened(path: Path, film: Film, jobs: Jobs, job: Job) -> int:
    """Writes a timeline, and beside it a folder with the rendered windows.

    Args:
        path: of the timeline; the folder is called like it.
        film: the piece in its own size and final quality.
        jobs: who renders.
        job: told of each frame.

    Returns:
        The number of rendered clips.

    Raises:
        InputError: the size is not possible.
        MediaError: a clip cannot be read, or a file cannot be written.
        Cancelled: nobody wants it any more.
    """
    check_video_size(film.size)
    folder = path.with_name(f"{path.stem} windows")
    runs = runs_of(film)
    rendered = [frames for what, frames in runs if isinstance(what, UseFrame)]
    total = sum(len(with_handles(film, frames)) for frames in rendered)
    if rendered:
        folder.mkdir(exist_ok=True)
    clips: list[PieceClip] = []
    done = 0
    for what, frames in runs:
        if isinstance(what, ClipFrame):
            clips.append(_part(film.piece, what, frames, len(clips)))
            continue
        number = sum(clip.name.startswith("cut ") for clip in clips) + 1
        wanted = with_handles(film, frames)
        goal = folder / f"cut {number:03}.mp4"
        _render(goal, film, wanted, jobs, job, done, total)
        done += len(wanted)
        clips.append(_rendered(film, goal, frames, wanted, number))
    piece = replace(film.piece, clips=tuple(clips))
    write_piece(path, piece, PieceFile())
    return len(rendered)


def runs_of(film: Film) -> list[tuple[ClipFrame | UseFrame, range]]:
    """Stretches of frames that show the same clip or the same use, in order."""

    def kind(frame: int) -> tuple[bool, str]:
        what = seen(film.piece, frame, film.windows)
        return isinstance(what, UseFrame), what.clip

    found = []
    for _, frames in groupby(film.frames, kind):
        numbers = list(frames)
        run = range(numbers[0], numbers[-1] + 1)
        found.append((seen(film.piece, run.start, film.windows), run))
    return found


def with_handles(film: Film, frames: range) -> range:
    """A window's frames with those that a rendered clip has around it."""
    around = math.ceil(HANDLE * film.piece.rate.per_second)
    return range(max(frames.start - around, 0), min(frames.stop + around, len(film.frames)))


def _part(piece: Piece, what: ClipFrame, frames: range, number: int) -> PieceClip:
    """What is left of a clip between two windows."""
    clip = piece.clip(what.clip)
    offset = piece.rate.seconds(frames.start - piece.starts[piece.index(clip.id)])
    first = clip.own_time(offset)
    run = piece.rate.seconds(len(frames)) * clip.speed
    start, end = (first - run, first) if clip.reverse else (first, first + run)
    if clip.stands:
        start, end = clip.start, clip.start + run
    end = min(end, clip.media.duration)
    return replace(clip, id=f"part-{number}", start=max(start, Fraction(0)), end=end, entry=None)


def _rendered(film: Film, path: Path, frames: range, wanted: range, number: int) -> PieceClip:
    rate = film.piece.rate
    media = Media(str(path.absolute()), path.name, rate.seconds(len(wanted)), film.size)
    start, end = (rate.seconds(x - wanted.start) for x in (frames.start, frames.stop))
    return PieceClip(f"cut-{number}", f"cut {number}", media, start, end)


def _render(
    path: Path, film: Film, frames: range, jobs: Jobs, job: Job, done: int, total: int
) -> None:
    def picture(frame: int) -> Image:
        job.check()
        return film.image(frame)

    with closing(jobs.in_order(picture, frames)) as pictures:
        write_video(
            path,
            (image.to_bytes8() for image in pictures),
            film.size,
            film.piece.rate,
            lambda count: job.report(done + count, total),
            sound=sound_from(film, frames.start),
        )
