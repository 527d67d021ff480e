"""A whole piece as a video, with the sound of its clips."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Bytes8
from wrinkle.core.piece.film import Film
from wrinkle.core.sound.heard import Heard
from wrinkle.core.sound.levelling import levelled
from wrinkle.files.targets import spare
from wrinkle.media.pieces import paths_of
from wrinkle.media.video_file import check_video_size, write_video


def write_film(path: Path, film: Film, jobs: Jobs, job: Job, loudness: float | None = None) -> int:
    """Writes all frames of a piece; gives how many.

    Args:
        path: of the MP4 file; it is written whole or not at all.
        film: the piece in the size and quality of the video.
        jobs: who renders.
        job: told of each frame.
        loudness: how loud it is made, in LUFS; None as the piece says.

    Raises:
        InputError: the size is not possible, or it is one of the piece's own files.
        MediaError: a clip cannot be read, or the file cannot be written.
        Cancelled: nobody wants it any more.
    """
    check_video_size(film.size)
    spare(path, paths_of(film.piece))
    total = len(film.frames)
    target = loudness if loudness is not None else film.piece.loudness
    heard: Heard | None = film.heard if film.heard.parts else None
    if heard is not None and target is not None:
        heard, _ = levelled(heard, target, progress=lambda done, all_: job.check())

    def picture(frame: int) -> Bytes8:
        job.check()
        return film.image(frame).to_bytes8()

    with closing(jobs.in_order(picture, film.frames)) as pictures:
        return write_video(
            path,
            pictures,
            film.size,
            film.piece.rate,
            lambda done: job.report(done, total),
            sound=heard,
        )
