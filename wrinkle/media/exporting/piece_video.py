"""A whole piece, or a range of it, as a file, with what is heard of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from av.video.frame import VideoFrame

from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.piece.film import Film
from wrinkle.core.synthesis.samples import sample_at
from wrinkle.media.clip import Clip
from wrinkle.media.exporting.kept_frames import KeptFrames
from wrinkle.media.exporting.parts import What, part_of_film
from wrinkle.media.output.output import Output, today, write_output
from wrinkle.media.output.rendition import Rendition
from wrinkle.media.pieces import paths_of

USUAL = Rendition()
_BITS_8 = 8


def film_output(
    path: Path,
    film: Film,
    rendition: Rendition = USUAL,
    frames: range | None = None,
    loudness: float | None = None,
    what: What = What.ALL,
) -> Output:
    """A piece, or a range of it, as it is written.

    Args:
        path: of the file, or of the folder where the format writes one.
        film: the piece in the size and quality of what is written.
        rendition: as what.
        frames: which of them; all where nothing is said.
        loudness: how loud it is made, in LUFS; None as the piece says.
        what: of the pictures is written.

    Raises:
        InputError: there is no such part of it.
    """
    piece = film.piece
    frames = frames if frames is not None else film.frames
    target = loudness if loudness is not None else piece.loudness
    heard = None
    if rendition.form.sound and film.heard.parts:
        first, end = (sample_at(piece.rate, x) for x in (frames.start, frames.stop))
        heard = replace(film.heard, span=range(first, end)).from_(first)
    begins, ends = (piece.rate.seconds(x) for x in (frames.start, frames.stop))
    chapters = tuple(
        (marker.time - begins, marker.text or f"Marker {number}")
        for number, marker in enumerate(piece.markers, 1)
        if begins <= marker.time < ends
    )
    read = tuple(paths_of(piece))
    shown, title = part_of_film(film, what), piece.title
    if what is What.ALL and rendition.bits_a_colour == _BITS_8 and rendition.colour.as_drawn:
        shown = KeptFrames(film)
    found = Output(
        shown, frames, piece.rate, rendition, path, heard, target, title, today(),
        chapters=chapters, read=read,
    )  # fmt: skip
    return found if what is not What.ALL else replace(found, decoded=decoded_of(film))


def decoded_of(film: Film) -> Callable[[int], VideoFrame | None]:
    """Gives the frames of a piece that are those of a clip, as they were decoded."""

    def decoded(number: int) -> VideoFrame | None:
        alone = film.alone(number)
        if alone is None or not isinstance(alone[0], Clip):
            return None
        return alone[0].as_decoded(alone[1])

    return decoded


def write_film(path: Path, film: Film, jobs: Jobs, job: Job, loudness: float | None = None) -> int:
    """Writes all frames of a piece as MP4 with H.264; gives how many.

    Args:
        path: of the file; it is written whole or not at all.
        film: the piece in the size and quality of the video.
        jobs: who renders.
        job: told of each frame.
        loudness: how loud it is made, in LUFS; None as the piece says.

    Raises:
        InputError: the size is not possible, or it is one of the piece's own files.
        MediaError: a clip cannot be read, or the file cannot be written.
        Cancelled: nobody wants it any more.
    """
    return write_output(film_output(path, film, loudness=loudness), jobs, job)
