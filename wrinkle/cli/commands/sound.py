"""Writes what is heard of a wrinkle or a piece."""

from __future__ import annotations

import argparse
import math
import sys
from pathlib import Path

from wrinkle.cli.command import Command
from wrinkle.cli.output import take_level, take_output, take_sound


def takes(parser: argparse.ArgumentParser) -> None:
    """A wrinkle or a timeline, what of it is heard, how loud, and the file."""
    parser.add_argument(
        "name",
        metavar="NAME|PIECE.otio",
        help="a wrinkle, whose own sounds are written, or a piece",
    )
    take_sound(parser)
    take_level(parser)
    parser.add_argument(
        "--bits", type=int, choices=(16, 24), default=16, help="of a sample; 16 where not said"
    )
    take_output(parser, "F.wav|F.flac")


def run(arguments: argparse.Namespace) -> int:
    """Writes the sound, and says how long and how loud it is."""
    from wrinkle import library
    from wrinkle.cli.hearing import heard_by_name, made_loud
    from wrinkle.core.synthesis.samples import SAMPLE_RATE
    from wrinkle.files.targets import check_target, spare
    from wrinkle.media.sound_writing import check_sound_target, write_sound

    output: Path = arguments.output
    check_sound_target(output)
    check_target(output, [library.found_at(arguments.name)], arguments.overwrite)
    heard, own, read = heard_by_name(arguments.name, arguments.sound)
    spare(output, read)
    target = arguments.loudness if arguments.loudness is not None else own
    heard, loud = made_loud(heard, target)
    count = write_sound(output, heard, arguments.bits)
    print(
        f"{output}: {count / SAMPLE_RATE:.3f} s, {loud.integrated:.1f} LUFS, "
        f"peak {loud.peak:.1f} dBTP"
    )
    if math.isinf(loud.peak):
        print("Nothing is heard in it.", file=sys.stderr)
    return 0


COMMAND = Command("sound", "write the sound of a wrinkle or a piece", takes, run)
