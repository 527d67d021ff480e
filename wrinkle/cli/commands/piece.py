"""Makes a piece from clips."""

from __future__ import annotations

import argparse
from pathlib import Path

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output


def takes(parser: argparse.ArgumentParser) -> None:
    """Clips in their order, and the file."""
    parser.add_argument("clips", type=Path, nargs="+", metavar="CLIP", help="a clip or a picture")
    parser.add_argument("--title", default="", metavar="TITLE", help="what it is called")
    parser.set_defaults(flatten=False, allow_missing=False)
    take_output(parser, "F.otio")


def run(arguments: argparse.Namespace) -> int:
    """Writes the clips one after the other."""
    from dataclasses import replace

    from wrinkle.cli.piece_writing import check_output, write
    from wrinkle.core.piece import edits
    from wrinkle.core.piece.document import Piece
    from wrinkle.core.store import Store
    from wrinkle.media.clip import Clip
    from wrinkle.media.clip_pool import ClipPool
    from wrinkle.media.pieces import read_source
    from wrinkle.timeline.piece_file import PieceFile

    output: Path = arguments.output
    check_output(arguments, arguments.clips)
    store = Store()
    pool = ClipPool(store)
    read = [read_source(path, pool, store) for path in arguments.clips]
    piece = Piece(arguments.title or output.stem)
    for media, source in read:
        if isinstance(source, Clip) and media.size is not None:
            piece = replace(piece, size=media.size.even, rate=source.facts.rate)
            break
    piece = edits.add_clips(piece, 0, [media for media, _ in read])
    print(f"{output}: {write(arguments, piece, PieceFile())}")
    return 0


COMMAND = Command("piece", "put clips one after the other into a timeline", takes, run)
