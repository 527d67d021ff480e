"""Finds the cuts of a finished video."""

from __future__ import annotations

import argparse
from pathlib import Path

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_output


def takes(parser: argparse.ArgumentParser) -> None:
    """A video, how different frames must be, and what is made of it."""
    from wrinkle.core.measure.cuts import USUAL

    parser.add_argument("video", type=Path, metavar="VIDEO")
    parser.add_argument(
        "--threshold", type=float, default=USUAL, metavar="T",
        help=f"how much frames must differ at a cut, 0 to 1 (usually {USUAL})",
    )  # fmt: skip
    parser.set_defaults(flatten=False, allow_missing=False)
    # A timeline with a clip for each shot.
    take_output(parser, "F.otio", required=False)


def run(arguments: argparse.Namespace) -> int:
    """Prints the cuts, and writes them as a timeline if one is named."""
    from wrinkle.cli.piece_writing import check_output, write
    from wrinkle.core.jobs import Job
    from wrinkle.core.measure.cuts import cuts_in
    from wrinkle.core.store import Store
    from wrinkle.core.time.timecode import timecode
    from wrinkle.media.clip_pool import ClipPool
    from wrinkle.media.finding_cuts import scores_of
    from wrinkle.media.pieces import shots
    from wrinkle.timeline.piece_file import PieceFile

    if arguments.output is not None:
        check_output(arguments, [arguments.video])
    clip = ClipPool(Store()).clip(arguments.video)
    scores = scores_of(clip, Job())
    cuts = cuts_in(scores, arguments.threshold)
    for cut in cuts:
        print(f"{cut}\t{timecode(cut, clip.facts.rate)}\t{scores[cut]:.3f}")
    print(f"{len(cuts)} cuts in {len(scores)} frames")
    if arguments.output is not None:
        piece = shots(clip, cuts)
        print(f"{arguments.output}: {write(arguments, piece, PieceFile())}")
    return 0


COMMAND = Command("cuts", "find the cuts of a finished video", takes, run)
