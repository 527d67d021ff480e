"""From an item of the queue to its file, drawn here or elsewhere."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture.image import Size
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.film import Film
from wrinkle.core.sound.hears import Hears
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.library import exports
from wrinkle.library.exports import FLAT, ExportItem
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.parts import What
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.colour import COLOURS
from wrinkle.media.output.format import Into
from wrinkle.media.output.formats import FORMATS
from wrinkle.media.output.output import Output, clear_unfinished, write_output
from wrinkle.media.output.rendition import Rendition


def write_item(item: ExportItem, pool: ClipPool, store: Store, jobs: Jobs, job: Job) -> str:
    """Writes what an item says; gives in words what that was.

    Raises:
        InputError: its timeline or a file of it cannot be read, or it cannot be so.
        MediaError: it cannot be written.
        Cancelled: nobody wants it any more.
    """
    from wrinkle.timeline.files import read_piece
    from wrinkle.timeline.flattening import write_flattened

    piece, _ = read_piece(exports.piece_path(item.piece))
    if item.what == FLAT:
        film, path = _film(piece, item, pool, store), Path(item.path)
        count = write_flattened(path, film, jobs, job, item.replaces, _rendition(item))
        return f"{count} dressed cuts as clips of their own."
    output = piece_output(piece, item, pool, store)
    if output.form.into is Into.FRAMES:
        # One window has the queue: nobody else is at work on it.
        clear_unfinished(output.path)
    if not item.on:
        return f"{write_output(output, jobs, job)} frames."
    from wrinkle.cluster.missing import check_installed

    check_installed()
    from wrinkle.cluster.drawing_elsewhere import write_elsewhere

    count = write_elsewhere(item.on, output, _as_asked(piece, item), What(item.what), jobs, job)
    return f"{count} frames, drawn at {item.on}."


def piece_output(piece: Piece, item: ExportItem, pool: ClipPool, store: Store) -> Output:
    """The pictures and the sound that an item writes of a piece that is open.

    Raises:
        InputError: a file of it cannot be read, or it cannot be so.
    """
    film = _film(piece, item, pool, store)
    frames = range(item.first, min(item.end, film.piece.frame_count))
    what = What.ALL if item.what == FLAT else What(item.what)
    found = film_output(Path(item.path), film, _rendition(item), frames, what=what)
    return replace(found, replaces=item.replaces)


def _rendition(item: ExportItem) -> Rendition:
    if item.form not in FORMATS:
        raise InputError(f"There is no format '{item.form}' in this version.")
    clear = item.what == What.OVERLAY.value
    form = FORMATS[item.form]
    if item.colour not in COLOURS:
        raise InputError(f"There is no colour '{item.colour}' in this version.")
    colour = COLOURS[item.colour]
    return Rendition(form, item.depth, clear, item.quality, item.bits, item.megabytes, colour)


def _as_asked(piece: Piece, item: ExportItem) -> Piece:
    return replace(piece, size=Size(*item.size), rate=FrameRate.parse(item.rate))


def _film(piece: Piece, item: ExportItem, pool: ClipPool, store: Store) -> Film:
    film = opened_film(_as_asked(piece, item), pool, store, Quality.FINAL)
    return replace(film, hears=Hears(item.hears))
