"""A dressed piece as plain clips: every window rendered as one of its own, for any program."""

from __future__ import annotations

import math
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from fractions import Fraction
from itertools import groupby
from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs, JobWithin
from wrinkle.core.piece.document import Piece, PieceClip
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.media import Media
from wrinkle.core.piece.running import ClipFrame, UseFrame, seen
from wrinkle.files.presence import is_folder, is_there
from wrinkle.files.targets import spare
from wrinkle.media.exporting.piece_video import USUAL, film_output
from wrinkle.media.output.format import Into
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.pieces import paths_of
from wrinkle.timeline.files import write_piece
from wrinkle.timeline.piece_file import PieceFile

HANDLE = Fraction(1, 2)
"""Seconds of the piece that a rendered clip has before and after its window."""


def windows_folder(path: Path) -> Path:
    """Where the rendered windows of a flattened timeline lie."""
    return path.with_name(f"{path.stem} windows")


def write_flattened(
    path: Path,
    film: Film,
    jobs: Jobs,
    job: Job,
    overwrite: bool = False,
    rendition: Rendition = USUAL,
) -> int:
    """Writes a timeline, and beside it a folder with the rendered windows.

    What was rendered is taken away again where not all can be written.

    Args:
        path: of the timeline; the folder is called like it.
        overwrite: whether clips that lie in that folder may be replaced.
        film: the piece in its own size and final quality.
        jobs: who renders.
        job: told of each frame.
        rendition: as what the windows are written.

    Returns:
        The number of rendered clips.

    Raises:
        InputError: the size is not possible, or something would be written over.
        MediaError: a clip cannot be read, or a file cannot be written.
        Cancelled: nobody wants it any more.
    """
    form = rendition.form
    if form.into is not Into.VIDEO:
        raise InputError(f"{form.label} is no video; a timeline needs clips that it can play.")
    form.checked(film.size)
    folder, runs = windows_folder(path), runs_of(film)
    rendered = [frames for what, frames in runs if isinstance(what, UseFrame)]
    goals = [folder / f"cut {n:03}{form.suffix}" for n in range(1, len(rendered) + 1)]
    read = paths_of(film.piece)
    for goal in goals:
        spare(goal, read)
        if is_there(goal) and not overwrite:
            raise InputError(
                f"{goal.name} is in {folder.name} already; --overwrite replaces it, or name "
                "another output."
            )
    there = is_folder(folder)
    new = [goal for goal in goals if not is_there(goal)]
    if rendered:
        folder.mkdir(exist_ok=True)
    try:
        piece = _flat(film, runs, goals, rendition, jobs, job)
        write_piece(path, piece, PieceFile())
    except BaseException:
        for goal in new:
            goal.unlink(missing_ok=True)
        if not there:
            with suppress(OSError):
                folder.rmdir()
        raise
    return len(rendered)


def _flat(
    film: Film,
    runs: Sequence[tuple[ClipFrame | UseFrame, range]],
    goals: Sequence[Path],
    rendition: Rendition,
    jobs: Jobs,
    job: Job,
) -> Piece:
    """The piece whose windows are clips of their own, which are rendered for it."""
    whole = [with_handles(film, frames) for what, frames in runs if isinstance(what, UseFrame)]
    total, done, number = sum(map(len, whole)), 0, 0
    clips: list[PieceClip] = []
    for what, frames in runs:
        if isinstance(what, ClipFrame):
            clips.append(_part(film.piece, what, frames, len(clips)))
            continue
        goal, wanted = goals[number], whole[number]
        number += 1
        far = _PartOf(job, done, total)
        write_output(window_output(goal, film, wanted, rendition), jobs, far)
        done += len(wanted)
        clips.append(_rendered(film, goal, frames, wanted, number))
    return replace(film.piece, clips=tuple(clips))


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


def window_output(path: Path, film: Film, frames: range, rendition: Rendition) -> Output:
    """A window as a clip of its own: as loud as it is, since the music stays a track."""
    bare = replace(film.piece, bed=None, others=(), loudness=None, markers=())
    return film_output(path, replace(film, piece=bare), rendition, frames)


class _PartOf(JobWithin):
    """A part of a job: it tells how far all of it is."""

    def __init__(self, job: Job, before: int, total: int) -> None:
        super().__init__(job)
        self._before, self._total = before, total

    def tell(self, done: int, total: int) -> None:
        """Says how far all of it is."""
        self._job.tell(self._before + done, self._total)
