"""From a piece to a file, on the command line."""

from __future__ import annotations

import sys
from pathlib import Path
from threading import Thread

from wrinkle import library
from wrinkle.cli.output import check_folder, tell
from wrinkle.core.errors import InputError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.faults import faults, place_words
from wrinkle.core.piece.running import windows
from wrinkle.core.store import Store
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.timeline.files import write_piece
from wrinkle.timeline.flattening import write_flattened
from wrinkle.timeline.piece_file import SUFFIXES, PieceFile

_VIDEO = ".mp4"


def check_output(output: Path, inputs: list[Path]) -> None:
    """Looks whether a file may be written.

    Raises:
        InputError: its ending is none that is written, or it is what would be read.
        MediaError: its folder does not exist.
    """
    if output.suffix.lower() not in (_VIDEO, *SUFFIXES):
        raise InputError(
            f"{output.name} has no ending that is written; use {_VIDEO}, {' or '.join(SUFFIXES)}."
        )
    check_folder(output)
    if any(x.exists() and output.exists() and output.samefile(x) for x in inputs):
        raise InputError(f"{output.name} is what would be read; name another output.")


def write(output: Path, piece: Piece, file: PieceFile, flatten: bool = False) -> str:
    """Writes a piece as what the ending says; gives what was written, in words.

    Raises:
        InputError: a value is not possible.
        MediaError: a file cannot be read or written.
    """
    for fault in faults(piece, windows(piece)):
        print(f"{place_words(piece, fault)}: {fault.sentence}", file=sys.stderr)
    suffix = output.suffix.lower()
    if suffix in SUFFIXES and not flatten:
        write_piece(output, piece, file)
        return f"{len(piece.clips)} clips, {piece.frame_count} frames"
    Thread(target=compiled.load, args=(library.compiled_folder(),)).start()
    jobs = Jobs()
    try:
        store = Store()
        film = opened_film(piece, ClipPool(store), store, Quality.FINAL)
        if flatten:
            count = write_flattened(output, film, jobs, Job(tell))
            return f"{count} windows rendered"
        count = write_film(output, film, jobs, Job(tell))
        return f"{count} frames, {film.size.label}, {piece.rate.label}"
    finally:
        jobs.stop()
        if sys.stderr.isatty():
            print(file=sys.stderr)
