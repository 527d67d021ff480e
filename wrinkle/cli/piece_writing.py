"""From a piece to a file, on the command line."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Iterable
from contextlib import nullcontext
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from threading import Thread

from wrinkle import library
from wrinkle.cli.output import tell
from wrinkle.cli.rendition_arguments import form_of, part_of, rendition_of
from wrinkle.core.errors import InputError, MediaError
from wrinkle.core.jobs import Job, Jobs
from wrinkle.core.picture import compiled
from wrinkle.core.picture.motion_blur import Quality
from wrinkle.core.piece.document import Piece
from wrinkle.core.piece.faults import faults, place_words
from wrinkle.core.piece.running import windows
from wrinkle.core.sound.hears import Hears
from wrinkle.core.store import Store
from wrinkle.core.time.rate import FrameRate
from wrinkle.core.time.timecode import parse_timecode
from wrinkle.files.targets import check_target, spare
from wrinkle.library.films import opened_film
from wrinkle.media.clip_pool import ClipPool
from wrinkle.media.exporting.parts import What
from wrinkle.media.exporting.piece_video import film_output
from wrinkle.media.output.output import Output, write_output
from wrinkle.media.pieces import paths_of
from wrinkle.timeline.edit_list import write_edit_list
from wrinkle.timeline.files import MissingMediaError, check_files, write_piece
from wrinkle.timeline.flattening import write_flattened
from wrinkle.timeline.piece_file import EDIT_LIST, SUFFIX, SUFFIXES, PieceFile


def check_output(arguments: argparse.Namespace, read: Iterable[Path]) -> None:
    """Looks whether the file may be written that the arguments name.

    Raises:
        InputError: its ending is none that is written, it is what would be read, or it is there.
        MediaError: its folder does not exist.
    """
    output: Path = arguments.output
    if output.suffix.lower() not in (*SUFFIXES, EDIT_LIST):
        form_of(arguments)
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
    if flatten:
        _refuse_elsewhere(arguments)
    # Whether it is there was looked at before the piece was read.
    spare(output, paths_of(piece))
    suffix = output.suffix.lower()
    if not allowed and (flatten or suffix not in (SUFFIX, EDIT_LIST)):
        try:
            check_files(output, piece, file)
        except MissingMediaError as missing:
            raise MediaError(f"{str(missing).rstrip('.')} (--allow-missing).") from None
    for fault in faults(piece, windows(piece)):
        print(f"{place_words(piece, fault)}: {fault.sentence}", file=sys.stderr)
    if suffix == EDIT_LIST:
        for sentence in write_edit_list(output, piece):
            print(sentence, file=sys.stderr)
        return f"{len(piece.clips)} clips, {piece.frame_count} frames"
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
            count = write_flattened(
                output, film, jobs, Job(tell), arguments.overwrite, rendition_of(arguments)
            )
            return f"{count} windows rendered"
        given = getattr(arguments, "range", None)
        frames = range_of(given, piece) if given else None
        part = part_of(arguments)
        what = film_output(output, film, rendition_of(arguments), frames, what=part)
        count = _written(arguments, what, piece, part, jobs)
        return f"{count} frames, {film.size.label}, {piece.rate.label}"
    finally:
        jobs.stop()
        if sys.stderr.isatty():
            print(file=sys.stderr)


def _refuse_elsewhere(arguments: argparse.Namespace) -> None:
    """Says that a timeline is flattened here."""
    if arguments.on is not None or arguments.processes is not None:
        raise InputError("--flatten draws on this machine; leave --on and --processes out.")


def _written(
    arguments: argparse.Namespace, output: Output, piece: Piece, part: What, jobs: Jobs
) -> int:
    """Writes it here, in several processes, or with other machines."""
    on, processes = getattr(arguments, "on", None), getattr(arguments, "processes", None)
    if on is None and processes is None:
        return write_output(output, jobs, Job(tell))
    from wrinkle.cluster.missing import check_installed

    check_installed()
    from wrinkle.cluster.drawing_elsewhere import write_elsewhere
    from wrinkle.cluster.running import workers_here

    with nullcontext(on) if on is not None else workers_here(processes or 1) as address:
        return write_elsewhere(address, output, piece, part, jobs, Job(tell))


def range_of(text: str, piece: Piece) -> range:
    """The frames between two times of a piece.

    Raises:
        InputError: they are no times, or nothing lies between them.
    """
    first, dash, end = text.partition("-")
    try:
        frames = range(_frame_of(first, piece.rate), _frame_of(end, piece.rate))
    except (ValueError, ZeroDivisionError, InputError):
        frames = range(0)
    within = range(max(frames.start, 0), min(frames.stop, piece.frame_count))
    if not dash or not within:
        lasts = float(piece.rate.seconds(piece.frame_count))
        raise InputError(
            f"'{text}' is no range of the piece, which has {lasts:.2f} seconds; "
            "write two times, such as 1.5-4 or 00:00:01:15-00:00:04:00."
        )
    return within


def _frame_of(text: str, rate: FrameRate) -> int:
    return parse_timecode(text, rate) if ":" in text else rate.nearest_frame(Fraction(text))
