"""A whole piece as a video, with the sound of its clips."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import closing
from pathlib import Path

import numpy as np

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Bytes8
from wrinkle.core.piece.film import Film
from wrinkle.core.piece.heard import Heard, SoundSource
from wrinkle.core.synthesis.samples import SAMPLE_RATE, Samples
from wrinkle.files.targets import spare
from wrinkle.media.clip import Clip
from wrinkle.media.pieces import paths_of
from wrinkle.media.video_file import check_video_size, write_video

_STRETCH = 2 * SAMPLE_RATE


def sounds_of(film: Film) -> dict[str, SoundSource]:
    """The sound of those files of a piece that have one, by their path."""
    found: dict[str, SoundSource] = {}
    for path, source in film.sources.items():
        sound = source.sound if isinstance(source, Clip) else None
        if sound is not None:
            found[path] = sound
    return found


def write_film(path: Path, film: Film, jobs: Jobs, job: Job) -> int:
    """Writes all frames of a piece; gives how many.

    Args:
        path: of the MP4 file; it is written whole or not at all.
        film: the piece in the size and quality of the video.
        jobs: who renders.
        job: told of each frame.

    Raises:
        InputError: the size is not possible, or it is one of the piece's own files.
        MediaError: a clip cannot be read, or the file cannot be written.
        Cancelled: nobody wants it any more.
    """
    check_video_size(film.size)
    spare(path, paths_of(film.piece))
    total = len(film.frames)

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
            sound=sound_from(film, 0),
        )


def sound_from(film: Film, frame: int) -> Callable[[int, int], Samples] | None:
    """What is heard from a frame of a piece on; None where nothing is."""
    heard = Heard(film.piece, sounds_of(film))
    if not heard.is_heard:
        return None
    first = round(film.piece.rate.seconds(frame) * SAMPLE_RATE)
    ahead = _Ahead(heard)
    return lambda start, count: ahead.samples(first + start, count)


class _Ahead:
    """Reads the sound in stretches: a file is opened for each."""

    def __init__(self, heard: Heard) -> None:
        self._heard = heard
        self._start = 0
        self._kept: Samples = np.zeros((0, 2), np.float32)

    def samples(self, start: int, count: int) -> Samples:
        """So many samples; those that are asked for next follow them."""
        if not self._start <= start <= start + count <= self._start + len(self._kept):
            self._start = start
            self._kept = self._heard.samples(start, max(count, _STRETCH))
        low = start - self._start
        return self._kept[low : low + count]
