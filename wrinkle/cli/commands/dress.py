"""Puts wrinkles on the cuts of a piece."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from wrinkle.cli.cluster_arguments import take_elsewhere
from wrinkle.cli.command import Command
from wrinkle.cli.output import take_level, take_output, take_sound
from wrinkle.cli.rendition_arguments import take_rendition
from wrinkle.cli.wrinkle_arguments import choices_of, take_choices, take_frame


def takes(parser: argparse.ArgumentParser) -> None:
    """A timeline, what is put on its cuts, and the file."""
    parser.add_argument("piece", type=Path, metavar="PIECE.otio", help="a timeline")
    parser.add_argument(
        "--with",
        dest="wrinkles",
        action="append",
        default=[],
        metavar="NAME",
        help="a path, or the name of a shipped or own wrinkle; several are shuffled; without one "
        "the piece stays dressed as it is",
    )
    parser.add_argument(
        "--every", type=int, default=1, metavar="N", help="only on every so manieth cut"
    )
    parser.add_argument(
        "--shuffle", type=int, metavar="SEED", help="the same seed gives the same order"
    )
    parser.add_argument(
        "--flatten",
        action="store_true",
        help="render each dressed cut as a clip, so that any program plays the timeline",
    )
    parser.add_argument(
        "--allow-missing",
        action="store_true",
        help="write what can be written although files of the piece are not there",
    )
    take_sound(parser)
    take_level(parser)
    parser.add_argument(
        "--bed", type=Path, metavar="FILE", help="music under all of it, instead of what is there"
    )
    parser.add_argument(
        "--make-room",
        action="store_true",
        help="trim clips by what their handles lack for the wrinkles on their cuts",
    )
    take_choices(parser)
    take_frame(parser, "the piece")
    parser.add_argument(
        "--range",
        metavar="FIRST-END",
        help="only what lies between two times of the piece: seconds, or timecodes",
    )
    take_rendition(parser)
    take_elsewhere(parser)
    take_output(parser, "F.otio|F.otioz|F.mp4|…")


def run(arguments: argparse.Namespace) -> int:
    """Dresses the piece and writes it.

    Raises:
        InputError: what is asked for is not possible, or would be written over what is read.
    """
    from wrinkle import library
    from wrinkle.cli.piece_writing import check_output, write
    from wrinkle.core.errors import InputError
    from wrinkle.core.piece import dressing
    from wrinkle.core.piece.bed import Bed
    from wrinkle.core.piece.making_room import make_room
    from wrinkle.core.piece.use import PieceUse
    from wrinkle.core.sound.clip_sound import count_of
    from wrinkle.core.store import Store
    from wrinkle.media.clip_pool import ClipPool
    from wrinkle.media.pieces import read_heard
    from wrinkle.timeline.files import read_piece

    check_output(arguments, [arguments.piece, *map(library.found_at, arguments.wrinkles)])
    if arguments.every < 1:
        raise InputError(f"--every {arguments.every} is not possible; use 1 or more.")
    piece, file = read_piece(arguments.piece)
    bundles = [library.find(name) for name in arguments.wrinkles]
    uses = [PieceUse(bundle, choices_of(arguments, bundle.wrinkle)) for bundle in bundles]
    if len(uses) > 1 or (uses and arguments.shuffle is not None):
        dressed = dressing.shuffled(piece, uses, arguments.shuffle or 0)
        cuts = {clip.id for clip in piece.clips[1 :: arguments.every]}
        chosen = (
            new if new.id in cuts else old
            for new, old in zip(dressed.clips, piece.clips, strict=True)
        )
        piece = piece.with_clips(*chosen)
    elif uses:
        piece = dressing.on_every(piece, uses[0], arguments.every)
    if arguments.bed is not None:
        check_output(arguments, [arguments.bed])
        media, heard = read_heard(arguments.bed, ClipPool(Store()), Store())
        if not count_of(heard):
            raise InputError(f"{media.name} has no sound in it; choose another file.")
        piece = replace(piece, bed=Bed(media))
    if arguments.size is not None:
        piece = replace(piece, size=arguments.size)
    if arguments.rate is not None:
        piece = replace(piece, rate=arguments.rate)
    if arguments.make_room:
        made = make_room(piece)
        print(made.words(piece))
        piece = made.piece
    if arguments.loudness is not None:
        piece = replace(piece, loudness=arguments.loudness)
    print(f"{arguments.output}: {write(arguments, piece, file)}")
    if file.unseen:
        print(file.unseen_words)
    return 0


COMMAND = Command("dress", "put wrinkles on the cuts of a timeline", takes, run)
