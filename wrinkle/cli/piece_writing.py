"""From a piece to a file, on the command line."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path
from threading import Thread

from wrinkle import library
from wrinkle.cli.output import tell
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.faults import faults, place_words
from wrinkle.core.piece.running import windows
from wrinkle.core.sound.hears import Hears
from wrinkle.core.store import Store
from wrinkle.files.targets import check_target, spare
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.piece_video import write_film
from wrinkle.media.pieces import paths_of
from wrinkle.timeline.files import MissingMediaError, check_files, write_piece
from wrinkle.timeline.flattening import write_flattened
from wrinkle.timeline.piece_file import BUNDLED, SUFFIXES, PieceFile

_VIDEO = ".mp4"


def check_output(arguments: argparse.Namespace, read: Iterable[Path]) -> None:
    """Looks whether the file may be written that the arguments name.

    Raises:
        InputError: its ending is none that is written, it is what would be read, or it is there.
        MediaError: its folder does not exist.
    """
    output: Path = arguments.output
    if output.suffix.lower() not in (_VIDEO, *SUFFIXES):
        raise InputError(
            f"{output.name} has no ending that is written; use {_VIDEO}, {' or '.join(SUFFIXES)}."
        )
    check_target(output, read, arguments.overwrite)


def write(arguments: argparse.Namespace, piece: Piece, file: PieceFile) -> str:
    """Writes a piece as what the ending says; gives what was written, in words.

    Args:
        arguments: of the command: ``output``, ``overwrite``, ``flatten``, ``allow_missing``,
            ``sound``.
        piece: what is written.
        file: what it was read from.

    Raises:
        InputError: a value is not possible, or it would be written over what is read.
        MediaError: a file cannot be read or written, or is not there.
    """
    output: Path = arguments.output
    flatten, allowed = arguments.flatten, arguments.allow_missing
    # Whether it is there was looked at before the piece was read.
    spare(output, paths_of(piece))
    suffix = output.suffix.lower()
    if not allowed and (flatten or suffix in (_VIDEO, BUNDLED)):
        try:
            check_files(output, piece, file)
        except MissingMediaError as missing:
            raise MediaError(f"{str(missing).rstrip('.')} (--allow-missing).") from None
    for fault in faults(piece, windows(piece)):
        print(f"{place_words(piece, fault)}: {fault.sentence}", file=sys.stderr)
    if suffix in SUFFIXES and not flatten:
        write_piece(output, piece, file, allowed)
        return f"{len(piece.clips)} clips, {piece.frame_count} frames"
    Thread(target=compiled.load, args=(library.compiled_folder(),)).start()
    jobs = Jobs()
    try:
        store = Store()
        film = opened_film(piece, ClipPool(store), store, Quality.FINAL, allowed)
        film = replace(film, hears=Hears(arguments.sound))
        if flatten:
            count = write_flattened(output, film, jobs, Job(tell), arguments.overwrite)
            return f"{count} windows rendered"
        count = write_film(output, film, jobs, Job(tell))
        return f"{count} frames, {film.size.label}, {piece.rate.label}"
    finally:
        jobs.stop()
        if sys.stderr.isatty():
            print(file=sys.stderr)
